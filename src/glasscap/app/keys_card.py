"""The key card: every action's key, and what the pointer does."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QDialog, QGridLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label
from glasscap.editor.actions import ACTIONS, GESTURES

_COLUMNS = 2


class KeysCard(QDialog):
    """Lists the keys from the table of actions, so it cannot be out of date."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys - Glass Cap")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
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
        grid.setColumnMinimumWidth(2, 26)
        column.addLayout(grid)
        column.addSpacing(6)
        more = QGridLayout()
        more.setHorizontalSpacing(18)
        for row, (keys, what) in enumerate(GESTURES):
            more.addWidget(label(keys, "muted"), row, 0)
            more.addWidget(label(what), row, 1)
        column.addLayout(more)
        column.addWidget(push("Close", self.accept), 0, Qt.AlignmentFlag.AlignRight)


def _native(shortcut: str) -> str:
    return QKeySequence(shortcut).toString(QKeySequence.SequenceFormat.NativeText)
