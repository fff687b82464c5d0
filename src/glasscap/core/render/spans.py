"""Finished parts into bytes: columns that need no arithmetic are copied or left empty, the rest is composed."""

from collections.abc import Callable, Iterator, Sequence
from itertools import pairwise

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.finished import COMPUTED, COPIED, EMPTY, Columns, FinishedPart
from glasscap.core.render.planar import Planar, lay_under

# Gaps of fewer columns between two computed spans are computed along.
_SHORT_GAP = 24


def write_spans(
    out: Bytes, box: PixelBox, parts: Sequence[FinishedPart], convert: Callable[[Planar], Bytes]
) -> None:
    """Write parts, back to front, into `out` (zeros, uint8 of shape (box height, box width, 4)).

    `convert` turns premultiplied planes into the bytes wanted; opaque content is the same either way.
    """
    states = [part.columns(box) for part in parts]
    kind, source = _seen(states, box.width)
    for x0, x1 in _runs(kind == COPIED):
        # Neighbouring columns may come from different parts.
        for a, b in _changes(source, x0, x1):
            span = PixelBox(box.x0 + a, box.y0, box.x0 + b, box.y1)
            out[:, a:b] = parts[int(source[a])].content.bytes(span)
    for x0, x1 in _runs(_bridged(kind == COMPUTED)):
        span = PixelBox(box.x0 + x0, box.y0, box.x0 + x1, box.y1)
        shown = [p for p, state in zip(parts, states, strict=True) if (state[x0:x1] != EMPTY).any()]
        if shown:
            out[:, x0:x1] = convert(composed(shown, span))


def composed(parts: Sequence[FinishedPart], box: PixelBox) -> Planar:
    """Return parts, back to front, over one another: premultiplied planes, shape (4, h, w)."""
    total = parts[-1].planes(box)
    for part in reversed(parts[:-1]):
        lay_under(total, part.planes(box))
    return total


def _seen(states: Sequence[Columns], width: int) -> tuple[Columns, np.ndarray]:
    """Return what is to be done in each column, and for copied ones with which part."""
    kind, source = np.zeros(width, np.uint8), np.zeros(width, np.int64)
    for number in range(len(states) - 1, -1, -1):
        free = kind == EMPTY
        kind[free] = states[number][free]
        source[free] = number
    return kind, source


def _runs(flags: np.ndarray) -> Iterator[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], flags, [False]]).astype(np.int8)))
    return zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True)


def _changes(source: np.ndarray, x0: int, x1: int) -> Iterator[tuple[int, int]]:
    cuts = [x0, *(np.flatnonzero(np.diff(source[x0:x1])) + x0 + 1).tolist(), x1]
    return pairwise(cuts)


def _bridged(flags: np.ndarray) -> np.ndarray:
    out = flags.copy()
    ends = list(_runs(flags))
    for (_, end), (start, _) in pairwise(ends):
        if start - end < _SHORT_GAP:
            out[end:start] = True
    return out
