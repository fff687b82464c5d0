"""Find a command: typed words lead to every command, control, shape, set of finishes and page of the help."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent
from PySide6.QtWidgets import QFrame, QHeaderView, QLineEdit, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from glasscap.app.theme.style import colours
from glasscap.app.widgets.line_field import give_keys_back
from glasscap.editor.finding import Findable, found

_SIZE, _TOP = (460, 380), 58
# Rows that a key goes on in the list.
_STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -8, Qt.Key.Key_PageDown: 8}


class FindCommand(QFrame):
    """Lies over the window's top; `chosen(thing)` when an entry is taken."""

    chosen = Signal(object)

    def __init__(self, window: QWidget, things: Callable[[], Sequence[Findable]]) -> None:
        super().__init__(window)
        self._window = window
        self.setObjectName("library")
        self.setAccessibleName("Find a command")
        self._things = things
        self._all: Sequence[Findable] = ()
        self.field = QLineEdit()
        self.field.setPlaceholderText("Find a command, such as border, release, round corners")
        self.field.setAccessibleName("Find a command")
        self.list = QTreeWidget()
        self.list.setObjectName("names")
        self.list.setAccessibleName("Commands found")
        self.list.setColumnCount(2)
        self.list.setHeaderHidden(True)
        self.list.setRootIsDecorated(False)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.header().setStretchLastSection(False)
        self.list.header().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.list.header().setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self.field)
        column.addWidget(self.list, 1)
        self.field.textChanged.connect(self._show_found)
        self.field.installEventFilter(self)
        self.list.itemClicked.connect(lambda item, _: self._take(item))
        self.hide()

    def come(self) -> None:
        """Lie over the window's top with an empty field that has the keys."""
        self._all = self._things()
        window = self._window
        width, height = min(_SIZE[0], window.width() - 24), min(_SIZE[1], window.height() - _TOP - 24)
        self.setGeometry((window.width() - width) // 2, _TOP, width, height)
        self.field.clear()
        self._show_found("")
        self.show()
        self.raise_()
        self.field.setFocus()

    def leave(self) -> None:
        """Go, and give the keys back."""
        self.hide()
        give_keys_back(self._window)

    def _show_found(self, text: str) -> None:
        self.list.clear()
        for thing in found(text, self._all):
            item = QTreeWidgetItem([thing.title, thing.hint])
            item.setData(0, Qt.ItemDataRole.UserRole, thing)
            item.setForeground(1, QColor(colours().muted))
            self.list.addTopLevelItem(item)
        if self.list.topLevelItemCount() == 0:
            item = QTreeWidgetItem(["Nothing has all of these words; try another one", ""])
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addTopLevelItem(item)
        else:
            self._choose(0)

    def _take(self, item: QTreeWidgetItem | None) -> None:
        thing = None if item is None else item.data(0, Qt.ItemDataRole.UserRole)
        if isinstance(thing, Findable):
            self.leave()
            self.chosen.emit(thing)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Let the field's arrow keys move in the list, Enter take an entry, Escape leave."""
        kind = event.type()
        if kind == QEvent.Type.FocusOut and self.isVisible():
            self.hide()
        if kind != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take(self.list.currentItem())
        elif key == Qt.Key.Key_Escape:
            self.leave()
        elif key in _STEPS:
            row = self.list.currentIndex().row() + _STEPS[key]
            self._choose(min(max(row, 0), self.list.topLevelItemCount() - 1))
        else:
            return False
        return True

    def _choose(self, row: int) -> None:
        item = self.list.topLevelItem(row)
        if item is not None:
            self.list.setCurrentItem(item)
            # Said aloud: the keys stay in the field.
            self.field.setAccessibleDescription(f"{item.text(0)}, {item.text(1)}")
