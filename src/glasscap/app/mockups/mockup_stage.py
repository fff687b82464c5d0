"""A mock-up, or its versions side by side; the corners of one's own place are dragged on it."""

from PySide6.QtCore import QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from glasscap.app.bench import overlay
from glasscap.app.theme.colours import LINE_TEAL
from glasscap.app.theme.fonts import MEDIUM, STRONG, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.document.model.mockups import OwnPlace
from glasscap.editor.mockup_pictures import MockupAnswer

_MARGIN, _CAPTION, _GAP, _GRAB, _KNOB = 24, 26, 14, 14, 7.0


class MockupStage(QWidget):
    """`corner_moved(number, x, y)` in px of the place while a corner is dragged, `corner_placed` at the end."""

    corner_moved = Signal(int, float, float)
    corner_placed = Signal(int, float, float)
    given_up = Signal()
    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Mock-up")
        self.setMinimumSize(300, 200)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.answer: MockupAnswer | None = None
        self.own: OwnPlace | None = None
        self.words = ""
        self._held: int | None = None

    @property
    def room(self) -> tuple[int, int]:
        """The device px there are for pictures."""
        ratio = self.devicePixelRatioF()
        count = 1 if self.answer is None else max(1, len(self.answer.pictures))
        wide = self.width() - 2 * _MARGIN - (count - 1) * _GAP
        return max(16, round(wide * ratio)), max(16, round((self.height() - 2 * _MARGIN - _CAPTION) * ratio))

    def show_answer(self, answer: MockupAnswer | None, words: str = "") -> None:
        """Show another mock-up, or words in its place."""
        self.answer, self.words = answer, words
        self.update()

    def show_own(self, place: OwnPlace | None) -> None:
        """Show the corners of a place in a photo, None for a shipped place."""
        self.own = place
        self.update()

    def boxes(self) -> list[QRectF]:
        """Return where the pictures lie, logical px."""
        answer = self.answer
        if answer is None or not answer.pictures:
            return []
        ratio = self.devicePixelRatioF()
        sizes = [(f.rgba.shape[1] / ratio, f.rgba.shape[0] / ratio) for _, f in answer.pictures]
        whole = sum(w for w, _ in sizes) + _GAP * (len(sizes) - 1)
        x, found = (self.width() - whole) / 2, []
        for width, height in sizes:
            top = (self.height() - _CAPTION - height) / 2
            found.append(QRectF(round(x), round(top), width, height))
            x += width + _GAP
        return found

    def corners(self) -> list[QPointF]:
        """Return the corners of one's own place, logical px; none for a shipped place or several pictures."""
        boxes, answer = self.boxes(), self.answer
        if self.own is None or len(boxes) != 1 or answer is None:
            return []
        scale = answer.scale / self.devicePixelRatioF()
        return [boxes[0].topLeft() + QPointF(x, y) * scale for x, y in self.own.corners]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint pictures, names, corners, words."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(colours().surround))
        answer = self.answer
        for box, (name, frame) in zip(self.boxes(), () if answer is None else answer.pictures, strict=True):
            overlay.draw_sheet_shadow(painter, box)
            painter.drawImage(box, to_image(frame))
            if name:
                painter.setFont(font(12, STRONG))
                painter.setPen(QColor("#ffffff"))
                foot = QRectF(box.x(), box.bottom() + 4, box.width(), _CAPTION)
                painter.drawText(foot, Qt.AlignmentFlag.AlignHCenter, name)
        corners = self.corners()
        for start, end in zip(corners, [*corners[1:], *corners[:1]], strict=True):
            path = overlay.way_path(start, end)
            overlay.draw_line(painter, path, LINE_TEAL)
        for corner in corners:
            painter.setPen(QColor(LINE_TEAL))
            painter.setBrush(QColor("#ffffff"))
            painter.drawEllipse(corner, _KNOB, _KNOB)
        if self.words:
            painter.setFont(font(14, MEDIUM))
            painter.setPen(QColor("#22262a"))
            room = QRect(self.rect()).adjusted(60, 0, -60, 0)
            how = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(room, how, self.words)
        painter.end()

    # dragging a corner

    def _corner_at(self, at: QPointF) -> int | None:
        near = [((c - at).manhattanLength(), n) for n, c in enumerate(self.corners())]
        return min(near)[1] if near and min(near)[0] <= _GRAB else None

    def _in_place(self, at: QPointF) -> tuple[float, float]:
        assert self.answer is not None
        scale = self.answer.scale / self.devicePixelRatioF()
        off = (at - self.boxes()[0].topLeft()) / scale
        return off.x(), off.y()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a corner."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._held = self._corner_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag it, or show that one can be dragged."""
        if self._held is not None and self.corners():
            self.corner_moved.emit(self._held, *self._in_place(event.position()))
        else:
            over = self._corner_at(event.position()) is not None
            self.setCursor(Qt.CursorShape.SizeAllCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Leave it there."""
        held, self._held = self._held, None
        if held is not None and self.corners():
            self.corner_placed.emit(held, *self._in_place(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Give a drag up with Escape."""
        if event.key() == Qt.Key.Key_Escape and self._held is not None:
            self._held = None
            self.given_up.emit()
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Tell, so that pictures are drawn anew."""
        self.resized.emit()
