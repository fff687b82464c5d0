"""The edge strip: the real profile across the edge, enlarged; its marks are dragged."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.wheel import takes_wheel
from glasscap.core.document.model.finishes import Finishes
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.edge_profile import (
    INSIDE_SHARE,
    LEAST_ZOOM,
    MOST_ZOOM,
    Mark,
    fitting_zoom,
    marks_of,
    outer_edge,
    with_mark_at,
)
from glasscap.editor.numbers import format_number

PICTURE_HEIGHT, _RULER_HEIGHT = 44, 24
_NEAR = 9
_WORDS = {
    "inset": "Edge: drag for the inset",
    "feather": "Feather: drag for the radius",
    "inner": "Stroke {n}, inner border",
    "outer": "Stroke {n}, outer border",
    "shadow": "Shadow {n}: drag for its distance",
}
_STEPS = {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0}


class EdgeStrip(QWidget):
    """`moved(finishes)` while a mark is dragged, `stepped(finishes)` at its end; `zoom_changed()`."""

    moved = Signal(object)
    stepped = Signal(object)
    zoom_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Across the edge")
        self.setFixedHeight(PICTURE_HEIGHT + _RULER_HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self._finishes = Finishes()
        self._start: Finishes | None = None
        self._own_zoom: float | None = None
        self._held: Mark | None = None
        self._frame: Frame | None = None
        self._frame_zoom = 1.0
        self.chosen = 0
        self._fit()

    # what is shown

    def show_finishes(self, finishes: Finishes) -> None:
        """Follow a cutout's finishes."""
        self._finishes = finishes
        self._fit()
        self.update()

    def show_frame(self, frame: Frame | None, zoom: float) -> None:
        """Show the profile, drawn at `zoom` logical px per sheet px."""
        self._frame, self._frame_zoom = frame, zoom
        self.update()

    def _fit(self) -> None:
        """Reckon what painting and pointing ask for many times: the marks, and the zoom that shows them all."""
        self._marks = marks_of(self._finishes)
        fitting = fitting_zoom(self._start or self._finishes, max(self.width(), 1))
        self._zoom = fitting if self._own_zoom is None else self._own_zoom

    @property
    def zoom(self) -> float:
        """Logical px per sheet px; it holds still while a mark is dragged."""
        return self._zoom

    @property
    def marks(self) -> tuple[Mark, ...]:
        """The marks that can be dragged."""
        return self._marks

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Fit the marks into the width there is now."""
        self._fit()

    def x_of(self, at: float) -> float:
        """Return where a place across the edge is painted."""
        return INSIDE_SHARE * self.width() + at * self.zoom

    def _place(self, x: float) -> float:
        return (x - INSIDE_SHARE * self.width()) / self.zoom

    # pointer and keys

    def knob(self, mark: Mark) -> QRectF:
        """Return where a mark is taken hold of: the edge above, strokes in the middle, soft things below."""
        x = self.x_of(mark.at)
        if mark.kind in ("feather", "shadow"):
            return QRectF(x - 4, 33, 8, 8)
        return QRectF(x - 4, 2, 8, 9) if mark.kind == "inset" else QRectF(x - 3, 14, 6, 16)

    def _mark_near(self, at: QPointF) -> Mark | None:
        """Return the mark whose knob is nearest, within reach to the left and right."""
        near = [m for m in self.marks if abs(self.x_of(m.at) - at.x()) <= _NEAR]

        def away(mark: Mark) -> float:
            middle = self.knob(mark).center()
            return abs(middle.x() - at.x()) + abs(middle.y() - at.y()) / 2

        return min(near, key=away) if near else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a mark."""
        self._held = self._mark_near(event.position())
        self._start = self._finishes if self._held is not None else None
        if self._held is not None:
            self.chosen = self.marks.index(self._held)
        self._fit()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move it, or tell what is under the pointer."""
        if self._held is None or self._start is None:
            near = self._mark_near(event.position())
            self.setCursor(Qt.CursorShape.SizeHorCursor if near else Qt.CursorShape.ArrowCursor)
            self.setToolTip("" if near is None else _words(near))
            return
        self.show_finishes(with_mark_at(self._start, self._held, self._snapped(event)))
        self.moved.emit(self._finishes)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Settle."""
        held, start = self._held, self._start
        # Read by the zoom of the drag, which ends with it.
        place = self._snapped(event)
        self._held = self._start = None
        self._fit()
        if held is not None and start is not None:
            self.stepped.emit(with_mark_at(start, held, place))
        self.update()

    def _snapped(self, event: QMouseEvent) -> float:
        """Return the place in whole px, in tenths with Shift."""
        at = self._place(event.position().x())
        is_fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        return round(at, 1) if is_fine else float(round(at))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose a mark with up and down, move it with left and right."""
        key = Qt.Key(event.key())
        marks = self.marks
        self.chosen = min(self.chosen, len(marks) - 1)
        if key in _STEPS:
            mark = marks[self.chosen]
            self.stepped.emit(with_mark_at(self._finishes, mark, mark.at + _STEPS[key]))
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.chosen = (self.chosen + (1 if key == Qt.Key.Key_Down else -1)) % len(marks)
            self.setToolTip(_words(marks[self.chosen]))
        elif key == Qt.Key.Key_Escape and self._held is not None and self._start is not None:
            start, self._held, self._start = self._start, None, None
            self.show_finishes(start)
            self.moved.emit(start)
        else:
            super().keyPressEvent(event)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Enlarge 1 to 16 times where the strip is in use."""
        if not takes_wheel(self):
            event.ignore()
            return
        factor = 1.25 ** (event.angleDelta().y() / 120)
        self._own_zoom = min(max(self.zoom * factor, LEAST_ZOOM), MOST_ZOOM)
        self._fit()
        self.zoom_changed.emit()
        self.update()
        event.accept()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Let the zoom follow the marks again."""
        self._own_zoom = None
        self._fit()
        self.zoom_changed.emit()
        self.update()

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the profile, the ruler and the marks."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(0.5, 0.5, self.width() - 1, self.height() - 1)
        painter.setPen(QColor(colours().line))
        painter.setBrush(QColor(colours().field))
        painter.drawRoundedRect(box, 6, 6)
        picture = QRectF(1, 1, self.width() - 2, PICTURE_HEIGHT - 1)
        painter.fillRect(picture, checkerboard())
        if self._frame is not None:
            self._paint_frame(painter, picture)
        self._paint_ruler(painter)
        for index, mark in enumerate(self.marks):
            is_chosen = mark == self._held or (self.hasFocus() and index == self.chosen)
            self._paint_mark(painter, mark, is_chosen=is_chosen)
        painter.end()

    def _paint_frame(self, painter: QPainter, picture: QRectF) -> None:
        assert self._frame is not None
        ratio, now = self.devicePixelRatioF(), self.zoom
        stretch = now / self._frame_zoom
        middle = INSIDE_SHARE * self.width()
        painter.save()
        painter.setClipRect(picture)
        painter.translate(middle, 0)
        painter.scale(stretch, 1)
        painter.translate(-middle, 0)
        painter.scale(1 / ratio, 1 / ratio)
        painter.drawImage(self._frame.x, self._frame.y, to_image(self._frame))
        painter.restore()

    def _paint_ruler(self, painter: QPainter) -> None:
        y, step = float(PICTURE_HEIGHT), self._ruler_step()
        painter.setPen(QColor(colours().line))
        first, last = int(self._place(2) // step), int(self._place(self.width() - 2) // step)
        for index in range(first, last + 1):
            x = self.x_of(index * step)
            painter.drawLine(QPointF(x, y), QPointF(x, y + (5 if index % 5 == 0 else 3)))
        painter.setFont(font(10))
        painter.setPen(QColor(colours().muted))
        for low, high, words in self._spans():
            x0, x1 = self.x_of(low), self.x_of(high)
            if x1 - x0 >= painter.fontMetrics().horizontalAdvance(words) + 2:
                painter.drawText(QRectF(x0, y + 6, x1 - x0, 16), Qt.AlignmentFlag.AlignCenter, words)

    def _ruler_step(self) -> float:
        return next(s for s in (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 1e9) if s * self.zoom >= 5)

    def _spans(self) -> list[tuple[float, float, str]]:
        """Return what lies between the marks, in words."""
        finishes = self._finishes
        left, right = self._place(3), self._place(self.width() - 3)
        cuts = sorted({m.at for m in self.marks if m.kind in ("inner", "outer")})
        line = next(m.at for m in self.marks if m.kind == "inset")
        body = min([line, *cuts])
        spans = [(left, body, "photo")]
        spans += [
            (a, b, format_number(b - a, 1)) for a, b in zip([body, *cuts], [*cuts, body], strict=True) if b > a
        ]
        shadows = any(s.is_on for s in finishes.lights.shadows)
        spans.append((outer_edge(finishes), right, "shadow" if shadows else ""))
        return spans

    def _paint_mark(self, painter: QPainter, mark: Mark, *, is_chosen: bool) -> None:
        x = self.x_of(mark.at)
        knob = self.knob(mark)
        teal = QColor(colours().teal)
        painter.setPen(QPen(teal, 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(x, 2), QPointF(x, PICTURE_HEIGHT))
        painter.setPen(QPen(teal, 2))
        painter.setBrush(teal if is_chosen else QColor(colours().field))
        painter.drawRoundedRect(knob, 3, 3)


def _words(mark: Mark) -> str:
    return _WORDS[mark.kind].format(n=mark.index + 1)
