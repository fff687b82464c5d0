"""Writing files whole or not at all."""

import contextlib
import errno
import itertools
import os
import stat
from collections.abc import Iterator
from pathlib import Path

from glasscap.core.errors import FileProblemError

_LARGEST_FILE, _MOST_NUMBERS = 4 << 30, 10_000
_CAUSES = {
    errno.ENOSPC: ("the disk is full", "free some space or choose another folder"),
    errno.EDQUOT: ("the disk quota is used up", "free some space or choose another folder"),
    errno.EACCES: ("there is no permission", "choose another folder"),
    errno.EPERM: ("there is no permission", "choose another folder"),
    errno.EROFS: ("the disk is read-only", "choose another folder"),
    errno.ENOENT: ("there is no such file or folder", "check the path"),
    errno.ENOTDIR: ("part of its path is no folder", "check the path"),
    errno.EISDIR: ("it is a folder", "name a file"),
    errno.ENAMETOOLONG: ("the name is too long", "choose a shorter one"),
}


def file_problem(path: Path | str, error: OSError | ValueError) -> FileProblemError:
    """Return an operating system's error in plain words; a ValueError is a name that no file can have."""
    if not isinstance(error, OSError):
        # A damaged job may name anything, a zero byte among it.
        return FileProblemError(ascii(Path(path).name), "no file can have this name", "choose another name")
    why, remedy = _CAUSES.get(error.errno or 0, (error.strerror or str(error), "try another place"))
    return FileProblemError(Path(path).name or str(path), why, remedy)


def read_bytes(path: Path) -> bytes:
    """Return the bytes of a regular file. Raises FileProblemError: also for pipes, devices, what is too large."""
    try:
        # Else a pipe that nobody writes to would be waited for without end.
        with open(os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC), "rb") as file:
            found = os.fstat(file.fileno())
            if not stat.S_ISREG(found.st_mode) and not stat.S_ISDIR(found.st_mode):
                raise FileProblemError(path.name, "it is no regular file", "choose another file")
            if found.st_size > _LARGEST_FILE:
                raise FileProblemError(path.name, f"it is over {_LARGEST_FILE >> 30} GB", "choose a smaller file")
            return file.read()
    except (OSError, ValueError) as error:
        raise file_problem(path, error) from error


def write_atomically(path: Path, data: bytes) -> None:
    """Write a file so that the path holds the old bytes or all of the new ones, never a part.

    Writes a neighbour, flushes it to the disk, then renames it over. What a symbolic link leads to is written,
    the link stays. Raises FileProblemError; nothing is left behind then.
    """
    path = _meant(path)
    with _neighbour(path, data) as neighbour:
        os.replace(neighbour, path)
    _flush_folder(path.parent)


def write_numbered(path: Path, data: bytes) -> Path:
    """Write a file that is not there yet, with the next number added where one is; return its path.

    However many write side by side, each gets a file of its own. Raises FileProblemError.
    """
    with _neighbour(path, data) as neighbour:
        for count in range(1, _MOST_NUMBERS):
            free = path if count == 1 else path.with_name(f"{path.stem} {count}{path.suffix}")
            with contextlib.suppress(FileExistsError):
                _place(neighbour, free)
                return free
    raise FileProblemError(path.name, "there are too many files of this name", "choose another name")


def _meant(path: Path) -> Path:
    """Return the file that is meant: what a link leads to. Raises FileProblemError, for a folder too."""
    try:
        path = Path(os.path.realpath(path)) if path.is_symlink() else path
        if not path.is_dir():
            return path
    except (OSError, ValueError) as error:
        raise file_problem(path, error) from error
    raise FileProblemError(path.name or str(path), "it is a folder", "name a file")


@contextlib.contextmanager
def _neighbour(path: Path, data: bytes) -> Iterator[str]:
    """Hand out a file beside a path that holds all of some bytes; in the end it is gone, but for what was moved.

    Raises FileProblemError for what the disk says meanwhile.
    """
    neighbour = None
    try:
        handle, neighbour = _new_neighbour(path)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(neighbour, _mode_for(path))
        yield neighbour
    except (OSError, ValueError) as error:
        raise file_problem(path, error) from error
    finally:
        _forget(neighbour)


def _place(whole: str, free: Path) -> None:
    """Give a whole file a name that is free. Raises FileExistsError where it is not."""
    try:
        # A second name fails where there is one, and is all there at once.
        os.link(whole, free)
    except FileExistsError:
        raise
    except OSError:
        # Some file systems know no second names: this one is taken first, then filled.
        os.close(os.open(free, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
        os.replace(whole, free)


def _new_neighbour(path: Path) -> tuple[int, str]:
    """Make a new file beside a path that nobody else writes; return its handle and its path."""
    for count in itertools.count():
        neighbour = path.parent / f".{path.name[:80]}.{os.getpid()}-{count}.part"
        with contextlib.suppress(FileExistsError):
            return os.open(neighbour, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), str(neighbour)
    raise AssertionError("unreachable")


def _mode_for(path: Path) -> int:
    with contextlib.suppress(OSError):
        return path.stat().st_mode & 0o777
    mask = os.umask(0)
    os.umask(mask)
    return 0o666 & ~mask


def _forget(neighbour: str | None) -> None:
    if neighbour is not None:
        with contextlib.suppress(OSError):
            os.unlink(neighbour)


def _flush_folder(folder: Path) -> None:
    # Some file systems cannot flush a folder; the rename stands all the same.
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def make_folder(folder: Path) -> None:
    """Make a folder and those above it, unless it is there. Raises FileProblemError."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        raise file_problem(folder, error) from error
