"""New, open, save, close: nothing is lost without being asked."""

import time
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from glasscap.app.background import run_waiting
from glasscap.app.session import Session
from glasscap.core.errors import CancelledError, GlassCapError
from glasscap.core.formats.job import ENDING
from glasscap.files.jobs import OpenedJob, job_preview, open_job, relinked, save_job
from glasscap.files.locks import JobHold, is_held
from glasscap.files.recent import remember_job

_READ_ONLY = "The job is open in another window, so it is read-only here. Save as… makes a copy"
_FILTER = f"Glass Cap jobs (*{ENDING})"


class JobFiles(QObject):
    """`opened(job, store, path)` asks the window to show a job; `saved()` and `said(problem)` tell."""

    opened = Signal(object, object, object)
    saved = Signal()
    said = Signal(str)

    def __init__(self, session: Session, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._window, self._hold = session, window, JobHold()

    def may_leave(self) -> bool:
        """Ask about unsaved work; return whether to go on."""
        session = self._session
        if session.is_saved or not session.has_work:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self._window,
            "Glass Cap",
            f"{session.name} has changes that are not saved. Save them?",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard

    def hold(self, path: Path | None) -> None:
        """Keep the file of the job that is shown from other windows; say so if one of them has it."""
        self._session.set_read_only(not self._hold.take(path))
        if self._session.is_read_only:
            self.said.emit(_READ_ONLY)

    def ask_open(self) -> None:
        """Let the user choose a job."""
        start = str(self._session.path.parent if self._session.path else Path.home())
        chosen, _ = QFileDialog.getOpenFileName(self._window, "Open a job", start, _FILTER)
        if chosen:
            self.open(Path(chosen))

    def open(self, path: Path) -> bool:
        """Open a job file; what was open stays if it cannot be read."""
        session = self._session
        opened = self._read(path)
        had_changes = not session.is_saved
        if opened is None or not self.may_leave():
            return False
        if had_changes and session.is_saved and session.path == path:
            # They were just saved to this very file.
            opened = self._read(path) or opened
        self.opened.emit(opened.job, opened.photos, path)
        if opened.moved:
            session.mark_unsaved()
        told = (*(p.line for p in opened.problems), *opened.moved)
        if told:
            # What was said of the file itself is not to be lost.
            told = (_READ_ONLY, *told) if session.is_read_only else told
            self.said.emit("\n".join(told[:4]))
        self._remember(path)
        return True

    def _read(self, path: Path) -> OpenedJob | None:
        try:
            return run_waiting(self._window, f"Opening {path.name}", lambda ticket: open_job(path))
        except CancelledError:
            return None
        except GlassCapError as error:
            self.said.emit(error.line)
            return None

    def save(self) -> bool:
        """Save to the job's file, or ask for one; a file that another window writes to is left alone."""
        session = self._session
        return self.save_to(session.path) if session.path and not session.is_read_only else self.ask_save()

    def ask_save(self) -> bool:
        """Let the user choose where to save."""
        start = self._session.path or Path.home() / f"{self._session.name}{ENDING}"
        chosen, _ = QFileDialog.getSaveFileName(self._window, "Save the job", str(start), _FILTER)
        if not chosen:
            return False
        path = Path(chosen)
        return self.save_to(path if path.suffix == ENDING else path.with_name(path.name + ENDING))

    def save_to(self, path: Path) -> bool:
        """Save; say so if it cannot be, and keep the work."""
        session, old = self._session, self._session.path
        if not self._hold.has(path) and is_held(path):
            self.said.emit(f"Not saved. {path.name} is open in another window: choose another name")
            return False
        if old is not None:
            session.apply("Save elsewhere", lambda job: relinked(job, old.parent, path.parent))
        job, store = session.committed, session.store
        try:
            run_waiting(
                self._window,
                f"Saving {path.name}",
                lambda ticket: save_job(path, job, store, job_preview(job, store)),
            )
        except CancelledError:
            return False
        except GlassCapError as error:
            self.said.emit(f"Not saved. {error.line}")
            return False
        self._session.mark_saved(path, job)
        self.hold(path)
        self.saved.emit()
        self._remember(path)
        return True

    def _remember(self, path: Path) -> None:
        try:
            remember_job(path, time.time())
        except GlassCapError as error:
            self.said.emit(error.line)
