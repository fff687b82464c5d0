"""A number that is typed: arithmetic and units, arrows and wheel, its unit shown at the right."""

from collections.abc import Callable

from msgspec import Struct
from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QResizeEvent, QWheelEvent

from glasscap.app.runs import Run
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import LineField
from glasscap.app.widgets.wheel import NOTCH, takes_wheel
from glasscap.app.widgets.wrong import mark_wrong
from glasscap.editor.numbers import NumberError, format_number, parse_length, parse_number, px_per

# Logical px of border and padding.
_FRAME = 16
_KEYS_OF_TEXT = (
    QKeySequence.StandardKey.Copy,
    QKeySequence.StandardKey.Cut,
    QKeySequence.StandardKey.Paste,
    QKeySequence.StandardKey.SelectAll,
)


# Letters of a length in px.
_LENGTHS = ("w", "h", "x", "y")


class NumberSpec(Struct, frozen=True):
    """The description of a field: name, unit behind it, range, step of an arrow key, decimals shown.

    `suffix` is a unit ("px", "%", "°", "ppi", "") or the letter of a length in px ("w", "x").
    """

    name: str
    suffix: str = "px"
    low: float = -1e6
    high: float = 1e6
    step: float = 1.0
    decimals: int = 2

    @property
    def unit(self) -> str:
        """The unit typed numbers are in."""
        return "px" if self.suffix in _LENGTHS else self.suffix


class NumberField(LineField):
    """Emits `stepped(value)` once for each value entered; a wrong entry is marked and said, and kept."""

    stepped = Signal(float)
    refused = Signal(str)
    # The unit in which lengths on a sheet are shown and typed; the job holds px all the same.
    length_unit = "px"

    def __init__(self, spec: NumberSpec, ppi: Callable[[], float] | None = None) -> None:
        super().__init__()
        self.spec, self._ppi = spec, ppi
        self._value: float | None = None
        self._notches = Run()
        # Painted by the toolkit alone: a window full of fields is painted often.
        self._suffix = label("", "small")
        self._suffix.setParent(self)
        self._suffix.setAlignment(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight)
        self._suffix.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._show_suffix()
        self.setMinimumWidth(58)
        self.editingFinished.connect(self._on_editing_finished)
        self.textEdited.connect(lambda: self._mark(None))

    @property
    def unit(self) -> str:
        """The unit shown and typed: px or the one preferred for lengths, else the spec's own."""
        is_length = self.spec.unit == "px" and self._ppi is not None
        return NumberField.length_unit if is_length else self.spec.unit

    @property
    def _px_per_unit(self) -> float:
        return px_per(self.unit, self._ppi()) if self._ppi is not None else 1.0

    def _show_suffix(self) -> None:
        suffix = self.spec.suffix if self.unit in ("px", self.spec.suffix) else self.unit
        self._suffix.setText(suffix)
        self.setAccessibleName(f"{self.spec.name}, {self.unit}" if self.unit else self.spec.name)
        self.setTextMargins(0, 0, 6 + 6 * len(suffix) if suffix else 0, 0)

    def show_unit(self) -> None:
        """Show the value in the unit preferred by now."""
        self._show_suffix()
        self.show_value(self._value)

    @property
    def value(self) -> float | None:
        """The value shown, None for several different or none."""
        return self._value

    def show_value(self, value: float | None) -> None:
        """Show a value without telling; what is being typed is left alone."""
        self._value = value
        if not (self.hasFocus() and self.isModified()):
            self._write()

    def _write(self) -> None:
        text = "" if self._value is None else self._fitting(self._value / self._px_per_unit)
        self.show_text(text)
        # A number that needs the whole field has it: its last digit comes before its unit.
        needed = self.fontMetrics().horizontalAdvance(text)
        self._suffix.setVisible(needed <= self.width() - self.textMargins().right() - _FRAME)
        self._mark(None)

    def restore(self) -> None:
        """Show the value again."""
        self._write()

    def _fitting(self, value: float) -> str:
        """Return a number with as many decimals as there is room for."""
        room = self.width() - self.textMargins().right() - _FRAME
        for decimals in range(self.spec.decimals, 0, -1):
            text = format_number(value, decimals)
            if self.fontMetrics().horizontalAdvance(text) <= room:
                return text
        return format_number(value, 0)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Show as many decimals as there is room for now."""
        super().resizeEvent(event)
        self._suffix.setGeometry(self.rect().adjusted(0, 0, -8, 0))
        if self._value is not None and not self.isModified():
            self._write()

    def _mark(self, why: str | None) -> None:
        mark_wrong(self, is_wrong=why is not None)
        self.setToolTip(why or f"{self.spec.name}: type a number or a sum such as 400/3")

    def _on_editing_finished(self) -> None:
        if not self.isModified():
            return
        try:
            value = self._parsed()
            self._check(value)
        except NumberError as error:
            self._mark(str(error))
            self.refused.emit(f"{self.spec.name}: {error}")
            return
        self.setModified(False)
        self._enter(value)

    def _parsed(self) -> float:
        if self.spec.unit == "px":
            return parse_length(self.text(), self.unit, 96.0 if self._ppi is None else self._ppi())
        return parse_number(self.text(), unit=self.spec.unit)

    def _check(self, value: float) -> None:
        low, high = (format_number(v / self._px_per_unit, 3) for v in (self.spec.low, self.spec.high))
        if not self.spec.low <= value <= self.spec.high:
            raise NumberError(f"use {low} to {high}")

    def _enter(self, value: float) -> None:
        if value != self._value:
            self._value = value
            self.stepped.emit(value)
        self._write()

    def step(self, count: float) -> None:
        """Go up or down by steps, within the range."""
        if self._value is not None and self.isEnabled():
            value = round(self._value + count * self.spec.step, 6)
            self._enter(min(max(value, self.spec.low), self.spec.high))

    def turn(self, notches: float) -> None:
        """Go up or down by notches of a wheel: a run of them is one step of the job."""
        with self._notches.notch():
            self.step(notches)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Look at keys before they are taken, only while they come here: a field has many other events."""
        self.installEventFilter(self)
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Look at keys no longer."""
        self.removeEventFilter(self)
        super().focusOutEvent(event)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Leave keys with Ctrl to the window's commands unless something is being typed here."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            has_ctrl = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            if has_ctrl and not self.isModified() and not any(event.matches(key) for key in _KEYS_OF_TEXT):
                event.ignore()
                return True
        return False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Step with the arrow keys."""
        steps = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if steps is not None:
            self._on_editing_finished()
            self.step(steps * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1))
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Step with the wheel when the field is in use."""
        if takes_wheel(self):
            self.turn(event.angleDelta().y() / NOTCH)
            event.accept()
        else:
            event.ignore()
