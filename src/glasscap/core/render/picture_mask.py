"""A picture as mask: luminance or alpha of a photo placed over the shape (CSS Masking 1, `mask-type`)."""

import numpy as np

from glasscap.core.document.finishes import PictureMask
from glasscap.core.document.mask_placement import mask_to_output, masked_frame
from glasscap.core.document.region import photo_quad
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.resample import Quality, sample
from glasscap.core.raster.scan import cover
from glasscap.core.render.part import Part
from glasscap.core.render.photos import PhotoSource
from glasscap.core.render.planar import Plane, planar_of

# The luminance coefficients of CSS Masking 1, 7.10 (Rec. 709), on encoded values.
_RED, _GREEN, _BLUE = (np.float32(v / 255) for v in (0.2126, 0.7152, 0.0722))


class MaskPlane:
    """A mask placed over the shape's frame; beyond the picture nothing is let through.

    What stands out of the frame (a feather, an inset outwards) is masked as the frame's border beside it.
    """

    def __init__(self, part: Part, mask: PictureMask, photos: PhotoSource, quality: Quality) -> None:
        photo = part.picture(mask.sha256)
        assert photo is not None
        self._mask, self._quality, self._pyramid = mask, quality, photos.pyramid(photo)
        size = (photo.width, photo.height)
        centred = Affine.translation(-photo.width / 2, -photo.height / 2)
        self._to_output = mask_to_output(mask, part.region, size).after(centred)
        self._quad = photo_quad(self._to_output, size)
        self._frame = None if part.region.is_hole else masked_frame(part.region)

    def plane(self, box: PixelBox) -> Plane:
        """Return how much is let through in a box, 0 to 1."""
        out = self._own(box)
        if self._frame is not None:
            to_output, width, height = self._frame
            # Pixels through which the border passes are not wholly covered.
            px = 1.5 / abs(to_output.determinant) ** 0.5
            self._run_on(out, box, to_output, max(width / 2 - px, 0.0), max(height / 2 - px, 0.0))
        return out

    def _run_on(self, out: Plane, box: PixelBox, to_output: Affine, right: float, bottom: float) -> None:
        """Give pixels beyond a frame's border the value of the nearest within, in place."""
        to_frame = to_output.inverse()
        corners = (to_frame.apply(x, y) for x in (box.x0, box.x1) for y in (box.y0, box.y1))
        if all(abs(u) <= right and abs(v) <= bottom for u, v in corners):
            return
        x, y = np.arange(box.x0, box.x1) + 0.5, (np.arange(box.y0, box.y1) + 0.5)[:, None]
        u, v = to_frame.a * x + to_frame.c * y + to_frame.e, to_frame.b * x + to_frame.d * y + to_frame.f
        beyond = np.nonzero((np.abs(u) > right) | (np.abs(v) > bottom))
        u, v = np.clip(u[beyond], -right, right), np.clip(v[beyond], -bottom, bottom)
        m = to_output
        xs = np.floor(m.a * u + m.c * v + m.e).astype(np.int64)
        ys = np.floor(m.b * u + m.d * v + m.f).astype(np.int64)
        where = box_of_pixels(ys, xs)
        out[beyond] = self._own(where)[ys - where.y0, xs - where.x0]

    def _own(self, box: PixelBox) -> Plane:
        pixels, where = sample(self._pyramid, self._to_output, box, self._quality)
        out = np.zeros((box.height, box.width), np.float32)
        if not where.is_empty:
            part = planar_of(pixels, is_premultiplied=False, is_opaque=self._pyramid.photo.is_opaque)
            inner = np.s_[where.y0 - box.y0 : where.y1 - box.y0, where.x0 - box.x0 : where.x1 - box.x0]
            if self._mask.kind == "alpha":
                out[inner] = part[3] / 255
            else:
                out[inner] = part[0] * _RED + part[1] * _GREEN + part[2] * _BLUE
            # Its border's colours run on in what is sampled.
            out *= cover((self._quad,), box).plane(box)
        return 1 - out if self._mask.is_inverted else out
