"""Work that was not saved when the program ended, as it lies in the user's state folder.

One folder a window: ``work.glasscap`` with photos linked to ``photos/SHA-256``, ``origin.json`` (the job's
file, its name, the photos' own links), ``preview.png``, and ``lock``, which the system lets go of when the
process ends however it ends. Light to import: the first view lists what was left.
"""

import contextlib
import json
import os
import shutil
import time
from collections.abc import Iterator, Mapping
from pathlib import Path

from msgspec import Struct, field

from glasscap.core.errors import FileProblemError
from glasscap.files.atomic import read_bytes
from glasscap.files.locks import take_lock
from glasscap.files.recent import state_folder

WORK, ORIGIN, PREVIEW, PHOTOS, LOCK = "work.glasscap", "origin.json", "preview.png", "photos", "lock"
# A folder is filled well within this time after it was made.
_FILLED_WITHIN_S = 3600.0


class Origin(Struct, frozen=True):
    """The origin of kept work: its job file if it has one, its name, links of photos by SHA-256."""

    name: str
    path: str | None = None
    links: Mapping[str, str | None] = field(default_factory=dict)


class KeptWork(Struct, frozen=True):
    """Work left behind; `kept_at` in seconds since 1970."""

    folder: Path
    origin: Origin
    kept_at: float

    def preview(self) -> bytes:
        """Return a small PNG of what it holds; empty if there is none."""
        try:
            return read_bytes(self.folder / PREVIEW)
        except FileProblemError:
            return b""


def keeping_folder(state: Path | None = None) -> Path:
    """Return the folder of all windows' folders."""
    return (state or state_folder()) / "kept"


def kept_works(state: Path | None = None) -> list[KeptWork]:
    """Return what was left behind, newest first; windows that are open are left out."""
    found = [work for folder in _folders(keeping_folder(state)) if (work := _left_in(folder)) is not None]
    return sorted(found, key=lambda work: -work.kept_at)


def _folders(place: Path) -> Iterator[Path]:
    with contextlib.suppress(OSError):
        yield from sorted(p for p in place.iterdir() if p.is_dir())


def _left_in(folder: Path) -> KeptWork | None:
    with contextlib.suppress(FileProblemError, OSError):
        if not (folder / WORK).exists():
            _remove_old(folder)
            return None
        kept_at = (folder / WORK).stat().st_mtime
        handle = take_lock(folder / LOCK)
        if handle is not None:
            os.close(handle)
            return KeptWork(folder, read_origin(folder), kept_at)
    return None


def _remove_old(folder: Path) -> None:
    """Delete what a window that fell left without any work in it; not what another one is just about to fill."""
    handle = take_lock(folder / LOCK) if time.time() - folder.stat().st_mtime > _FILLED_WITHIN_S else None
    if handle is not None:
        os.close(handle)
        remove_folder(folder)


def read_origin(folder: Path) -> Origin:
    """Return where kept work belongs; what cannot be read is left open, for the work itself is what counts."""
    try:
        entry = json.loads(read_bytes(folder / ORIGIN))
        path, links = entry["path"], entry["links"]
        known = {str(k): None if v is None else str(v) for k, v in links.items()}
        return Origin(str(entry["name"]), None if path is None else str(path), known)
    except (FileProblemError, ValueError, TypeError, KeyError, AttributeError):
        return Origin("Untitled")


def discard(work: KeptWork) -> None:
    """Delete work left behind, for good."""
    remove_folder(work.folder)


def remove_folder(folder: Path) -> None:
    """Delete a window's folder: the work first, so that half of it is never offered."""
    with contextlib.suppress(OSError):
        (folder / WORK).unlink()
    shutil.rmtree(folder, ignore_errors=True)
