"""What the bodies of steps share: edits of the item selected last."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from glasscap.app.session import Session
from glasscap.core.document.model import Job

ItemEdit = Callable[[Job, str], Job]


class StepBody(QWidget):
    """The controls of a step."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session

    def _edit(self, step: str, edit: ItemEdit) -> None:
        """Do `edit(job, item_id)` as one step."""
        item = self._session.item
        if item is not None:
            self._session.apply(step, lambda job: edit(job, item.id))

    def _preview(self, edit: ItemEdit) -> None:
        """Show what `edit(job, item_id)` would give."""
        item = self._session.item
        if item is not None:
            self._session.preview(edit(self._session.committed, item.id))
