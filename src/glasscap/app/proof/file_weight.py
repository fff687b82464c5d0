"""The file size of the selected cutout, beside its size in px."""

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QLabel

from glasscap.app.services.render_service import WEIGHT, RenderService
from glasscap.app.session import Session
from glasscap.editor.file_size import FileSize, SizeRequest, file_size
from glasscap.editor.numbers import bytes_words

# A figure is for looking at: while one works there is none.
_CALM_MS = 500


class FileWeight(QLabel):
    """Tells it when nothing has changed for a while; a change takes it away at once."""

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("muted")
        self.setToolTip("The file's size as a PNG; Export tells it for other formats")
        self._session, self._service = session, service
        self._request: SizeRequest | None = None
        self._soon = QTimer(self, singleShot=True, interval=_CALM_MS)
        self._soon.timeout.connect(self._ask)
        service.answered.connect(self._on_answered)
        session.job_changed.connect(self.forget)
        self.hide()

    @property
    def is_waiting(self) -> bool:
        """Whether it is to be told soon."""
        return self._soon.isActive()

    def begin(self, size: tuple[int, int] | None) -> None:
        """Tell of the selected cutout, whose picture is of a size in px (None for nothing to see)."""
        item, job = self._session.item, self._session.job
        subject = self._session.sheet_id if item is None else item.id
        request = None if size is None else SizeRequest(job, subject, size)
        if request is None:
            self.forget()
        elif request != self._request:
            self.forget()
            self._request = request
            self._soon.start()

    def forget(self, *changed: object) -> None:
        """Show no figure."""
        self._request = None
        self._soon.stop()
        self.hide()

    def _ask(self) -> None:
        request = self._request
        if request is not None and not self._session.is_previewing:
            self._service.ask(WEIGHT, lambda photos, cache: file_size(request, photos, cache))

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(answer, FileSize) and answer.request is self._request and answer.nbytes is not None:
            self.setText(bytes_words(answer.nbytes))
            self.setAccessibleName(f"File size {self.text()}")
            self.show()
