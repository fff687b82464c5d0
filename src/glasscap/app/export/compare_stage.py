"""The bench's picture, and a glass over it in which the really encoded file is seen."""

from typing import Literal

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from glasscap.app.export.look_bar import LookedOn
from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.focus_ring import draw_focus_ring
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.glass import RADIUS, paint_glass, paint_plate
from glasscap.core.document.model.outputs import Output
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.comparing import Comparison
from glasscap.editor.difference import difference_picture

Look = Literal["fit", "whole"]
# Which picture fills the view: the bench's, the file's, or where the two differ.
Filling = Literal["bench", "file", "difference"]
_FULL, _MOST_SET_DOWN = 250, 2
_CLICK_PX, _STEP_PX, _FAR_STEP_PX = 4, 8, 40
_ARROWS = {
    Qt.Key.Key_Left: QPoint(-1, 0), Qt.Key.Key_Right: QPoint(1, 0), Qt.Key.Key_Up: QPoint(0, -1),
    Qt.Key.Key_Down: QPoint(0, 1),
}  # fmt: skip
_ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)


class Glass(Struct, frozen=True):
    """A glass set down: its place as a share of the picture, and how much it enlarges."""

    u: float
    v: float
    zoom: int


class CompareStage(QWidget):
    """A glass follows the pointer; a click sets it down, or lifts one set down; a drag moves the picture.

    Arrow keys move the glass, Enter sets it down, F held shows the whole view as the file. `glass_moved()` when
    the loose glass, or what lies under it, is another.
    """

    resized = Signal()
    filling_changed = Signal()
    glass_moved = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Bench and file compared")
        self.setMinimumSize(300, 200)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.answer: Comparison | None = None
        self.look: Look = "fit"
        self.filling: Filling = "bench"
        self.glass_zoom = 1
        self.set_down: tuple[Glass, ...] = ()
        self.backdrop: LookedOn = None
        self._behind: Frame | None = None
        self.early: Frame | None = None
        self._waits_for = ""
        self.is_waiting = False
        self._pan = QPointF()
        self._loose: QPointF | None = None
        self._pressed: QPointF | None = None
        self._grabbed: QPointF | None = None
        self._moved_glass: int | None = None
        self._differences: tuple[object, Bytes] | None = None
        # What filled the view before F was pressed.
        self._filled_before: Filling | None = None

    # what is shown

    def show_answer(self, answer: Comparison | None) -> None:
        """Show another comparison; the view and the glasses stay where they are."""
        self.answer, self.early, self.is_waiting = answer, None, False
        self._differences = None
        self._keep_in_sight()
        self._changed()

    def show_waiting(self, output: Output) -> None:
        """Say that a file is being made; the picture of another row goes."""
        self.is_waiting = True
        if output.id != self._waits_for:
            self._let_go(output.id)
        self._changed()

    def forget(self) -> None:
        """Show nothing, and have no glass set down: what was looked at is of another job."""
        self._let_go("")
        self.is_waiting, self.glass_zoom = False, 1
        self.set_filling("bench")
        self.set_look("fit")

    def _let_go(self, waits_for: str) -> None:
        """Drop the picture, the glasses and what is held; wait for the row of an id."""
        self._waits_for, self.answer, self.early = waits_for, None, None
        self.set_down, self._loose = (), None
        self._pressed = self._grabbed = self._moved_glass = None

    def show_bench(self, frame: Frame | None) -> None:
        """Show the bench's side alone, until there is a file to compare it with."""
        self.early = frame
        self.update()

    def set_look(self, look: Look) -> None:
        """Show the picture fitted or px for px; at px for px the rim comes into sight."""
        self.look = look
        self._pan = self._rim_pan() if look == "whole" else QPointF()
        self._keep_in_sight()
        self._changed()

    def set_glass_zoom(self, zoom: int) -> None:
        """Let the glass show the file px for px, or enlarged."""
        self.glass_zoom = zoom
        self._changed()

    def set_filling(self, filling: Filling) -> None:
        """Fill the view with another picture."""
        if self._filled_before is not None and filling != "file":
            self._filled_before = None
        self.filling = filling
        self.filling_changed.emit()
        self._changed()

    def set_backdrop(self, backdrop: LookedOn) -> None:
        """Lay a background beneath, None for the checkerboard; what is no flat colour comes as a picture."""
        self.backdrop, self._behind = backdrop, None
        self.update()

    def show_behind(self, frame: Frame | None) -> None:
        """Show the picture of a background."""
        self._behind = frame
        self.update()

    def _changed(self) -> None:
        """Say in words where the glasses lie, and paint."""
        filling = {"bench": "the bench", "file": "the file", "difference": "the difference"}[self.filling]
        down = f", {len(self.set_down)} set down" if self.set_down else ""
        self.setAccessibleDescription(f"Shows {filling}; glass {self.glass_zoom} times{down}")
        self._moved()

    def _moved(self) -> None:
        self.update()
        self.glass_moved.emit()

    @property
    def glass_share(self) -> tuple[float, float]:
        """The place of the loose glass as shares of the picture's sides."""
        return self._share_of(self.loose)

    @property
    def zoom(self) -> float:
        """Logical px of the stage per px of the picture shown."""
        return 1.0 / self.devicePixelRatioF()

    def _pair(self) -> tuple[Bytes, Bytes] | None:
        answer = self.answer
        if answer is None or answer.bench is None or answer.file is None:
            return None
        return answer.fitted if self.look == "fit" else (answer.bench, answer.file)

    def picture_box(self) -> QRectF:
        """Return where the picture lies, logical px of the stage."""
        pair = self._pair()
        return QRectF() if pair is None else self._box_of(pair[0])

    def _box_of(self, pixels: Bytes) -> QRectF:
        height, width = pixels.shape[:2]
        box = QRectF(0, 0, width * self.zoom, height * self.zoom)
        box.moveCenter(QRectF(self.rect()).center() + self._pan)
        ratio = self.devicePixelRatioF()
        box.moveTo(round(box.x() * ratio) / ratio, round(box.y() * ratio) / ratio)
        return box

    def _rim(self) -> tuple[float, float]:
        """Return the rim at the lower right as a share of the picture: files lose most at their edges."""
        pair = self._pair()
        if pair is None:
            return 0.5, 0.5
        alpha = pair[0][..., 3]
        height, width = alpha.shape
        # From the middle to the corner: the last pixel that is (nearly) full is the shape's, not its shadow's.
        steps = np.linspace(0.5, 1.0, max(height, width))
        ys, xs = (np.minimum((steps * side).astype(int), side - 1) for side in (height, width))
        found = np.flatnonzero(alpha[ys, xs] >= min(_FULL, int(alpha.max())))
        if len(found) == 0:
            return 0.5, 0.5
        return (int(xs[found[-1]]) + 0.5) / width, (int(ys[found[-1]]) + 0.5) / height

    def _rim_pan(self) -> QPointF:
        """Return the shift that brings the rim into the middle."""
        box, (u, v) = self._box_at_rest(), self._rim()
        return QPointF((0.5 - u) * box.width(), (0.5 - v) * box.height())

    def _box_at_rest(self) -> QRectF:
        pair = self._pair()
        if pair is None:
            return QRectF()
        height, width = pair[0].shape[:2]
        return QRectF(0, 0, width * self.zoom, height * self.zoom)

    def _keep_in_sight(self) -> None:
        """Let no more than the picture's size be panned away."""
        box = self._box_at_rest()
        wide = max(0.0, (box.width() - self.width()) / 2 + 60) if box.width() > self.width() else 0.0
        high = max(0.0, (box.height() - self.height()) / 2 + 60) if box.height() > self.height() else 0.0
        self._pan = QPointF(min(max(self._pan.x(), -wide), wide), min(max(self._pan.y(), -high), high))

    # the glasses

    @property
    def loose(self) -> QPointF:
        """The place of the glass that follows the pointer, logical px; on the rim before the pointer came."""
        return self._place_of(*self._rim()) if self._loose is None else self._loose

    def _place_of(self, u: float, v: float) -> QPointF:
        box = self.picture_box()
        return QPointF(box.x() + u * box.width(), box.y() + v * box.height())

    def _share_of(self, place: QPointF) -> tuple[float, float]:
        box = self.picture_box()
        if box.isEmpty():
            return 0.5, 0.5
        u, v = (place.x() - box.x()) / box.width(), (place.y() - box.y()) / box.height()
        return min(max(u, 0.0), 1.0), min(max(v, 0.0), 1.0)

    def _glass_at(self, place: QPointF) -> int | None:
        """Return the number of the topmost glass set down that lies over a place."""
        for number in reversed(range(len(self.set_down))):
            glass = self.set_down[number]
            away = place - self._place_of(glass.u, glass.v)
            if away.x() ** 2 + away.y() ** 2 <= RADIUS**2:
                return number
        return None

    def put_down(self) -> None:
        """Set the loose glass down where it lies; the oldest of too many is lifted."""
        if self._pair() is not None:
            fresh = Glass(*self._share_of(self.loose), self.glass_zoom)
            self.set_down = (*self.set_down, fresh)[-_MOST_SET_DOWN:]
            self._changed()

    def lift(self, number: int) -> None:
        """Take a glass away that was set down."""
        self.set_down = (*self.set_down[:number], *self.set_down[number + 1 :])
        self._changed()

    # pointer and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a glass or of the picture; what becomes of it the release tells."""
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = self._grabbed = event.position()
            self._moved_glass = self._glass_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move what is held, or the loose glass."""
        at = event.position()
        if self._grabbed is None:
            self._loose = at
        elif self._pressed is not None and (at - self._pressed).manhattanLength() < _CLICK_PX:
            return
        else:
            self._pressed = None
            self._drag(at)
            self._grabbed = at
        self._moved()

    def _drag(self, at: QPointF) -> None:
        if self._moved_glass is None:
            self._pan += at - (self._grabbed or at)
            self._keep_in_sight()
            self._loose = at
            return
        u, v = self._share_of(at)
        moved = [*self.set_down]
        moved[self._moved_glass] = replace(moved[self._moved_glass], u=u, v=v)
        self.set_down = tuple(moved)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Set the glass down, or lift one, after a click."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._pressed is not None:
            self._loose = event.position()
            found = self._moved_glass
            if found is None:
                self.put_down()
            else:
                self.lift(found)
        self._pressed = self._grabbed = self._moved_glass = None

    def leaveEvent(self, event: QEvent) -> None:
        """Let the loose glass wait on the rim."""
        self._loose = None
        self._moved()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Pan with the wheel."""
        self._pan += QPointF(event.angleDelta()) / 2
        self._keep_in_sight()
        self._moved()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the glass, set it down, lift the last one; show the file while F is held."""
        key = Qt.Key(event.key())
        if key in _ARROWS:
            is_far = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._loose = self.loose + QPointF(_ARROWS[key]) * (_FAR_STEP_PX if is_far else _STEP_PX)
            self._moved()
        elif key in _ENTER:
            self.put_down()
        elif key == Qt.Key.Key_Delete and self.set_down:
            self.lift(len(self.set_down) - 1)
        elif key == Qt.Key.Key_F and not event.modifiers():
            if not event.isAutoRepeat():
                self._filled_before = self.filling
                self.set_filling("file")
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Show again what was shown before F."""
        if event.key() == Qt.Key.Key_F and not event.isAutoRepeat():
            self._end_look()
        else:
            super().keyReleaseEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """End a look by F whose release will not come here."""
        self._end_look()
        super().focusOutEvent(event)

    def _end_look(self) -> None:
        before, self._filled_before = self._filled_before, None
        if before is not None:
            self.set_filling(before)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Ask for another fit."""
        self._keep_in_sight()
        self.resized.emit()

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the picture that fills the view, and the glasses over it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours().surround))
        pair, box = self._pair(), self.picture_box()
        if pair is None and self.is_waiting and self.early is not None:
            box = self._box_of(self.early.rgba)
            self._paint_backdrop(painter, box)
            painter.drawImage(box, to_image(self.early))
            paint_plate(painter, QPointF(box.center().x(), 24), "On the bench · the file is being made")
        elif pair is not None:
            self._paint_backdrop(painter, box)
            self._paint_filling(painter, pair, box)
            for glass in self.set_down:
                self._paint_glass(painter, self._place_of(glass.u, glass.v), glass.zoom)
            if self.filling == "bench" and self._glass_at(self.loose) is None:
                self._paint_glass(painter, self.loose, self.glass_zoom)
            names = {"bench": "On the bench", "file": "In the file", "difference": self._difference_words()}
            waiting = " · being made" if self.is_waiting else ""
            paint_plate(painter, QPointF(self.width() / 2, 24), f"{names[self.filling]}{waiting}")
        elif self.answer is not None and self.answer.problem:
            self._paint_words(painter, self.answer.problem)
        if self.hasFocus():
            draw_focus_ring(painter, QRectF(self.rect()))
        painter.end()

    def _paint_filling(self, painter: QPainter, pair: tuple[Bytes, Bytes], box: QRectF) -> None:
        if self.filling != "difference":
            painter.drawImage(box, to_image(Frame(pair[0] if self.filling == "bench" else pair[1], 0, 0)))
            return
        # Only what is in sight is compared: a whole photograph would hold the window up.
        seen = box.intersected(QRectF(self.rect()))
        whole = QRect(0, 0, pair[0].shape[1], pair[0].shape[0])
        part = QRectF((seen.topLeft() - box.topLeft()) / self.zoom, seen.size() / self.zoom).toAlignedRect()
        part = part.intersected(whole)
        if part.isEmpty():
            return
        key = (id(self.answer), self.look, part.getRect())
        if self._differences is None or self._differences[0] != key:
            rows, columns = slice(part.top(), part.bottom() + 1), slice(part.left(), part.right() + 1)
            one, other = (pixels[rows, columns] for pixels in pair)
            self._differences = (key, difference_picture(one, other))
        picture = self._differences[1]
        at = box.topLeft() + QPointF(part.topLeft()) * self.zoom
        size = QSizeF(picture.shape[1], picture.shape[0]) * self.zoom
        painter.drawImage(QRectF(at, size), to_image(Frame(picture, 0, 0)))

    def _difference_words(self) -> str:
        found = None if self.answer is None else self.answer.found
        if found is None:
            return "Difference"
        return f"Difference · at most {found.largest} of 255, {found.mean:.2f} in the mean"

    def _paint_glass(self, painter: QPainter, place: QPointF, zoom: int) -> None:
        answer = self.answer
        if answer is None or answer.file is None:
            return
        file = answer.file
        height, width = file.shape[:2]
        u, v = self._share_of(place)
        box = self.picture_box()
        scale = zoom / self.devicePixelRatioF()
        place = QPointF(box.x() + u * box.width(), box.y() + v * box.height())

        def within() -> None:
            around = QRectF(place - QPointF(RADIUS, RADIUS), place + QPointF(RADIUS, RADIUS))
            painter.fillRect(around, QColor(colours().surround))
            shown = QRectF(
                place.x() - u * width * scale, place.y() - v * height * scale, width * scale, height * scale
            )
            self._paint_backdrop(painter, shown.intersected(around) if not self._behind else shown)
            painter.translate(shown.topLeft())
            painter.scale(scale, scale)
            painter.drawImage(QPoint(0, 0), to_image(Frame(file, 0, 0)))

        words = "In the file" if zoom == 1 else f"In the file · {zoom}×"
        paint_glass(painter, place, f"{words} · being made" if self.is_waiting else words, within)

    def _paint_backdrop(self, painter: QPainter, box: QRectF) -> None:
        backdrop = self.backdrop
        if isinstance(backdrop, str):
            painter.fillRect(box, QColor(backdrop))
        elif backdrop is not None and self._behind is not None:
            painter.drawImage(box, to_image(self._behind))
        else:
            painter.setBrushOrigin(box.topLeft())
            painter.fillRect(box, checkerboard())

    def _paint_words(self, painter: QPainter, words: str) -> None:
        painter.setFont(font(14, MEDIUM))
        painter.setPen(QColor("#22262a"))
        room = QRectF(self.rect()).adjusted(60, 0, -60, 0)
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words)
