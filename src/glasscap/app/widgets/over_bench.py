"""A panel that lies over the bench for a while."""

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QHideEvent, QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import give_keys_back

# Logical px around it, and at the foot for the grip bar.
_MARGIN, _FOOT = 12, 62


class OverBench(QFrame):
    """Closed by its cross, by Escape, or by what it is for; `column` is where the rest of it goes."""

    def __init__(self, name: str, bench: QWidget) -> None:
        super().__init__(bench)
        self.setObjectName("library")
        self.setAccessibleName(name)
        self.title = label("", "strong")
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(12, 10, 12, 12)
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(tool("x", "Close (Escape)", self.hide, style="flat"))
        self.column.addLayout(head)
        self.hide()

    def come(self) -> None:
        """Lie over the bench and take the keys."""
        self.place()
        self.show()
        self.raise_()
        self.setFocus()

    def take_keys(self) -> None:
        """Take the keys while the panel is there."""
        if self.isVisible():
            self.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        """Give the keys back to the bench."""
        super().hideEvent(event)
        parent = self.parentWidget()
        if parent is not None:
            give_keys_back(parent)

    def place(self) -> None:
        """Cover the bench, the grip bar left free."""
        parent = self.parentWidget()
        if parent is not None:
            self.setGeometry(QRect(0, 0, parent.width(), parent.height() - _FOOT).adjusted(
                _MARGIN, _MARGIN, -_MARGIN, 0))  # fmt: skip

    def sizeHint(self) -> QSize:
        """Ask for nothing."""
        return QSize(300, 200)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Close with Escape."""
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)
