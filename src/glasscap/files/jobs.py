"""Job files on the disk, with linked photos found beside them."""

import os
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.errors import FileProblemError, GlassCapError, JobFileError
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.formats.photo import read_draft, read_photo
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore, sha256_of
from glasscap.core.raster.pixels import PhotoPixels
from glasscap.core.raster.resample import Pyramid
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_view
from glasscap.core.work.ticket import Progress, no_progress
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.path_text import path_of_text, text_of_path
from glasscap.files.photo_search import photo_nearby

# The longer side of a quick first view: enough for a fitted photo on a usual screen.
DRAFT_PX = 700
Stamp = tuple[int, int, int] | None
_FIND = "Find missing photos"
_PREVIEW_PX, _PREVIEW_CACHE_BYTES = 512, 1 << 24


class OpenedJob(Struct, frozen=True):
    """A job from the disk; `problems` tells of photos that are missing or were changed.

    `moved` names linked photos that were found elsewhere; the job links them there, other than its file.
    """

    job: Job
    photos: PhotoStore
    problems: tuple[GlassCapError, ...] = ()
    moved: tuple[str, ...] = ()


def open_for_output(path: Path | str) -> OpenedJob:
    """Open a job file to write pictures of it; nothing is kept for a screen. Raises as `open_job` does."""
    return open_job(Path(path), new_store(for_screen=False))


def new_store(*, for_screen: bool = True) -> PhotoStore:
    """Return an empty photo store that decodes every format read, for a screen also as quick drafts."""
    return PhotoStore(read_photo, _read_draft if for_screen else None, redraw=draw_artwork)


def _read_draft(data: bytes, name: str) -> PhotoPixels | None:
    return read_draft(data, name, DRAFT_PX)


def open_job(path: Path, store: PhotoStore | None = None) -> OpenedJob:
    """Read a job file and its linked photos.

    Raises
    ------
    JobFileError, FileProblemError
        If the job file itself cannot be read. Photos that cannot are told in `problems`.
    """
    found = read_job(read_bytes(path), path.name)
    store = store or new_store()
    for sha256, data in found.photos.items():
        store.add(data, sha256)
    return with_photos(found.job, store, path)


def with_photos(job: Job, store: PhotoStore, path: Path) -> OpenedJob:
    """Put the linked photos of the job at `path` into the store; one that is not where it was is looked for."""
    photos, problems, moved = [], [], []
    for photo in job.photos:
        here, problem = _found(photo, path, store)
        photos.append(here)
        if problem is not None:
            problems.append(problem)
        if here is not photo:
            moved.append(f"{photo.name} was found at {here.link}")
    whole = replace(job, photos=tuple(photos)) if moved else job
    return OpenedJob(whole, store, tuple(problems), tuple(moved))


def _found(photo: PhotoRecord, path: Path, store: PhotoStore) -> tuple[PhotoRecord, GlassCapError | None]:
    """Put a photo into the store; return where it is, and what keeps it from being had."""
    if photo.sha256 in store:
        return photo, None
    if photo.link is None:
        why, remedy = "the job file does not hold this photo", "drop it on its cutout again"
        return photo, JobFileError(photo.name, why, remedy)
    try:
        data = read_bytes(path.parent / path_of_text(photo.link))
    except FileProblemError as error:
        why, remedy = f"the linked photo is missing ({error.why})", f"put it at {photo.link}, or use {_FIND}"
    else:
        if sha256_of(data) == photo.sha256:
            store.add(data, photo.sha256)
            return photo, None
        why, remedy = "the linked photo was changed since", f"take it as it is now with {_FIND}"
    nearby = photo_nearby(photo, path.parent)
    if nearby is None:
        return photo, JobFileError(photo.name, why, remedy)
    store.add(nearby[1], photo.sha256)
    return replace(photo, link=text_of_path(os.path.relpath(nearby[0], path.parent))), None


def job_preview(job: Job, store: PhotoStore) -> bytes:
    """Return a small PNG of the first sheet for the job file; empty where it cannot be drawn."""
    sheet = job.sheets[0]
    scale = min(1.0, _PREVIEW_PX / max(sheet.width, sheet.height))
    box = PixelBox(0, 0, max(1, round(sheet.width * scale)), max(1, round(sheet.height * scale)))
    plan = plan_view(job, sheet, Affine.scaling(scale), box, "preview")
    try:
        return write_png(render(plan, _AtHand(store), ValueCache(_PREVIEW_CACHE_BYTES)).rgba)
    except Exception:  # noqa: BLE001
        # Whatever keeps a picture from being drawn must not keep the work from being saved.
        return b""


class _AtHand:
    """Photos as well as they are at hand: a small picture is not worth decoding them whole."""

    def __init__(self, store: PhotoStore) -> None:
        self._store = store

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return a photo, a quick draft of one that is not decoded."""
        return self._store.quick(photo)


def stamp_of(path: Path) -> Stamp:
    """Return what changes of a file whenever it is written: None where there is none."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    return found.st_mtime_ns, found.st_size, found.st_ino


def lost_photos(job: Job, folder: Path, store: PhotoStore) -> tuple[PhotoRecord, ...]:
    """Return the linked photos of an open job that are gone from the disk, but whose bytes are at hand."""

    def is_lost(photo: PhotoRecord) -> bool:
        if photo.link is None or photo.sha256 not in store:
            return False
        return not (folder / path_of_text(photo.link)).is_file()

    return tuple(photo for photo in job.photos if is_lost(photo))


def relinked(job: Job, from_folder: Path, to_folder: Path) -> Job:
    """Return a job whose links lead to the same photos when it is saved in another folder."""
    if from_folder.resolve() == to_folder.resolve() or all(p.link is None for p in job.photos):
        return job

    def moved(photo: PhotoRecord) -> PhotoRecord:
        if photo.link is None:
            return photo
        return replace(
            photo, link=text_of_path(os.path.relpath(from_folder / path_of_text(photo.link), to_folder))
        )

    return replace(job, photos=tuple(moved(p) for p in job.photos))


def save_job(
    path: Path, job: Job, store: PhotoStore, preview: bytes = b"", report: Progress = no_progress
) -> None:
    """Write a job file atomically and check what was written before the old one is given up.

    Raises
    ------
    CancelledError
        If `report`, told the share that is packed, raises it; up to where the file is written.
    PhotoMissingError
        If a photo to embed is not at hand.
    FileProblemError, JobFileError
        If it cannot be written; the old file is left as it was.
    """
    packed = 0

    def photo_data(photo: PhotoRecord) -> bytes:
        nonlocal packed
        report(packed / len(job.photos))
        packed += 1
        return store.data(photo)

    data = write_job(job, photo_data, preview)
    if read_job(data, path.name).job != job:
        raise JobFileError(path.name, "it would not be read back as it is", "save it under another name")
    report(1.0)
    write_atomically(path, data)
