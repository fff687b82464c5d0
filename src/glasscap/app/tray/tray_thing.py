"""A base for cards and groups of the tray: chosen by click and keys, dragged, with a menu."""

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QWidget

from glasscap.core.document.model.job import Item

_DRAG_PX = 8


class TrayThing(QWidget):
    """Shows an item; `chosen(id, adds)`, `renamed(id, name)`, `menu_asked(id, at)`, `drag_asked(id, at)`."""

    chosen = Signal(str, bool)
    renamed = Signal(str, str)
    menu_asked = Signal(str, QPoint)
    drag_asked = Signal(str, QPoint)

    def __init__(self, item: Item) -> None:
        super().__init__()
        self.item, self.is_selected = item, False
        self._press: QPoint | None = None
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def take_press(self, event: QMouseEvent) -> None:
        """Choose the item; a drag may follow."""
        if event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()
            adds = event.modifiers() & (Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
            self.chosen.emit(self.item.id, bool(adds))

    def forget_press(self) -> None:
        """Begin no drag any more."""
        self._press = None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Begin dragging."""
        at = event.position().toPoint()
        if self._press is not None and (at - self._press).manhattanLength() >= _DRAG_PX:
            self._press = None
            self.drag_asked.emit(self.item.id, at)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Forget the press."""
        self._press = None

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Ask for the menu."""
        self.menu_asked.emit(self.item.id, event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with Enter or Space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.item.id, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def on_named(self, name: str) -> None:
        """Tell the name that was entered."""
        self.renamed.emit(self.item.id, name)
