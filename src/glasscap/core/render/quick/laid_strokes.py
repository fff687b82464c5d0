"""For the screen: the pixels of a window that outlines and strokes do not fill alone, reckoned once a frame."""

from functools import cached_property

import numpy as np

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Plane
from glasscap.core.render.shares.shares import Weights


class LaidStrokes:
    """The strokes' shares of the pixels of a window that are not filled by one thing alone."""

    def __init__(self, weights: Weights) -> None:
        self._weights = weights
        self._places, self._values = weights.reckoned()
        width = weights.window.width
        self._y = self._places // width
        self._x = self._places - self._y * width

    @cached_property
    def _shares(self) -> dict[int, Plane]:
        return self._weights.strokes_at(self._values, self._y, self._x, self._weights.window)

    def within(self, box: PixelBox) -> tuple[Ints, Ints, dict[int, Plane]]:
        """Return the rows and columns of those in a box, shape (n,), and the strokes' shares, shape (1, n)."""
        window = self._weights.window
        a, b = np.searchsorted(self._y, (box.y0 - window.y0, box.y1 - window.y0))
        y, x = self._y[a:b] + window.y0, self._x[a:b] + window.x0
        shares = {number: share[:, a:b] for number, share in self._shares.items()}
        if len(x) and (x.min() < box.x0 or x.max() >= box.x1):
            on = np.flatnonzero((x >= box.x0) & (x < box.x1))
            y, x, shares = y[on], x[on], {number: share[:, on] for number, share in shares.items()}
        return y, x, shares
