"""Looking for linked photos that were moved, near the job file."""

import os
from collections.abc import Iterator
from itertools import islice
from pathlib import Path

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import FileProblemError
from glasscap.core.photos.store import sha256_of
from glasscap.files.atomic import read_bytes
from glasscap.files.path_text import path_of_text

# Enough for a client's folder; a search must not crawl through a whole disk.
_DEEPEST, _MOST_FILES = 3, 5000


def photo_nearby(photo: PhotoRecord, folder: Path) -> tuple[Path, bytes] | None:
    """Return where a photo's very bytes lie in a folder, the one above it or those within, by its names."""
    names = {photo.name.lower(), Path(path_of_text(photo.link or photo.name)).name.lower()}
    for path in _candidates(folder, names):
        try:
            data = read_bytes(path)
        except FileProblemError:
            continue
        if sha256_of(data) == photo.sha256:
            return path, data
    return None


def _candidates(folder: Path, names: set[str]) -> Iterator[Path]:
    for start, deepest in ((folder, _DEEPEST), (folder.parent, 1)):
        for path in islice(_files(start, deepest), _MOST_FILES):
            if path.name.lower() in names:
                yield path


def _files(start: Path, deepest: int) -> Iterator[Path]:
    for here, folders, files in os.walk(start):
        depth = len(Path(here).relative_to(start).parts)
        folders[:] = sorted(f for f in folders if not f.startswith(".")) if depth < deepest else []
        yield from (Path(here) / name for name in sorted(files))
