"""A labelled value: slider and typable field; a double click on the label resets it."""

import math
from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QWidget

from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.wheel import Slider

_STEPS = 2000
LABEL_WIDTH = 62


class ResetLabel(QLabel):
    """A row's name; a double click resets its value."""

    reset_asked = Signal()

    def __init__(self, text: str) -> None:
        super().__init__(text)
        self.setObjectName("muted")
        self.setFixedWidth(LABEL_WIDTH)
        self.setToolTip("Double click to reset")

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Ask for the reset."""
        self.reset_asked.emit()


class SliderRow(QWidget):
    """`moved(value)` while the slider is dragged, `stepped(value)` when a value is settled."""

    moved = Signal(float)
    stepped = Signal(float)
    refused = Signal(str)

    def __init__(
        self,
        spec: NumberSpec,
        *,
        reset_to: float | None = None,
        is_logarithmic: bool = False,
        ppi: Callable[[], float] | None = None,
    ) -> None:
        super().__init__()
        self._low, self._high, self._is_log = spec.low, spec.high, is_logarithmic
        self.field = NumberField(spec, ppi)
        self.field.setFixedWidth(74)
        self.slider = Slider()
        self.slider.setRange(0, _STEPS)
        self.slider.setAccessibleName(f"{spec.name} slider")
        self.slider.setMinimumWidth(40)
        self.label = ResetLabel(spec.name)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.label)
        row.addWidget(self.slider, 1)
        row.addWidget(self.field)
        self.field.stepped.connect(self.stepped)
        self.field.refused.connect(self.refused)
        self.slider.valueChanged.connect(self._on_slider_changed)
        self.slider.nudged.connect(self.field.step)
        self.slider.turned.connect(self.field.turn)
        self.slider.sliderReleased.connect(self._on_slider_released)
        if reset_to is not None:
            self.label.reset_asked.connect(lambda: self.stepped.emit(reset_to))

    def set_slider_range(self, low: float, high: float) -> None:
        """Let the slider span a part of the field's range."""
        self._low, self._high = low, high

    def add_button(self, button: QWidget) -> None:
        """Put a button at the row's end, the field made narrower for it."""
        layout = self.layout()
        assert layout is not None
        layout.addWidget(button)
        self.field.setFixedWidth(58)

    def show_value(self, value: float | None) -> None:
        """Show a value without telling."""
        self.field.show_value(value)
        if value is not None and not self.slider.isSliderDown():
            self.slider.blockSignals(True)
            self.slider.setValue(round(self._share(value) * _STEPS))
            self.slider.blockSignals(False)

    def _share(self, value: float) -> float:
        low, high = self._low, self._high
        if self._is_log:
            low, high, value = math.log(low), math.log(high), math.log(max(value, 1e-9))
        return min(max((value - low) / (high - low), 0.0), 1.0)

    def _slider_value(self) -> float:
        share = self.slider.value() / _STEPS
        if self._is_log:
            value = math.exp(math.log(self._low) + share * (math.log(self._high) - math.log(self._low)))
        else:
            value = self._low + share * (self._high - self._low)
        return round(value, 1 if self.field.spec.decimals else 0)

    def _on_slider_changed(self) -> None:
        value = self._slider_value()
        if self.slider.isSliderDown():
            self.moved.emit(value)
            self.field.show_value(value)
        else:
            self.stepped.emit(value)

    def _on_slider_released(self) -> None:
        self.stepped.emit(self._slider_value())
