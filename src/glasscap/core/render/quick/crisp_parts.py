"""The parts of a crisp body, and the sums for its few pixels that need some."""

from collections.abc import Mapping, Sequence
from functools import reduce

import cv2
import numpy as np
from msgspec import Struct

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, Planar, Plane
from glasscap.core.raster.planar import Writing, premultiplied_bytes, weighted_planes
from glasscap.core.raster.row_spans import RowSpans, no_spans
from glasscap.core.raster.words import Words, one_long_row, picked, words
from glasscap.core.render.light.bevel import BevelPlanes, LightInBox
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.paint.content import PaintPart, PhotoPart
from glasscap.core.render.paint.strokes import StrokePaint
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.quick.lit_content import LitContent
from glasscap.core.render.shares.shares import Weights

# Rounding aside, the alpha of a pixel that hides all beneath it.
_OPAQUE = 254.999


class CrispParts(Struct, frozen=True, eq=False):
    """Opaque content in strokes (by their numbers), in the light of a bevel, over shadows and glows."""

    weights: Weights
    content: PhotoPart | PaintPart | LitContent
    strokes: Sequence[StrokePaint]
    casts: Sequence[Cast]
    bevel: BevelPlanes | None = None

    def cast_spans(self, box: PixelBox) -> RowSpans:
        """Return the columns of each row of a box in which shadows and glows lie; their blurs are wide."""
        return reduce(RowSpans.with_, (cast.spans(box) for cast in self.casts), no_spans(box.height))

    def write_columns_beneath(
        self, out: Bytes, box: PixelBox, columns: tuple[int, int], writing: Writing
    ) -> None:
        """Write what lies beneath in some columns of a box (first, after the last); there may be none."""
        x0, x1 = columns
        span = PixelBox(x0, box.y0, x1, box.y1)
        if not span.is_empty:
            self.write_beneath(out[:, x0 - box.x0 : x1 - box.x0], span, writing)

    def write_beneath(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write shadows and glows, the topmost first, as though nothing else lay there."""
        if len(self.casts) == 1:
            self.casts[0].write(out, box, 1.0, writing)
        elif self.casts:
            planes = np.zeros((4, *out.shape[:2]), np.float32)
            nothing = np.zeros(out.shape[:2], np.float32)
            for cast in self.casts:
                cast.lay_beneath(planes, cast.plane(box), nothing)
            out[:] = writing.planes(planes)

    def write_cells(
        self,
        out: Bytes,
        content: Bytes,
        places: Ints,
        values: Mapping[OffsetKey, Plane],
        box: PixelBox,
        writing: Writing,
        lit: LightInBox | None = None,
    ) -> None:
        """Compute the pixels of a box through which an outline passes, and those in the light of a bevel.

        `places` are their numbers, row by row; `values` each outline's coverage of them, shape (1, n).
        """
        y = places // box.width
        x = places - y * box.width
        shares = self.weights.at(values, y, x, box)
        pixels = picked(words(content), y, x).view(np.uint8).reshape(1, -1, 4)
        planes = weighted_planes(pixels, shares.content)
        for number, share in shares.strokes.items():
            self.strokes[number].add_at(planes, share, y + box.y0, x + box.x0)
        if lit is not None:
            lit.lay_at(planes, places)
        self._lay_casts(planes, y, x, box)
        to, step = one_long_row(words(out))
        to[y * step + x] = words(writing.planes(planes))[0]

    def beneath_strokes(self, pixels: Words, y: Ints, x: Ints, shares: Mapping[int, Plane]) -> Words:
        """Return premultiplied pixels, shape (n,), with strokes laid over: their shares, shape (1, n).

        `y` and `x` are the pixels' rows and columns.
        """
        seen = 1 - np.asarray(sum(shares.values()), np.float32)
        planes = np.empty((4, *seen.shape), np.float32)
        for plane, channel in zip(planes, cv2.split(pixels.view(np.uint8).reshape(1, -1, 4)), strict=True):
            cv2.multiply(channel, seen, dst=plane, dtype=cv2.CV_32F)
        for number, share in shares.items():
            self.strokes[number].add_at(planes, share, y, x)
        return words(premultiplied_bytes(planes)[0])

    def _lay_casts(self, planes: Planar, y: Ints, x: Ints, box: PixelBox) -> None:
        """Lay shadows and glows beneath single pixels, shape (4, 1, n), where the body leaves any room."""
        open_ = np.flatnonzero(planes[3, 0] < _OPAQUE)
        if len(open_) == 0 or not self.casts:
            return
        shown = planes.take(open_, axis=2)
        body_alpha = shown[3].copy()
        for cast in self.casts:
            cast.lay_beneath(shown, cast.at(y[open_], x[open_], box)[None], body_alpha)
        # Plane by plane is three times as quick as all at once.
        for plane, mixed in zip(planes, shown, strict=True):
            plane[0, open_] = mixed[0]
