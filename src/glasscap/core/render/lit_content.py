"""For the screen: opaque content under its inner shadows and glows, whose blurs are wide."""

from collections.abc import Sequence

import cv2
import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.gaussian import SoftPlane
from glasscap.core.raster.pixels import Bytes, view_of
from glasscap.core.render.content import PaintPart, PhotoPart
from glasscap.core.render.lights import Cast
from glasscap.core.render.planar import multiplied_by

# On smaller cells (px) single pixels are as soon reckoned.
_SMALLEST = 2
# Rows in which is told together where there is light.
_ROWS = 96


class LitContent:
    """The pixels of content that is shaded and lit from its edge inwards."""

    copied: PixelBox | None = None
    is_opaque = True

    def __init__(
        self, content: PhotoPart | PaintPart, casts: Sequence[Cast], factors: SoftPlane, added: SoftPlane | None
    ) -> None:
        self._content, self._casts, self._factors, self._added = content, casts, factors, added

    @classmethod
    def of(cls, content: PhotoPart | PaintPart, casts: Sequence[Cast], shown: PixelBox) -> "LitContent | None":
        """Return opaque content under inner casts, the first of them lowest; None where cells are small.

        Beyond the box `shown` nothing is seen of it.
        """
        k = min(cast.k for cast in casts)
        if k < _SMALLEST:
            return None
        cells = shown.in_cells(k)
        spanned = cells.times(k)
        left = np.ones((cells.height, cells.width), np.float32)
        light = [np.zeros_like(left) for _ in range(3)]
        for cast in casts:
            share = cast.on_cells(cells, k)
            rest = 1 - share
            left *= rest
            for plane, level in zip(light, cast.colour, strict=True):
                plane *= rest
                plane += share * np.float32(level)
        factors = np.asarray(cv2.merge([left, left, left, np.ones_like(left)]), np.float32)
        added = None
        if any(level for cast in casts for level in cast.colour):
            added = SoftPlane(np.asarray(cv2.merge([*light, np.zeros_like(left)]), np.float32), spanned, k)
        return cls(content, casts, SoftPlane(factors, spanned, k), added)

    def bytes(self, box: PixelBox) -> Bytes:
        """Return opaque pixels as they are written: uint8 RGBA, shape of the box."""
        plain, made = self._content.bytes(box), None
        for y0 in range(box.y0, box.y1, _ROWS):
            rows = PixelBox(box.x0, y0, box.x1, min(y0 + _ROWS, box.y1))
            is_lit = np.zeros(box.width + 2, np.bool_)
            for cast in self._casts:
                is_lit[1:-1] |= ~cast.is_empty(rows)
            turns = np.flatnonzero(is_lit[1:] != is_lit[:-1]).tolist()
            for x0, x1 in zip(turns[::2], turns[1::2], strict=True):
                made = plain.copy() if made is None else made
                part = PixelBox(box.x0 + x0, rows.y0, box.x0 + x1, rows.y1)
                added = None if self._added is None else self._added.band(part)
                multiplied_by(
                    view_of(made, box, part), view_of(plain, box, part), self._factors.band(part), added
                )
        return plain if made is None else made
