"""Exact area of polygons within each pixel, kept sparse.

Signed-area accumulation (as used by scan converters since Wylie et al. 1967; no sampling): every edge is
cut where it crosses a pixel line; each piece adds its height to all pixels right of it and the area beside
it to its own pixel. Pixel (row y, column x) is the square [x, x+1) x [y, y+1).
"""

from collections.abc import Sequence
from typing import NamedTuple, TypeVar

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.outline import Flags, Ints, Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.picking import ends_of, kept, starts_of_runs

Number = TypeVar("Number", np.int64, np.float64)

_FULL = 1.0 - 1e-9
_EMPTY = 1e-9


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
    return _scanned(polygons, box)


def cover_each(outlines: Sequence[tuple[Points, ...]], box: PixelBox) -> list[Coverage]:
    """Compute the coverage of a window by each of some outlines, as `cover` does but for rounding (1e-12).

    In one go: that of few pixels takes hardly longer of several outlines than of one.
    """
    # One below another, in a window so many times as high.
    tall = box._replace(y1=box.y0 + len(outlines) * box.height)
    stacked = [_edges_in_window(polygons, box).moved(n * box.height) for n, polygons in enumerate(outlines)]
    edges = _Edges(*(np.concatenate(numbers) for numbers in zip(*stacked, strict=True)))
    if box.is_empty or len(edges.x0) == 0:
        return [_no_coverage(box) for _ in outlines]
    return _parted(_sweep(*_cell_sums(*_pieces(edges), tall), tall), box, len(outlines))


def _parted(tall: Coverage, box: PixelBox, count: int) -> list[Coverage]:
    """Return the coverages of windows that lie one below another as though each were the topmost, `box`."""
    tops = [box.y0 + n * box.height for n in range(count + 1)]
    cells, runs = (np.searchsorted(rows, tops) for rows in (tall.cell_y, tall.run_y))
    found = []
    for n in range(count):
        c, r, down = slice(*cells[n : n + 2]), slice(*runs[n : n + 2]), n * box.height
        own = (tall.cell_y[c] - down, tall.cell_x[c], tall.cell_value[c])
        found.append(Coverage(box, *own, tall.run_y[r] - down, tall.run_x0[r], tall.run_x1[r]))
    return found


def _scanned(polygons: tuple[Points, ...], box: PixelBox) -> Coverage:
    edges = _edges_in_window(polygons, box)
    if box.is_empty or len(edges.x0) == 0:
        return _no_coverage(box)
    return _sweep(*_cell_sums(*_pieces(edges), box), box)


class _Edges(NamedTuple):
    """Edges from (x0, y0) to (x1, y1), an array of each: rows of four are picked many times as slowly."""

    x0: Points
    y0: Points
    x1: Points
    y1: Points

    def chosen(self, is_kept: Flags) -> "_Edges":
        return _Edges(*kept(is_kept, *self))

    def moved(self, down: int) -> "_Edges":
        return _Edges(self.x0, self.y0 + down, self.x1, self.y1 + down)


def _no_coverage(box: PixelBox) -> Coverage:
    none = np.zeros(0, np.int64)
    return Coverage(box, none, none.copy(), np.zeros(0), none.copy(), none.copy(), none.copy())


def _edges_in_window(polygons: tuple[Points, ...], box: PixelBox) -> _Edges:
    """Return edges relative to the box, cut to its rows; those left of it pushed to x = 0."""
    closed = [p for p in polygons if len(p) >= 3]
    if not closed:
        return _Edges(*np.zeros((4, 0)))
    lengths = [len(p) for p in closed]
    points = np.concatenate(closed) if len(closed) > 1 else closed[0]
    x0, y0 = points[:, 0] - box.x0, points[:, 1] - box.y0
    ends = np.cumsum(lengths)
    x1, y1 = np.empty_like(x0), np.empty_like(y0)
    for start, end in ((x0, x1), (y0, y1)):
        end[:-1] = start[1:]
        # The last point of each polygon is joined to its first.
        end[ends - 1] = start[ends - lengths]
    seen = _seen(_Edges(x0, y0, x1, y1), box)
    return _cut_left(_cut_rows(seen, box.height))


def _seen(edges: _Edges, box: PixelBox) -> _Edges:
    """Leave out what lies above, below or right of the window; level edges enclose nothing by themselves."""
    low, high = np.minimum(edges.y0, edges.y1), np.maximum(edges.y0, edges.y1)
    is_seen = (high > 0) & (low < box.height) & (low != high)
    is_seen &= np.minimum(edges.x0, edges.x1) < box.width
    return edges if is_seen.all() else edges.chosen(is_seen)


def _cut_rows(edges: _Edges, height: int) -> _Edges:
    low, high = np.minimum(edges.y0, edges.y1), np.maximum(edges.y0, edges.y1)
    crossing = np.flatnonzero((low < 0) | (high > height))
    if len(crossing) == 0:
        return edges
    x0, y0, x1, y1 = (numbers[crossing] for numbers in edges)
    slope = (x1 - x0) / (y1 - y0)
    top, bottom = (np.minimum(np.maximum(y, 0.0), height) for y in (y0, y1))
    cut = _Edges(x0 + (top - y0) * slope, top, x0 + (bottom - y0) * slope, bottom)
    for numbers, new in zip(edges, cut, strict=True):
        numbers[crossing] = new
    return edges


def _cut_left(edges: _Edges) -> _Edges:
    """Replace what lies left of x = 0 by the same heights at x = 0."""
    if min(edges.x0.min(initial=0.0), edges.x1.min(initial=0.0)) >= 0:
        return edges
    left = (edges.x0 < 0) & (edges.x1 < 0)
    edges.x0[left] = edges.x1[left] = 0.0
    mixed = (edges.x0 < 0) | (edges.x1 < 0)
    if not mixed.any():
        return edges
    x0, y0, x1, y1 = edges.chosen(mixed)
    y_cut = y0 + (y1 - y0) * (x0 / (x0 - x1))
    zero = np.zeros_like(x0)
    starts_left = x0 < 0
    outer = np.where(starts_left, np.stack([zero, y0, zero, y_cut]), np.stack([zero, y_cut, zero, y1]))
    inner = np.where(starts_left, np.stack([zero, y_cut, x1, y1]), np.stack([x0, y0, zero, y_cut]))
    return _Edges(*(np.concatenate(parts) for parts in zip(edges.chosen(~mixed), outer, inner, strict=True)))


def _pieces(edges: _Edges) -> tuple[Points, Points, Points]:
    """Cut edges at every pixel line; return the middle x, middle y and height of each piece."""
    x0, y0, x1, y1 = edges
    count = len(x0)
    whole = np.arange(count, dtype=float)
    # The last t that still belongs to an edge when its number is added, however many edges there are.
    most = 1.0 - 2 * float(np.spacing(float(count)))
    crossings = _crossings(np.concatenate((x0, y0)), np.concatenate((x1, y1)), most)
    keys = np.concatenate((whole, crossings, whole + most))
    keys.sort()
    edge = keys.astype(np.int64)
    t = keys - edge
    is_last = np.empty(len(edge), bool)
    np.not_equal(edge[1:], edge[:-1], out=is_last[:-1])
    is_last[-1] = True
    # The true end point, so that neighbouring edges share theirs exactly.
    t[is_last] = 1.0
    x = x0[edge] + t * (x1 - x0)[edge]
    y = y0[edge] + t * (y1 - y0)[edge]
    _snap_to_lines(y, 4 * float(np.spacing(float(count))) * float(np.abs(y1 - y0).max(initial=0.0)))
    inner = ~is_last[:-1]
    height = y[1:] - y[:-1]
    inner &= height != 0
    x_mid, y_mid, height = kept(inner, x[:-1] + x[1:], y[:-1] + y[1:], height)
    x_mid /= 2
    y_mid /= 2
    return x_mid, y_mid, height


def _snap_to_lines(y: Points, slack: float) -> None:
    """Put onto its pixel line what is off it by the rounding of t alone (`slack` px), in place.

    Else the heights of a long edge's pieces would not add up to whole rows, and what it encloses would be
    a little under full: a million boundary pixels where there are none.
    """
    line = np.rint(y)
    places = np.flatnonzero(np.abs(y - line) <= slack)
    y[places] = line[places]


def _crossings(start: Points, end: Points, most: float) -> Points:
    """Return edge number + t (at most `most`, below 1) wherever a coordinate passes a whole number.

    Starts and ends are the edges' x, and their y behind them.
    """
    first = np.floor(np.minimum(start, end)) + 1
    counts = np.maximum(np.ceil(np.maximum(start, end)) - first, 0).astype(np.int64)
    index = np.repeat(np.arange(len(start)), counts)
    place = np.arange(len(index)) - (np.cumsum(counts) - counts)[index]
    t = ((first - start)[index] + place) / (end - start)[index]
    edges = len(start) // 2
    index[int(counts[:edges].sum()) :] -= edges
    return np.asarray(index + np.minimum(t, most))


def _cell_sums(x_mid: Points, y_mid: Points, height: Points, box: PixelBox) -> tuple[Ints, Points, Points]:
    """Sum area of pieces per pixel; return sorted keys, areas, and the heights summed up to and with each."""
    if x_mid.max(initial=0.0) >= box.width:
        x_mid, y_mid, height = kept(x_mid < box.width, x_mid, y_mid, height)
    # Nothing lies left of the window or above it any more: cutting off the fraction is rounding down.
    column, row = x_mid.astype(np.int64), y_mid.astype(np.int64)
    np.minimum(row, box.height - 1, out=row)
    area = height * (column - x_mid + 1.0)
    row <<= _column_bits(box)
    row |= column
    keys, order = _sorted_with_places(row)
    if len(keys) == 0:
        return keys, area, height
    first = starts_of_runs(keys)
    last = ends_of(first, len(keys)) - 1
    # Differences of running sums: of few numbers each, sums one by one take many times as long.
    areas, heights = (np.cumsum(part[order])[last] for part in (area, height))
    areas[1:] -= areas[:-1].copy()
    return keys[first], areas, heights


def _column_bits(box: PixelBox) -> int:
    """Return how many bits of a key tell the column; the rest tell the row."""
    return int(box.width).bit_length()


def _sorted_with_places(keys: Ints) -> tuple[Ints, Ints]:
    """Return keys ascending and where each stood: each with its place in one number sorts faster than places."""
    bits = max(len(keys) - 1, 1).bit_length()
    packed = (keys << bits) | np.arange(len(keys))
    packed.sort()
    return packed >> bits, packed & ((1 << bits) - 1)


def _sweep(keys: Ints, area: Points, total: Points, box: PixelBox) -> Coverage:
    """Follow sums of heights along rows: cells from what came before plus their own area, runs in the gaps."""
    if len(keys) == 0:
        return _no_coverage(box)
    bits = _column_bits(box)
    row, column = keys >> bits, keys & ((1 << bits) - 1)
    ends = np.flatnonzero(row[1:] != row[:-1])
    # What was summed before each row; rows in which everything is closed leave nothing but rounding.
    lengths = ends_of(ends, len(keys) - 1) - ends
    closed = np.repeat(total[ends], lengths)
    first = len(keys) - len(closed)
    after, value = total.copy(), np.empty_like(total)
    value[0], value[1:] = 0.0, total[:-1]
    after[first:] -= closed
    value[first:] -= closed
    value += area
    np.abs(value, out=value)
    np.minimum(value, 1.0, out=value)
    next_column = np.empty_like(column)
    next_column[:-1] = column[1:]
    next_column[ends] = next_column[-1] = box.width
    gap = np.abs(after)
    np.minimum(gap, 1.0, out=gap)
    return _sparse(_Swept(row, column, value, next_column, gap), box)


class _Swept(Struct, frozen=True, eq=False):
    row: Ints
    column: Ints
    value: Points
    next_column: Ints
    gap: Points


def _sparse(swept: _Swept, box: PixelBox) -> Coverage:
    cell_row, cell_x, cell_value = _cells(swept)
    is_full = swept.value >= _FULL
    is_gapped = (swept.gap >= _FULL) & (swept.next_column > swept.column + 1)
    gapped = np.flatnonzero(is_gapped)
    run_row, run_x0, run_x1 = (a[gapped] for a in (swept.row, swept.column, swept.next_column))
    # What is full by itself belongs to the gap that follows it.
    run_x0 += ~is_full[gapped]
    full = np.flatnonzero(is_full & ~is_gapped)
    if len(full):
        place = np.searchsorted(gapped, full)
        run_row = np.insert(run_row, place, swept.row[full])
        run_x0 = np.insert(run_x0, place, swept.column[full])
        run_x1 = np.insert(run_x1, place, swept.column[full] + 1)
    run_row, run_x0, run_x1 = _joined(run_row, run_x0, run_x1)
    cells = (cell_row + box.y0, cell_x + box.x0, cell_value)
    return Coverage(box, *cells, run_row + box.y0, run_x0 + box.x0, run_x1 + box.x0)


def _cells(swept: _Swept) -> tuple[Ints, Ints, Points]:
    """Return partly covered pixels: touched ones, and gaps under a level edge between two pixel lines."""
    partial = (swept.value > _EMPTY) & (swept.value < _FULL)
    own = np.flatnonzero(partial)
    row, column, value = swept.row[own], swept.column[own], swept.value[own]
    length = swept.next_column - swept.column - 1
    gapped = np.flatnonzero((swept.gap > _EMPTY) & (swept.gap < _FULL) & (length > 0))
    if len(gapped) == 0:
        return row, column, value
    counts = length[gapped]
    offset = numbers_within(counts)
    # A gap stands behind its own pixel and what else is partly covered before it.
    place = np.repeat(np.searchsorted(own, gapped, side="right"), counts)
    is_gap = np.zeros(len(row) + len(place), np.bool_)
    is_gap[place + np.arange(len(place))] = True
    gap_column = np.repeat(swept.column[gapped] + 1, counts) + offset
    return (
        _merged(row, np.repeat(swept.row[gapped], counts), is_gap),
        _merged(column, gap_column, is_gap),
        _merged(value, np.repeat(swept.gap[gapped], counts), is_gap),
    )


def _merged(one: NDArray[Number], other: NDArray[Number], is_other: Flags) -> NDArray[Number]:
    """Return two arrays as one, the other's numbers where they are told to stand."""
    made = np.empty(len(is_other), one.dtype)
    made[is_other] = other
    made[~is_other] = one
    return made


def _joined(row: Ints, x0: Ints, x1: Ints) -> tuple[Ints, Ints, Ints]:
    """Join runs that touch."""
    if len(row) == 0:
        return row, x0, x1
    is_joined = (row[1:] == row[:-1]) & (x0[1:] == x1[:-1])
    if not is_joined.any():
        return row, x0, x1
    first = np.concatenate(([0], np.flatnonzero(~is_joined) + 1))
    return row[first], x0[first], x1[ends_of(first, len(row)) - 1]
