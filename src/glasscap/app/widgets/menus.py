"""Entries of menus."""

from collections.abc import Callable

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu


def add_entry(menu: QMenu, words: str, run: Callable[[], object], *, is_possible: bool = True) -> QAction:
    """Add an entry that runs something without arguments."""
    made = menu.addAction(words)
    made.setEnabled(is_possible)
    made.triggered.connect(lambda *_checked: run())
    return made
