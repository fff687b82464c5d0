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
    def of(cls, content: PhotoPart | PaintPart, casts: Sequence[Cast]) -> "LitContent | None":
        """Return opaque content under inner casts, the first of them lowest; None where cells are small."""
        k = min(cast.k for cast in casts)
        if k < _SMALLEST:
            return None
        box = casts[0].box
        cells = PixelBox(box.x0 // k - 1, box.y0 // k - 1, -(-box.x1 // k) + 1, -(-box.y1 // k) + 1)
        spanned = PixelBox(cells.x0 * k, cells.y0 * k, cells.x1 * k, cells.y1 * k)
        left = np.ones((cells.height, cells.width), np.float32)
        colours = np.zeros((cells.height, cells.width, 4), np.float32)
        for cast in casts:
            share = cast.on_cells(cells, k)
            left *= 1 - share
            if colours.any() or any(cast.colour):
                colours *= (1 - share)[..., None]
                colours += share[..., None] * np.array([*cast.colour, 0], np.float32)
        factors = np.asarray(cv2.merge([left, left, left, np.ones_like(left)]), np.float32)
        added = SoftPlane(colours, spanned, k) if colours.any() else None
        return cls(content, casts, SoftPlane(factors, spanned, k), added)

    def bytes(self, box: PixelBox) -> Bytes:
        """Return opaque pixels as they are written: uint8 RGBA, shape of the box."""
        plain, made = self._content.bytes(box), None
        for y0 in range(box.y0, box.y1, _ROWS):
            rows = PixelBox(box.x0, y0, box.x1, min(y0 + _ROWS, box.y1))
            is_lit = ~np.logical_and.reduce([cast.is_empty(rows) for cast in self._casts])
            turns = np.flatnonzero(np.diff(is_lit, prepend=False, append=False)).tolist()
            for x0, x1 in zip(turns[::2], turns[1::2], strict=True):
                made = plain.copy() if made is None else made
                part = PixelBox(box.x0 + x0, rows.y0, box.x0 + x1, rows.y1)
                added = None if self._added is None else self._added.band(part)
                multiplied_by(
                    view_of(made, box, part), view_of(plain, box, part), self._factors.band(part), added
                )
        return plain if made is None else made
