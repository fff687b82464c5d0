"""A picture as mask: luminance or alpha of a photo placed over the shape (CSS Masking 1, `mask-type`)."""

import math

import cv2
import numpy as np
from msgspec import Struct

from glasscap.core.document.finishing.mask_frame import mask_to_output, masked_frame
from glasscap.core.document.model.finishes import PictureMask
from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.region import photo_quad
from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.pixels import Bytes, Plane, view_of
from glasscap.core.raster.resample import LUMINANCE, Quality, luminance_for_screen, sample
from glasscap.core.raster.scan import cover
from glasscap.core.render.offsets.silhouette import shrunk
from glasscap.core.render.plan.part import Part

# A side that rises by less than this a px is level.
_LEVEL = 1e-9
# Output px: beside a border pixels may not be wholly covered.
_BORDER = 1.5


class MaskPlane:
    """A mask placed over the shape's frame; beyond the picture nothing is let through.

    What stands out of the frame (a feather, an inset outwards) is masked as the frame's border beside it.
    """

    def __init__(
        self,
        part: Part,
        mask: PictureMask,
        window: PixelBox,
        photos: PhotoSource,
        quality: Quality,
        cache: ValueCache,
    ) -> None:
        photo = part.picture(mask.sha256)
        assert photo is not None
        self._part, self._photos = part, photos
        self._mask, self._quality, self._pyramid = mask, quality, photos.pyramid(photo)
        size = (photo.width, photo.height)
        centred = Affine.translation(-photo.width / 2, -photo.height / 2)
        self._picture = _Placed(mask_to_output(mask, part.region, size), *size)
        self._to_output = self._picture.to_output.after(centred)
        self._quad = photo_quad(self._to_output, size)
        self._frame = None if part.region.is_hole else _Placed(*masked_frame(part.region))
        self._window, self._cache = window, cache

    def plane(self, box: PixelBox) -> Plane:
        """Return how much is let through in a box, 0 to 1; not to be written to."""
        if self._quality == "final" or not self._window.holds(box):
            return self._made(box)
        # Most of what moves on the screen does so under a mask that stays.
        is_draft = self._pyramid.is_draft
        key = ("mask", self._mask, self._picture, self._frame, self._window, self._quality, is_draft)
        whole = self._cache.get(key, lambda: self._made(self._window), lambda p: p.nbytes)
        return view_of(whole, self._window, box)

    def at(self, ys: Ints, xs: Ints) -> Plane:
        """Return how much is let through of single pixels, shape (n,)."""
        box = box_of_pixels(ys, xs)
        return np.asarray(self.plane(box)[ys - box.y0, xs - box.x0])

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        """Return how much is let through, moved by some px, of cells of k px; of the shape of `cells`."""
        small = shrunk(self._part, Affine.scaling(1 / k).after(Affine.translation(*shift)))
        quality: Quality = "preview" if self._quality == "final" else self._quality
        return MaskPlane(small, self._mask, cells, self._photos, quality, self._cache).plane(cells)

    def _made(self, box: PixelBox) -> Plane:
        frame = self._frame
        if frame is None or frame.holds(box):
            return self._own(box)
        if frame.is_upright:
            return self._run_on(box, frame.upright_part(box))
        out = self._own(box)
        ys, xs = frame.pixels_beyond(box)
        at_y, at_x = frame.nearest_within(ys + box.y0, xs + box.x0)
        where = box_of_pixels(at_y, at_x)
        out[ys, xs] = self._own(where)[at_y - where.y0, at_x - where.x0]
        return out

    def _run_on(self, box: PixelBox, within: PixelBox) -> Plane:
        """Return a box in which rows and columns beyond some within, or beside it, are as the last of those."""
        above, below = max(within.y0 - box.y0, 0), max(box.y1 - within.y1, 0)
        before, after = max(within.x0 - box.x0, 0), max(box.x1 - within.x1, 0)
        made = cv2.copyMakeBorder(self._own(within), above, below, before, after, cv2.BORDER_REPLICATE)
        # The part within may lie beside the box: its pixels are then those of the nearest row or column.
        top, left = max(box.y0 - within.y0, 0), max(box.x0 - within.x0, 0)
        return np.asarray(made[top : top + box.height, left : left + box.width], np.float32)

    def _own(self, box: PixelBox) -> Plane:
        """Return what the picture itself lets through."""
        out = self._sampled(box)
        if not self._picture.holds(box):
            # Its border's colours run on in what is sampled.
            out *= cover((self._quad,), box).plane(box)
        return 1 - out if self._mask.is_inverted else out

    def _sampled(self, box: PixelBox) -> Plane:
        pyramid = self._pyramid
        is_plain = pyramid.photo.is_opaque and pyramid.redraw is None and self._mask.kind == "luminance"
        if is_plain and self._quality != "final":
            seen = luminance_for_screen(pyramid, self._to_output, box)
            return np.asarray(seen * np.float32(1 / 255), np.float32)
        pixels, where = sample(pyramid, self._to_output, box, self._quality)
        out = np.zeros((box.height, box.width), np.float32)
        if not where.is_empty:
            view_of(out, box, where)[:] = self._let_through(pixels)
        return out

    def _let_through(self, pixels: Bytes) -> Plane:
        is_opaque = self._pyramid.photo.is_opaque
        alpha = np.float32(1.0) if is_opaque else pixels[..., 3] * np.float32(1 / 255)
        if self._mask.kind == "alpha":
            return np.broadcast_to(alpha, pixels.shape[:2])
        # On the screen half a level is not seen.
        exact = pixels.astype(np.float32) if self._quality == "final" else pixels
        return np.asarray(cv2.transform(exact, LUMINANCE) * np.float32(1 / 255) * alpha, np.float32)


class _Placed(Struct, frozen=True):
    """A box of own px, centred at 0, under a map to output px; told of without the pixels at its border."""

    to_output: Affine
    width: float
    height: float

    @property
    def _reach(self) -> tuple[float, float]:
        border = _BORDER / abs(self.to_output.determinant) ** 0.5
        return max(self.width / 2 - border, 0.0), max(self.height / 2 - border, 0.0)

    def holds(self, box: PixelBox) -> bool:
        """Whether all of a box of output px lies within."""
        (right, bottom), to_own = self._reach, self.to_output.inverse()
        corners = (to_own.apply(x, y) for x in (box.x0, box.x1) for y in (box.y0, box.y1))
        return all(abs(u) <= right and abs(v) <= bottom for u, v in corners)

    @property
    def is_upright(self) -> bool:
        """Whether its sides are rows and columns of output px."""
        m = self.to_output
        return max(abs(m.b), abs(m.c)) < _LEVEL or max(abs(m.a), abs(m.d)) < _LEVEL

    def upright_part(self, box: PixelBox) -> PixelBox:
        """Return what of a box lies within, where it `is_upright`, or else the row or column next to that."""
        right, bottom = self._reach
        x0, y0, x1, y1 = frame_box(self.to_output, -right, -bottom, 2 * right, 2 * bottom)
        left, width = _part(math.ceil(x0), math.floor(x1), box.x0, box.x1)
        top, height = _part(math.ceil(y0), math.floor(y1), box.y0, box.y1)
        return PixelBox(left, top, left + width, top + height)

    def pixels_beyond(self, box: PixelBox) -> tuple[Ints, Ints]:
        """Return the rows and columns of a box, counted from its corner, that do not lie within."""
        (right, bottom), m = self._reach, self.to_output.inverse()
        x, y = np.arange(box.x0, box.x1) + 0.5, (np.arange(box.y0, box.y1) + 0.5)[:, None]
        u, v = m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f
        ys, xs = np.nonzero((np.abs(u) > right) | (np.abs(v) > bottom))
        return ys, xs

    def nearest_within(self, ys: Ints, xs: Ints) -> tuple[Ints, Ints]:
        """Return the rows and columns of the pixels within that are nearest to some."""
        (right, bottom), to_own, m = self._reach, self.to_output.inverse(), self.to_output
        x, y = xs + 0.5, ys + 0.5
        u = np.clip(to_own.a * x + to_own.c * y + to_own.e, -right, right)
        v = np.clip(to_own.b * x + to_own.d * y + to_own.f, -bottom, bottom)
        rows, columns = np.floor(m.b * u + m.d * v + m.f), np.floor(m.a * u + m.c * v + m.e)
        return rows.astype(np.int64), columns.astype(np.int64)


def _part(first: int, end: int, low: int, high: int) -> tuple[int, int]:
    """Return where what two stretches have in common begins, and how long it is; at least the nearest one."""
    end = max(end, first + 1)
    start, stop = max(first, low), min(end, high)
    if start >= stop:
        start = end - 1 if low >= end else first
        stop = start + 1
    return start, stop - start
