"""Bodies whose content fades, of few runs a row: that is composed, the rest copied, strokes laid over it.

Within what fades lies the content's core, which does not; of a hole there the hole is, and content all around.
"""

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, view_of
from glasscap.core.raster.planar import Writing, weighted_planes
from glasscap.core.raster.row_spans import RowTable
from glasscap.core.raster.words import words
from glasscap.core.render.quick.crisp_parts import CrispParts
from glasscap.core.render.quick.row_outlines import RowOutlines
from glasscap.core.render.quick.shaded_rows import shaded_rows
from glasscap.core.render.shares.feather import Fading

# Px at both ends of a row or column in which an upright border may lie, together.
_BORDER = 4


class FadingRows:
    """Content with a wide feather beneath crisp strokes; its shadows and glows are of wide blur too."""

    def __init__(self, parts: CrispParts, outlines: RowOutlines, fading: Fading) -> None:
        self._parts, self._outlines, self._fading = parts, outlines, fading

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros, uint8 of shape (box height, box width, 4))."""
        if self._ends_upright(box):
            # Pixels at the end of the content are written in whole strips.
            for filled in self._write_framed(out, box, box.x0, box.x1, writing):
                self._write_soft_and_core(view_of(out, box, filled), filled, writing)
        else:
            self._write_soft_and_core(out, box, writing)
        hull = self._outlines.hull(box)
        if hull.is_empty or not (self._parts.weights.bands or self._parts.bevel):
            return
        here = view_of(out, box, hull)
        if self._is_laid_over and not writing.is_straight:
            self._outlines.lay_over(here, hull)
            return
        self._outlines.fill_strokes(here, hull)
        self._outlines.write_cells(here, self._parts.content.bytes(hull), hull, writing)

    def _ends_upright(self, box: PixelBox) -> bool:
        """Whether a box holds a hole, and its content ends along the pixels' rows and columns."""
        content = self._fading.content_box(box)
        filled = self._fading.filled_box(content)
        framed = content.width * content.height - filled.width * filled.height
        return self._fading.is_hole and framed <= _BORDER * (content.width + content.height)

    def _write_soft_and_core(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write all as though there were no strokes."""
        for rows, columns in shaded_rows(box, self._columns(box)):
            here = view_of(out, box, rows)
            self._write_soft(here, rows, columns, writing)
            if self._fading.is_hole:
                self._copy_around(here, rows, columns, writing)
            else:
                self._copy(here, rows, rows._replace(x0=columns.first, x1=columns.end))

    @property
    def _is_laid_over(self) -> bool:
        """Whether strokes may be laid over bytes: these are exact enough, and strokes change nothing of them."""
        parts = self._parts
        is_simple = (
            parts.weights.has_opaque_paints
            and parts.bevel is None
            and not any(c.is_clear_beneath for c in parts.casts)
        )
        return parts.weights.are_for_screen and is_simple

    def _columns(self, box: PixelBox) -> Callable[[PixelBox], "_Columns"]:
        """Return what tells of some rows of a box where things lie."""
        seen = (self._parts.cast_spans(box), self._fading.spans(box))
        table = RowTable(box, seen, (self._fading.core_spans(box),))

        def of(rows: PixelBox) -> _Columns:
            (left, right), (low, high), (first, end) = table.of(rows)
            first, end = (first, end) if low <= first < end <= high else (high, high)
            return _Columns(left, low, first, end, high, right)

        return of

    def _write_soft(self, out: Bytes, box: PixelBox, columns: "_Columns", writing: Writing) -> None:
        """Write all but what does not fade as though there were no strokes."""
        left, low, first, end, high, right = columns
        for x0, x1 in ((low, first), (end, high)):
            self._compose(out, box, x0, x1, writing)
        before = min(low, right)
        bare = [(left, before), (max(high, left, before), right)]
        if self._fading.is_hole:
            bare = [(max(first, left), min(end, right))]
        for beneath in bare:
            self._parts.write_columns_beneath(out, box, beneath, writing)

    def _copy_around(self, out: Bytes, box: PixelBox, columns: "_Columns", writing: Writing) -> None:
        """Write what lies around a hole and its fade."""
        for x0, x1 in ((box.x0, columns.low), (columns.high, box.x1)):
            for filled in self._write_framed(out, box, x0, x1, writing):
                self._copy(out, box, filled)

    def _copy(self, out: Bytes, box: PixelBox, part: PixelBox) -> None:
        if part.x0 < part.x1:
            np.copyto(words(view_of(out, box, part)), words(self._parts.content.bytes(part)))

    def _compose(self, out: Bytes, box: PixelBox, x0: int, x1: int, writing: Writing) -> None:
        """Write columns in which the content fades over what lies beneath."""
        for filled in self._write_framed(out, box, x0, x1, writing):
            self._sum(view_of(out, box, filled), filled, writing)

    def _write_framed(self, out: Bytes, box: PixelBox, x0: int, x1: int, writing: Writing) -> Iterator[PixelBox]:
        """Write those pixels of columns that the content does not fill, and return the box of all others."""
        if x0 >= x1:
            return
        span = PixelBox(x0, box.y0, x1, box.y1)
        if self._fading.is_filled(span):
            yield span
            return
        content = self._fading.content_box(span)
        filled = self._fading.filled_box(content)
        for beyond in span.less(content):
            self._parts.write_beneath(view_of(out, box, beyond), beyond, writing)
        for edge in content.less(filled):
            self._sum(view_of(out, box, edge), edge, writing)
        if not filled.is_empty:
            yield filled

    def _sum(self, out: Bytes, span: PixelBox, writing: Writing) -> None:
        """Write pixels of fading content over what lies beneath, each summed by itself."""
        parts = self._parts
        fade, content = self._fading.plane(span), parts.content.bytes(span)
        is_simple = len(parts.casts) == 1 and not parts.casts[0].is_clear_beneath
        if is_simple and self._fading.has_content(span):
            (cast,) = parts.casts
            writing.fade(out, content, fade, cast.undimmed(span), cast.opacity, cast.colour)
            return
        planes = weighted_planes(content, fade)
        body_alpha = planes[3].copy() if parts.casts else planes[3]
        for cast in parts.casts:
            cast.lay_beneath(planes, cast.plane(span), body_alpha)
        out[:] = writing.planes(np.asarray(planes))


class _Columns(NamedTuple):
    """Columns at which the shadow, the fade and the core begin, and at which each of these has ended."""

    left: int
    low: int
    first: int
    end: int
    high: int
    right: int

    @property
    def width(self) -> int:
        """The number of columns to be computed."""
        return max(self.first - self.low, 0) + max(self.high - self.end, 0)
