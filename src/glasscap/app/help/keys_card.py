"""The key card: every action's key, and what the pointer does."""

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label
from glasscap.editor.actions import ACTIONS, GESTURES

_COLUMNS, _GESTURE_COLUMNS = 3, 2


class KeysCard(QDialog):
    """Lists the keys from the table of actions, so it cannot be out of date."""

    names_asked = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys - Glass Cap")
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 18)
        column.setSpacing(10)
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(4)
        entries = [(a.text, _native(a.shortcut)) for a in ACTIONS if a.shortcut]
        half = -(-len(entries) // _COLUMNS)
        for index, (text, keys) in enumerate(entries):
            place, row = divmod(index, half)
            grid.addWidget(label(text), row, 3 * place)
            grid.addWidget(label(keys, "muted"), row, 3 * place + 1)
        for place in range(1, _COLUMNS):
            grid.setColumnMinimumWidth(3 * place - 1, 26)
        column.addLayout(grid)
        column.addSpacing(6)
        more = QGridLayout()
        more.setHorizontalSpacing(18)
        deep = -(-len(GESTURES) // _GESTURE_COLUMNS)
        for index, (keys, what) in enumerate(GESTURES):
            place, row = divmod(index, deep)
            more.addWidget(label(keys, "muted"), row, 2 * place)
            more.addWidget(label(what), row, 2 * place + 1)
        column.addLayout(more)
        foot = QHBoxLayout()
        self.names = push("Names over the controls", self._on_names)
        foot.addWidget(self.names)
        foot.addStretch(1)
        foot.addWidget(push("Close", self.accept))
        column.addLayout(foot)

    def _on_names(self) -> None:
        self.accept()
        self.names_asked.emit()


def _native(shortcut: str) -> str:
    return QKeySequence(shortcut).toString(QKeySequence.SequenceFormat.NativeText)
