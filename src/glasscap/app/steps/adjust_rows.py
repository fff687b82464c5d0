"""Photo adjustments in step 1: numbers under the mask, compared by holding a button."""

from collections.abc import Callable
from functools import cached_property

from PySide6.QtWidgets import QPushButton, QWidget

from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody, body_column, named_row
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import SliderRow
from glasscap.core.document.finishing.edits import change_adjustments, set_adjustments
from glasscap.core.document.finishing.fields import AdjustmentFields, one_field
from glasscap.core.document.model.finishes import AS_SHOT, LONGEST
from glasscap.core.document.model.job import Item, PhotoContent

_ROWS = (
    (NumberSpec("Exposure", "EV", -10, 10, 0.1), (-3, 3), "exposure_ev"),
    (NumberSpec("Contrast", "", -100, 100), (-100, 100), "contrast"),
    (NumberSpec("Saturation", "", -100, 100), (-100, 100), "saturation"),
    (NumberSpec("Warmth", "", -100, 100), (-100, 100), "warmth"),
    (NumberSpec("Blur", "px", 0, LONGEST), (0, 60), "blur"),
)


class AdjustRows(StepBody):
    """Opens and closes beneath the photo's numbers; made when first opened."""

    is_for_all = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.toggle = push("Adjust the photo", self._on_toggled, icon_name="chevron-down", style="link")
        self._column = body_column(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.addWidget(self.toggle)
        self._is_open = False

    @cached_property
    def rows(self) -> dict[str, SliderRow]:
        """The numbers."""
        made = {
            field: self._slider(
                spec, (float(span[0]), float(span[1])), _adjusted(field), step=f"Adjust: {spec.name.lower()}"
            )
            for spec, span, field in _ROWS
        }
        for row in made.values():
            self._column.addWidget(row)
        return made

    @cached_property
    def _buttons(self) -> QWidget:
        made = named_row("", self.compare, self.as_shot)
        self._column.addWidget(made)
        return made

    @cached_property
    def compare(self) -> QPushButton:
        """Shows the photo as it was shot while it is held."""
        made = push("Compare", lambda: None)
        made.setToolTip("Hold to see the photo as it was shot")
        made.pressed.connect(self._on_compare_pressed)
        made.released.connect(self._session.drop_preview)
        return made

    @cached_property
    def as_shot(self) -> QPushButton:
        """Takes all adjustments away."""
        return push("As shot", self._on_as_shot_clicked)

    def _on_toggled(self) -> None:
        self._is_open = not self._is_open
        for part in (*self.rows.values(), self._buttons):
            part.setVisible(self._is_open)
        if self._session.item is not None:
            self.show_item(self._session.item)

    def show_item(self, item: Item) -> None:
        """Show the adjustments of an item."""
        content = item.content
        self.setVisible(isinstance(content, PhotoContent))
        if not isinstance(content, PhotoContent):
            return
        is_changed = content.adjustments != AS_SHOT
        if is_changed and not self._is_open:
            self._on_toggled()
        if not self._is_open:
            return
        for field, row in self.rows.items():
            row.show_value(getattr(content.adjustments, field))
            row.setEnabled(not item.is_locked)
        self.compare.setEnabled(is_changed)
        self.as_shot.setEnabled(is_changed and not item.is_locked)

    def _on_compare_pressed(self) -> None:
        self._preview(lambda job, key: change_adjustments(job, key, is_on=False))

    def _on_as_shot_clicked(self) -> None:
        self._edit("As shot", lambda job, key: set_adjustments(job, key, AS_SHOT))


def _adjusted(field: str) -> Callable[[float], ItemEdit]:
    def given(value: float) -> ItemEdit:
        return lambda job, key: change_adjustments(
            job, key, **(AdjustmentFields(is_on=True) | one_field(AdjustmentFields, field, value))
        )

    return given
