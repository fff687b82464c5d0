"""A base for the bodies of steps: edits of the item selected last, and rows that make them."""

from collections.abc import Callable, Sequence
from contextlib import suppress

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.session import Session
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.number_field import NumberSpec
from glasscap.app.widgets.slider_row import LABEL_WIDTH, SliderRow
from glasscap.core.document.model.job import Job
from glasscap.core.errors import GlassCapError

ItemEdit = Callable[[Job, str], Job]


class StepBody(QWidget):
    """The controls of a step.

    `picture_wanted(title, step, edit)` asks for a picture file, listed by ``edit(job, record)`` as `step`. With
    `is_for_all` a value changes in everything that is selected, else in the item selected last alone.
    """

    is_for_all = False
    picture_wanted = Signal(str, str, object)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session

    def _edit(self, step: str, edit: ItemEdit) -> None:
        """Do `edit(job, item_id)` as one step."""
        item = self._session.item
        if item is not None:
            meant = self._meant(item.id)
            self._session.apply(step, lambda job: edit_all(job, meant, edit))

    def _meant(self, item_id: str) -> tuple[str, ...]:
        """Return what an edit is for, the item selected last first."""
        others = self._session.chosen_ids if self.is_for_all else ()
        return (item_id, *(i for i in others if i != item_id))

    def _preview(self, edit: ItemEdit) -> None:
        """Show what `edit(job, item_id)` would give."""
        item = self._session.item
        if item is None:
            return
        try:
            self._session.preview(edit_all(self._session.committed, self._meant(item.id), edit))
        except GlassCapError as error:
            self._session.problem_found.emit(error.line)

    def _picture_name(self, sha256: str) -> str:
        return next((p.name for p in self._session.job.photos if p.sha256 == sha256), "missing")

    def _ppi(self) -> float:
        return self._session.sheet.resolution_ppi

    def _slider(
        self,
        spec: NumberSpec,
        span: tuple[float, float],
        edit: Callable[[float], ItemEdit],
        *,
        step: str,
        reset_to: float = 0.0,
        offered_as: Callable[[], str] = lambda: "",
    ) -> SliderRow:
        """Return a row whose number makes an edit: seen while the slider moves, one step at its end.

        `offered_as()` names the number for the next finish of the kind, such as "stroke width".
        """
        made = SliderRow(spec, reset_to=reset_to, ppi=self._ppi)
        made.set_slider_range(*span)
        made.moved.connect(lambda value: self._preview(edit(value)))
        made.stepped.connect(lambda value: self._edit(step, edit(value)))
        made.stepped.connect(lambda value: self._offer(offered_as(), value))
        made.refused.connect(self._session.problem_found)
        return made

    def _offer(self, name: str, value: float) -> None:
        """Keep a number to be offered first for the next finish of its kind."""
        if name:
            self._session.given[name] = value


def edit_all(job: Job, item_ids: Sequence[str], edit: ItemEdit) -> Job:
    """Return the job with the same edit of several items; where it is none for the others they stay.

    Raises GlassCapError where it is none for the first.
    """
    job = edit(job, item_ids[0])
    for item_id in item_ids[1:]:
        with suppress(GlassCapError):
            job = edit(job, item_id)
    return job


def body_column(widget: QWidget, spacing: int = 7) -> QVBoxLayout:
    """Return the column of a step's body."""
    column = QVBoxLayout(widget)
    column.setContentsMargins(0, 2, 0, 9)
    column.setSpacing(spacing)
    return column


def named_row(name: str, *widgets: QWidget, width: int = LABEL_WIDTH, spacing: int = 6) -> QWidget:
    """Return widgets behind a muted name."""
    made = QWidget()
    row = QHBoxLayout(made)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(spacing)
    if name:
        words = label(name, "muted")
        words.setFixedWidth(width)
        row.addWidget(words)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return made
