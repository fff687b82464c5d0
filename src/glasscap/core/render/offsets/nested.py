"""Outlines that lie within one another: what is between two of them, and which pixels must be reckoned."""

from collections.abc import Collection, Iterator, Sequence
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Flags, Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage, Runs
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.planar import once_each
from glasscap.core.render.plan.bands import Band, OffsetKey


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
        inside = {band.outer: self._is_between(band, box) for band in mixed}
        own = [y * box.width + x for y, x, _ in found.values()]
        places = _places(own, inside.values())
        values: dict[OffsetKey, Plane] = {}
        # Outlines lie within one another: one that holds a boundary pixel of an inner one covers it wholly,
        # and one inside of all whose boundary it is does not touch it.
        covered = np.zeros(len(places), np.float32)
        for numbers, (key, (_, _, value)) in zip(own, found.items(), strict=True):
            if key in inside:
                covered[inside[key][places]] = 1
            at = np.searchsorted(places, numbers)
            values[key] = covered.copy()[None]
            values[key][0, at] = value
            covered[at] = 1
        return places, values

    def reckoned_with(self, is_wanted: NDArray[np.bool_], box: PixelBox) -> tuple[Ints, dict[OffsetKey, Plane]]:
        """Do the same with the pixels `is_wanted` tells of, of the shape of the box; those are added to it."""
        outlines = {key: OutlinePixels(coverage, box) for key, coverage in self.coverages.items()}
        for outline in outlines.values():
            is_wanted.ravel()[outline.places] = True
        places = np.flatnonzero(is_wanted)
        return places, {key: outline.at(places)[None] for key, outline in outlines.items()}

    def inside(self, bands: Collection[Band], box: PixelBox) -> Iterator[Flags]:
        """Return of each of some bands which pixels of a box are in it, shape (n,)."""
        return (self._is_between(band, box) for band in bands)

    def _is_between(self, band: Band, box: PixelBox) -> Flags:
        return self.between(band.inner, band.outer, box).plane(np.bool_, box).reshape(-1)


def _places(own: Sequence[Ints], inside: Collection[Flags]) -> Ints:
    """Return the places of boundary pixels, and of those inside bands, ascending and each once."""
    if not inside:
        return once_each(np.concatenate(own))
    # Marking is quicker than sorting where they are many.
    is_wanted = np.logical_or.reduce(list(inside))
    for places in own:
        is_wanted[places] = True
    return np.flatnonzero(is_wanted)


class OutlinePixels:
    """One outline's coverage of a box.

    `filled` is 1 where a pixel is covered wholly, `places` are the numbers of those covered in part, row by row.
    """

    def __init__(self, coverage: Coverage, box: PixelBox) -> None:
        y, x, self._values = coverage.cells_in(box)
        self.filled: NDArray[np.uint8] = coverage.filled(box)
        self.places = y * box.width + x

    @cached_property
    def touched(self) -> NDArray[np.uint8]:
        """1 where a pixel is covered at all."""
        made = self.filled.copy()
        made.ravel()[self.places] = 1
        return made

    def at(self, places: Ints) -> Plane:
        """Return the coverage of pixels, among them all it covers in part; float32."""
        out = self.filled.ravel()[places].astype(np.float32)
        out[np.searchsorted(places, self.places)] = self._values
        return out
