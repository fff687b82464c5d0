"""Finished parts into bytes: columns that need no arithmetic are copied or left empty, the rest is composed."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Protocol

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import Writing
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.quick.columns import COMPUTED, COPIED, EMPTY, Columns, seen

# Gaps of fewer columns between two computed spans are computed along; more where that is but copying by masks.
_SHORT_GAP, _MASKED_GAP = 24, 400


class Body(Protocol):
    """A writer of a box of a part."""

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it into `out` (zeros)."""


class Ways(Protocol):
    """The writers of one part that compose nothing."""

    @property
    def crisp(self) -> Body | None:
        """Its body where that is a crisp one."""

    @property
    def in_rows(self) -> Body | None:
        """The writer of whole rows of it a run at a time, where that is the quicker way."""

    def columns(self, box: PixelBox) -> Columns:
        """Return what is to be done in each column."""

    def bytes(self, box: PixelBox) -> Bytes:
        """Return copied columns."""

    def write_tint(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of tinted columns."""


def write_in_spans(
    out: Bytes, box: PixelBox, parts: Sequence[FinishedPart], ways: Sequence[Ways | None], writing: Writing
) -> None:
    """Write parts, back to front: spans of columns are copied or left empty where their `ways` tell so."""
    first = ways[0] if len(ways) == 1 else None
    if first is not None and first.in_rows is not None:
        first.in_rows.write(out, box, writing)
        return
    states = [np.full(box.width, COMPUTED, np.uint8) if way is None else way.columns(box) for way in ways]
    kind, source = seen(states, box.width)
    gap = _MASKED_GAP if first is not None and first.crisp is not None else _SHORT_GAP
    for a, b, what in _runs(kind, source, gap):
        span = PixelBox(box.x0 + a, box.y0, box.x0 + b, box.y1)
        top = ways[int(source[a])]
        if what == COMPUTED or top is None:
            shown = [number for number, state in enumerate(states) if (state[a:b] != EMPTY).any()]
            only = ways[shown[0]] if len(shown) == 1 else None
            if only is None or only.crisp is None:
                out[:, a:b] = writing.planes(composed([parts[number] for number in shown], span))
            else:
                only.crisp.write(out[:, a:b], span, writing)
        elif what == COPIED:
            out[:, a:b] = top.bytes(span)
        else:
            top.write_tint(out[:, a:b], span, writing)


def _runs(kind: Columns, source: np.ndarray, gap: int) -> Iterator[tuple[int, int, int]]:
    """Return runs (start, end, kind) of columns alike in kind and source; none of empty ones.

    What lies between two computed runs less than a gap apart is computed with them.
    """
    alike = np.where((kind == COMPUTED) | (kind == EMPTY), kind, kind + 4 * (source + 1))
    cuts = [0, *(np.flatnonzero(alike[1:] != alike[:-1]) + 1).tolist(), len(kind)]
    runs = [(a, b, int(kind[a])) for a, b in pairwise(cuts) if a < b]
    waiting: list[tuple[int, int, int]] = []
    last: tuple[int, int, int] | None = None
    for run in runs:
        if run[2] != COMPUTED:
            waiting.append(run)
            continue
        if last is not None and run[0] - last[1] < gap:
            last = (last[0], run[1], COMPUTED)
        else:
            if last is not None:
                yield last
            yield from (w for w in waiting if w[2] != EMPTY)
            last = run
        waiting.clear()
    if last is not None:
        yield last
    yield from (w for w in waiting if w[2] != EMPTY)
