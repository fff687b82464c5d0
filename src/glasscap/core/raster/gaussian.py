"""The Gaussian of a coverage plane, exact to a fraction of a level at any radius.

Wide blurs are computed on a plane of cells k x k px that holds the mean coverage of each cell exactly; cell
means add a variance of 1/12 cell^2 and linear enlarging 1/6, so the Gaussian there is given
sigma'^2 = (sigma/k)^2 - 1/4.
"""

import math
from collections.abc import Callable
from functools import cached_property, lru_cache

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.blur import NARROWEST, blurred, reach
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.resample import Quality
from glasscap.core.raster.row_spans import NOWHERE, RowSpans, no_spans
from glasscap.core.raster.words import one_long_row, picked

PlaneMaker = Callable[[PixelBox, float], Plane]

# Cells to a sigma: at 5 the error stays under 0.4 of a level of 255, at 3 under 1, at 2 under 2.
_CELLS_PER_SIGMA: dict[Quality, float] = {"final": 5.0, "preview": 3.0, "moving": 2.0}
# Variance, in cells, of a cell's mean and linear enlarging together, and of a pixel's coverage alone.
_OF_CELLS, _OF_COVERAGE = 1 / 4, 1 / 12
# A grid on which the Gaussian is this wide (cells) or wider leaves under half of 1/512 at a straight edge.
_FINE_SIGMA = 4.0
# Previews are drawn to margins of whole steps (px).
_PREVIEW_STEP = 64
# Cells (px) by which a narrow blur knows where it is full or empty.
_COARSE = 8
# A Gaussian edge narrower than this (px) shows steps when sampled at the pixels' centres.
_STEPS = 0.5
# A share below this is as good as none.
FAINTEST = 1 / 2048
# A pixel enlarged by itself takes as long as so many of a whole box.
_PICKED = 16
# Rows of cells told of above and below those that there are.
_ROWS_AROUND = 2


def cell_size(sigma: float, quality: Quality) -> int:
    """Return the side k of the cells, px; few sizes for previews, so that what is drawn serves many sigmas."""
    most = max(1, math.floor(sigma / _CELLS_PER_SIGMA[quality]))
    if quality == "final":
        return most
    power = 1 << (most.bit_length() - 1)
    return power * 3 // 2 if 2 * most >= 3 * power else power


class SoftPlane(Struct, frozen=True, eq=False, dict=True):
    """A blurred plane on cells of k px, outside of which it is 0.

    Attributes
    ----------
    cells : float32 array, shape (h, w), or (h, w, 4) for several planes in one
        0 to 1.
    box : PixelBox
        What the cells span, px, a multiple of k each way.
    k : int
    """

    cells: Plane
    box: PixelBox
    k: int

    def __post_init__(self) -> None:
        self.cells.flags.writeable = False

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return self.cells.nbytes

    def band(self, box: PixelBox) -> Plane:
        """Return the plane in a box, linearly enlarged; float32, shape of the box."""
        x, y = box.x0 - self.box.x0, box.y0 - self.box.y0
        k = self.k
        if k == 1:
            return self._cells_in(y, y + box.height, x, x + box.width)
        # One cell more on each side than the box touches: the resize repeats what lies at its border.
        c0, r0 = x // k - 1, y // k - 1
        c1, r1 = -(-(x + box.width) // k) + 1, -(-(y + box.height) // k) + 1
        part = self._cells_in(r0, r1, c0, c1)
        size = ((c1 - c0) * k, (r1 - r0) * k)
        wide: Plane = np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_LINEAR), np.float32)
        left, top = x - c0 * k, y - r0 * k
        return wide[top : top + box.height, left : left + box.width]

    def at(self, ys: NDArray[np.int64], xs: NDArray[np.int64]) -> NDArray[np.float32]:
        """Return single pixels, shape (n,), enlarged as `band` does."""
        k = self.k
        box = box_of_pixels(ys, xs)
        if k == 1 or len(ys) * _PICKED > box.width * box.height:
            return picked(self.band(box), ys - box.y0, xs - box.x0)
        # One cell of nothing above and left of all, so that whole parts are what is cut off.
        v, u = (ys - self.box.y0 + 0.5) / k + 0.5, (xs - self.box.x0 + 0.5) / k + 0.5
        r, c = v.astype(np.int64), u.astype(np.int64)
        down, right = (v - r).astype(np.float32), (u - c).astype(np.float32)
        y0, x0 = int(r.min()), int(c.min())
        cells = self._cells_in(y0 - 1, int(r.max()) + 1, x0 - 1, int(c.max()) + 1)
        values, width = one_long_row(cells)
        place = (r - y0) * width + (c - x0)
        upper, lower = values[place], values[place + width]
        upper += (values[place + 1] - upper) * right
        lower += (values[place + width + 1] - lower) * right
        lower -= upper
        lower *= down
        return np.asarray(upper + lower, np.float32)

    def on_cells(self, cells: PixelBox, k: float, shift: tuple[float, float] = (0.0, 0.0)) -> Plane:
        """Return the plane, moved by some px, on cells of k px; float32 of the box's shape (box in cells)."""
        # Larger cells are means of points about as far apart as the own ones.
        finer = max(1, round(k / self.k))
        step, width, height = k / finer / self.k, cells.width * finer, cells.height * finer
        # The place of the first of these points, counted in own cells.
        x, y = ((at * k - by - own) / self.k for at, by, own in zip(cells, shift, self.box, strict=False))
        if step == 1 and x.is_integer() and y.is_integer():
            points = self._cells_in(int(y), int(y) + height, int(x), int(x) + width)
        else:
            found = cv2.warpAffine(
                self.cells,
                np.array([[step, 0, x + (step - 1) / 2], [0, step, y + (step - 1) / 2]]),
                (width, height),
                flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
                borderMode=cv2.BORDER_CONSTANT,
                borderValue=0,
            )
            points = np.asarray(found, np.float32)
        if finer == 1:
            return points
        return np.asarray(
            cv2.resize(points, (cells.width, cells.height), interpolation=cv2.INTER_AREA), np.float32
        )

    def _cells_in(self, r0: int, r1: int, c0: int, c1: int) -> Plane:
        rows, columns = self.cells.shape[:2]
        if r0 >= 0 and c0 >= 0 and r1 <= rows and c1 <= columns:
            return self.cells[r0:r1, c0:c1]
        out = np.zeros((r1 - r0, c1 - c0, *self.cells.shape[2:]), np.float32)
        y0, y1, x0, x1 = max(r0, 0), min(r1, rows), max(c0, 0), min(c1, columns)
        if y1 > y0 and x1 > x0:
            out[y0 - r0 : y1 - r0, x0 - c0 : x1 - c0] = self.cells[y0:y1, x0:x1]
        return out

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the plane is below `faintest`."""
        k, (x, y) = self.k, self.box[:2]
        return _hull(self.cells, faintest, k, (x, y), k)

    def spans(self, box: PixelBox, faintest: float = FAINTEST) -> RowSpans:
        """Return the columns of each row of a box that may be `faintest`, all but 0, or more."""
        if faintest not in self._reaches:
            self._reaches[faintest] = self._reaching(faintest)
        return self._in_px(self._reaches[faintest], box, self._beyond)

    def full_spans(self, box: PixelBox, least: float) -> RowSpans:
        """Return the columns of each row of a box that are above `least`, all but 1, where side by side."""
        if least not in self._full:
            self._full[least] = self._felt(_single_runs(self.cells > least), in_any=False)
        return self._in_px(self._full[least], box, -self._beyond)

    @property
    def _beyond(self) -> int:
        """The reach of cells around their own pixels, px: they are enlarged linearly."""
        return 0 if self.k == 1 else self.k

    def _in_px(self, spans: RowSpans, box: PixelBox, outwards: int) -> RowSpans:
        """Return spans of cells, in rows as `_felt` returns them, as spans of a box's rows of pixels."""
        k, x, y0 = self.k, self.box.x0, box.y0 - self.box.y0
        rows = np.arange(y0 // k, -(-(y0 + box.height) // k)) + _ROWS_AROUND
        edges = spans.edges.take(rows, axis=1, mode="clip") * k
        edges[0] += x - outwards
        edges[1] -= x + outwards
        return RowSpans(edges.repeat(k, axis=1)[:, y0 % k : y0 % k + box.height])

    def _felt(self, spans: RowSpans, *, in_any: bool) -> RowSpans:
        """Return what is felt of cells in the rows of pixels within them: what lies in any row felt, or in each.

        There are `_ROWS_AROUND` rows more above and below; further out nothing is felt.
        """
        count, more = spans.edges.shape[1], 0 if self.k == 1 else 1
        padded = no_spans(count + 2 * (_ROWS_AROUND + more)).edges
        padded[:, _ROWS_AROUND + more : -_ROWS_AROUND - more] = spans.edges
        if not more:
            return RowSpans(padded)
        pick = np.minimum if in_any else np.maximum
        return RowSpans(pick(pick(padded[:, :-2], padded[:, 1:-1]), padded[:, 2:]))

    @cached_property
    def _full(self) -> dict[float, RowSpans]:
        """By the least value what is above it, as `_felt` returns it."""
        return {}

    @cached_property
    def _reaches(self) -> dict[float, RowSpans]:
        """By the least value what is so much or more, as `_felt` returns it."""
        return {}

    def _reaching(self, faintest: float) -> RowSpans:
        seen = self.cells >= faintest
        first = seen.argmax(axis=1)
        has_any = (first > 0) | seen[:, 0]
        return self._felt(RowSpans(np.where(has_any, (first, -_ends(seen)), NOWHERE)), in_any=True)

    def is_full(self, box: PixelBox, least: float = 1 - 1 / 1024) -> NDArray[np.bool_]:
        """Return which columns of a box are `least`, all but 1, or more in every row, shape (box width,)."""
        return self._columns(box, lambda rows: rows.min(axis=0) > least)

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return which columns of a box are all but 0 in every row, shape (box width,)."""
        return self._columns(box, lambda rows: rows.max(axis=0) < FAINTEST)

    def _columns(self, box: PixelBox, test: Callable[[Plane], NDArray[np.bool_]]) -> NDArray[np.bool_]:
        k = self.k
        x, y = box.x0 - self.box.x0, box.y0 - self.box.y0
        if k == 1:
            return test(self._cells_in(y, y + box.height, x, x + box.width))
        c0, r0 = math.floor((x + 0.5) / k - 0.5), math.floor((y + 0.5) / k - 0.5)
        c1, r1 = math.ceil((x + box.width) / k + 0.5) + 1, math.ceil((y + box.height) / k + 0.5) + 1
        good = test(self._cells_in(r0, r1, c0, c1))
        # A column is as its two neighbouring cells are.
        return np.asarray((good[:-1] & good[1:]).take(_left_cells(x, box.width, k) - c0))


def _single_runs(flags: NDArray[np.bool_]) -> RowSpans:
    """Return the flags of each row where they are side by side."""
    first, end = flags.argmax(axis=1), _ends(flags)
    counts = cv2.reduce(flags.view(np.uint8), 1, cv2.REDUCE_SUM, dtype=cv2.CV_32S)
    is_one = np.asarray(counts)[:, 0] == end - first
    return RowSpans(np.where(is_one, (first, -end), NOWHERE))


def _ends(flags: NDArray[np.bool_]) -> NDArray[np.int64]:
    """Return the place after the last flag of each row; the width where there is none."""
    back = np.asarray(cv2.flip(flags.view(np.uint8), 1)).view(np.bool_)
    return np.asarray(flags.shape[1] - back.argmax(axis=1))


@lru_cache(maxsize=64)
def _left_cells(x: int, width: int, k: int) -> NDArray[np.int64]:
    """Return for each pixel of a row from x on the cell whose centre lies left of its own."""
    made = np.floor((np.arange(width) + x + 0.5) / k - 0.5).astype(np.int64)
    made.flags.writeable = False
    return made


def _hull(cells: Plane, faintest: float, k: int, origin: tuple[int, int], by: int) -> PixelBox:
    """Return the box of cells of at least `faintest`, grown by some px."""
    seen = cells >= faintest
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    x, y = origin
    if len(rows) == 0:
        return PixelBox(x, y, x, y)
    return PixelBox(
        x + int(columns[0]) * k - by,
        y + int(rows[0]) * k - by,
        x + (int(columns[-1]) + 1) * k + by,
        y + (int(rows[-1]) + 1) * k + by,
    )


class FineSoftPlane:
    """A narrow blur, computed where it is asked for on a grid fine enough for the Gaussian (see `soften`)."""

    def __init__(self, make: PlaneMaker, window: PixelBox, sigma: float, *, is_of_pixels: bool) -> None:
        self._make, self._sigma, self._far = make, sigma, reach(sigma)
        finer = 1 if is_of_pixels else max(1, math.ceil(_FINE_SIGMA / max(sigma, NARROWEST)))
        # An odd number, so that one fine cell has the pixel's centre; past 9 nothing is seen of it.
        self._finer = min(finer + 1 - finer % 2, 9)
        # The narrowest edge is the pixels' coverage: a Gaussian's point samples would run in steps.
        self._side = self._finer if not is_of_pixels and sigma < _STEPS else 1
        variance = (sigma * self._finer) ** 2 - (0.0 if is_of_pixels else _OF_COVERAGE * self._side**2)
        self._inner = math.sqrt(max(variance, 0.0))
        wide = PixelBox(
            window.x0 - self._far, window.y0 - self._far, window.x1 + self._far, window.y1 + self._far
        )
        self._origin = (wide.x0 // _COARSE, wide.y0 // _COARSE)
        cells = PixelBox(*self._origin, wide.x1 // _COARSE + 2, wide.y1 // _COARSE + 2)
        self._coarse = make(cells, _COARSE)

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return self._coarse.nbytes

    def band(self, box: PixelBox) -> Plane:
        """Return the plane in a box; float32, shape of the box."""
        n, far = self._finer, self._far
        cells = PixelBox((box.x0 - far) * n, (box.y0 - far) * n, (box.x1 + far) * n, (box.y1 + far) * n)
        plane = self._make(cells, 1 / n)
        if self._side > 1:
            side = (self._side, self._side)
            plane = np.asarray(cv2.blur(plane, side, borderType=cv2.BORDER_CONSTANT), np.float32)
        plane = blurred(plane, self._inner)
        first = far * n + n // 2
        return np.ascontiguousarray(plane[first : first + box.height * n : n, first : first + box.width * n : n])

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the plane is below `faintest`."""
        x, y = self._origin
        return _hull(self._coarse, 1e-6, _COARSE, (x * _COARSE, y * _COARSE), self._far)

    def is_full(self, box: PixelBox, least: float = 1 - 1e-6) -> NDArray[np.bool_]:
        """Return which columns of a box are `least`, all but 1, or more in every row, shape (box width,)."""
        return self._columns(box, lambda rows: rows.min(axis=0) > least)

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return which columns of a box are all but 0 in every row, shape (box width,)."""
        return self._columns(box, lambda rows: rows.max(axis=0) < 1e-6)

    def _columns(self, box: PixelBox, test: Callable[[Plane], NDArray[np.bool_]]) -> NDArray[np.bool_]:
        far, (x, y) = self._far, self._origin
        rows = slice(max((box.y0 - far) // _COARSE - y, 0), (box.y1 + far) // _COARSE + 1 - y)
        bad = np.concatenate([[0], np.cumsum(~test(self._coarse[rows]))])
        columns = np.arange(box.x0, box.x1)
        low = np.clip((columns - far) // _COARSE - x, 0, len(bad) - 1)
        high = np.clip((columns + far) // _COARSE + 1 - x, 0, len(bad) - 1)
        return np.asarray(bad[high] == bad[low])


SoftEdge = SoftPlane | FineSoftPlane


def soften_edge(
    make: PlaneMaker,
    box: PixelBox,
    sigma: float,
    quality: Quality,
    *,
    is_of_pixels: bool = False,
    extent: PixelBox | None = None,
) -> SoftEdge:
    """Blur as `soften` does; narrow blurs of final pictures are left until they are asked for.

    Outside of `extent` (px) `make` draws nothing: where nothing is felt, nothing is blurred.
    """
    if quality == "final" and cell_size(sigma, quality) == 1:
        return FineSoftPlane(make, box, sigma, is_of_pixels=is_of_pixels)
    if extent is not None:
        far = _felt(sigma, quality)
        box = box.intersection(extent.grown(far))
        if box.is_empty:
            box = PixelBox(box.x0, box.y0, box.x0, box.y0)
    return soften(make, box, sigma, quality, is_of_pixels=is_of_pixels)


def _felt(sigma: float, quality: Quality) -> int:
    """Return how far around a box is drawn, px."""
    far = reach(sigma) if sigma >= NARROWEST else 1
    return far if quality == "final" else -(-far // _PREVIEW_STEP) * _PREVIEW_STEP


def soften(
    make: PlaneMaker, box: PixelBox, sigma: float, quality: Quality, *, is_of_pixels: bool = False
) -> SoftPlane:
    """Blur what `make` draws.

    Parameters
    ----------
    make : callable
        ``make(cell_box, k)`` returns the mean coverage of cells of k px, float32; cell (row, column) spans
        rows k row .. k (row + 1) - 1 of the px plane.
    box : PixelBox
        Where the blurred plane is wanted, px; what lies around it is drawn as far as it is felt.
    sigma : float
        px.
    quality : "final", or for the screen "preview" and "moving"
    is_of_pixels : bool
        Blur the pixels' coverage, as a filter of a finished picture does; else the outline itself, so that
        a straight edge is the error function of the distance to each pixel's centre.

    Returns
    -------
    SoftPlane
    """
    k = cell_size(sigma, quality)
    far = _felt(sigma, quality)
    cells = box.grown(far).in_cells(k)
    inner = sigma / k
    plane = make(cells, k)
    already = _OF_CELLS if k > 1 else 0.0 if is_of_pixels else _OF_COVERAGE
    narrowed = inner * inner - already
    spanned = cells.times(k)
    return SoftPlane(blurred(plane, math.sqrt(max(narrowed, 0.0))), spanned, k)
