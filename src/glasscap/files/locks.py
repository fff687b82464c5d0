"""Locks between windows: held by an open file, so the system lets go of them however a process ends."""

import contextlib
import fcntl
import hashlib
import os
from pathlib import Path

from glasscap.core.errors import FileProblemError
from glasscap.files.atomic import file_problem
from glasscap.files.recent import state_folder


def take_lock(path: Path) -> int | None:
    """Return a handle that holds the lock until it is closed; None if another has it.

    Raises FileProblemError if there can be no lock file at `path`.
    """
    try:
        handle = os.open(path, os.O_CREAT | os.O_RDWR | os.O_CLOEXEC, 0o600)
    except OSError as error:
        raise file_problem(path, error) from error
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return None
    return handle


class JobHold:
    """The job file one window writes to; other windows may read it only.

    The lock lies in the user's state folder: saving puts another file in the job file's place, and its own
    folder may not be writable.
    """

    def __init__(self) -> None:
        self._handle: int | None = None
        self._path: Path | None = None

    def take(self, path: Path | None) -> bool:
        """Let go of the last file and hold this one; False, holding none, if another window holds it."""
        if path is not None and self.has(path):
            return True
        self.release()
        if path is None:
            return True
        try:
            handle = take_lock(_lock_for(path))
        except FileProblemError:
            # Without a folder for state no other window can be asked: work goes on as if alone.
            return True
        self._handle, self._path = handle, path.resolve() if handle is not None else None
        return handle is not None

    def has(self, path: Path) -> bool:
        """Whether this window holds a file."""
        return self._handle is not None and path.resolve() == self._path

    def release(self) -> None:
        """Let go."""
        if self._handle is not None:
            os.close(self._handle)
        self._handle = self._path = None


def is_held(path: Path) -> bool:
    """Whether a window has a job file open."""
    hold = JobHold()
    is_free = hold.take(path)
    hold.release()
    return not is_free


def refuse_held(path: Path) -> None:
    """Raise FileProblemError for a job file that is open in a window."""
    if is_held(path):
        raise FileProblemError(path.name, "it is open in a window", "close it there or write another file")


def _lock_for(path: Path) -> Path:
    folder = state_folder() / "open"
    with contextlib.suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
    return folder / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:32]
