"""Corner radii: one number, or one for each corner."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.slider_row import LABEL_WIDTH, ResetLabel
from glasscap.core.shapes.library.table import find_shape

# The cell of each stored corner in the grid: top left, top right, bottom right, bottom left.
_SPOTS = ((1, 1), (1, 2), (2, 2), (2, 1))


class CornerFields(QWidget):
    """`stepped(radii)` with all four, in the order of the shape's parameters."""

    stepped = Signal(object)
    refused = Signal(str)

    def __init__(self, ppi: Callable[[], float]) -> None:
        super().__init__()
        self._radii: tuple[float, ...] = (0.0, 0.0, 0.0, 0.0)
        spec = find_shape("rectangle")
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        name = ResetLabel("Corners")
        name.setFixedWidth(LABEL_WIDTH)
        name.reset_asked.connect(lambda: self.stepped.emit((0.0,) * 4))
        self.all = NumberField(NumberSpec("Corner radius", "px", 0, spec.parameters[0].high), ppi)
        self.each = tool("ellipsis", "A radius for each corner", self._on_each_clicked)
        self.each.setCheckable(True)
        self.fields = [
            NumberField(NumberSpec(f"Corner {p.label.lower()}", "px", p.low, p.high), ppi) for p in spec.stored
        ]
        grid.addWidget(name, 0, 0)
        grid.addWidget(self.all, 0, 1)
        grid.addWidget(self.each, 0, 2)
        for index, (field, spot) in enumerate(zip(self.fields, _SPOTS, strict=True)):
            grid.addWidget(field, *spot)
            field.stepped.connect(lambda value, index=index: self._on_one_stepped(index, value))
            field.refused.connect(self.refused)
            field.hide()
        self.all.stepped.connect(lambda value: self.stepped.emit((value,) * 4))
        self.all.refused.connect(self.refused)

    def show_values(self, radii: tuple[float, ...]) -> None:
        """Show radii without telling; the single field is empty where they differ."""
        self._radii = radii
        is_one = len(set(radii)) == 1
        self.all.show_value(radii[0] if is_one else None)
        self.all.setPlaceholderText("" if is_one else "—")
        for field, radius in zip(self.fields, radii, strict=True):
            field.show_value(radius)
        if not is_one and not self.each.isChecked():
            self.each.setChecked(True)
            self._on_each_clicked()

    def _on_each_clicked(self) -> None:
        for field in self.fields:
            field.setVisible(self.each.isChecked())

    def _on_one_stepped(self, index: int, value: float) -> None:
        radii = list(self._radii)
        radii[index] = value
        self.stepped.emit(tuple(radii))
