"""Dense 8-bit masks of regions for the screen, kept by value, and pixels seen through them."""

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.document.model.region import Region, covers_shape, region_polygons, shape_polygons
from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.scan import cover
from glasscap.core.render.plan.part import FLATNESS


class Mask(Struct, frozen=True, eq=False):
    """A shape's coverage in the box that holds it, split for speed.

    Attributes
    ----------
    touched, rest : uint8 arrays, shape (h, w)
        Not 0 where the shape covers anything, and where it leaves anything.
    cell_y, cell_x : int64 arrays, shape (n,)
        Partly covered pixels, from the box's corner.
    cell_level : uint16 array, shape (n, 1)
        Their coverage, 1 to 254.
    box : PixelBox
    """

    touched: Bytes
    rest: Bytes
    cell_y: Ints
    cell_x: Ints
    cell_level: NDArray[np.uint16]
    box: PixelBox

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return 2 * self.touched.nbytes + 18 * len(self.cell_y)


def mask_of(region: Region, view: PixelBox, cache: ValueCache) -> Mask:
    """Return a region's mask: the shape's own while it lies on the photo, so that it outlasts a photo's drag."""
    shape = region.shape
    if shape is not None and shape.keeps == "inside" and covers_shape(region):
        return shape_mask(region, view, cache)
    return cache.get(
        ("mask", region, view),
        lambda: _mask(region_polygons(region, tolerance=FLATNESS), view),
        lambda m: m.nbytes,
    )


def shape_mask(region: Region, view: PixelBox, cache: ValueCache) -> Mask:
    """Return the mask of a region's shape, wherever its photo lies."""
    shape, placement, to_output = region.shape, region.placement, region.sheet_to_output
    assert shape is not None
    assert placement is not None
    return cache.get(
        ("mask", shape, placement, to_output, view),
        lambda: _mask(shape_polygons(shape, placement, to_output, tolerance=FLATNESS), view),
        lambda m: m.nbytes,
    )


def _mask(flat: tuple[Points, ...], view: PixelBox) -> Mask:
    levels, box = cover(flat, view).levels()
    ys, xs = np.nonzero((levels - np.uint8(1)) < 254)
    return Mask(levels, ~levels, ys, xs, levels[ys, xs].astype(np.uint16)[:, None], box)


def masked(warp: Bytes, box: PixelBox, mask: Mask, *, is_inverse: bool) -> Bytes:
    """Return pixels of a box times the mask, or times what it leaves out."""
    b, common = mask.box, box.intersection(mask.box)
    out = np.zeros(warp.shape, np.uint8)
    if common.is_empty:
        return warp.copy() if is_inverse else out
    top, foot, left, right = common.y0 - box.y0, common.y1 - box.y0, common.x0 - box.x0, common.x1 - box.x0
    here, middle = np.s_[top:foot, left:right], slice(top, foot)
    there = np.s_[common.y0 - b.y0 : common.y1 - b.y0, common.x0 - b.x0 : common.x1 - b.x0]
    cv2.copyTo(warp[here], (mask.rest if is_inverse else mask.touched)[there], out[here])
    if is_inverse:
        for around in (np.s_[:top], np.s_[foot:], np.s_[middle, :left], np.s_[middle, right:]):
            out[around] = warp[around]
    # Four bytes at once: one whole pixel a word.
    words, out_words = (a.view(np.uint32)[..., 0] for a in (warp, out))
    ys, xs, levels = mask.cell_y + (b.y0 - box.y0), mask.cell_x + (b.x0 - box.x0), mask.cell_level
    if common != b:
        on = (ys >= 0) & (ys < box.height) & (xs >= 0) & (xs < box.width)
        ys, xs, levels = ys[on], xs[on], levels[on]
    cells = words[ys, xs].view(np.uint8).reshape(-1, 4) * (255 - levels if is_inverse else levels)
    cells += 128
    # Division by 255 with correct rounding, for 16-bit products.
    cells += cells >> 8
    cells >>= 8
    out_words[ys, xs] = cells.astype(np.uint8).view(np.uint32)[:, 0]
    return out
