"""A base for the bodies of the shape's step: edits go to the open part of a combined shape, if one is open."""

from PySide6.QtWidgets import QWidget

from glasscap.app.session import Session
from glasscap.app.steps.step_body import ItemEdit, StepBody, edit_all
from glasscap.core.errors import GlassCapError


class ShapeBody(StepBody):
    """A body whose edits change the open part."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent)

    def _edit(self, step: str, edit: ItemEdit) -> None:
        item = self._session.item
        if item is not None:
            meant = self._meant(item.id)
            self._session.apply_to_shape(step, lambda job: edit_all(job, meant, edit))

    def _preview(self, edit: ItemEdit) -> None:
        session = self._session
        if session.item is None:
            return
        try:
            changed = edit_all(session.focus(session.committed), self._meant(session.item.id), edit)
            session.preview(session.unfocus(changed))
        except GlassCapError as error:
            session.problem_found.emit(error.line)
