"""Mock-ups as files: a picture in any format of pixels, or one page with every version for the client."""

from collections.abc import Sequence
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import Any

from glasscap.core.document.edits.versions import find_subject, version_names
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.mockups import Mockup
from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.document.outputs.titles import dashed_name
from glasscap.core.errors import ExportError
from glasscap.core.formats.read_back import check_file
from glasscap.core.formats.registry import FORMATS, encode_pixels, format_of
from glasscap.core.formats.tags import Tags
from glasscap.core.mockup.subject import mockup_picture
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.ticket import Progress, no_progress
from glasscap.files.atomic import write_atomically
from glasscap.files.place_book import place_of

PAGE_ENDING = ".pdf"
_CACHE_BYTES = 256 << 20


def all_versions(job: Job, mockup: Mockup) -> tuple[str, ...]:
    """Return the names of the versions of what a mock-up shows; ("",) for a single one."""
    return version_names(find_subject(job, mockup.subject_id)) or ("",)


def mockup_pixels(
    job: Job,
    mockup: Mockup,
    store: PhotoStore,
    versions: Sequence[str] = ("",),
    *,
    scale: float = 1.0,
    progress: Progress = no_progress,
) -> list[Bytes]:
    """Return a mock-up's pixels for each version.

    Raises ExportError, PlacementError, PhotoError; what `progress` raises stops the work.
    """
    place, cache, found = place_of(job, mockup, store), ValueCache(_CACHE_BYTES), []
    for number, version in enumerate(versions):
        check = partial(progress, number / len(versions))
        check()
        picture = mockup_picture(job, mockup, place, store, cache, version=version, scale=scale, check=check)
        found.append(picture)
    return found


def write_mockup(
    path: Path,
    job: Job,
    mockup: Mockup,
    store: PhotoStore,
    versions: Sequence[str] = ("",),
    *,
    scale: float = 1.0,
    progress: Progress = no_progress,
) -> tuple[Path, ...]:
    """Write a mock-up; return the files written.

    A name ending in .pdf gives one page with all versions; any other a picture each, of several with the
    version's name added. Raises ExportError, PlacementError, PhotoError, FileProblemError.
    """
    is_page = path.suffix.lower() == PAGE_ENDING
    if not is_page:
        _options(path)
    pixels = mockup_pixels(job, mockup, store, versions, scale=scale, progress=progress)
    if is_page:
        # Its libraries are loaded only where a page is written.
        page: Any = import_module("glasscap.files.mockup_page")
        write_atomically(path, page.mockup_page(job, mockup, versions, pixels))
        return (path,)
    paths = [path] if len(versions) == 1 else [_named(path, v) for v in versions]
    for target, rgba in zip(paths, pixels, strict=True):
        options, tags = _options(path), Tags(ppi=None)
        data = encode_pixels(rgba, options, tags)
        check_file(data, rgba, options, tags, target.name)
        write_atomically(target, data)
    return tuple(paths)


def _named(path: Path, version: str) -> Path:
    return path.with_name(f"{path.stem}-{dashed_name(version)}{path.suffix}")


def _options(path: Path) -> FileOptions:
    found = format_of(path.suffix)
    if not found.is_pixels:
        known = ", ".join(dict.fromkeys([*(f.endings[0] for f in FORMATS.values() if f.is_pixels), PAGE_ENDING]))
        raise ExportError(path.name, "a mock-up cannot be written as that", f"end it in {known}")
    return FileOptions(found.name, quality=90)
