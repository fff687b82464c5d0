"""Photos within the job file, or in files beside it."""

from collections.abc import Sequence
from pathlib import Path

from msgspec.structs import replace

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.errors import FileProblemError
from glasscap.core.photos.store import PhotoStore
from glasscap.files.atomic import file_problem, read_bytes, write_atomically
from glasscap.files.names import free_name


def embedded(job: Job, store: PhotoStore) -> Job:
    """Return the job with every photo within its file. Raises PhotoMissingError for one that is not to be had."""
    for photo in job.photos:
        store.data(photo)
    return replace(job, photos=tuple(replace(p, link=None) for p in job.photos))


def put_in(job: Job, photos: Sequence[PhotoRecord]) -> Job:
    """Return the job with these photos within its file; others stay where they are."""
    if not photos:
        return job
    meant = {photo.sha256 for photo in photos}
    return replace(job, photos=tuple(replace(p, link=None) if p.sha256 in meant else p for p in job.photos))


def photos_folder(path: Path) -> Path:
    """Return the folder beside a job file that its photos go into."""
    return path.with_name(f"{path.stem} photos")


def linked(job: Job, store: PhotoStore, path: Path, *, only_linked: bool = False) -> Job:
    """Write photos into a folder beside the job file and link them there; a file that is the same is used.

    With `only_linked` embedded photos stay where they are. Raises PhotoMissingError, FileProblemError; files
    written by then stay.
    """
    folder = photos_folder(path)
    try:
        folder.mkdir(exist_ok=True)
    except OSError as error:
        raise file_problem(folder, error) from error
    taken: set[str] = set()

    def moved(photo: PhotoRecord) -> PhotoRecord:
        if only_linked and photo.link is None:
            return photo
        data = store.data(photo)
        while True:
            name = free_name(Path(photo.name).stem, taken) + Path(photo.name).suffix.lower()
            target = folder / name
            if not target.exists():
                write_atomically(target, data)
            elif not _holds(target, data):
                # Another picture has this name: nobody's file is written over.
                continue
            return replace(photo, link=f"{folder.name}/{name}")

    return replace(job, photos=tuple(moved(p) for p in job.photos))


def _holds(path: Path, data: bytes) -> bool:
    try:
        return read_bytes(path) == data
    except FileProblemError:
        return False
