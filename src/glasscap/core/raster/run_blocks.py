"""Runs of pixels filled, and copied: rows side by side as blocks, what sticks out of those pixel by pixel."""

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from glasscap.core.geometry.outline import Ints
from glasscap.core.raster.coverage import Runs, expanded
from glasscap.core.raster.picking import ends_of, kept, starts_of_runs
from glasscap.core.raster.words import Words, one_long_row, picked

# Runs as long as this (px) are written one by one; of shorter ones all pixels at once.
_SHORT_RUN = 200
# Their places take eight bytes each: of so many they stay in the processor's cache.
_PX_AT_A_TIME = 32_768
# Rows of a block: the more there are, the more sticks out of it.
_BLOCK_ROWS = 16


def copy_runs(to: Words, source: Words, runs: Runs) -> None:
    """Copy runs of pixels, each to its own place."""
    parts = _in_blocks(runs)
    for y0, y1, x0, x1 in parts.blocks():
        to[y0:y1, x0:x1] = source[y0:y1, x0:x1]
    for y, x0, x1 in parts.long_runs():
        to[y, x0:x1] = source[y, x0:x1]
    row, step = one_long_row(to)
    ys, xs = parts.pixels()
    row[ys * step + xs] = picked(source, ys, xs)


def fill_runs(to: Words, runs: Runs, word: np.uint32) -> None:
    """Write one colour into runs of pixels."""
    row, step = one_long_row(to)
    first, counts = runs.y * step + runs.x0, runs.x1 - runs.x0
    if counts.sum() <= _SHORT_RUN * len(counts):
        before = np.cumsum(counts) - counts
        for some in _in_turns(before):
            offset = first[some] - (before[some] - before[some.start])
            places = np.repeat(offset, counts[some])
            places += np.arange(len(places))
            row[places] = word
        return
    for start, end in zip(first.tolist(), (first + counts).tolist(), strict=True):
        row[start:end].fill(word)


def _in_turns(before: Ints) -> list[slice]:
    """Return runs by turns of so many px that are quickly written; `before` tells how many come before each."""
    turns = np.arange(0, int(before[-1]) + 1 if len(before) else 0, _PX_AT_A_TIME)
    starts = [*np.unique(np.searchsorted(before, turns)).tolist(), len(before)]
    return [slice(a, b) for a, b in pairwise(starts)]


class _Parts(NamedTuple):
    """Blocks of rows y0 .. y1-1, columns x0 .. x1-1, and the runs that are left."""

    y0: Ints
    y1: Ints
    x0: Ints
    x1: Ints
    rest: Runs

    def blocks(self) -> Iterator[tuple[int, int, int, int]]:
        filled = self.x1 > self.x0
        return zip(*(numbers.tolist() for numbers in kept(filled, *self[:4])), strict=True)

    def long_runs(self) -> Iterator[tuple[int, int, int]]:
        y, x0, x1 = self.rest.y, self.rest.x0, self.rest.x1
        return zip(*(numbers.tolist() for numbers in kept(x1 - x0 > _SHORT_RUN, y, x0, x1)), strict=True)

    def pixels(self) -> tuple[Ints, Ints]:
        """Return the single pixels (y, x) of short runs."""
        counts = self.rest.x1 - self.rest.x0
        return expanded(*kept(counts <= _SHORT_RUN, self.rest.y, self.rest.x0, self.rest.x1))


def _in_blocks(runs: Runs) -> _Parts:
    """Return runs as blocks, of the first run of each row, of the second, and so on, and what is left."""
    y, x0, x1 = _by_number_in_row(runs)
    if len(y) == 0:
        return _Parts(y, y, y, y, runs)
    place, is_first = np.arange(len(y)), np.ones(len(y), np.bool_)
    np.not_equal(y[1:], y[:-1] + 1, out=is_first[1:])
    start = np.maximum.accumulate(np.where(is_first, place, 0))
    first = np.flatnonzero((place - start) % _BLOCK_ROWS == 0)
    last = ends_of(first, len(y))
    left = np.maximum.reduceat(x0, first)
    right = np.maximum(left, np.minimum.reduceat(x1, first))
    # What is left of a run lies left of its block or right of it.
    from_, to = (np.minimum(np.repeat(edge, last - first), x1) for edge in (left, right))
    rest = Runs(np.concatenate((y, y)), np.concatenate((x0, to)), np.concatenate((from_, x1)))
    return _Parts(y[first], y[last - 1] + 1, left, right, rest)


def _by_number_in_row(runs: Runs) -> tuple[Ints, Ints, Ints]:
    """Return y, x0, x1 of the first run of each row, then of the second ones, and so on."""
    if len(runs.y) == 0 or (runs.y[1:] > runs.y[:-1]).all():
        return runs.y, runs.x0, runs.x1
    starts = starts_of_runs(runs.y)
    number = np.arange(len(runs.y)) - np.repeat(starts, ends_of(starts, len(runs.y)) - starts)
    order = np.argsort(number, kind="stable")
    return runs.y[order], runs.x0[order], runs.x1[order]
