"""A card that shows a picture and its name, to be clicked."""

from PySide6.QtCore import QRect, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.fonts import STRONG, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.focus_ring import draw_focus_ring
from glasscap.app.widgets.frame_image import to_image
from glasscap.core.render.screen.frames import Frame

# Logical px around the picture, and below it for the name.
_INSET, _NAME = 8, 26


class PictureCard(QWidget):
    """A picture over the checkerboard with its name below; `chosen(key)` on a click, Enter or Space."""

    chosen = Signal(str)

    def __init__(self, key: str, name: str, title: str) -> None:
        super().__init__()
        self.key, self.name, self.is_marked = key, name, False
        self._frame: Frame | None = None
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(title)
        self.setToolTip(name)

    def picture_size(self) -> tuple[int, int]:
        """Return the room for the picture, device px."""
        ratio, room = self.devicePixelRatioF(), self._room()
        return max(16, round((room.width() - 8) * ratio)), max(16, round((room.height() - 8) * ratio))

    def show_frame(self, frame: Frame | None, *, is_marked: bool = False) -> None:
        """Show a picture, and whether it is the one that counts."""
        self._frame, self.is_marked = frame, is_marked
        self.update()

    def _room(self) -> QRect:
        return self.rect().adjusted(_INSET, _INSET, -_INSET, -_NAME)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint card, picture, name."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = colours()
        strong = self.is_marked
        painter.setPen(QPen(QColor(shown.teal if strong else shown.line), 2 if strong else 1))
        painter.setBrush(QColor(shown.field))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 8, 8)
        room = self._room()
        painter.fillRect(room, checkerboard(0.5))
        if self._frame is not None:
            ratio = self.devicePixelRatioF()
            height, width = self._frame.rgba.shape[:2]
            target = QRect(0, 0, round(width / ratio), round(height / ratio))
            target.moveCenter(room.center())
            painter.drawImage(target, to_image(self._frame))
        painter.setFont(font(12, STRONG))
        painter.setPen(QColor(shown.teal if self.is_marked else shown.ink))
        foot = QRect(10, self.height() - _NAME, self.width() - 20, _NAME)
        name = painter.fontMetrics().elidedText(self.name, Qt.TextElideMode.ElideMiddle, foot.width())
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, name)
        if self.hasFocus():
            draw_focus_ring(painter, QRectF(self.rect()).adjusted(3, 3, -3, -3))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.chosen.emit(self.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose it with Enter or Space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.key)
        else:
            super().keyPressEvent(event)
