"""Keeps clicks, keys and drops from a window while work is done whose outcome they could get in the way of."""

from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication, QDialog, QWidget

_Type = QEvent.Type
_HELD = frozenset(
    {
        _Type.MouseButtonPress, _Type.MouseButtonRelease, _Type.MouseButtonDblClick, _Type.Wheel,
        _Type.KeyPress, _Type.KeyRelease, _Type.Shortcut, _Type.ShortcutOverride, _Type.InputMethod,
        _Type.ContextMenu, _Type.DragEnter, _Type.DragMove, _Type.Drop, _Type.NativeGesture,
        _Type.TabletPress, _Type.TabletRelease, _Type.TouchBegin, _Type.TouchUpdate, _Type.TouchEnd,
    }
)  # fmt: skip


class InputHold(QObject):
    """Holds the input of one window, its menus and pop-ups included; its dialogs are left alone."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window, self._is_on = window, False

    def set_on(self, is_on: bool) -> None:
        """Begin to hold input, or let it through again."""
        application = QApplication.instance()
        if is_on == self._is_on or application is None:
            return
        self._is_on = is_on
        # Looked at only while input is held: an application has very many events.
        if is_on:
            application.installEventFilter(self)
        else:
            application.removeEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Swallow input for what belongs to the window."""
        if event.type() not in _HELD or not isinstance(watched, (QWidget, QAction)):
            return False
        up: QObject | None = watched
        while up is not None and up is not self._window:
            if isinstance(up, QDialog):
                return False
            up = up.parent()
        return up is not None
