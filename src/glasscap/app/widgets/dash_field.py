"""Dashes: a few ready patterns, or lengths typed one after another; whether the ends meet evenly."""

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QComboBox, QGridLayout, QWidget

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import CheckBox
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import LineField
from glasscap.app.widgets.slider_row import LABEL_WIDTH
from glasscap.app.widgets.wheel import DropDown
from glasscap.app.widgets.wrong import mark_wrong
from glasscap.editor.numbers import NumberError, format_number, parse_number

# Lengths in widths of the stroke.
_PATTERNS: tuple[tuple[str, tuple[float, ...]], ...] = (
    ("Solid", ()),
    ("Dashes", (2, 1)),
    ("Long dashes", (4, 1.5)),
    ("Short dashes", (1, 1)),
    ("Dots", (0, 1.5)),
    ("Dash and dot", (2.5, 1, 0.25, 1)),
)
# How near lengths are to a pattern to be called so, px.
_NEAR = 0.02
_OWN = "Typed"


class DashField(QWidget):
    """`stepped(lengths)`, `even_changed(is_on)`, `refused(words)`."""

    stepped = Signal(object)
    even_changed = Signal(bool)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._width = 1.0
        self.presets = DropDown()
        self.presets.setAccessibleName("Dashes")
        self.presets.setIconSize(QSize(54, 12))
        self.presets.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.presets.setMinimumContentsLength(0)
        self.presets.setMinimumWidth(72)
        for words, pattern in _PATTERNS:
            self.presets.addItem(_picture(pattern), "", pattern)
            self.presets.setItemData(self.presets.count() - 1, words, Qt.ItemDataRole.ToolTipRole)
            self.presets.setItemData(self.presets.count() - 1, words, Qt.ItemDataRole.AccessibleTextRole)
        self.presets.addItem(_OWN, None)
        self.lengths = LineField()
        self.lengths.setAccessibleName("Dash and gap lengths, px")
        self.lengths.setPlaceholderText("14 7")
        self.lengths.setFixedWidth(66)
        self.even = CheckBox("Ends meet evenly")
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(4)
        name = label("Dashes", "muted")
        name.setFixedWidth(LABEL_WIDTH)
        grid.addWidget(name, 0, 0)
        grid.addWidget(self.presets, 0, 1)
        grid.addWidget(self.lengths, 0, 2)
        grid.addWidget(self.even, 1, 1, 1, 2)
        grid.setColumnStretch(1, 1)
        self.presets.activated.connect(self._on_preset)
        self.lengths.editingFinished.connect(self._on_typed)
        self.lengths.textEdited.connect(lambda: self._mark(""))
        self.even.clicked.connect(self.even_changed)

    def show_dashes(self, dashes: tuple[float, ...], width: float, *, is_even: bool) -> None:
        """Show the dashes of a stroke of a width, px, without telling."""
        self._width = width
        index = next((n for n, (_, p) in enumerate(_PATTERNS) if self._is_near(p, dashes)), len(_PATTERNS))
        self.presets.setCurrentIndex(index)
        if not (self.lengths.hasFocus() and self.lengths.isModified()):
            self.lengths.show_text(" ".join(format_number(v) for v in dashes))
            self._mark("")
        self.even.setChecked(is_even)
        self.even.setVisible(bool(dashes))

    def _lengths_of(self, pattern: tuple[float, ...]) -> tuple[float, ...]:
        return tuple(round(v * self._width, 2) for v in pattern)

    def _is_near(self, pattern: tuple[float, ...], dashes: tuple[float, ...]) -> bool:
        lengths = self._lengths_of(pattern)
        return len(lengths) == len(dashes) and all(
            abs(a - b) <= _NEAR for a, b in zip(lengths, dashes, strict=True)
        )

    def _on_preset(self, index: int) -> None:
        pattern = self.presets.itemData(index)
        if pattern is None:
            self.lengths.setFocus()
            self.lengths.selectAll()
        else:
            self.stepped.emit(self._lengths_of(pattern))

    def _on_typed(self) -> None:
        if not self.lengths.isModified():
            return
        try:
            lengths = tuple(parse_number(word) for word in self.lengths.text().replace(",", " ").split())
            if any(v < 0 for v in lengths):
                raise NumberError("a length is below 0")
            if lengths and sum(lengths) == 0:
                raise NumberError("all lengths are 0; type a dash and a gap, for example 14 7")
        except NumberError as error:
            self._mark(str(error))
            self.refused.emit(f"Dashes: {error}")
            return
        self.lengths.setModified(False)
        self.stepped.emit(lengths)

    def _mark(self, why: str) -> None:
        self.lengths.setToolTip(why or "Dash and gap in turn, px")
        mark_wrong(self.lengths, is_wrong=bool(why))


def _picture(pattern: tuple[float, ...]) -> QIcon:
    pixmap = QPixmap(108, 24)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    pen = QPen(QColor(colours().ink), 8)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap if pattern and pattern[0] == 0 else Qt.PenCapStyle.FlatCap)
    if pattern:
        pen.setDashPattern([max(v, 0.01) * 1.4 for v in pattern])
    painter.setPen(pen)
    painter.drawLine(6, 12, 102, 12)
    painter.end()
    pixmap.setDevicePixelRatio(2)
    return QIcon(pixmap)
