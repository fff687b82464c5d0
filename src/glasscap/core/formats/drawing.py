"""A drawing: the source of formats that hold more than pixels."""

from typing import Protocol

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.outputs import Output
from glasscap.core.formats.tags import Tags
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.pixels import Bytes, Levels
from glasscap.core.render.outputs import OutputPlan


class PhotoFiles(PhotoSource, Protocol):
    """Photos as pixels and as files."""

    def data(self, photo: PhotoRecord) -> bytes:
        """Return a photo's original bytes. Raises PhotoMissingError."""


class Drawing(Struct, frozen=True, eq=False):
    """One row of the export list, settled, with the pixels it is to look like."""

    job: Job
    output: Output
    planned: OutputPlan
    photos: PhotoFiles
    cache: ValueCache
    pixels: Levels
    tags: Tags

    @property
    def merged(self) -> Bytes:
        """The whole picture as straight RGBA of eight bits."""
        flat = self.pixels if self.pixels.dtype == np.uint8 else self.pixels >> 8
        return np.asarray(flat, np.uint8)
