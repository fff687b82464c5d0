"""Finished parts into bytes: columns that need no arithmetic are copied or left empty, the rest is composed."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Protocol

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.columns import COMPUTED, COPIED, EMPTY, Columns, seen
from glasscap.core.render.planar import Planar, Writing, lay_under

# Gaps of fewer columns between two computed spans are computed along; more where that is but copying by masks.
_SHORT_GAP, _MASKED_GAP = 24, 400


class Pixels(Protocol):
    """What shows through a part."""

    def bytes(self, box: PixelBox) -> Bytes:
        """Return opaque pixels as they are written."""


class Rows(Protocol):
    """What writes whole rows."""

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box."""


class Body(Protocol):
    """A body whose runs are copied."""

    def write(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of it."""


class Spanned(Protocol):
    """A part, ready to give its pixels box by box."""

    @property
    def content(self) -> Pixels:
        """What shows through it."""

    @property
    def crisp(self) -> Body | None:
        """Its body where that is a crisp one."""

    @property
    def in_rows(self) -> Rows | None:
        """What writes whole rows of it a run at a time, where that is the quicker way."""

    def columns(self, box: PixelBox) -> Columns:
        """Return what is to be done in each column."""

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes."""

    def write_tint(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of tinted columns."""


def write_spans(out: Bytes, box: PixelBox, parts: Sequence[Spanned], writing: Writing) -> None:
    """Write parts, back to front, into `out` (zeros, uint8 of shape (box height, box width, 4)).

    `writing` turns premultiplied planes into the bytes wanted; opaque content is the same either way.
    """
    if len(parts) == 1 and parts[0].in_rows is not None:
        parts[0].in_rows.write(out, box, writing)
        return
    states = [part.columns(box) for part in parts]
    kind, source = seen(states, box.width)
    gap = _MASKED_GAP if len(parts) == 1 and parts[0].crisp is not None else _SHORT_GAP
    for a, b, what in _runs(kind, source, gap):
        span = PixelBox(box.x0 + a, box.y0, box.x0 + b, box.y1)
        if what == COMPUTED:
            shown = [p for p, state in zip(parts, states, strict=True) if (state[a:b] != EMPTY).any()]
            crisp = shown[0].crisp if len(shown) == 1 else None
            if crisp is None:
                out[:, a:b] = writing.planes(composed(shown, span))
            else:
                crisp.write(out[:, a:b], span, writing)
            continue
        top = parts[int(source[a])]
        if what == COPIED:
            out[:, a:b] = top.content.bytes(span)
        else:
            top.write_tint(out[:, a:b], span, writing)


def composed(parts: Sequence[Spanned], box: PixelBox) -> Planar:
    """Return parts, back to front, over one another: premultiplied planes, shape (4, h, w)."""
    total = parts[-1].planes(box)
    for part in reversed(parts[:-1]):
        lay_under(total, part.planes(box))
    return total


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
