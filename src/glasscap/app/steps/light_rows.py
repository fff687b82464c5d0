"""All that light does, a row with a switch each; one is chosen."""

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QMouseEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.widgets.labels import ElidedLabel, label
from glasscap.app.widgets.menus import MenuEntry, open_menu
from glasscap.app.widgets.switch import Switch
from glasscap.editor.light_lines import LightLine

_HEIGHT = 32


class LightRow(QFrame):
    """One row; the switch has the keys: Space switches, Return chooses, Delete takes away."""

    chosen = Signal()
    switched = Signal(bool)
    delete_asked = Signal()
    back_asked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("light_row")
        self.setFixedHeight(_HEIGHT)
        self._line = LightLine("", 0, "", "")
        row = QHBoxLayout(self)
        row.setContentsMargins(6, 0, 9, 0)
        row.setSpacing(7)
        self.switch = Switch()
        self.name = label("")
        self.words = ElidedLabel("small")
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.switch)
        row.addWidget(self.name)
        row.addWidget(self.words, 1)
        self.switch.clicked.connect(lambda is_on: self.switched.emit(is_on))
        self.switch.key_pressed.connect(self._on_key)

    def show_line(self, line: LightLine, *, is_chosen: bool) -> None:
        """Show a line."""
        self._line = line
        self.switch.setChecked(line.is_on)
        self.switch.setAccessibleName(line.name)
        self.switch.setAccessibleDescription(line.words)
        self.name.setText(line.name)
        self.words.set_whole(line.words)
        if self.property("is_chosen") is not is_chosen:
            self.setProperty("is_chosen", is_chosen)
            self.style().unpolish(self)
            self.style().polish(self)

    def _on_key(self, key: int) -> None:
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.delete_asked.emit()
        else:
            self.chosen.emit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it; one that is not there yet is switched on."""
        if event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit() if self._line.light is not None else self.switched.emit(True)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Choose the row and offer what can be done to it."""
        line = self._line
        entries: list[MenuEntry | None] = [
            MenuEntry("Switch off" if line.is_on else "Switch on", lambda: self.switched.emit(not line.is_on))
        ]
        if line.light is not None:
            self.chosen.emit()
            if line.has_own_way:
                entries.append(MenuEntry("Follow the lamp", self.back_asked.emit))
            entries += [None, MenuEntry("Take away", self.delete_asked.emit, "Del")]
        open_menu(self, entries, event.globalPos())


class LightRows(QWidget):
    """`chosen(n)`, `switched(n, is_on)`, `delete_asked(n)`, `back_asked(n)` with the number of a line."""

    chosen = Signal(int)
    switched = Signal(int, bool)
    delete_asked = Signal(int)
    back_asked = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Shadow and light")
        self.rows: list[LightRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)

    def show_lines(self, lines: Sequence[LightLine], chosen: int) -> None:
        """Show lines, one of them chosen."""
        while len(self.rows) < len(lines):
            self._add()
        while len(self.rows) > len(lines):
            gone = self.rows.pop()
            self._column.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        for number, (row, line) in enumerate(zip(self.rows, lines, strict=True)):
            row.show_line(line, is_chosen=number == chosen and line.light is not None)

    def _add(self) -> None:
        made, number = LightRow(), len(self.rows)
        made.chosen.connect(lambda: self.chosen.emit(number))
        made.switched.connect(lambda is_on: self.switched.emit(number, is_on))
        made.delete_asked.connect(lambda: self.delete_asked.emit(number))
        made.back_asked.connect(lambda: self.back_asked.emit(number))
        self.rows.append(made)
        self._column.addWidget(made)
