"""Crisp bodies: runs of content and of solid strokes are copied; only where an outline passes is reckoned.

The same shares and the same sums as in `finished`, for the few pixels that need them.
"""

from collections.abc import Sequence
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.bands import OffsetKey
from glasscap.core.render.content import PaintPart, PhotoPart
from glasscap.core.render.crisp_rows import Colour, CrispRows, write_beneath
from glasscap.core.render.lights import Cast
from glasscap.core.render.paints import solid_colour
from glasscap.core.render.part import Part
from glasscap.core.render.planar import (
    Plane,
    Writing,
    add_colour,
    filled_with,
    once_each,
    weighted_planes,
    words,
)
from glasscap.core.render.weights import Weights

_OPAQUE = 255
Mask = NDArray[np.uint8]


class CrispBody:
    """Opaque content in opaque strokes of one colour each, over shadows and glows."""

    def __init__(
        self, weights: Weights, content: PhotoPart | PaintPart, colours: Sequence[Colour], casts: Sequence[Cast]
    ) -> None:
        self._weights, self._content, self._colours, self._casts = weights, content, colours, casts

    @cached_property
    def in_rows(self) -> CrispRows | None:
        """The same a run at a time, where that is quicker for whole rows."""
        rows = CrispRows(self._weights, self._content, self._colours, self._casts)
        return rows if rows.are_few else None

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros, uint8 of shape (box height, box width, 4))."""
        write_beneath(out, box, self._casts, writing)
        content = self._content.bytes(box)
        outlines = self._outlines(box)
        self._write_runs(out, content, outlines)
        self._write_cells(out, content, outlines, box, writing)

    def _outlines(self, box: PixelBox) -> "dict[OffsetKey, _Outline]":
        """Return the outlines from the innermost outwards."""
        keys = [self._weights.innermost, *(band.outer for band in self._weights.bands)]
        return {key: _Outline(self._weights.coverage(key), box) for key in keys}

    def _write_runs(self, out: Bytes, content: Bytes, outlines: "dict[OffsetKey, _Outline]") -> None:
        cv2.copyTo(content, outlines[self._weights.innermost].filled, out)
        for band in self._weights.bands:
            if not (band.strokes or band.is_inside):
                continue
            between = cv2.subtract(outlines[band.outer].filled, outlines[band.inner].touched)
            shown = content
            if band.strokes:
                shown = filled_with(self._colours[band.strokes[0]], out.shape[:2])
            cv2.copyTo(shown, between, out)

    def _write_cells(
        self,
        out: Bytes,
        content: Bytes,
        outlines: "dict[OffsetKey, _Outline]",
        box: PixelBox,
        writing: Writing,
    ) -> None:
        """Compute the pixels through which an outline passes."""
        places = once_each(np.concatenate([o.places for o in outlines.values()]))
        if len(places) == 0:
            return
        y, x = np.divmod(places, box.width)
        values = {key: outline.at(places)[None] for key, outline in outlines.items()}
        shares = self._weights.partition(values.__getitem__, box)
        planes = weighted_planes(words(content)[y, x].view(np.uint8).reshape(1, -1, 4), shares.content)
        for number, share in shares.strokes.items():
            add_colour(planes, share, self._colours[number])
        body_alpha = planes[3].copy()
        for cast in self._casts:
            cast.lay_beneath(planes, cast.plane(box)[y, x][None], body_alpha)
        words(out)[y, x] = words(writing.planes(planes))[0]


class _Outline:
    """One outline's coverage of a box.

    `filled` and `touched` are 1 where a pixel is covered wholly and at all, `places` the numbers of those
    covered in part, row by row.
    """

    def __init__(self, coverage: Coverage, box: PixelBox) -> None:
        y, x, self._values = coverage.cells_in(box)
        self.filled: Mask = coverage.filled(box)
        self.touched: Mask = self.filled.copy()
        self.touched[y, x] = 1
        self.places = y * box.width + x

    def at(self, places: NDArray[np.int64]) -> Plane:
        """Return the coverage of pixels, among them all it covers in part; float32."""
        out = self.filled.ravel()[places].astype(np.float32)
        out[np.searchsorted(places, self.places)] = self._values
        return out


def crisp_body(
    part: Part, weights: Weights, content: PhotoPart | PaintPart, casts: Sequence[Cast]
) -> CrispBody | None:
    """Return a part's body as a crisp one, or None where it is more than that."""
    colours = [solid_colour(stroke.paint) for stroke in part.finishes.strokes]
    solid = [colour for colour in colours if colour is not None and colour[3] == _OPAQUE]
    is_crisp = (
        weights.is_crisp
        and content.is_opaque
        and part.opacity == 1
        and part.mount is None
        and part.lights.bevel is None
        and not any(cast.is_inner for cast in casts)
        and len(solid) == len(colours)
        and all(stroke.opacity == 1 for stroke in part.finishes.strokes)
    )
    return CrispBody(weights, content, solid, casts) if is_crisp else None
