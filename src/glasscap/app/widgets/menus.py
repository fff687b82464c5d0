"""Entries of menus, and menus under the pointer."""

from collections.abc import Callable, Sequence

from msgspec import Struct
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QWidget


class MenuEntry(Struct, frozen=True):
    """One entry: words, what it does, the key that does the same, and whether it can be done now."""

    words: str
    run: Callable[[], object]
    key: str = ""
    is_possible: bool = True


# None stands for a line between entries.
Entries = Sequence[MenuEntry | QAction | None]


def add_entry(menu: QMenu, words: str, run: Callable[[], object], *, is_possible: bool = True) -> QAction:
    """Add an entry that runs something without arguments."""
    made = menu.addAction(words)
    made.setEnabled(is_possible)
    made.triggered.connect(lambda *_checked: run())
    return made


def open_menu(owner: QWidget, entries: Entries, at: QPoint) -> QMenu:
    """Show a menu at a place on the screen; it goes when it is closed."""
    menu = QMenu(owner)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    for entry in entries:
        if entry is None:
            menu.addSeparator()
        elif isinstance(entry, QAction):
            menu.addAction(entry)
        else:
            # The key is the control's own: here it is only told.
            words = f"{entry.words}\t{entry.key}" if entry.key else entry.words
            add_entry(menu, words, entry.run, is_possible=entry.is_possible)
    menu.popup(at)
    return menu
