"""The outlines of a body's strokes, of few runs a row: runs are filled, boundary pixels reckoned."""

from functools import cached_property
from itertools import pairwise, takewhile

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage, Runs, expanded
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import Writing
from glasscap.core.raster.run_blocks import copy_runs, fill_runs
from glasscap.core.raster.words import Words, filled_with, one_long_row, words
from glasscap.core.render.paint.strokes import StrokePaint
from glasscap.core.render.plan.bands import Band
from glasscap.core.render.quick.crisp_parts import CrispParts
from glasscap.core.render.quick.laid_strokes import LaidStrokes

# More runs a row than this are quicker through masks.
_FEW_RUNS = 3.0
# Pixels of a paint that varies are reckoned so many at a time, or as many as a run has.
_PAINTED_PX = 200_000


class RowOutlines:
    """Nested outlines between which strokes lie."""

    def __init__(self, parts: CrispParts) -> None:
        self._parts, self._nested = parts, parts.weights.nested
        self._coverages = self._nested.coverages
        self._mixed = parts.weights.mixed_bands
        self._filled = [band for band in parts.weights.bands if band.strokes and band not in self._mixed]

    @property
    def are_few(self) -> bool:
        """Whether rows have so few runs, and shadows are such, that a run at a time is the quicker way."""
        has_wide = all(cast.is_wide for cast in self._parts.casts)
        return has_wide and all(c.runs_per_row <= _FEW_RUNS for c in self._coverages.values())

    @property
    def innermost(self) -> Coverage:
        """The outline within which no stroke lies."""
        return self._coverages[self._parts.weights.innermost]

    @cached_property
    def opaque(self) -> Coverage:
        """The outline within which content and strokes fill all; further out a gap may show what is beneath."""
        bands = self._parts.weights.bands
        filled = sum(1 for _ in takewhile(lambda band: band in self._filled or _is_bare(band), bands))
        return list(self._coverages.values())[filled]

    def hull(self, box: PixelBox) -> PixelBox:
        """Return the part of a box in which the outermost outline lies."""
        return self._coverages[self._parts.weights.outermost].touched_box(box)

    def write_runs(self, out: Bytes, content: Bytes, box: PixelBox) -> None:
        """Write content and strokes where either fills pixels, where no outline passes."""
        to, source = words(out), words(content)
        copy_runs(to, source, self.innermost.runs_in(box))
        for band in self._parts.weights.bands:
            if _is_bare(band):
                # Pixels through which the inner outline passes are among these, and computed afterwards.
                copy_runs(to, source, self._nested.between(band.inner, band.outer, box))
        self.fill_strokes(out, box)

    def fill_strokes(self, out: Bytes, box: PixelBox) -> None:
        """Write strokes where they fill pixels."""
        for band in self._filled:
            stroke, runs = self._parts.strokes[band.strokes[0]], self._nested.between(band.inner, band.outer, box)
            if stroke.colour is not None:
                fill_runs(words(out), runs, words(filled_with(stroke.colour, (1, 1)))[0, 0])
            else:
                _paint_runs(words(out), runs, box, stroke)

    def write_cells(self, out: Bytes, content: Bytes, box: PixelBox, writing: Writing) -> None:
        """Compute the pixels through which an outline passes, those that are lit or that no one thing fills."""
        bevel, lit = self._parts.bevel, None
        if bevel is None:
            places, values = self._nested.reckoned(box, self._mixed)
        else:
            lit = bevel.within(box)
            is_wanted = lit.is_seen
            for is_inside in self._nested.inside(self._mixed, box):
                is_wanted.ravel()[is_inside] = True
            places, values = self._nested.reckoned_with(is_wanted, box)
        if len(places):
            self._parts.write_cells(out, content, places, values, box, writing, lit)

    @cached_property
    def _laid(self) -> LaidStrokes:
        """The strokes' shares where these do not fill pixels alone, for the screen."""
        return LaidStrokes(self._parts.weights)

    def lay_over(self, out: Bytes, box: PixelBox) -> None:
        """For the screen, lay the strokes over premultiplied pixels in which all the rest is there already."""
        y, x, shares = self._laid.within(box)
        row, step = one_long_row(words(out))
        places = (y - box.y0) * step + (x - box.x0)
        beneath = row[places]
        # This fills pixels, too, through which inner outlines pass.
        self.fill_strokes(out, box)
        if len(places):
            row[places] = self._parts.beneath_strokes(beneath, y, x, shares)


def _is_bare(band: Band) -> bool:
    """Whether the content alone lies in a band."""
    return band.is_inside and not band.strokes


def _paint_runs(to: Words, runs: Runs, box: PixelBox, stroke: StrokePaint) -> None:
    """Write a stroke whose paint varies into runs of a box, some at a time."""
    row, step = one_long_row(to)
    ends = np.cumsum(runs.x1 - runs.x0)
    turns = np.arange(0, ends[-1] if len(ends) else 0, _PAINTED_PX)
    cuts = [*np.searchsorted(ends, turns, side="right").tolist(), len(ends)]
    for a, b in pairwise(cuts):
        ys, xs = expanded(runs.y[a:b], runs.x0[a:b], runs.x1[a:b])
        if len(ys):
            row[ys * step + xs] = stroke.words_at(ys + box.y0, xs + box.x0)
