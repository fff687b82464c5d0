"""The picture as it is on the bench and as the file holds it, parted by a line that is dragged."""

from typing import Literal

import numpy as np
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from glasscap.app.export.look_bar import LookedOn
from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.document.model.outputs import Output
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.comparing import Comparison

Look = Literal["fit", "whole", "edge"]
_EDGE_ZOOM, _GRAB, _KNOB, _STEP, _FULL = 8, 14, 16, 0.02, 250


class CompareStage(QWidget):
    """Left of the line the bench, right of it the file; drag the line, or the picture where it is larger."""

    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Bench and file compared")
        self.setMinimumSize(300, 200)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.answer: Comparison | None = None
        self.look: Look = "fit"
        self.backdrop: LookedOn = None
        self._behind: Frame | None = None
        self.early: Frame | None = None
        self._waits_for = ""
        self.share = 0.5
        self.is_waiting = False
        self._pan = QPointF()
        self._grabbed: QPointF | None = None
        self._holds_line = False

    # what is shown

    def show_answer(self, answer: Comparison | None) -> None:
        """Show another comparison; where one looks at stays."""
        self.answer, self.early, self.is_waiting = answer, None, False
        self._keep_in_sight()
        self.update()

    def show_waiting(self, output: Output) -> None:
        """Say that a file is being made; the picture of another row goes."""
        self.is_waiting = True
        if output.id != self._waits_for:
            self._waits_for, self.answer, self.early = output.id, None, None
        self.update()

    def show_bench(self, frame: Frame | None) -> None:
        """Show the bench's side alone, until there is a file to compare it with."""
        self.early = frame
        self.update()

    def set_look(self, look: Look) -> None:
        """Show it fitted, px for px, or its edge enlarged; the edge comes into sight."""
        self.look = look
        self._pan = self._edge_pan() if look == "edge" else QPointF()
        self._keep_in_sight()
        self.update()

    def set_backdrop(self, backdrop: LookedOn) -> None:
        """Lay a background beneath, None for the checkerboard; what is no flat colour comes as a picture."""
        self.backdrop, self._behind = backdrop, None
        self.update()

    def show_behind(self, frame: Frame | None) -> None:
        """Show the picture of a background."""
        self._behind = frame
        self.update()

    @property
    def zoom(self) -> float:
        """Logical px of the stage per px shown."""
        return (_EDGE_ZOOM if self.look == "edge" else 1.0) / self.devicePixelRatioF()

    def _pair(self) -> tuple[Bytes, Bytes] | None:
        answer = self.answer
        if answer is None or answer.bench is None or answer.file is None:
            return None
        return answer.fitted if self.look == "fit" else (answer.bench, answer.file)

    def picture_box(self) -> QRectF:
        """Return where the picture lies, logical px of the stage."""
        pair = self._pair()
        return QRectF() if pair is None else self._box_of(pair[0], self.zoom, self._pan)

    def _box_of(self, pixels: Bytes, zoom: float, pan: QPointF) -> QRectF:
        height, width = pixels.shape[:2]
        box = QRectF(0, 0, width * zoom, height * zoom)
        box.moveCenter(QRectF(self.rect()).center() + pan)
        ratio = self.devicePixelRatioF()
        box.moveTo(round(box.x() * ratio) / ratio, round(box.y() * ratio) / ratio)
        return box

    def _edge_pan(self) -> QPointF:
        """Return the shift that brings the rim at the lower right into the middle."""
        pair = self._pair()
        if pair is None:
            return QPointF()
        alpha = pair[0][..., 3]
        height, width = alpha.shape
        # From the middle to the corner: the last pixel that is (nearly) full is the shape's, not its shadow's.
        steps = np.linspace(0.5, 1.0, max(height, width))
        ys, xs = (np.minimum((steps * side).astype(int), side - 1) for side in (height, width))
        found = np.flatnonzero(alpha[ys, xs] >= min(_FULL, int(alpha.max())))
        if len(found) == 0:
            return QPointF()
        x, y = int(xs[found[-1]]), int(ys[found[-1]])
        return QPointF((width / 2 - x) * self.zoom, (height / 2 - y) * self.zoom)

    def _keep_in_sight(self) -> None:
        """Let no more than the picture's size be panned away."""
        pair = self._pair()
        if pair is None:
            return
        height, width = pair[0].shape[:2]
        wide = max(0.0, (width * self.zoom - self.width()) / 2 + 60) if width * self.zoom > self.width() else 0.0
        high = (
            max(0.0, (height * self.zoom - self.height()) / 2 + 60) if height * self.zoom > self.height() else 0.0
        )
        self._pan = QPointF(min(max(self._pan.x(), -wide), wide), min(max(self._pan.y(), -high), high))

    # pointer and keys

    @property
    def line_x(self) -> float:
        """The place of the line, logical px."""
        return self.share * self.width()

    def set_share(self, share: float) -> None:
        """Move the line."""
        self.share = min(max(share, 0.0), 1.0)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the line or of the picture."""
        if event.button() == Qt.MouseButton.LeftButton:
            self._holds_line = abs(event.position().x() - self.line_x) <= _GRAB
            self._grabbed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move what is held."""
        is_near = abs(event.position().x() - self.line_x) <= _GRAB
        if self._grabbed is None:
            self.setCursor(Qt.CursorShape.SplitHCursor if is_near else Qt.CursorShape.OpenHandCursor)
        elif self._holds_line:
            self.set_share(event.position().x() / max(1, self.width()))
        else:
            self._pan += event.position() - self._grabbed
            self._grabbed = event.position()
            self._keep_in_sight()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        self._grabbed = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Pan with the wheel."""
        self._pan += QPointF(event.angleDelta()) / 2
        self._keep_in_sight()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the line with the arrow keys."""
        steps = {Qt.Key.Key_Left: -_STEP, Qt.Key.Key_Right: _STEP}.get(Qt.Key(event.key()))
        if steps is None:
            super().keyPressEvent(event)
        else:
            self.set_share(self.share + steps)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Ask for another fit."""
        self._keep_in_sight()
        self.resized.emit()

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint both halves, the line, the names."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours().surround))
        pair, box = self._pair(), self.picture_box()
        if pair is None and self.is_waiting and self.early is not None:
            self._paint_early(painter, self.early)
        elif pair is not None:
            self._paint_backdrop(painter, box)
            line = self.line_x
            for pixels, left, right in ((pair[0], 0.0, line), (pair[1], line, float(self.width()))):
                painter.save()
                painter.setClipRect(QRectF(left, 0, right - left, self.height()))
                painter.translate(box.topLeft())
                painter.scale(self.zoom, self.zoom)
                painter.drawImage(QPoint(0, 0), to_image(Frame(pixels, 0, 0)))
                painter.restore()
            self._paint_line(painter, line)
        elif self.answer is not None and self.answer.problem:
            self._paint_words(painter, self.answer.problem)
        painter.end()

    def _paint_early(self, painter: QPainter, frame: Frame) -> None:
        """Paint the bench's picture left of the line; what the file makes of it is not known yet."""
        box = self._box_of(frame.rgba, 1.0 / self.devicePixelRatioF(), QPointF())
        self._paint_backdrop(painter, box)
        painter.save()
        painter.setClipRect(QRectF(0, 0, self.line_x, self.height()))
        painter.drawImage(box, to_image(frame))
        painter.restore()
        self._paint_line(painter, self.line_x)

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

    def _paint_line(self, painter: QPainter, x: float) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(0, 0, 0, 90), 4))
        painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
        painter.setPen(QPen(QColor("#ffffff"), 2))
        painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
        middle = QPointF(x, self.height() / 2)
        painter.setPen(QPen(QColor(colours().teal), 2))
        painter.setBrush(QColor("#ffffff"))
        painter.drawEllipse(middle, _KNOB, _KNOB)
        for side in (-1, 1):
            tip = middle + QPointF(9 * side, 0)
            painter.drawLine(tip, middle + QPointF(4 * side, -5))
            painter.drawLine(tip, middle + QPointF(4 * side, 5))
        waiting = " · being made" if self.is_waiting else ""
        self._paint_name(painter, "On the bench", x, is_left=True)
        self._paint_name(painter, f"In the file{waiting}", x, is_left=False)

    def _paint_name(self, painter: QPainter, words: str, x: float, *, is_left: bool) -> None:
        painter.setFont(font(12, MEDIUM))
        width = painter.fontMetrics().horizontalAdvance(words) + 20
        plate = QRectF(x - 24 - width if is_left else x + 24, 12, width, 22)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(34, 38, 42, 205))
        painter.drawRoundedRect(plate, 11, 11)
        painter.setPen(QColor("#ffffff"))
        painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, words)
