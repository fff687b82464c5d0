"""A short list of strokes or lights: a swatch, words, an eye; one is chosen."""

from collections.abc import Callable, Sequence

from msgspec import Struct
from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.colour_panel import qcolor
from glasscap.app.widgets.labels import ElidedLabel
from glasscap.app.widgets.menus import MenuEntry, open_menu

_OWN_KEYS = (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown, Qt.Key.Key_Delete)


class Line(Struct, frozen=True):
    """One line of the list."""

    words: str
    colours: tuple[str, ...]
    is_on: bool


class FinishLine(QWidget):
    """One line."""

    chosen = Signal()
    eye_clicked = Signal(bool)
    delete_asked = Signal()
    move_asked = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setFixedHeight(32)
        self._line, self._is_chosen = Line("", (), True), False
        row = QHBoxLayout(self)
        row.setContentsMargins(34, 0, 4, 0)
        row.setSpacing(2)
        self.words = ElidedLabel()
        row.addWidget(self.words, 1)
        self.eye = tool("eye", "Show or hide", lambda: self.eye_clicked.emit(not self._line.is_on), style="flat")
        self.delete = tool("trash-2", "Take away", self.delete_asked.emit, style="flat")
        for button in (self.delete, self.eye):
            button.setFixedSize(26, 26)
            row.addWidget(button)

    def show_line(self, line: Line, *, is_chosen: bool) -> None:
        """Show a line."""
        self._line, self._is_chosen = line, is_chosen
        self.words.set_whole(line.words)
        self.words.setEnabled(line.is_on)
        self.setAccessibleName(line.words)
        self.eye.setIcon(
            icon("eye" if line.is_on else "eye-off", colours().ink if line.is_on else colours().muted)
        )
        self.eye.setAccessibleName(f"{'Hide' if line.is_on else 'Show'} {line.words}")
        self.delete.setAccessibleName(f"Take away {line.words}")
        self.delete.setVisible(is_chosen)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.chosen.emit()

    def event(self, event: QEvent) -> bool:
        """Keep the line's own keys from the window's commands."""
        is_asked = event.type() == QEvent.Type.ShortcutOverride
        if is_asked and isinstance(event, QKeyEvent) and Qt.Key(event.key()) in _OWN_KEYS:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose, delete, or move it with Page Up and Page Down."""
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit()
        elif key == Qt.Key.Key_Delete:
            self.delete_asked.emit()
        elif key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self.move_asked.emit(-1 if key == Qt.Key.Key_PageUp else 1)
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Choose the line and offer what can be done to it."""
        self.chosen.emit()
        is_on = self._line.is_on
        entries = [
            MenuEntry("Hide" if is_on else "Show", lambda: self.eye_clicked.emit(not is_on)),
            MenuEntry("One place up", lambda: self.move_asked.emit(-1), "PgUp"),
            MenuEntry("One place down", lambda: self.move_asked.emit(1), "PgDown"),
            None,
            MenuEntry("Take away", self.delete_asked.emit, "Del"),
        ]
        open_menu(self, entries, event.globalPos())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint ground and swatch."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._is_chosen:
            painter.fillRect(self.rect(), QColor(colours().teal_soft))
        box = QRectF(9, 8, 16, 16)
        painter.setPen(Qt.PenStyle.NoPen)
        count = max(len(self._line.colours), 1)
        painter.setOpacity(1.0 if self._line.is_on else 0.35)
        painter.setPen(QColor(colours().line))
        for index, colour in enumerate(self._line.colours or ("#888888",)):
            painter.setBrush(qcolor(colour))
            painter.drawRoundedRect(box.adjusted(index * box.width() / count, 0, 0, 0), 4, 4)
        painter.setOpacity(1.0)
        if self.hasFocus():
            painter.setPen(QColor(colours().teal))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()


class FinishList(QFrame):
    """`chosen(index)`, `switched(index, is_on)`, `delete_asked(index)`, `move_asked(index, step)`."""

    chosen = Signal(int)
    switched = Signal(int, bool)
    delete_asked = Signal(int)
    move_asked = Signal(int, int)

    def __init__(self, name: str, footer: QWidget) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setObjectName("list")
        self.lines: list[FinishLine] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(1, 1, 1, 1)
        self._column.setSpacing(0)
        self._column.addWidget(footer)

    def show_lines(self, lines: Sequence[Line], chosen: int) -> None:
        """Show lines, one of them chosen."""
        while len(self.lines) < len(lines):
            self._add()
        while len(self.lines) > len(lines):
            gone = self.lines.pop()
            self._column.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        for index, (widget, line) in enumerate(zip(self.lines, lines, strict=True)):
            widget.show_line(line, is_chosen=index == chosen)

    def _add(self) -> None:
        made, index = FinishLine(), len(self.lines)
        made.chosen.connect(self._teller(self.chosen.emit, index))
        made.eye_clicked.connect(lambda is_on: self.switched.emit(index, is_on))
        made.delete_asked.connect(self._teller(self.delete_asked.emit, index))
        made.move_asked.connect(lambda step: self.move_asked.emit(index, step))
        self.lines.append(made)
        self._column.insertWidget(index, made)

    def _teller(self, tell: Callable[[int], object], index: int) -> Callable[[], object]:
        return lambda: tell(index)
