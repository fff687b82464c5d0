"""Area of a shape within each pixel, kept sparse: boundary pixels and runs of full ones."""

from functools import cached_property, reduce
from typing import TypeVar

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.row_spans import NOWHERE, RowSpans, no_spans

Number = TypeVar("Number", np.float32, np.uint8, np.bool_)


class Runs(Struct, frozen=True, eq=False):
    """Pixels x0 .. x1-1 of rows y; int64 arrays, shape (m,)."""

    y: Ints
    x0: Ints
    x1: Ints

    def plane(self, kind: type[Number], box: PixelBox) -> NDArray[Number]:
        """Return a plane of the shape of a box, 1 in runs counted from its corner, ascending, and 0 elsewhere."""
        first = self.y * box.width
        # The plane is one long row in which 0 and 1 take turns.
        turns = np.empty(2 * len(first) + 2, np.int64)
        turns[0], turns[-1] = 0, box.width * box.height
        turns[1:-1:2], turns[2:-1:2] = first + self.x0, first + self.x1
        values = np.zeros(len(turns) - 1, kind)
        values[1::2] = 1
        return np.repeat(values, np.diff(turns)).reshape(box.height, box.width)


class Coverage(Struct, frozen=True, eq=False, dict=True):
    """Boundary pixels and runs of full pixels, rows ascending, columns ascending within a row.

    Attributes
    ----------
    box : PixelBox
        The window it was made for; nothing outside is recorded.
    cell_y, cell_x : int64 arrays, shape (n,)
    cell_value : float64 array, shape (n,)
        Covered area of those pixels, strictly between 0 and 1.
    run_y, run_x0, run_x1 : int64 arrays, shape (m,)
        Fully covered pixels x0 .. x1-1 of row y.
    """

    box: PixelBox
    cell_y: Ints
    cell_x: Ints
    cell_value: Points
    run_y: Ints
    run_x0: Ints
    run_x1: Ints

    def __post_init__(self) -> None:
        for array in (self.cell_y, self.cell_x, self.cell_value, self.run_y, self.run_x0, self.run_x1):
            array.flags.writeable = False

    @property
    def area(self) -> float:
        """Covered area in px^2."""
        return float(self.cell_value.sum()) + float((self.run_x1 - self.run_x0).sum())

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return 24 * (len(self.cell_y) + len(self.run_y))

    @cached_property
    def _cell_rows(self) -> list[int]:
        return _row_starts(self.cell_y, self.box)

    @cached_property
    def _run_rows(self) -> list[int]:
        return _row_starts(self.run_y, self.box)

    def _cells_between(self, box: PixelBox) -> tuple[int, int]:
        """Return where the boundary pixels in the rows of a box start and end."""
        return (0, len(self.cell_y)) if self._is_within(box) else _between(self._cell_rows, box, self.box)

    def _runs_between(self, box: PixelBox) -> tuple[int, int]:
        """Return where the runs in the rows of a box start and end."""
        return (0, len(self.run_y)) if self._is_within(box) else _between(self._run_rows, box, self.box)

    def _is_within(self, box: PixelBox) -> bool:
        """Whether a box has all the rows there are."""
        return box.y0 <= self.bounds.y0 and box.y1 >= self.bounds.y1

    @cached_property
    def bounds(self) -> PixelBox:
        """The smallest box that holds all that is recorded; empty where nothing is."""
        found = [
            PixelBox(int(low.min()), int(rows[0]), int(high.max()) + more, int(rows[-1]) + 1)
            for rows, low, high, more in (
                (self.cell_y, self.cell_x, self.cell_x, 1),
                (self.run_y, self.run_x0, self.run_x1, 0),
            )
            if len(rows)
        ]
        return reduce(PixelBox.union, found, self.box._replace(y1=self.box.y0))

    def visible_box(self, threshold: float = 0.5 / 255) -> PixelBox:
        """Return the smallest box of pixels covered by at least `threshold`."""
        seen = self.cell_value >= threshold
        ys = np.concatenate([self.cell_y[seen], self.run_y])
        if len(ys) == 0:
            return PixelBox(self.box.x0, self.box.y0, self.box.x0, self.box.y0)
        low = np.concatenate([self.cell_x[seen], self.run_x0])
        high = np.concatenate([self.cell_x[seen] + 1, self.run_x1])
        return PixelBox(int(low.min()), int(ys.min()), int(high.max()), int(ys.max()) + 1)

    def at(self, ys: Ints, xs: Ints) -> Points:
        """Return the coverage of single pixels, shape (n,)."""
        wanted = self._keys(ys, xs)
        return self._cells_at(wanted) + self._runs_at(wanted)

    def _keys(self, ys: Ints, xs: Ints) -> Ints:
        return (ys - self.box.y0) * (self.box.width + 2) + (xs - self.box.x0)

    @cached_property
    def _cell_keys(self) -> Ints:
        return self._keys(self.cell_y, self.cell_x)

    @cached_property
    def _run_keys(self) -> tuple[Ints, Ints]:
        return self._keys(self.run_y, self.run_x0), self._keys(self.run_y, self.run_x1)

    def _cells_at(self, wanted: Ints) -> Points:
        if len(self.cell_y) == 0:
            return np.zeros(len(wanted))
        keys = self._cell_keys
        place = np.minimum(np.searchsorted(keys, wanted), len(keys) - 1)
        return np.where(keys[place] == wanted, self.cell_value[place], 0.0)

    def _runs_at(self, wanted: Ints) -> Points:
        if len(self.run_y) == 0:
            return np.zeros(len(wanted))
        starts, ends = self._run_keys
        place = np.searchsorted(starts, wanted, side="right") - 1
        return np.where((place >= 0) & (wanted < ends[np.maximum(place, 0)]), 1.0, 0.0)

    def dense(self) -> Points:
        """Return the full plane, float64 of shape (box height, box width)."""
        plane = np.zeros((self.box.height, self.box.width))
        step = np.zeros((self.box.height, self.box.width + 1))
        step[self.run_y - self.box.y0, self.run_x0 - self.box.x0] += 1
        np.subtract.at(step, (self.run_y - self.box.y0, self.run_x1 - self.box.x0), 1)
        plane += np.cumsum(step, axis=1)[:, :-1]
        plane[self.cell_y - self.box.y0, self.cell_x - self.box.x0] = self.cell_value
        return plane

    def plane(self, box: PixelBox) -> NDArray[np.float32]:
        """Return the part in a box as a full plane, float32 of the box's shape; 0 outside the window."""
        out = self._runs_as(np.float32, box)
        y, x, value = self.cells_in(box)
        out[y, x] = value
        return out

    def filled(self, box: PixelBox) -> NDArray[np.uint8]:
        """Return which pixels of a box are fully covered, 0 or 1, of the box's shape."""
        return self._runs_as(np.uint8, box)

    def cells_in(self, box: PixelBox) -> tuple[Ints, Ints, Points]:
        """Return the partly covered pixels of a box: rows and columns from its corner, and their areas."""
        c0, c1 = self._cells_between(box)
        y, x, value = self.cell_y[c0:c1], self.cell_x[c0:c1], self.cell_value[c0:c1]
        if self.bounds.x0 < box.x0 or self.bounds.x1 > box.x1:
            # Few of many are taken by their places sooner than by a mask.
            on = np.flatnonzero((x >= box.x0) & (x < box.x1))
            y, x, value = y[on], x[on], value[on]
        return y - box.y0, x - box.x0, value

    @cached_property
    def runs_per_row(self) -> float:
        """Runs in each row that has any, on average."""
        rows = 0 if len(self.run_y) == 0 else 1 + int(np.count_nonzero(np.diff(self.run_y)))
        return len(self.run_y) / max(rows, 1)

    def runs_in(self, box: PixelBox) -> Runs:
        """Return the full pixels of a box, counted from its corner."""
        r0, r1 = self._runs_between(box)
        y, x0, x1 = self.run_y[r0:r1], self.run_x0[r0:r1], self.run_x1[r0:r1]
        if self.bounds.x0 < box.x0 or self.bounds.x1 > box.x1:
            on = np.flatnonzero((x1 > box.x0) & (x0 < box.x1))
            y, x0, x1 = y[on], x0[on], x1[on]
        return Runs(y - box.y0, np.maximum(x0 - box.x0, 0), np.minimum(x1 - box.x0, box.width))

    def extent(self, box: PixelBox) -> tuple[int, int]:
        """Return the first touched column in a box's rows and the one after the last; (0, 0) if none is."""
        r0, r1 = self._runs_between(box)
        c0, c1 = self._cells_between(box)
        if r0 == r1 and c0 == c1:
            return 0, 0
        low = min(self.run_x0[r0:r1].min(initial=self.box.x1), self.cell_x[c0:c1].min(initial=self.box.x1))
        first = self.box.x0
        high = max(self.run_x1[r0:r1].max(initial=first), self.cell_x[c0:c1].max(initial=first - 1) + 1)
        return int(low), int(high)

    def touched_box(self, box: PixelBox) -> PixelBox:
        """Return the part of a box in which there may be anything."""
        if box.holds(self.bounds):
            return self.bounds
        first = min(_next_row(self.run_y, box.y0, box.y1), _next_row(self.cell_y, box.y0, box.y1))
        last = max(_row_before(self.run_y, box.y1, box.y0), _row_before(self.cell_y, box.y1, box.y0))
        low, high = self.extent(box)
        return PixelBox(max(low, box.x0), first, min(high, box.x1), last + 1)

    def full_columns(self, box: PixelBox) -> tuple[int, int]:
        """Return the first column that is full in every row of a box, and the one after the last.

        Where rows have more runs than one, or no column is full, both are the box's end.
        """
        r0, r1 = self._runs_between(box)
        rows = self.run_y[r0:r1]
        if r1 - r0 != box.height or not (rows[1:] > rows[:-1]).all():
            return box.x1, box.x1
        x0, x1 = int(self.run_x0[r0:r1].max()), int(self.run_x1[r0:r1].min())
        return (x0, x1) if x0 < x1 else (box.x1, box.x1)

    def full_spans(self, box: PixelBox) -> RowSpans:
        """Return the full columns of the rows of a box, whatever its own; none where a row has several runs."""
        r0, r1 = self._runs_between(box)
        rows, spans = self.run_y[r0:r1] - box.y0, no_spans(box.height)
        spans.edges[0, rows], spans.edges[1, rows] = self.run_x0[r0:r1], -self.run_x1[r0:r1]
        if not (rows[1:] > rows[:-1]).all():
            spans.edges[:, np.bincount(rows, minlength=box.height) > 1] = NOWHERE
        return spans

    def full_box(self, box: PixelBox) -> PixelBox:
        """Return a full part of a box: whole rows of it, else the columns that all rows have which have any.

        Empty where there is none of either, or not all rows are side by side.
        """
        r0, r1 = self._runs_between(box)
        rows, x0, x1 = self.run_y[r0:r1], self.run_x0[r0:r1], self.run_x1[r0:r1]
        across = np.flatnonzero((x0 <= box.x0) & (x1 >= box.x1))
        if len(across):
            rows, x0, x1 = rows[across], x0[across], x1[across]
        if len(rows) == 0 or rows[-1] - rows[0] + 1 != len(rows):
            return box._replace(y1=box.y0)
        left, right = max(int(x0.max()), box.x0), min(int(x1.min()), box.x1)
        return PixelBox(left, int(rows[0]), right, int(rows[-1]) + 1)

    @cached_property
    def full_part(self) -> PixelBox:
        """The `full_box` of the window."""
        return self.full_box(self.box)

    def _runs_as(self, kind: type[Number], box: PixelBox) -> NDArray[Number]:
        """Return a plane of 1 in full pixels and 0 elsewhere."""
        return self.runs_in(box).plane(kind, box)

    def columns(self, box: PixelBox) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        """Return which columns of a box are full, and which are untouched, in every row; shape (width,)."""
        r0, r1 = self._runs_between(box)
        c0, c1 = self._cells_between(box)
        rows = self.run_y[r0:r1]
        if r1 - r0 == box.height and (rows[1:] > rows[:-1]).all():
            return self._columns_of_single_runs(box, slice(r0, r1), slice(c0, c1))
        x0 = np.minimum(np.maximum(self.run_x0[r0:r1] - box.x0, 0), box.width)
        x1 = np.minimum(np.maximum(self.run_x1[r0:r1] - box.x0, 0), box.width)
        counts = np.bincount(x0, minlength=box.width + 1) - np.bincount(x1, minlength=box.width + 1)
        full = np.cumsum(counts)[:-1]
        x = self.cell_x[c0:c1] - box.x0
        x = x[(x >= 0) & (x < box.width)]
        partial = np.bincount(x, minlength=box.width)[: box.width]
        return full == box.height, (full == 0) & (partial == 0)

    def _columns_of_single_runs(
        self, box: PixelBox, runs: slice, cells: slice
    ) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        """Do the same where every row has one run; what lies between two touched columns counts as touched."""
        x0, x1, x = self.run_x0[runs], self.run_x1[runs], self.cell_x[cells]
        low, high = min(x0.min(), x.min(initial=box.x1)), max(x1.max(), x.max(initial=box.x0 - 1) + 1)
        full, untouched = np.zeros(box.width, np.bool_), np.ones(box.width, np.bool_)
        full[max(x0.max() - box.x0, 0) : max(x1.min() - box.x0, 0)] = True
        untouched[max(low - box.x0, 0) : max(high - box.x0, 0)] = False
        return full, untouched

    def levels(self) -> tuple[NDArray[np.uint8], PixelBox]:
        """Return coverage as bytes (0 to 255, round half up) in the smallest box that holds it."""
        box = self.visible_box()
        plane = np.zeros((box.height, box.width), np.uint8)
        rows, starts, ends = self.run_y - box.y0, self.run_x0 - box.x0, self.run_x1 - box.x0
        for row, start, end in zip(rows.tolist(), starts.tolist(), ends.tolist(), strict=True):
            plane[row, start:end] = 255
        seen = self.cell_value >= 0.5 / 255
        values = np.floor(self.cell_value[seen] * 255 + 0.5)
        plane[self.cell_y[seen] - box.y0, self.cell_x[seen] - box.x0] = values
        return plane, box

    def rows(self, y0: int, y1: int) -> "Coverage":
        """Return the part in rows y0 .. y1-1."""
        box = PixelBox(self.box.x0, y0, self.box.x1, y1)
        c0, c1 = self._cells_between(box)
        r0, r1 = self._runs_between(box)
        cells = (self.cell_y[c0:c1], self.cell_x[c0:c1], self.cell_value[c0:c1])
        return Coverage(box, *cells, self.run_y[r0:r1], self.run_x0[r0:r1], self.run_x1[r0:r1])


def _next_row(rows: Ints, start: int, end: int) -> int:
    """Return the first of ascending rows that is not before `start`; at most `end`."""
    place = int(np.searchsorted(rows, start))
    return min(int(rows[place]), end) if place < len(rows) else end


def _row_before(rows: Ints, end: int, start: int) -> int:
    """Return the last of ascending rows before `end`; at least the one before `start`."""
    place = int(np.searchsorted(rows, end))
    return max(int(rows[place - 1]), start - 1) if place else start - 1


def _row_starts(rows: Ints, box: PixelBox) -> list[int]:
    """Return for each row of a box, and the one after it, how many of the ascending `rows` come before."""
    counts = np.bincount(rows - box.y0, minlength=box.height)
    return [0, *np.cumsum(counts).tolist()]


def _between(starts: list[int], box: PixelBox, whole: PixelBox) -> tuple[int, int]:
    """Return where the rows of `box` start and end, `starts` being those of `whole`."""
    last = len(starts) - 1
    return starts[min(max(box.y0 - whole.y0, 0), last)], starts[min(max(box.y1 - whole.y0, 0), last)]


def expanded(y: Ints, x0: Ints, x1: Ints) -> tuple[Ints, Ints]:
    """Return the single pixels (ys, xs) of runs."""
    counts = x1 - x0
    return np.repeat(y, counts), np.repeat(x0, counts) + numbers_within(counts)
