"""Exact area of polygons within each pixel, kept sparse.

Signed-area accumulation (as used by scan converters since Wylie et al. 1967; no sampling): every edge is
cut where it crosses a pixel line; each piece adds its height to all pixels right of it and the area beside
it to its own pixel. Pixel (row y, column x) is the square [x, x+1) x [y, y+1).
"""

from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox

Ints = NDArray[np.int64]
Number = TypeVar("Number", np.float32, np.uint8)

_FULL = 1.0 - 1e-9
_EMPTY = 1e-9


@dataclass(frozen=True, eq=False)
class Coverage:
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
        return self._cells_at(ys, xs) + self._runs_at(ys, xs)

    def _keys(self, ys: Ints, xs: Ints) -> Ints:
        return (ys - self.box.y0) * (self.box.width + 2) + (xs - self.box.x0)

    def _cells_at(self, ys: Ints, xs: Ints) -> Points:
        if len(self.cell_y) == 0:
            return np.zeros(len(ys))
        keys, wanted = self._keys(self.cell_y, self.cell_x), self._keys(ys, xs)
        place = np.minimum(np.searchsorted(keys, wanted), len(keys) - 1)
        return np.where(keys[place] == wanted, self.cell_value[place], 0.0)

    def _runs_at(self, ys: Ints, xs: Ints) -> Points:
        if len(self.run_y) == 0:
            return np.zeros(len(ys))
        wanted = self._keys(ys, xs)
        place = np.searchsorted(self._keys(self.run_y, self.run_x0), wanted, side="right") - 1
        ends = self._keys(self.run_y, self.run_x1)
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
        c0, c1 = np.searchsorted(self.cell_y, (box.y0, box.y1))
        y, x, value = self.cell_y[c0:c1] - box.y0, self.cell_x[c0:c1] - box.x0, self.cell_value[c0:c1]
        if self.box.x0 < box.x0 or self.box.x1 > box.x1:
            on = (x >= 0) & (x < box.width)
            y, x, value = y[on], x[on], value[on]
        return y, x, value

    def _runs_as(self, kind: type[Number], box: PixelBox) -> NDArray[Number]:
        """Return a plane of 1 in full pixels and 0 elsewhere."""
        r0, r1 = np.searchsorted(self.run_y, (box.y0, box.y1))
        x0 = np.minimum(np.maximum(self.run_x0[r0:r1] - box.x0, 0), box.width)
        x1 = np.minimum(np.maximum(self.run_x1[r0:r1] - box.x0, 0), box.width)
        first = (self.run_y[r0:r1] - box.y0) * box.width
        # The plane is one long row in which 0 and 1 take turns.
        turns = np.empty(2 * len(first) + 2, np.int64)
        turns[0], turns[-1] = 0, box.width * box.height
        turns[1:-1:2], turns[2:-1:2] = first + x0, first + x1
        values = np.zeros(len(turns) - 1, kind)
        values[1::2] = 1
        return np.repeat(values, np.diff(turns)).reshape(box.height, box.width)

    def columns(self, box: PixelBox) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        """Return which columns of a box are full, and which are untouched, in every row; shape (width,)."""
        r0, r1 = np.searchsorted(self.run_y, (box.y0, box.y1))
        c0, c1 = np.searchsorted(self.cell_y, (box.y0, box.y1))
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
        c0, c1 = np.searchsorted(self.cell_y, (y0, y1))
        r0, r1 = np.searchsorted(self.run_y, (y0, y1))
        box = PixelBox(self.box.x0, y0, self.box.x1, y1)
        cells = (self.cell_y[c0:c1], self.cell_x[c0:c1], self.cell_value[c0:c1])
        return Coverage(box, *cells, self.run_y[r0:r1], self.run_x0[r0:r1], self.run_x1[r0:r1])


def expanded(y: Ints, x0: Ints, x1: Ints) -> tuple[Ints, Ints]:
    """Return the single pixels (ys, xs) of runs."""
    counts = x1 - x0
    offset = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    return np.repeat(y, counts), np.repeat(x0, counts) + offset


def cover(polygons: tuple[Points, ...], box: PixelBox) -> Coverage:
    """Compute the exact coverage of polygons by pixels of a window.

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
        Closed, in pixels. Contours do not overlap one another, holes are wound the other way
        (normalise first where that is not known).
    box : PixelBox
        The window.

    Returns
    -------
    Coverage
    """
    edges = _edges_in_window(polygons, box)
    if box.is_empty or len(edges) == 0:
        return _no_coverage(box)
    keys, area, height = _cell_sums(*_pieces(edges), box)
    return _sweep(keys, area, height, box)


def _no_coverage(box: PixelBox) -> Coverage:
    none = np.zeros(0, np.int64)
    return Coverage(box, none, none.copy(), np.zeros(0), none.copy(), none.copy(), none.copy())


def _edges_in_window(polygons: tuple[Points, ...], box: PixelBox) -> Points:
    """Return edges (x0, y0, x1, y1) relative to the box, cut to its rows; those left of it pushed to x = 0."""
    starts = [p for p in polygons if len(p) >= 3]
    if not starts:
        return np.zeros((0, 4))
    edges = np.empty((sum(len(p) for p in starts), 4))
    first = 0
    for p in starts:
        end = first + len(p)
        edges[first:end, :2] = p
        edges[first : end - 1, 2:] = p[1:]
        edges[end - 1, 2:] = p[0]
        first = end
    edges -= np.array([box.x0, box.y0, box.x0, box.y0], float)
    edges = _cut_rows(edges[edges[:, 1] != edges[:, 3]], box.height)
    return _cut_left(edges[(edges[:, 0] < box.width) | (edges[:, 2] < box.width)])


def _cut_rows(edges: Points, height: int) -> Points:
    low, high = np.minimum(edges[:, 1], edges[:, 3]), np.maximum(edges[:, 1], edges[:, 3])
    edges, low, high = (a[(high > 0) & (low < height)] for a in (edges, low, high))
    crossing = (low < 0) | (high > height)
    if crossing.any():
        x0, y0, x1, y1 = edges[crossing].T
        slope = (x1 - x0) / (y1 - y0)
        top, bottom = np.clip(y0, 0, height), np.clip(y1, 0, height)
        edges[crossing] = np.stack([x0 + (top - y0) * slope, top, x0 + (bottom - y0) * slope, bottom], axis=1)
    return np.asarray(edges[edges[:, 1] != edges[:, 3]])


def _cut_left(edges: Points) -> Points:
    """Replace what lies left of x = 0 by the same heights at x = 0."""
    left = (edges[:, 0] < 0) & (edges[:, 2] < 0)
    edges[left, 0] = edges[left, 2] = 0.0
    mixed = (edges[:, 0] < 0) | (edges[:, 2] < 0)
    if not mixed.any():
        return edges
    x0, y0, x1, y1 = edges[mixed].T
    y_cut = y0 + (y1 - y0) * (x0 / (x0 - x1))
    zero = np.zeros_like(x0)
    starts_left = x0 < 0
    outer = np.where(starts_left, np.stack([zero, y0, zero, y_cut]), np.stack([zero, y_cut, zero, y1])).T
    inner = np.where(starts_left, np.stack([zero, y_cut, x1, y1]), np.stack([x0, y0, zero, y_cut])).T
    cut = np.concatenate([edges[~mixed], outer, inner])
    return np.asarray(cut[cut[:, 1] != cut[:, 3]])


def _pieces(edges: Points) -> tuple[Points, Points, Points]:
    """Cut edges at every pixel line; return the middle x, middle y and height of each piece."""
    x0, y0, x1, y1 = np.ascontiguousarray(edges.T)
    count = len(edges)
    whole = np.arange(count, dtype=float)
    # The last t that still belongs to an edge when its number is added, however many edges there are.
    most = 1.0 - 2 * float(np.spacing(float(count)))
    keys = np.concatenate([whole, _crossings(x0, x1, most), _crossings(y0, y1, most), whole + most])
    keys.sort()
    edge = keys.astype(np.int64)
    t = keys - edge
    is_last = np.empty(len(edge), bool)
    np.not_equal(edge[1:], edge[:-1], out=is_last[:-1])
    is_last[-1] = True
    # The true end point, so that neighbouring edges share theirs exactly.
    t[is_last] = 1.0
    x = x0.take(edge) + t * (x1 - x0).take(edge)
    y = y0.take(edge) + t * (y1 - y0).take(edge)
    inner = ~is_last[:-1]
    height = y[1:] - y[:-1]
    inner &= height != 0
    return ((x[:-1] + x[1:]) / 2)[inner], ((y[:-1] + y[1:]) / 2)[inner], height[inner]


def _crossings(start: Points, end: Points, most: float) -> Points:
    """Return edge number + t (at most `most`, below 1) wherever the coordinate passes a whole number."""
    first = np.floor(np.minimum(start, end)) + 1
    counts = np.maximum(np.ceil(np.maximum(start, end)) - first, 0).astype(np.int64)
    index = np.repeat(np.arange(len(start)), counts)
    if len(index) == 0:
        return np.zeros(0)
    place = np.arange(len(index)) - (np.cumsum(counts) - counts).take(index)
    t = (first.take(index) + place - start.take(index)) / (end - start).take(index)
    return np.asarray(index + np.minimum(t, most))


def _cell_sums(x_mid: Points, y_mid: Points, height: Points, box: PixelBox) -> tuple[Ints, Points, Points]:
    """Sum area and height of pieces per pixel; return sorted keys, areas, heights."""
    if x_mid.max(initial=0.0) >= box.width:
        inside = x_mid < box.width
        x_mid, y_mid, height = x_mid[inside], y_mid[inside], height[inside]
    column = np.floor(x_mid)
    row = np.clip(np.floor(y_mid), 0, box.height - 1)
    area = height * (1.0 + column - x_mid)
    keys = (row * (box.width + 1) + column).astype(np.int64)
    if len(keys) == 0:
        return keys, area, height
    order = np.argsort(keys)
    keys = keys.take(order)
    is_first = np.empty(len(keys), bool)
    is_first[0] = True
    np.not_equal(keys[1:], keys[:-1], out=is_first[1:])
    first = np.flatnonzero(is_first)
    areas, heights = np.add.reduceat(area.take(order), first), np.add.reduceat(height.take(order), first)
    return keys[first], areas, heights


def _sweep(keys: Ints, area: Points, height: Points, box: PixelBox) -> Coverage:
    """Sum heights along rows: cells from what came before plus their own area, runs in the gaps."""
    if len(keys) == 0:
        return _no_coverage(box)
    stride = box.width + 1
    row = keys // stride
    column = keys - row * stride
    total = np.cumsum(height)
    starts = np.flatnonzero(np.concatenate([[True], row[1:] != row[:-1]]))
    before_row = np.concatenate([[0.0], total[:-1]])[starts]
    lengths = np.diff(np.concatenate([starts, [len(keys)]]))
    after = total - np.repeat(before_row, lengths)
    value = np.minimum(np.abs(after - height + area), 1.0)
    next_column = np.concatenate([column[1:], [box.width]])
    next_column[starts[1:] - 1] = box.width
    gap = np.minimum(np.abs(after), 1.0)
    return _sparse(_Swept(row, column, value, next_column, gap), box)


@dataclass(frozen=True, eq=False)
class _Swept:
    row: Ints
    column: Ints
    value: Points
    next_column: Ints
    gap: Points


def _sparse(swept: _Swept, box: PixelBox) -> Coverage:
    cell_row, cell_x, cell_value = _cells(swept, box)
    full = swept.value >= _FULL
    gapped = (swept.gap >= _FULL) & (swept.next_column > swept.column + 1)
    run_row = np.concatenate([swept.row[full], swept.row[gapped]])
    run_x0 = np.concatenate([swept.column[full], swept.column[gapped] + 1])
    run_x1 = np.concatenate([swept.column[full] + 1, swept.next_column[gapped]])
    order = np.argsort(run_row * (box.width + 1) + run_x0)
    run_row, run_x0, run_x1 = _joined(run_row[order], run_x0[order], run_x1[order])
    cells = (cell_row + box.y0, cell_x + box.x0, cell_value)
    return Coverage(box, *cells, run_row + box.y0, run_x0 + box.x0, run_x1 + box.x0)


def _cells(swept: _Swept, box: PixelBox) -> tuple[Ints, Ints, Points]:
    """Return partly covered pixels: touched ones, and gaps under a level edge between two pixel lines."""
    partial = (swept.value > _EMPTY) & (swept.value < _FULL)
    row, column, value = swept.row[partial], swept.column[partial], swept.value[partial]
    length = swept.next_column - swept.column - 1
    gapped = (swept.gap > _EMPTY) & (swept.gap < _FULL) & (length > 0)
    if not gapped.any():
        return row, column, value
    counts = length[gapped]
    offset = np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
    gap_row = np.repeat(swept.row[gapped], counts)
    gap_column = np.repeat(swept.column[gapped] + 1, counts) + offset
    stride = box.width + 1
    place = np.searchsorted(row * stride + column, gap_row * stride + gap_column)
    row, column = np.insert(row, place, gap_row), np.insert(column, place, gap_column)
    return row, column, np.insert(value, place, np.repeat(swept.gap[gapped], counts))


def _joined(row: Ints, x0: Ints, x1: Ints) -> tuple[Ints, Ints, Ints]:
    """Join runs that touch."""
    if len(row) == 0:
        return row, x0, x1
    fresh = np.concatenate([[True], (row[1:] != row[:-1]) | (x0[1:] != x1[:-1])])
    first = np.flatnonzero(fresh)
    last = np.concatenate([first[1:] - 1, [len(row) - 1]])
    return row[first], x0[first], x1[last]
