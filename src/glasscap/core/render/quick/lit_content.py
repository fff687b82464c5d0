"""For the screen: opaque content under its inner shadows and glows."""

import math
from collections.abc import Sequence
from functools import cached_property

import cv2
import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.gaussian import SoftPlane
from glasscap.core.raster.pixels import Bytes, Plane, view_of
from glasscap.core.raster.planar import Multiply
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.paint.content import PaintPart, PhotoPart

# On smaller cells (px) single pixels are as soon reckoned.
_SMALLEST = 2
# Rows in which is told together where there is light.
_ROWS = 96


class LitContent:
    """The pixels of content that is shaded and lit from its edge inwards."""

    copied: PixelBox | None = None
    is_opaque = True

    def __init__(
        self, content: PhotoPart | PaintPart, casts: Sequence[Cast], shown: PixelBox, multiply: Multiply
    ) -> None:
        """Take opaque content under inner casts, the first of them lowest; beyond `shown` it is not seen."""
        self._content, self._casts, self._multiply = content, casts, multiply
        self._k = min(cast.k for cast in casts)
        self._cells = shown.in_cells(self._k)

    @cached_property
    def _on_cells(self) -> tuple[SoftPlane, SoftPlane | None]:
        """The factor and the addend of the pixels, on the cells of the narrowest blur."""
        left, added = self._mixed([cast.on_cells(self._cells, self._k) for cast in self._casts])
        # There are few cells: enlarged they are of as many channels as pixels.
        factors = np.asarray(cv2.merge([left, left, left, np.ones_like(left)]), np.float32)
        spanned = self._cells.times(self._k)
        lit = None if added is None else SoftPlane(added, spanned, self._k)
        return SoftPlane(factors, spanned, self._k), lit

    def _mixed(self, shares: Sequence[Plane]) -> tuple[Plane, Plane | None]:
        """Return what colours are multiplied by, and what is added to each channel, by what is seen of casts."""
        rests = [1 - share for share in shares]
        left = np.asarray(math.prod(rests[1:], start=rests[0]), np.float32)
        if not any(level for cast in self._casts for level in cast.colour):
            return left, None
        light = [np.zeros_like(left) for _ in range(3)]
        for cast, share, rest in zip(self._casts, shares, rests, strict=True):
            for plane, level in zip(light, cast.colour, strict=True):
                plane *= rest
                plane += share * np.float32(level)
        return left, np.asarray(cv2.merge([*light, np.zeros_like(left)]), np.float32)

    def _sums(self, part: PixelBox) -> tuple[Plane, Plane | None]:
        if self._k < _SMALLEST:
            return self._mixed([cast.plane(part) for cast in self._casts])
        factors, added = self._on_cells
        return factors.band(part), None if added is None else added.band(part)

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
                self._multiply(view_of(made, box, part), view_of(plain, box, part), *self._sums(part))
        return plain if made is None else made
