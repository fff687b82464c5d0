"""Crisp bodies of few runs a row, written a run at a time: no masks, and shadows only where they may be seen."""

from collections.abc import Iterable
from itertools import takewhile

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Runs
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.bands import OffsetKey
from glasscap.core.render.crisp_parts import CrispParts
from glasscap.core.render.planar import Plane, Writing, filled_with, once_each, one_long_row, words

# More runs a row than this are quicker through masks.
_FEW_RUNS = 3.0
# Rows in which shadows are laid at a time, more where those are short: what the body hides is found for all
# of these together.
_SHADED_ROWS, _SHADED_PX = 96, 200_000


class CrispRows:
    """A crisp body whose shadows and glows are of wide blur."""

    def __init__(self, parts: CrispParts) -> None:
        self._parts, self._coverages = parts, parts.coverages()
        bands, outlines = parts.weights.bands, list(self._coverages.values())
        self._outermost = outlines[-1]
        # What lies within this outline is opaque throughout; further out a gap may show what is beneath.
        self._opaque = outlines[sum(1 for _ in takewhile(lambda band: band.strokes or band.is_inside, bands))]

    @property
    def are_few(self) -> bool:
        """Whether rows have so few runs, and shadows are such, that this way is the quicker one."""
        has_wide = all(cast.is_wide for cast in self._parts.casts)
        return has_wide and all(c.runs_per_row <= _FEW_RUNS for c in self._coverages.values())

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros, uint8 of shape (box height, box width, 4))."""
        height = max(_SHADED_ROWS, _SHADED_PX // max(box.width, 1))
        for y0 in range(box.y0, box.y1, height) if self._parts.casts else ():
            rows = PixelBox(box.x0, y0, box.x1, min(y0 + height, box.y1))
            self._write_shadows(out[y0 - box.y0 : rows.y1 - box.y0], rows, writing)
        hull = self._hull(box)
        if hull.is_empty:
            return
        here, content = out[:, hull.x0 - box.x0 : hull.x1 - box.x0], self._parts.content.bytes(hull)
        self._write_runs(here, content, hull)
        self._write_cells(here, content, hull, writing)

    def _write_shadows(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write what lies beneath the body, but for the columns that the body fills from top to bottom."""
        extents = [cast.extent(box) for cast in self._parts.casts]
        left, right = min(a for a, _ in extents), max(b for _, b in extents)
        first, end = self._opaque.full_columns(box)
        for x0, x1 in ((left, min(first, right)), (max(end, left), right)):
            if x0 < x1:
                span = PixelBox(x0, box.y0, x1, box.y1)
                self._parts.write_beneath(out[:, x0 - box.x0 : x1 - box.x0], span, writing)

    def _hull(self, box: PixelBox) -> PixelBox:
        """Return the part of a box in which the body lies."""
        seen = self._outermost.extent(box)
        return PixelBox(max(seen[0], box.x0), box.y0, min(seen[1], box.x1), box.y1)

    def _write_runs(self, out: Bytes, content: Bytes, box: PixelBox) -> None:
        runs = {key: coverage.runs_in(box) for key, coverage in self._coverages.items()}
        to, to_step = one_long_row(words(out))
        source, source_step = one_long_row(words(content))

        def copy(shown: Runs) -> None:
            for (a, b), (c, d) in zip(_in_one_row(shown, to_step), _in_one_row(shown, source_step), strict=True):
                to[a:b] = source[c:d]

        copy(runs[self._parts.weights.innermost])
        for band in self._parts.weights.bands:
            if not (band.strokes or band.is_inside):
                continue
            between = _between(runs[band.outer], runs[band.inner], box.width)
            if not band.strokes:
                copy(between)
                continue
            word = words(filled_with(self._parts.colours[band.strokes[0]], (1, 1)))[0, 0]
            for a, b in _in_one_row(between, to_step):
                to[a:b].fill(word)

    def _write_cells(self, out: Bytes, content: Bytes, box: PixelBox, writing: Writing) -> None:
        """Compute the pixels through which an outline passes."""
        found = {key: coverage.cells_in(box) for key, coverage in self._coverages.items()}
        places = once_each(np.concatenate([y * box.width + x for y, x, _ in found.values()]))
        if len(places) == 0:
            return
        values: dict[OffsetKey, Plane] = {}
        # Outlines lie within one another: one that holds a boundary pixel of an inner one covers it wholly,
        # and one inside of all whose boundary it is does not touch it.
        covered = np.zeros(len(places), np.float32)
        for key, (y, x, value) in found.items():
            own = np.searchsorted(places, y * box.width + x)
            values[key] = covered.copy()[None]
            values[key][0, own] = value
            covered[own] = 1
        self._parts.write_cells(out, content, places, values, box, writing)


def _between(outer: Runs, inner: Runs, width: int) -> Runs:
    """Return the runs of an outline that holds another one, less the other's."""
    starts = np.concatenate([outer.y * width + outer.x0, inner.y * width + inner.x1])
    ends = np.concatenate([outer.y * width + outer.x1, inner.y * width + inner.x0])
    starts.sort()
    ends.sort()
    left = starts < ends
    starts, ends = starts[left], ends[left]
    y = starts // width
    return Runs(y, starts - y * width, ends - y * width)


def _in_one_row(runs: Runs, step: int) -> Iterable[tuple[int, int]]:
    """Return where runs start and end in one long row whose rows start `step` apart."""
    first = runs.y * step
    return zip((first + runs.x0).tolist(), (first + runs.x1).tolist(), strict=True)
