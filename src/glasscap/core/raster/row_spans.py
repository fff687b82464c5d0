"""The columns of each row in which something lies, one span a row; and what some rows have together."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox

# Both edges of a span that has no columns.
NOWHERE = 1 << 40


class RowSpans(Struct, frozen=True, eq=False):
    """Columns of some rows: int64 array, shape (2, rows).

    Of each row the first column, and the one after the last with its sign turned: so the lesser is further out at
    both ends.
    """

    edges: Ints

    @property
    def starts(self) -> Ints:
        """The first columns, shape (rows,)."""
        starts: Ints = self.edges[0]
        return starts

    @property
    def ends(self) -> Ints:
        """The columns after the last ones, shape (rows,); less than the first where there are none."""
        ends: Ints = -self.edges[1]
        return ends

    def with_(self, other: "RowSpans") -> "RowSpans":
        """Return the spans from where the first of both starts to where the last ends."""
        return RowSpans(np.minimum(self.edges, other.edges))

    def within(self, other: "RowSpans") -> "RowSpans":
        """Return what both have."""
        return RowSpans(np.maximum(self.edges, other.edges))


def no_spans(rows: int) -> RowSpans:
    """Return spans without columns."""
    return RowSpans(np.full((2, rows), NOWHERE))


class RowTable:
    """Spans of the rows of a box, of which is asked what some rows have together."""

    def __init__(self, box: PixelBox, seen: Sequence[RowSpans], filled: Sequence[RowSpans]) -> None:
        """Take spans `seen`, of which columns count that lie in any row, and `filled`: those that lie in all."""
        self._y0 = box.y0
        self._signs = [1] * len(seen) + [-1] * len(filled)
        # The least of all these counts.
        self._edges = np.concatenate([*(s.edges for s in seen), *(-s.edges for s in filled)])

    def of(self, rows: PixelBox) -> list[tuple[int, int]]:
        """Return the first column and the one after the last of each spans in some rows, within their columns.

        Where there are none both are the rows' end.
        """
        least = self._edges[:, rows.y0 - self._y0 : rows.y1 - self._y0].min(axis=1).tolist()
        found = []
        for sign, start, end in zip(self._signs, least[::2], least[1::2], strict=True):
            first, last = max(sign * start, rows.x0), min(-sign * end, rows.x1)
            found.append((first, last) if first < last else (rows.x1, rows.x1))
        return found
