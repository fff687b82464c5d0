"""The rows of letters: text, font, size, weight, tracking, line spacing, alignment, circle."""

from PySide6.QtCore import QEvent, QPoint
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QHBoxLayout, QPlainTextEdit, QPushButton, QWidget

from glasscap.app.commands.lettering import Lettering
from glasscap.app.session import Session
from glasscap.app.steps.shape_body import ShapeBody
from glasscap.app.steps.step_body import named_row
from glasscap.app.widgets.buttons import Choice, leave_keys, push
from glasscap.app.widgets.columns import row_column
from glasscap.app.widgets.font_list import FontList
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.shapes.lettering import set_type_size, type_size
from glasscap.core.shapes.kinds import LettersShape
from glasscap.editor.text_entry import Entry

_LINES_PX = 50


class TextBox(QPlainTextEdit):
    """The words, two lines in sight."""

    def __init__(self, lettering: Lettering) -> None:
        super().__init__()
        self._lettering = lettering
        self.setAccessibleName("Letters")
        self.setPlaceholderText("Type your words")
        self.setTabChangesFocus(True)
        self.setFixedHeight(_LINES_PX)
        self.setUndoRedoEnabled(False)
        self.textChanged.connect(self._on_text_changed)
        lettering.changed.connect(self.show_entry)

    def show_entry(self) -> None:
        """Show what is typed elsewhere."""
        text = self._lettering.entry.text
        if text != self.toPlainText():
            self.blockSignals(True)
            self.setPlainText(text)
            at = self.textCursor()
            at.setPosition(min(self._lettering.entry.caret, len(text)))
            self.setTextCursor(at)
            self.blockSignals(False)

    def _on_text_changed(self) -> None:
        at = self.textCursor().position()
        self._lettering.type(Entry(self.toPlainText(), at, at))

    def event(self, event: QEvent) -> bool:
        """Leave undo and redo to the window: what is typed here is part of the job."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            keys = QKeySequence.StandardKey
            if event.matches(keys.Undo) or event.matches(keys.Redo):
                event.ignore()
                return True
        return super().event(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Let undo take back what is typed here."""
        super().focusInEvent(event)
        self._lettering.set_in_box(True)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Make what was typed a step."""
        super().focusOutEvent(event)
        self._lettering.settle()
        self._lettering.set_in_box(False)


class LettersRows(ShapeBody):
    """Shown for a shape of letters."""

    def __init__(self, session: Session, lettering: Lettering, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)
        self._lettering = lettering
        self.text = TextBox(lettering)
        self.family = QPushButton()
        leave_keys(self.family)
        self.family.setAccessibleName("Font")
        self.family.clicked.connect(self._on_font_clicked)
        self.fonts = FontList(lettering.fonts, self)
        self.fonts.chosen.connect(lambda family: lettering.change("Change the font", font=family))
        self.italic = push("Italic", self._on_italic)
        self.italic.setCheckable(True)
        self.type_size = self._slider(
            NumberSpec("Type size", "px", 0.1, 100_000),
            (4, 1000),
            lambda v: lambda job, key: set_type_size(job, key, v),
            step="Size the letters",
            reset_to=100.0,
        )
        self.weight = self._row("Weight", "", 1, 1000, (100, 900), "weight", reset_to=400, decimals=0)
        self.tracking = self._row("Tracking", "", -900, 10_000, (-100, 400), "tracking", decimals=0)
        self.line = self._row("Line", "", 0.1, 20, (0.6, 2.4), "line", reset_to=1.2)
        self.circle = self._row("Circle", "", -1000, 1000, (-8, 8), "circle")
        self.circle.setToolTip(
            "Radius of the baseline in type sizes; 0 is straight, below 0 the letters stand inside"
        )
        choices = [("left", "Left"), ("centre", "Centre"), ("right", "Right")]
        self.align = Choice(
            "Align", choices, lambda key: lettering.change("Align the letters", align=key), is_tight=True
        )
        self.split = push("One cutout per letter", lettering.split)
        self._lay_out()

    def _row(
        self,
        name: str,
        unit: str,
        low: float,
        high: float,
        span: tuple[float, float],
        key: str,
        *,
        reset_to: float = 0.0,
        decimals: int = 2,
    ) -> SliderRow:
        made = SliderRow(
            NumberSpec(name, unit, low, high, decimals=decimals, step=1.0 if not decimals else 0.1),
            reset_to=reset_to,
        )
        made.set_slider_range(*span)
        made.moved.connect(lambda value: self._lettering.preview(**{key: value}))
        made.stepped.connect(lambda value: self._lettering.change(f"{name} of the letters", **{key: value}))
        made.refused.connect(self._session.problem_found)
        return made

    def _lay_out(self) -> None:
        column = row_column(self)
        column.addWidget(self.text)
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.family, 1)
        row.addWidget(self.italic)
        column.addLayout(row)
        for widget in (self.type_size, self.weight, self.tracking, self.line, self.circle):
            column.addWidget(widget)
        column.addWidget(named_row("Align", self.align))
        column.addWidget(self.split)

    def show_item(self, item: Item, job: Job) -> None:
        """Show the letters of an item."""
        self.setVisible(isinstance(item.shape, LettersShape))
        if not isinstance(item.shape, LettersShape):
            return
        self.setEnabled(not item.is_locked)
        letters, fonts = item.shape.letters, self._lettering.fonts
        is_known = letters.font in fonts.families
        self.family.setText(letters.font if is_known else f"{letters.font} (not installed)")
        weights = fonts.weights(letters.font)
        self.weight.setVisible(len(weights) > 1)
        if len(weights) > 1:
            self.weight.set_slider_range(weights[0], weights[-1])
        self.weight.show_value(letters.weight)
        self.italic.setVisible(any(f.is_italic for f in fonts.families.get(letters.font, ())))
        self.italic.setChecked(letters.is_italic)
        self.type_size.show_value(type_size(item))
        self.tracking.show_value(letters.tracking)
        self.line.show_value(letters.line)
        self.line.setVisible("\n" in letters.text)
        self.circle.show_value(letters.circle)
        self.align.show_choice(letters.align)
        self.text.show_entry()

    def _on_font_clicked(self) -> None:
        letters = self._lettering.letters
        if letters is not None:
            at = self.family.mapToGlobal(QPoint(0, self.family.height() + 3))
            self.fonts.open_at(at, letters.text, letters.font)

    def _on_italic(self) -> None:
        self._lettering.change("Italic", is_italic=self.italic.isChecked())
