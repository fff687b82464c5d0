"""Keeps unsaved work aside behind the window, so that no more than a few seconds of it are ever at risk."""

from concurrent.futures import Future

from PySide6.QtCore import QObject, QTimer, Signal

from glasscap.app.services.threads import stay_behind
from glasscap.app.session import Session
from glasscap.core.document.model.job import Job
from glasscap.core.errors import GlassCapError
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work.threads import workers
from glasscap.files.jobs import job_preview
from glasscap.files.kept_work import KeptWork
from glasscap.files.work_keeper import WorkKeeper

# This and the writing itself stay well within the two seconds that may be lost.
_AFTER_MS, _AGAIN_MS = 800, 200


class Keeping(QObject):
    """Watches a session; `said(text)` tells once when work cannot be kept, `mended(text)` when it can again."""

    said = Signal(str)
    mended = Signal(str)
    _done = Signal(object, object, object)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._keeper = session, WorkKeeper()
        # Work is kept at once, whatever else is computed; its picture can wait.
        self._pool = workers("keep")
        self._painter = workers("preview", begin=stay_behind)
        self._is_painting = False
        self._kept: Job | None = None
        self._is_busy, self._is_stopped, self._told = False, False, ""
        self._timer = QTimer(self, singleShot=True, interval=_AFTER_MS)
        self._timer.timeout.connect(self.keep)
        session.job_changed.connect(self._on_changed)
        self._done.connect(self._on_done)

    @property
    def is_current(self) -> bool:
        """Whether what is kept is the job as it is."""
        return self._kept is self._session.committed

    def _on_changed(self) -> None:
        # Not begun anew by each change: steps that follow one another without a pause would put it off.
        if not self._timer.isActive():
            self._timer.start(_AFTER_MS)

    def keep(self) -> None:
        """Keep the work now if it is neither saved nor kept, in a thread."""
        session = self._session
        job = session.committed
        if session.is_saved or job is self._kept or not session.has_work:
            return
        if self._is_busy:
            self._timer.start(_AGAIN_MS)
            return
        self._is_busy = True
        store, path, name = session.store, session.path, session.name
        future = self._pool.submit(self._keeper.keep, job, store, path, name)
        future.add_done_callback(lambda future: self._done.emit(job, store, future))

    def _on_done(self, job: Job, store: PhotoStore, future: "Future[None]") -> None:
        self._is_busy = False
        if self._is_stopped:
            # It arrives from a thread, maybe after the end.
            return
        error = future.exception()
        if store is not self._session.store:
            # Another job is shown by now.
            error = None
        elif error is None:
            self._kept = job
            if self._told:
                self.mended.emit(self._told)
            self._told = ""
            self._paint(job, store)
        elif isinstance(error, GlassCapError):
            if not self._told:
                self._told = f"Unsaved work cannot be kept aside ({error.why}); save the job to be safe"
                self.said.emit(self._told)
        else:
            raise error
        if not self.is_current:
            self._timer.start(_AGAIN_MS if error is None else _AFTER_MS)

    def _paint(self, job: Job, store: PhotoStore) -> None:
        """Have the picture of what is kept made now and then."""
        if self._is_painting or not self._keeper.wants_preview:
            return
        self._is_painting = True

        def paint() -> None:
            png = job_preview(job, store)
            if store is self._session.store:
                self._pool.submit(self._keeper.keep_preview, png)

        def ended(future: "Future[None]") -> None:
            self._is_painting = False

        self._painter.submit(paint).add_done_callback(ended)

    def begin(self, work: KeptWork | None = None) -> None:
        """Begin with another job: forget the last one, or go on with work left behind.

        Raises FileProblemError if another window has that work.
        """
        self._kept = None
        if work is None:
            self.forget()
        else:
            self._pool.submit(self._keeper.adopt, work).result()

    def rest(self) -> None:
        """Delete the work that is kept, for it was saved."""
        self._pool.submit(self._keeper.rest)

    def forget(self) -> None:
        """Delete all that is kept: it is not wanted."""
        self._pool.submit(self._keeper.forget)

    def stop(self) -> None:
        """Forget, and end the thread."""
        self._is_stopped = True
        self._timer.stop()
        self._painter.shutdown(wait=False, cancel_futures=True)
        self.forget()
        self._pool.shutdown()
