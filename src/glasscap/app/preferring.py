"""Preferences at work: read at the start, applied to everything that is on screen, asked for in a dialog."""

from collections.abc import Callable

import msgspec
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QApplication, QDialog, QDialogButtonBox, QVBoxLayout, QWidget

from glasscap.app.services.memory import photo_budget, share_of_memory
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.style import colours, set_surround
from glasscap.app.widgets.buttons import CheckBox, Choice
from glasscap.app.widgets.form_row import form_row
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberField, NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.errors import GlassCapError
from glasscap.files.preferences import (
    MOST_MEMORY,
    UNITS,
    Preferences,
    read_preferences,
    write_preferences,
)


def apply_preferences(wanted: Preferences, session: Session, service: RenderService, *, is_first: bool) -> None:
    """Let preferences have their effect; snapping is the session's own once it has begun."""
    set_surround(wanted.surround)
    NumberField.length_unit = wanted.unit
    service.set_photo_budget(share_of_memory(wanted.memory) if wanted.memory else photo_budget())
    if is_first:
        session.set_look(is_snapping=wanted.is_snapping)
        return
    app = QApplication.instance()
    if isinstance(app, QApplication):
        for widget in app.allWidgets():
            if isinstance(widget, NumberField):
                widget.show_unit()
            widget.update()


class PreferencesDialog(QDialog):
    """Every change is seen at once and kept; `changed(preferences)`."""

    changed = Signal(object)

    def __init__(self, parent: QWidget, say: Callable[[str], None]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Preferences - Glass Cap")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setMinimumWidth(420)
        self._say, self.preferences = say, read_preferences()
        self.surround = SliderRow(NumberSpec("Grey", "", 0, 255, decimals=0))
        self.surround.set_slider_range(0, 255)
        self.unit = Choice("Lengths in", [(u, u) for u in UNITS], self._on_unit, is_tight=True)
        self.snapping = CheckBox("Snap while dragging, in new windows")
        self.memory = SliderRow(NumberSpec("Memory", "%", 0, MOST_MEMORY, decimals=0))
        self.memory.set_slider_range(0, MOST_MEMORY)
        self._lay_out()
        self._show()
        self.surround.moved.connect(self._on_surround)
        self.surround.stepped.connect(self._on_surround)
        self.snapping.clicked.connect(self._on_snapping)
        self.memory.stepped.connect(self._on_memory)

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 18)
        column.setSpacing(9)
        column.addWidget(label("Around the sheet", "strong"))
        column.addWidget(self.surround)
        column.addWidget(label("Numbers", "strong"))
        column.addWidget(form_row("Lengths in", self.unit))
        note = label("By the sheet's own density. A unit typed behind a number always counts.", "muted")
        note.setWordWrap(True)
        column.addWidget(note)
        column.addWidget(label("Work", "strong"))
        column.addWidget(self.snapping)
        column.addWidget(label("Decoded photos", "strong"))
        column.addWidget(self.memory)
        words = label("The share of memory they may take; 0 leaves it to the program.", "muted")
        words.setWordWrap(True)
        column.addWidget(words)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def _show(self) -> None:
        now = self.preferences
        grey = int(colours().surround[1:3], 16) if now.surround is None else now.surround
        self.surround.show_value(float(grey))
        self.unit.show_choice(now.unit)
        self.snapping.setChecked(now.is_snapping)
        self.memory.show_value(float(now.memory))

    def _change(self, **fields: object) -> None:
        self.preferences = msgspec.structs.replace(self.preferences, **fields)
        try:
            write_preferences(self.preferences)
        except GlassCapError as error:
            self._say(f"Not kept for the next time. {error.line}")
        self.changed.emit(self.preferences)
        self._show()

    def _on_surround(self, grey: float) -> None:
        self._change(surround=round(grey))

    def _on_unit(self, unit: str) -> None:
        self._change(unit=unit)

    def _on_snapping(self, is_on: bool) -> None:
        self._change(is_snapping=is_on)

    def _on_memory(self, percent: float) -> None:
        self._change(memory=round(percent))
