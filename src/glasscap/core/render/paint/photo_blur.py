"""A photo out of focus: blurred premultiplied; its border's colours run on, so that it does not fade there."""

import cv2
import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model.placement import frame_box
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.blur import blurred_bytes, reach
from glasscap.core.raster.gaussian import SoftPlane, cell_size, soften
from glasscap.core.raster.pixels import Bytes, Planar, edge_padded, view_of
from glasscap.core.raster.planar import HALF_UP, interleaved
from glasscap.core.raster.resample import Pyramid, Quality, sample
from glasscap.core.render.paint.adjust import adjusted
from glasscap.core.render.plan.bounds import content_box
from glasscap.core.render.plan.part import Part

# For the screen photos are drawn to margins of whole steps (px), which serve many blurs.
_STEP = 16


class PhotoBlur:
    """A part's photo with all its adjustments, blurred by a Gaussian of sigma px."""

    def __init__(
        self, part: Part, pyramid: Pyramid, window: PixelBox, sigma: float, quality: Quality, cache: ValueCache
    ) -> None:
        self._part, self._pyramid, self._sigma, self._quality, self._cache = part, pyramid, sigma, quality, cache
        region = part.region
        frame = frame_box(region.photo_to_output, 0, 0, *region.photo_size).rounded_out()
        self._wanted = window.intersection(frame).intersection(content_box(part))
        self._key = ("photo blur", id(pyramid), region.photo_to_output, part.adjustments, self._wanted, quality)

    @property
    def _is_of_pixels(self) -> bool:
        """Whether it is a blur of the pixels' bytes, which are exact enough for the screen, not of cells."""
        is_for_screen = self._quality != "final" and self._pyramid.photo.is_opaque
        return is_for_screen and cell_size(self._sigma, self._quality) == 1

    def bytes(self, box: PixelBox) -> Bytes:
        """Return opaque pixels as they are written: uint8 RGBA, shape of the box."""
        if not self._is_of_pixels:
            return np.asarray(cv2.convertScaleAbs(self._soft.band(box), alpha=HALF_UP), np.uint8)
        here = box.intersection(self._wanted)
        if here.is_empty:
            here = PixelBox(box.x0, box.y0, box.x0, box.y0)
            return edge_padded(np.zeros((0, 0, 4), np.uint8), here, box)
        found = view_of(self._soft_pixels, self._wanted, here)
        return found if here == box else edge_padded(found, here, box)

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""
        soft = self.bytes(box).astype(np.float32) if self._is_of_pixels else self._soft.band(box)
        return np.ascontiguousarray(np.moveaxis(soft, -1, 0))

    @property
    def _soft_pixels(self) -> Bytes:
        return self._cache.get(self._key, self._blurred_pixels, lambda p: p.nbytes)

    def _blurred_pixels(self) -> Bytes:
        far = -(-reach(self._sigma) // _STEP) * _STEP
        wide = self._wanted.grown(far)
        soft = blurred_bytes(self._kept(wide, 1.0), self._sigma)
        return view_of(soft, wide, self._wanted)

    @property
    def _soft(self) -> SoftPlane:
        def made() -> SoftPlane:
            if self._wanted.is_empty:
                return SoftPlane(np.zeros((1, 1, 4), np.float32), PixelBox(0, 0, 1, 1), 1)
            return soften(self._premultiplied, self._wanted, self._sigma, self._quality)

        return self._cache.get(self._key, made, lambda s: s.nbytes)

    def _premultiplied(self, box: PixelBox, k: float) -> Planar:
        """Return the photo on cells of k px, premultiplied; float32 of shape (h, w, 4)."""
        pixels = self._drawn(box, k) if self._quality == "final" else self._kept(box, k)
        return interleaved(pixels, is_opaque=self._pyramid.photo.is_opaque)

    def _kept(self, box: PixelBox, k: float) -> Bytes:
        """Return what is drawn, kept: another blur of it is then soon done."""
        unblurred = replace(self._part.adjustments, blur=0.0)
        key = ("photo cells", id(self._pyramid), self._part.region.photo_to_output, unblurred, box, k)
        return self._cache.get(key, lambda: self._drawn(box, k), lambda p: p.nbytes)

    def _drawn(self, box: PixelBox, k: float) -> Bytes:
        """Return the photo, adjusted, on cells of k px: straight uint8 RGBA."""
        to_cells = Affine.scaling(1 / k).after(self._part.region.photo_to_output)
        pixels, where = sample(self._pyramid, to_cells, box, "preview")
        if where != box:
            pixels = edge_padded(pixels, where, box)
        return adjusted(pixels, self._part.adjustments)
