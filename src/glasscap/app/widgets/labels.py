"""Text in the few styles there are."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QLabel


def label(text: str = "", style: str = "") -> QLabel:
    """Return a label; `style` is an object name of the style sheet (muted, small, strong, title, amber)."""
    made = QLabel(text)
    if style:
        made.setObjectName(style)
    return made


class ElidedLabel(QLabel):
    """A label that shortens its text in the middle rather than asking for room."""

    def __init__(self, style: str = "") -> None:
        super().__init__()
        self._whole = ""
        if style:
            self.setObjectName(style)
        self.setMinimumWidth(24)

    def set_whole(self, text: str) -> None:
        """Show a text, shortened as needed; the whole is its tooltip."""
        if text != self._whole:
            self._whole = text
            self.setToolTip(text)
            self.setAccessibleName(text)
            self._shorten()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Shorten anew."""
        self._shorten()

    def _shorten(self) -> None:
        room = max(self.width(), self.minimumWidth())
        text = self.fontMetrics().elidedText(self._whole, Qt.TextElideMode.ElideMiddle, room)
        if text != self.text():
            self.setText(text)
