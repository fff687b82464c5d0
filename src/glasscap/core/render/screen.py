"""Frames for the screen: dense 8-bit masks kept by value, one warp a photo, premultiplied throughout.

The same geometry and coverage as `picture`; only the photo's resampling and the depth of the sums differ.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.document.model import Shape
from glasscap.core.document.placement import ShapePlacement, frame_box
from glasscap.core.document.region import Region, shape_polygons
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.coverage import Ints, cover
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.resample import Pyramid, sample_for_screen
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.photos import PhotoSource
from glasscap.core.render.plan import FLATNESS, Part, Plan

_NOTHING = PixelBox(0, 0, 0, 0)


@dataclass(frozen=True, eq=False)
class Mask:
    """A shape's coverage in the box that holds it, split for speed.

    Attributes
    ----------
    touched, rest : uint32 arrays, shape (h, w)
        All bits set where the shape covers anything, and where it leaves anything.
    cell_y, cell_x : int64 arrays, shape (n,)
        Partly covered pixels, from the box's corner.
    cell_level : uint16 array, shape (n, 1)
        Their coverage, 1 to 254.
    box : PixelBox
    is_hole : bool
        Whether it is to be read as its complement.
    """

    touched: NDArray[np.uint32]
    rest: NDArray[np.uint32]
    cell_y: Ints
    cell_x: Ints
    cell_level: NDArray[np.uint16]
    box: PixelBox
    is_hole: bool

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return 2 * self.touched.nbytes + 18 * len(self.cell_y)


@dataclass(frozen=True, eq=False)
class Frame:
    """Premultiplied RGBA, uint8, shape (h, w, 4), and where it lies in device px."""

    rgba: Bytes
    x: int
    y: int


def screen_frame(plan: Plan, photos: PhotoSource, cache: ValueCache) -> Frame | None:
    """Return a plan's parts composed, or None when nothing is seen. Raises PhotoError."""
    seen = [(p, _seen_box(p.region, plan.box)) for p in plan.parts]
    box = _NOTHING
    for _, part_box in seen:
        box = box.union(part_box)
    if box.is_empty:
        return None
    tops = [(_top(p, b, plan.box, photos, cache), b) for p, b in seen if not b.is_empty]
    if len(tops) == 1:
        return Frame(tops[0][0], box.x0, box.y0)
    out = np.zeros((box.height, box.width, 4), np.uint8)
    for top, b in tops:
        _lay_over(out[b.y0 - box.y0 : b.y1 - box.y0, b.x0 - box.x0 : b.x1 - box.x0], top)
    return Frame(out, box.x0, box.y0)


def ghost_frame(part: Part, view: PixelBox, photos: PhotoSource, cache: ValueCache) -> Frame | None:
    """Return what a part's shape hides of its photo, or None. Raises PhotoError."""
    region = part.region
    box = _photo_box(region).intersection(view)
    if box.is_empty or region.shape is None:
        return None
    mask = _mask_of(region, view, cache)
    warp = _warp(part, box, photos, cache)
    return Frame(_masked(warp, box, mask, is_inverse=True), box.x0, box.y0)


def _top(part: Part, box: PixelBox, view: PixelBox, photos: PhotoSource, cache: ValueCache) -> Bytes:
    """Return one part's premultiplied pixels in its box."""
    top = _warp(part, box, photos, cache)
    if part.region.shape is not None:
        top = _masked(top, box, _mask_of(part.region, view, cache), is_inverse=False)
    return top if part.opacity == 1.0 else np.asarray(cv2.convertScaleAbs(top, alpha=part.opacity))


def _lay_over(below: Bytes, top: Bytes) -> None:
    """Below = top + (1 - alpha_top) below, premultiplied; only translucent pixels are computed."""
    alpha = cv2.extractChannel(top, 3)
    cv2.copyTo(top, cv2.inRange(alpha, 255, 255), below)
    found = cv2.findNonZero(cv2.inRange(alpha, 1, 254))
    if found is None:
        return
    xs, ys = found.reshape(-1, 2).T
    over = top[ys, xs].astype(np.uint16)
    below[ys, xs] = over + (below[ys, xs] * (255 - over[:, 3:]) + 127) // 255


def _photo_box(region: Region) -> PixelBox:
    return frame_box(region.photo_to_output, 0, 0, *region.photo_size).rounded_out()


def _seen_box(region: Region, view: PixelBox) -> PixelBox:
    """Return the device px a region may show, from frames alone."""
    box = _photo_box(region).intersection(view)
    shape, placement = region.shape, region.placement
    if shape is None or placement is None or shape.keeps == "outside":
        return box if not box.is_empty else _NOTHING
    to_output = region.sheet_to_output.after(placement.to_sheet)
    width, height = placement.width, placement.height
    frame = frame_box(to_output, -width / 2, -height / 2, width, height).rounded_out()
    box = box.intersection(frame)
    return box if not box.is_empty else _NOTHING


def _mask_of(region: Region, view: PixelBox, cache: ValueCache) -> Mask:
    shape, placement, to_output = region.shape, region.placement, region.sheet_to_output
    assert shape is not None
    assert placement is not None
    return cache.get(
        ("mask", shape, placement, to_output, view),
        lambda: _mask(shape, placement, to_output, view),
        lambda m: m.nbytes,
    )


def _mask(shape: Shape, placement: ShapePlacement, to_output: Affine, view: PixelBox) -> Mask:
    flat = shape_polygons(shape, placement, to_output, tolerance=FLATNESS)
    levels, box = cover(flat, view).levels()
    ys, xs = np.nonzero((levels - np.uint8(1)) < 254)
    all_bits = np.uint32(0xFFFFFFFF)
    touched, rest = (levels > 0) * all_bits, (levels < 255) * all_bits
    cells = levels[ys, xs].astype(np.uint16)[:, None]
    return Mask(touched, rest, ys, xs, cells, box, shape.keeps == "outside")


def _masked(warp: Bytes, box: PixelBox, mask: Mask, *, is_inverse: bool) -> Bytes:
    """Return pixels of a box times the mask, or times what it leaves out."""
    b, common = mask.box, box.intersection(mask.box)
    keeps_rest = mask.is_hole != is_inverse
    out = warp.copy() if keeps_rest else np.zeros_like(warp)
    if common.is_empty:
        return out
    here = np.s_[common.y0 - box.y0 : common.y1 - box.y0, common.x0 - box.x0 : common.x1 - box.x0]
    there = np.s_[common.y0 - b.y0 : common.y1 - b.y0, common.x0 - b.x0 : common.x1 - b.x0]
    # Four bytes at once: one whole pixel a word.
    words, out_words = (a.view(np.uint32)[..., 0] for a in (warp, out))
    np.bitwise_and(words[here], (mask.rest if keeps_rest else mask.touched)[there], out=out_words[here])
    ys, xs, levels = mask.cell_y + (b.y0 - box.y0), mask.cell_x + (b.x0 - box.x0), mask.cell_level
    if common != b:
        on = (ys >= 0) & (ys < box.height) & (xs >= 0) & (xs < box.width)
        ys, xs, levels = ys[on], xs[on], levels[on]
    cells = words[ys, xs].view(np.uint8).reshape(-1, 4) * (255 - levels if keeps_rest else levels)
    cells += 128
    # Division by 255 with correct rounding, for 16-bit products.
    cells += cells >> 8
    cells >>= 8
    out_words[ys, xs] = cells.astype(np.uint8).view(np.uint32)[:, 0]
    return out


def _warp(part: Part, wanted: PixelBox, photos: PhotoSource, cache: ValueCache) -> Bytes:
    """Return the photo's pixels in a box; warps are kept, for the ghost and for frames where it rests."""
    pyramid: Pyramid = photos.pyramid(part.photo)
    to_output = part.region.photo_to_output
    key = ("warp", part.photo.sha256, pyramid.is_draft, to_output)
    kept: tuple[Bytes, PixelBox] | None = cache.peek(key)
    if kept is None or not kept[1].holds(wanted):
        pixels = sample_for_screen(pyramid, to_output, wanted)
        cache.put(key, (pixels, wanted), pixels.nbytes)
        return pixels
    pixels, box = kept
    return pixels[wanted.y0 - box.y0 : wanted.y1 - box.y0, wanted.x0 - box.x0 : wanted.x1 - box.x0]
