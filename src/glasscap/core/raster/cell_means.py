"""Coverages as means over cells of several pixels, reckoned from boundary pixels and runs alone."""

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import Box, PixelBox
from glasscap.core.raster.coverage import Coverage

# Rows and columns around a plane of cells that take what lies beyond it, and what of that reaches a cell further.
_SPARE = 2
# Pixels that reach less far than this into another cell do so by rounding alone.
_ROUNDING = 1e-6

# Places in planes that are one long row, and what is added there.
_Pieces = list[tuple[Ints, Points]]


def cell_means(
    coverage: Coverage, cells: PixelBox, k: float, shift: tuple[float, float] = (0.0, 0.0)
) -> NDArray[np.float32]:
    """Return the pixels' coverage, moved by some px, as means over cells of k px, k >= 1.

    Cell (row, column) spans rows k row .. k (row + 1) of the px plane. float32 of the box's shape (box in
    cells); 0 where nothing was recorded.
    """
    out = np.zeros((cells.height, cells.width), np.float32)
    touched = coverage.bounds
    (x0, y0), (x1, y1) = (((x + shift[0]) / k, (y + shift[1]) / k) for x, y in (touched[:2], touched[2:]))
    seen = Box(x0, y0, x1, y1).rounded_out().intersection(cells)
    if not touched.is_empty and not seen.is_empty:
        view = out[seen.y0 - cells.y0 : seen.y1 - cells.y0, seen.x0 - cells.x0 : seen.x1 - cells.x0]
        view[:] = _means(coverage, seen, k, shift)
    return out


def box_means(box: PixelBox, cells: PixelBox, k: int) -> NDArray[np.float32]:
    """Return the same of what covers all pixels of a box."""
    shares = []
    for first, end, low, high in ((cells.y0, cells.y1, box.y0, box.y1), (cells.x0, cells.x1, box.x0, box.x1)):
        start = np.arange(first, end) * k
        shares.append(np.clip(np.minimum(start + k, high) - np.maximum(start, low), 0, k) * np.float32(1 / k))
    return np.asarray(shares[0][:, None] * shares[1], np.float32)


def _means(coverage: Coverage, cells: PixelBox, k: float, shift: tuple[float, float]) -> Points:
    height, width = cells.height + 2 * _SPARE, cells.width + 2 * _SPARE
    dx, dy = shift
    row, below = _pixels_in_cells(coverage.cell_y, dy, k, cells.y0, height)
    column, beyond = _pixels_in_cells(coverage.cell_x, dx, k, cells.x0, width)
    areas = _split([(row * width + column, coverage.cell_value)], ((below, width), (beyond, 1)))
    # How much more each cell is filled than the one before it in its row.
    turns: _Pieces = []
    row, below = _pixels_in_cells(coverage.run_y, dy, k, cells.y0, height)
    row *= width
    for ends, more in ((coverage.run_x0, k), (coverage.run_x1, -k)):
        at = (ends + dx) / k - cells.x0
        whole = np.floor(at)
        place = row + _kept_within(whole.astype(np.int64), width)
        turns += _split([(place, np.full(len(ends), more))], ((below, width), (at - whole, 1)))
    # In each row all that began ends again, so that the rows may follow one another.
    filled = np.cumsum(_sums(turns, height * width))
    filled += _sums(areas, height * width)
    filled *= 1 / (k * k)
    return filled.reshape(height, width)[_SPARE:-_SPARE, _SPARE:-_SPARE]


def _split(pieces: _Pieces, shares: Iterable[tuple[Points | None, int]]) -> _Pieces:
    """Part pieces by what share of each belongs so many places further on; None where none does."""
    for share, step in shares:
        if share is not None:
            further = [(place + step, value * share) for place, value in pieces]
            near = [(place, value - more) for (place, value), (_, more) in zip(pieces, further, strict=True)]
            pieces = near + further
    return pieces


def _sums(pieces: _Pieces, size: int) -> Points:
    places, values = zip(*pieces, strict=True)
    return np.bincount(np.concatenate(places), np.concatenate(values), size).astype(np.float64, copy=False)


def _pixels_in_cells(pixels: Ints, shift: float, k: float, first: int, count: int) -> tuple[Ints, Points | None]:
    """Return the row (or column) of cells in which each moved pixel begins, and its share in the next.

    Counted from spare ones on, of which there are `count` with those. None where all lie in one.
    """
    if float(k).is_integer() and float(shift).is_integer():
        return _kept_within((pixels + int(shift)) // int(k) - first, count), None
    at = (pixels + shift) / k - first
    whole = np.floor(at)
    over = np.maximum(at + (1 / k - 1) - whole, 0.0) * k
    cell = _kept_within(whole.astype(np.int64), count)
    return cell, None if over.max(initial=0.0) < _ROUNDING else over


def _kept_within(numbers: Ints, count: int) -> Ints:
    """Return places counted from spare ones on; what lies beyond stays there with what is in the next."""
    return np.minimum(np.maximum(numbers + _SPARE, 0), count - 2)
