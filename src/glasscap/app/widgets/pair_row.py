"""A labelled pair of numbers, such as width and height."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.slider_row import ResetLabel


class PairRow(QWidget):
    """`stepped(first, second)` with None for the one that was not typed."""

    stepped = Signal(object, object)
    refused = Signal(str)
    reset_asked = Signal()

    def __init__(
        self,
        name: str,
        first: NumberSpec,
        second: NumberSpec,
        ppi: Callable[[], float] | None = None,
        *,
        reset_words: str,
    ) -> None:
        super().__init__()
        self.label = ResetLabel(name)
        self.label.setToolTip(f"Double click: {reset_words}")
        self.label.reset_asked.connect(self.reset_asked)
        self.first, self.second = NumberField(first, ppi), NumberField(second, ppi)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.label)
        row.addWidget(self.first, 1)
        row.addWidget(self.second, 1)
        self.first.stepped.connect(lambda value: self.stepped.emit(value, None))
        self.second.stepped.connect(lambda value: self.stepped.emit(None, value))
        for field in (self.first, self.second):
            field.refused.connect(self.refused)

    def add(self, widget: QWidget) -> None:
        """Put a widget at the row's end."""
        layout = self.layout()
        assert layout is not None
        layout.addWidget(widget)

    def show_values(self, first: float | None, second: float | None) -> None:
        """Show values without telling."""
        self.first.show_value(first)
        self.second.show_value(second)
