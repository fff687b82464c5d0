"""New, open, save, close: nothing is lost without being asked."""

import time
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from glasscap.app.services import asking
from glasscap.app.services.asking import Button
from glasscap.app.services.errands import Errand, Running, run_errand, waited
from glasscap.app.session import Session
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.errors import CancelledError, GlassCapError
from glasscap.core.formats.job import ENDING
from glasscap.core.photos.store import PhotoStore
from glasscap.files.jobs import (
    OpenedJob,
    Stamp,
    job_preview,
    lost_photos,
    open_job,
    relinked,
    save_job,
    stamp_of,
)
from glasscap.files.locks import JobHold, is_held
from glasscap.files.photo_links import put_in
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
        # The file as it was when it was read or written last.
        self._seen: tuple[Path, Stamp] | None = None

    def leaving(self) -> Errand[bool]:
        """Ask about unsaved work; return whether to go on."""
        session = self._session
        if session.is_saved or not session.has_work:
            return True
        answer = yield from asking.question(
            self._window,
            f"{session.name} has changes that are not saved. Save them?",
            Button.Save | Button.Discard | Button.Cancel,
            Button.Save,
        )
        if answer == Button.Save:
            # Changes made while the file is written are not in it.
            return (yield from self._saving()) and session.is_saved
        return answer == Button.Discard

    def hold(self, path: Path | None) -> None:
        """Keep the file of the job that is shown from other windows; say so if one of them has it."""
        self._session.set_read_only(not self._hold.take(path))
        if self._session.is_read_only:
            self.said.emit(_READ_ONLY)

    def ask_open(self) -> Running[bool]:
        """Let the user choose a job."""
        return self._run(self._asking_open())

    def _asking_open(self) -> Errand[bool]:
        start = asking.Place("jobs", self._session.path.parent if self._session.path else None)
        chosen = yield from asking.file_to_open(self._window, "Open a job", start, _FILTER)
        return chosen is not None and (yield from self._opening(chosen))

    def open(self, path: Path) -> Running[bool]:
        """Open a job file; what was open stays if it cannot be read."""
        return self._run(self._opening(path))

    def _opening(self, path: Path) -> Errand[bool]:
        session = self._session
        stamp = stamp_of(path)
        opened = yield from _read(path)
        had_changes = not session.is_saved
        if not (yield from self.leaving()):
            return False
        if had_changes and session.is_saved and session.path == path:
            # They were just saved to this very file.
            stamp = stamp_of(path)
            opened = yield from _read(path)
        self.opened.emit(opened.job, opened.photos, path)
        self._seen = path, stamp
        if opened.moved:
            session.mark_unsaved()
        told = (*(p.line for p in opened.problems), *opened.moved)
        if told:
            # A message about the file itself stays.
            told = (_READ_ONLY, *told) if session.is_read_only else told
            self.said.emit("\n".join(told[:4]))
        self._remember(path)
        return True

    def save(self) -> Running[bool]:
        """Save to the job's file, or ask for one; a file that another window writes to is left alone."""
        return self._run(self._saving())

    def ask_save(self) -> Running[bool]:
        """Let the user choose where to save."""
        return self._run(self._asking_save())

    def save_to(self, path: Path) -> Running[bool]:
        """Save; say so if it cannot be, and keep the work."""
        return self._run(self._saving_to(path))

    def _run(self, errand: Errand[bool]) -> Running[bool]:
        return run_errand(errand, self._window, self.said.emit)

    def _saving(self) -> Errand[bool]:
        session = self._session
        if session.path is None or session.is_read_only:
            return (yield from self._asking_save())
        return (yield from self._saving_to(session.path))

    def _asking_save(self) -> Errand[bool]:
        path = self._session.path
        start = asking.Place("jobs", path, "" if path else f"{self._session.name}{ENDING}")
        chosen = yield from asking.file_to_save(self._window, "Save the job", start, _FILTER)
        if chosen is None:
            return False
        return (yield from self._saving_to(chosen if chosen.suffix == ENDING else _with_ending(chosen)))

    def _saving_to(self, path: Path) -> Errand[bool]:
        """Write the job as it is now; it may be edited on meanwhile."""
        session, old, store = self._session, self._session.path, self._session.store
        if not self._hold.has(path) and is_held(path):
            self.said.emit(f"Not saved. {path.name} is open in another window: choose another name")
            return False
        if path == old and not (yield from self._may_write_over(path)):
            return False
        lost = () if old is None else (yield from _lost_photos(session.committed, old.parent, store))
        if session.store is not store:
            return False
        session.settle()
        before = session.committed

        def relink(job: Job) -> Job:
            return job if old is None else relinked(put_in(job, lost), old.parent, path.parent)

        job = relink(before)
        try:
            yield from waited(
                f"Saving {path.name}",
                lambda ticket: save_job(path, job, store, job_preview(job, store), ticket.report),
                may_go_on=True,
            )
        except CancelledError:
            return False
        except GlassCapError as error:
            self.said.emit(f"Not saved. {error.line}")
            return False
        if session.store is not store or session.path != old:
            # Another job is shown by now: the file is whole, but it is not that job's.
            return False
        if job is not before:
            is_same = session.committed is before
            words = "Save elsewhere" if path != old else "Put lost photos into the job"
            session.apply(words, lambda now: job if is_same else relink(now))
        session.mark_saved(path, job)
        self._seen = path, stamp_of(path)
        if lost:
            gone = "is gone from its place" if len(lost) == 1 else "are gone from their places"
            names = ", ".join(photo.name for photo in lost[:3])
            self.said.emit(f"{names} {gone} on the disk, and now in the job file itself")
        self.hold(path)
        self.saved.emit()
        self._remember(path)
        return True

    def _may_write_over(self, path: Path) -> Errand[bool]:
        """Ask before what another program wrote into the job's file is lost."""
        seen = self._seen
        if seen is None or seen[0] != path or stamp_of(path) in (seen[1], None):
            return True
        words = f"Another program changed {path.name} since it was opened. Saving writes over what it did."
        buttons = Button.Save | Button.Cancel
        return (yield from asking.question(self._window, words, buttons, Button.Cancel)) == Button.Save

    def _remember(self, path: Path) -> None:
        try:
            remember_job(path, time.time())
        except GlassCapError as error:
            self.said.emit(error.line)


def _read(path: Path) -> Errand[OpenedJob]:
    return (yield from waited(f"Opening {path.name}", lambda ticket: open_job(path)))


def _lost_photos(job: Job, folder: Path, store: PhotoStore) -> Errand[tuple[PhotoRecord, ...]]:
    if all(photo.link is None for photo in job.photos):
        return ()
    return (
        yield from waited(
            "Looking for linked photos", lambda ticket: lost_photos(job, folder, store), may_go_on=True
        )
    )


def _with_ending(path: Path) -> Path:
    return path.with_name(path.name + ENDING)
