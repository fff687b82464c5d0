"""Outlines that are their own image on the pixel grid: the half that is scanned serves for the other.

On whole or half pixels a circle, an ellipse, a plate or a ring is mirrored left to right and turned by half a
turn, a heart or a star is mirrored, a plate at an angle is turned; so are their parallels. The axis lies at
x = sum_x / 2, the centre at that x and y = sum_y / 2: the image of pixel x is sum_x - 1 - x.
"""

from typing import NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Ints, Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.picking import ends_of, starts_of_runs

# An image may lie this far off (px), by rounding.
_SAME = 1e-8
# Fewer edges are scanned as quickly as they are compared; more contours are rarely alike.
_LEAST_EDGES = 256
_MOST_CONTOURS = 4


class Symmetry(NamedTuple):
    """How an outline is its own image: mirrored left to right, turned by half a turn; twice the centre, px."""

    is_mirrored: bool
    is_turned: bool
    sum_x: int
    sum_y: int

    def part_of(self, box: PixelBox) -> PixelBox:
        """Return the part of a box that is to be scanned, pixels on the axis and in its last row included."""
        x1 = -(-self.sum_x // 2) if self.is_mirrored else box.x1
        y1 = -(-self.sum_y // 2) if self.is_turned else box.y1
        return PixelBox(box.x0, box.y0, x1, y1)


Number = TypeVar("Number", np.int64, np.float64)

_NONE = Symmetry(False, False, 0, 0)


def symmetry_of(polygons: tuple[Points, ...], box: PixelBox) -> Symmetry:
    """Return how all contours are their own images, as far as none of them leaves the window."""
    if not 0 < len(polygons) <= _MOST_CONTOURS or sum(len(p) for p in polygons) < _LEAST_EDGES:
        return _NONE
    planes = [(p[:, 0], p[:, 1]) for p in polygons]
    # Column by column: along the rows of two the extremes are found many times as slowly.
    (x_low, x_high), (y_low, y_high) = (
        (min(float(c[n].min()) for c in planes), max(float(c[n].max()) for c in planes)) for n in (0, 1)
    )
    sum_x, sum_y = round(x_low + x_high), round(y_low + y_high)
    if x_low < box.x0 or x_high > box.x1 or abs(x_low + x_high - sum_x) > _SAME:
        return _NONE
    is_mirrored = all(_is_same((sum_x - x)[::-1], y[::-1], x, y) for x, y in planes)
    is_turned = (
        y_low >= box.y0
        and y_high <= box.y1
        and abs(y_low + y_high - sum_y) <= _SAME
        and all(_is_same(sum_x - x, sum_y - y, x, y) for x, y in planes)
    )
    return Symmetry(is_mirrored, is_turned, sum_x, sum_y)


def _is_same(x: Points, y: Points, other_x: Points, other_y: Points) -> bool:
    """Return whether two contours are one, wherever each begins."""
    start = int(np.argmin(np.abs(x - other_x[0]) + np.abs(y - other_y[0])))
    return all(
        np.abs(np.concatenate((one[start:], one[:start])) - other).max() <= _SAME
        for one, other in ((x, other_x), (y, other_y))
    )


def completed(part: Coverage, box: PixelBox, symmetry: Symmetry) -> Coverage:
    """Return the coverage of a window from that of its part (see `Symmetry.part_of`)."""
    y, x, value = part.cell_y, part.cell_x, part.cell_value
    run_y, x0, x1 = part.run_y, part.run_x0, part.run_x1
    sum_x, sum_y = symmetry.sum_x, symmetry.sum_y
    if symmetry.is_mirrored:
        y, x, value = _mirrored_cells(y, x, value, sum_x)
        run_y, x0, x1 = _mirrored_runs(run_y, x0, x1, sum_x)
    if symmetry.is_turned:
        last, last_run = (int(np.searchsorted(rows, sum_y // 2)) for rows in (y, run_y))
        y, x, value = (
            _turned(y, sum_y - 1 - y, last),
            _turned(x, sum_x - 1 - x, last),
            _turned(value, value, last),
        )
        run_y = _turned(run_y, sum_y - 1 - run_y, last_run)
        x0, x1 = _turned(x0, sum_x - x1, last_run), _turned(x1, sum_x - x0, last_run)
    return Coverage(box, y, x, value, run_y, x0, x1)


def _turned(own: NDArray[Number], image: NDArray[Number], last: int) -> NDArray[Number]:
    """Append the images of what lies above the middle row: rows, and what stands in each, run backwards."""
    return np.concatenate((own, image[:last][::-1]))


def _mirrored_cells(y: Ints, x: Ints, value: Points, sum_x: int) -> tuple[Ints, Ints, Points]:
    """Add the image of each cell that does not lie on the axis."""
    chosen, other = _there_and_back(y)
    columns = x[chosen]
    columns[other] = sum_x - 1 - x
    middle = other[2 * x + 1 == sum_x]
    return _without(middle, y[chosen]), _without(middle, columns), _without(middle, value[chosen])


def _mirrored_runs(y: Ints, x0: Ints, x1: Ints, sum_x: int) -> tuple[Ints, Ints, Ints]:
    """Add the image of each run; one that reaches the axis goes on beyond it instead."""
    goes_on = 2 * x1 >= sum_x
    if goes_on.all():
        return y, x0, sum_x - x0
    chosen, other = _there_and_back(y)
    starts, ends = x0[chosen], np.where(goes_on, sum_x - x0, x1)[chosen]
    starts[other], ends[other] = sum_x - x1, sum_x - x0
    middle = other[goes_on]
    return _without(middle, y[chosen]), _without(middle, starts), _without(middle, ends)


def _there_and_back(rows: Ints) -> tuple[Ints, Ints]:
    """Return entries in the order in which each row is run through there and back, and where the images stand."""
    chosen = np.empty(2 * len(rows), np.int64)
    place, starts = np.arange(len(rows)), starts_of_runs(rows)
    ends = ends_of(starts, len(rows))
    own = place + np.repeat(starts, ends - starts)
    other = np.repeat(2 * (starts + ends) - 1, ends - starts) - own
    chosen[own] = chosen[other] = place
    return chosen, other


def _without(places: Ints, numbers: NDArray[Number]) -> NDArray[Number]:
    return np.delete(numbers, places) if len(places) else numbers
