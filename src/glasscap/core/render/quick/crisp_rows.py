"""Crisp bodies of few runs a row, written a run at a time: no masks, and shadows only where they may be seen."""

from collections.abc import Callable
from typing import NamedTuple

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, view_of
from glasscap.core.raster.planar import Writing
from glasscap.core.raster.row_spans import RowTable
from glasscap.core.render.quick.crisp_parts import CrispParts
from glasscap.core.render.quick.row_outlines import RowOutlines
from glasscap.core.render.quick.shaded_rows import shaded_rows


class CrispRows:
    """A crisp body whose shadows and glows are of wide blur."""

    def __init__(self, parts: CrispParts, outlines: RowOutlines) -> None:
        self._parts, self._outlines = parts, outlines

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros, uint8 of shape (box height, box width, 4))."""
        for rows, spans in shaded_rows(box, self._shaded(box)) if self._parts.casts else ():
            for columns in spans:
                self._parts.write_columns_beneath(view_of(out, box, rows), rows, columns, writing)
        hull = self._outlines.hull(box)
        if hull.is_empty:
            return
        here, content = view_of(out, box, hull), self._parts.content.bytes(hull)
        self._outlines.write_runs(here, content, hull)
        self._outlines.write_cells(here, content, hull, writing)

    def _shaded(self, box: PixelBox) -> Callable[[PixelBox], "_Shaded"]:
        """Return what tells of some rows of a box where what lies beneath is seen.

        That is in all columns but those that the body fills from top to bottom.
        """
        table = RowTable(box, (self._parts.cast_spans(box),), (self._outlines.opaque.full_spans(box),))

        def of(rows: PixelBox) -> _Shaded:
            (left, right), (first, end) = table.of(rows)
            return _Shaded((left, min(first, right)), (max(end, left), right))

        return of


class _Shaded(NamedTuple):
    """Columns to the left of the body and to its right: first, and after the last."""

    before: tuple[int, int]
    after: tuple[int, int]

    @property
    def width(self) -> int:
        """The number of columns."""
        return sum(max(x1 - x0, 0) for x0, x1 in self)
