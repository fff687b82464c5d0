"""Outlines that lie within one another: what is between two of them, and which pixels must be reckoned."""

from collections.abc import Collection

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage, Ints, Runs, expanded
from glasscap.core.render.bands import Band, OffsetKey
from glasscap.core.render.planar import Plane, once_each


class NestedOutlines:
    """The coverages of a body's outlines, the innermost first."""

    def __init__(self, coverages: dict[OffsetKey, Coverage]) -> None:
        self.coverages = coverages

    def between(self, inner: OffsetKey, outer: OffsetKey, box: PixelBox) -> Runs:
        """Return the runs of an outline less those of one that it holds, and its boundary pixels with them."""
        holding, held, width = self.coverages[outer].runs_in(box), self.coverages[inner].runs_in(box), box.width
        starts = np.concatenate([holding.y * width + holding.x0, held.y * width + held.x1])
        ends = np.concatenate([holding.y * width + holding.x1, held.y * width + held.x0])
        starts.sort()
        ends.sort()
        left = starts < ends
        starts, ends = starts[left], ends[left]
        y = starts // width
        return Runs(y, starts - y * width, ends - y * width)

    def reckoned(self, box: PixelBox, mixed: Collection[Band] = ()) -> tuple[Ints, dict[OffsetKey, Plane]]:
        """Return the numbers of a box's pixels through which an outline passes, row by row.

        And all that lie in the bands `mixed`; and each outline's coverage of them, shape (1, n).
        """
        found = {key: coverage.cells_in(box) for key, coverage in self.coverages.items()}
        inside = {band.outer: self._numbers_between(band, box) for band in mixed}
        own = [y * box.width + x for y, x, _ in found.values()]
        places = once_each(np.concatenate([*own, *inside.values()]))
        values: dict[OffsetKey, Plane] = {}
        # Outlines lie within one another: one that holds a boundary pixel of an inner one covers it wholly,
        # and one inside of all whose boundary it is does not touch it.
        covered = np.zeros(len(places), np.float32)
        for numbers, (key, (_, _, value)) in zip(own, found.items(), strict=True):
            if key in inside:
                covered[np.searchsorted(places, inside[key])] = 1
            at = np.searchsorted(places, numbers)
            values[key] = covered.copy()[None]
            values[key][0, at] = value
            covered[at] = 1
        return places, values

    def _numbers_between(self, band: Band, box: PixelBox) -> Ints:
        runs = self.between(band.inner, band.outer, box)
        y, x = expanded(runs.y, runs.x0, runs.x1)
        return y * box.width + x
