"""A line of text as the hand expects it: a first click marks all, Enter gives the keys back to the bench."""

from typing import Protocol, runtime_checkable

from PySide6.QtCore import Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLineEdit, QWidget

_TABBED = (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason)


@runtime_checkable
class KeyTaker(Protocol):
    """A view that has a place for the keys when no field has them."""

    def take_keys(self) -> None:
        """Take the keys."""


def give_keys_back(widget: QWidget) -> None:
    """Give the keys from a control to the view around it: to the bench, as a rule."""
    around: QWidget | None = widget
    while around is not None:
        if isinstance(around, KeyTaker):
            around.take_keys()
            return
        around = around.parentWidget()


class LineField(QLineEdit):
    """Escape brings back what was there; what is wrong stays, and keeps the keys."""

    def __init__(self) -> None:
        super().__init__()
        self._is_clicked_first = False

    @property
    def is_wrong(self) -> bool:
        """Whether what was typed cannot be taken."""
        return bool(self.property("wrong"))

    def restore(self) -> None:
        """Show again what was there before the typing."""
        while self.isUndoAvailable():
            self.undo()
        self.setModified(False)

    def show_text(self, text: str) -> None:
        """Show text without telling; where all of the old was marked, all of the new is."""
        is_marked = self.hasFocus() and self.selectedText() == self.text()
        self.setText(text)
        if is_marked:
            self.selectAll()
        else:
            self.setCursorPosition(0)
        self.setModified(False)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Mark the whole text, so that typing replaces it."""
        super().focusInEvent(event)
        self._is_clicked_first = event.reason() == Qt.FocusReason.MouseFocusReason
        if event.reason() in _TABBED:
            self.selectAll()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """After the first click all is marked, or what was dragged over; a second one sets the caret."""
        super().mouseReleaseEvent(event)
        if self._is_clicked_first and not self.hasSelectedText():
            self.selectAll()
        self._is_clicked_first = False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Take what was typed with Enter, leave it with Escape."""
        key = event.key()
        if key == Qt.Key.Key_Escape and (self.isModified() or self.is_wrong):
            self.restore()
            self.selectAll()
            event.accept()
            return
        super().keyPressEvent(event)
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.accept()
            if not self.is_wrong:
                give_keys_back(self)
