"""All that masks a part beside its outline: a picture, and the matte of its own photo."""

from typing import Protocol

import numpy as np

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.resample import Quality
from glasscap.core.render.paint.picture_mask import MaskPlane
from glasscap.core.render.paint.soft_contour import matte_plane
from glasscap.core.render.plan.part import Part


class Masked(Protocol):
    """What a mask lets through."""

    def plane(self, box: PixelBox) -> Plane:
        """Return how much is let through in a box, 0 to 1; not to be written to."""

    def at(self, ys: Ints, xs: Ints) -> Plane:
        """Return how much is let through of single pixels, shape (n,)."""

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        """Return how much is let through, moved by some px, of cells of k px; of the shape of `cells`."""


class _Both:
    """Two masks, one through the other."""

    def __init__(self, one: Masked, other: Masked) -> None:
        self._one, self._other = one, other

    def plane(self, box: PixelBox) -> Plane:
        return np.asarray(self._one.plane(box) * self._other.plane(box))

    def at(self, ys: Ints, xs: Ints) -> Plane:
        return np.asarray(self._one.at(ys, xs) * self._other.at(ys, xs))

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        return np.asarray(self._one.on_cells(cells, k, shift) * self._other.on_cells(cells, k, shift))


def mask_of(
    part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
) -> Masked | None:
    """Return what masks a part beside its outline, or None. Raises PhotoError."""
    edge = part.edge
    picture = None if edge.mask is None else MaskPlane(part, edge.mask, window, photos, quality, cache)
    matte = None if edge.soft is None else matte_plane(part, window, photos, quality, cache)
    if picture is None or matte is None:
        return picture or matte
    return _Both(picture, matte)
