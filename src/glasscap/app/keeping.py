"""Keeps unsaved work aside behind the window, so that no more than a few seconds of it are ever at risk."""

from concurrent.futures import Future, ThreadPoolExecutor

from PySide6.QtCore import QObject, QTimer, Signal

from glasscap.app.session import Session
from glasscap.app.threads import stay_behind
from glasscap.core.document.model import Job
from glasscap.core.errors import GlassCapError
from glasscap.files.kept_work import KeptWork
from glasscap.files.work_keeper import WorkKeeper

# Two seconds and the writing itself stay well within the five that may be lost.
_AFTER_MS = 2000


class Keeping(QObject):
    """Watches a session; `said(text)` tells once when work cannot be kept, until it can be again."""

    said = Signal(str)
    _done = Signal(object, object)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._keeper = session, WorkKeeper()
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="keep", initializer=stay_behind)
        self._kept: Job | None = None
        self._is_busy = self._was_told = False
        self._timer = QTimer(self, singleShot=True, interval=_AFTER_MS)
        self._timer.timeout.connect(self.keep)
        session.job_changed.connect(self._on_changed)
        self._done.connect(self._on_done)

    @property
    def is_current(self) -> bool:
        """Whether what is kept is the job as it is."""
        return self._kept is self._session.committed

    def _on_changed(self) -> None:
        if not self._timer.isActive():
            self._timer.start()

    def keep(self) -> None:
        """Keep the work now if it is neither saved nor kept, in a thread."""
        session = self._session
        job = session.committed
        if session.is_saved or job is self._kept or not session.has_work:
            return
        if self._is_busy:
            self._timer.start()
            return
        self._is_busy = True
        store, path, name = session.store, session.path, session.name
        future = self._pool.submit(self._keeper.keep, job, store, path, name)
        future.add_done_callback(lambda future: self._done.emit(job, future))

    def _on_done(self, job: Job, future: "Future[None]") -> None:
        self._is_busy = False
        error = future.exception()
        if error is None:
            self._kept, self._was_told = job, False
        elif isinstance(error, GlassCapError):
            if not self._was_told:
                self.said.emit(f"Unsaved work cannot be kept aside; save the job to be safe. {error.line}")
            self._was_told = True
        else:
            raise error
        if not self.is_current:
            self._on_changed()

    def begin(self, work: KeptWork | None = None) -> None:
        """Begin with another job: forget the last one, or go on with work left behind.

        Raises FileProblemError if another window has that work.
        """
        self._kept = None
        if work is None:
            self.forget()
        else:
            self._pool.submit(self._keeper.adopt, work).result()

    def forget(self) -> None:
        """Delete what is kept: it was saved, or is not wanted."""
        self._pool.submit(self._keeper.forget)

    def stop(self) -> None:
        """Forget, and end the thread."""
        self._timer.stop()
        self.forget()
        self._pool.shutdown()
