"""Keeping unsaved work aside while it is being done, and getting it back."""

import contextlib
import json
import math
import os
import tempfile
import time
from pathlib import Path

from msgspec import Struct
from msgspec.structs import asdict, replace

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.errors import FileProblemError, GlassCapError
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.photos.store import PhotoStore
from glasscap.files.atomic import file_problem, read_bytes, write_atomically
from glasscap.files.jobs import new_store, with_photos
from glasscap.files.kept_work import (
    LOCK,
    ORIGIN,
    PHOTOS,
    PREVIEW,
    WORK,
    KeptWork,
    Origin,
    keeping_folder,
    remove_folder,
)
from glasscap.files.locks import take_lock

_PREVIEW_EVERY_S = 20.0


class RecoveredWork(Struct, frozen=True):
    """A job as it was kept, with its photos; `path` is the job file it belongs to, None if it has none."""

    job: Job
    photos: PhotoStore
    path: Path | None
    name: str
    problems: tuple[GlassCapError, ...] = ()


class WorkKeeper:
    """One window's folder, made when there is something to keep. Used by one thread at a time."""

    def __init__(self, state: Path | None = None) -> None:
        self._place = keeping_folder(state)
        self.folder: Path | None = None
        self._lock: int | None = None
        self._origin: Origin | None = None
        self._photos: set[str] = set()
        self._previewed_at = -math.inf

    def keep(self, job: Job, store: PhotoStore, path: Path | None, name: str) -> None:
        """Keep a job; photos are written once. Raises FileProblemError, and what was kept before stays."""
        folder = self._own_folder()
        for photo in job.photos:
            self._keep_photo(folder, photo, store)
        origin = Origin(
            name, None if path is None else str(path.resolve()), {p.sha256: p.link for p in job.photos}
        )
        if origin != self._origin:
            write_atomically(folder / ORIGIN, json.dumps(asdict(origin), indent=1).encode())
            self._origin = origin
        here = tuple(replace(p, link=f"{PHOTOS}/{p.sha256}") for p in job.photos)
        write_atomically(folder / WORK, write_job(replace(job, photos=here), store.data))

    @property
    def wants_preview(self) -> bool:
        """Whether the picture of what is kept is of long ago."""
        return time.monotonic() - self._previewed_at > _PREVIEW_EVERY_S

    def keep_preview(self, png: bytes) -> None:
        """Keep a picture of the work, if any of it is kept. Raises FileProblemError."""
        if self.folder is not None and (self.folder / WORK).is_file():
            write_atomically(self.folder / PREVIEW, png)
            self._previewed_at = time.monotonic()

    def _own_folder(self) -> Path:
        if self.folder is None or not self.folder.is_dir():
            self.leave()
            try:
                self._place.mkdir(parents=True, exist_ok=True)
                self.folder = Path(tempfile.mkdtemp(prefix=f"{os.getpid()}-", dir=self._place))
                (self.folder / PHOTOS).mkdir()
            except OSError as error:
                raise file_problem(self._place, error) from error
            self._lock = take_lock(self.folder / LOCK)
        return self.folder

    def _keep_photo(self, folder: Path, photo: PhotoRecord, store: PhotoStore) -> None:
        # A linked photo that is missing cannot be kept; its own link is.
        if photo.sha256 not in self._photos and photo.sha256 in store:
            write_atomically(folder / PHOTOS / photo.sha256, store.data(photo))
            self._photos.add(photo.sha256)

    def adopt(self, work: KeptWork) -> None:
        """Go on keeping in the folder of work left behind, so that it is safe at every moment.

        Raises FileProblemError if another window has taken it meanwhile.
        """
        handle = take_lock(work.folder / LOCK)
        if handle is None:
            raise FileProblemError(work.origin.name, "another window has it open", "go on there")
        self.forget()
        self.folder, self._lock = work.folder, handle
        with contextlib.suppress(OSError):
            self._photos = {path.name for path in (work.folder / PHOTOS).iterdir()}

    def rest(self) -> None:
        """Delete the work, for it was saved; the photos wait for what is done next."""
        if self.folder is not None:
            for name in (WORK, ORIGIN, PREVIEW):
                with contextlib.suppress(OSError):
                    (self.folder / name).unlink()
        self._origin, self._previewed_at = None, -math.inf

    def forget(self) -> None:
        """Delete what is kept: it was saved, or is not wanted."""
        if self.folder is not None:
            remove_folder(self.folder)
        self.leave()

    def leave(self) -> None:
        """Let go of what is kept and leave it there, as the end of the process does."""
        if self._lock is not None:
            with contextlib.suppress(OSError):
                os.close(self._lock)
        self.folder = self._lock = self._origin = None
        self._photos, self._previewed_at = set(), -math.inf


def recover(work: KeptWork) -> RecoveredWork:
    """Read work left behind; it stays where it is.

    Raises
    ------
    JobFileError, FileProblemError
        If it cannot be read. Photos that cannot are told in `problems`.
    """
    found = read_job(read_bytes(work.folder / WORK), work.origin.name)
    store = new_store()
    for photo in found.job.photos:
        with contextlib.suppress(FileProblemError):
            store.add(read_bytes(work.folder / PHOTOS / photo.sha256))
    photos = tuple(replace(p, link=work.origin.links.get(p.sha256)) for p in found.job.photos)
    job, path = replace(found.job, photos=photos), work.origin.path and Path(work.origin.path)
    opened = with_photos(job, store, path or work.folder / WORK)
    return RecoveredWork(opened.job, store, path or None, work.origin.name, opened.problems)
