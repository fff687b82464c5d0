"""For the screen: the pixels of a window that outlines and strokes do not fill alone, reckoned once a frame."""

from collections.abc import Mapping
from functools import cached_property
from typing import Protocol

import numpy as np

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Plane
from glasscap.core.render.plan.bands import OffsetKey

# Each outline's coverage of single pixels, shape (1, n).
ByOutline = Mapping[OffsetKey, Plane]


class Banded(Protocol):
    """What tells shares of single pixels from outlines' coverages of them; see `Weights`."""

    window: PixelBox

    def reckoned(self) -> tuple[Ints, dict[OffsetKey, Plane]]:
        """Return the numbers of the window's pixels of which shares must be reckoned, and their coverages."""

    def strokes_at(self, values: ByOutline, y: Ints, x: Ints, box: PixelBox) -> dict[int, Plane]:
        """Return the strokes' shares."""


class LaidStrokes:
    """The strokes' shares of the pixels of a window that are not filled by one thing alone."""

    def __init__(self, banded: Banded) -> None:
        self._banded = banded
        self._places, self._values = banded.reckoned()
        width = banded.window.width
        self._y = self._places // width
        self._x = self._places - self._y * width

    @cached_property
    def _shares(self) -> dict[int, Plane]:
        return self._banded.strokes_at(self._values, self._y, self._x, self._banded.window)

    def within(self, box: PixelBox) -> tuple[Ints, Ints, dict[int, Plane]]:
        """Return the rows and columns of those in a box, shape (n,), and the strokes' shares, shape (1, n)."""
        window = self._banded.window
        a, b = np.searchsorted(self._y, (box.y0 - window.y0, box.y1 - window.y0))
        y, x = self._y[a:b] + window.y0, self._x[a:b] + window.x0
        shares = {number: share[:, a:b] for number, share in self._shares.items()}
        if len(x) and (x.min() < box.x0 or x.max() >= box.x1):
            on = np.flatnonzero((x >= box.x0) & (x < box.x1))
            y, x, shares = y[on], x[on], {number: share[:, on] for number, share in shares.items()}
        return y, x, shares
