"""A row with a picture of the selected cutout: it is asked for while the row is in sight."""

from collections.abc import Callable

from PySide6.QtCore import QTimer
from PySide6.QtGui import QResizeEvent, QShowEvent

from glasscap.app.services.render_service import STRIP, RenderService, Work
from glasscap.app.session import Session
from glasscap.app.steps.step_body import StepBody
from glasscap.core.document.model.job import Item


class PictureRow(StepBody):
    """Asks the service for `work(item)` under a channel's `name`, and hands the answer to `show`."""

    def __init__(
        self,
        session: Session,
        service: RenderService,
        name: str,
        work: Callable[[Item], Work],
        show: Callable[[object], None],
    ) -> None:
        super().__init__(session)
        self._service, self._channel = service, (STRIP, name)
        self._make, self._show = work, show
        self._soon = QTimer(self, singleShot=True, interval=0)
        self._soon.timeout.connect(self._ask)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._soon.start)

    def showEvent(self, event: QShowEvent) -> None:
        """Draw what was not drawn while out of sight."""
        self._soon.start()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Draw for the new width."""
        self._soon.start()

    def _ask(self) -> None:
        item = self._session.item
        if item is not None and self.isVisible():
            self._service.ask(self._channel, self._make(item))

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel == self._channel:
            self._show(answer)
