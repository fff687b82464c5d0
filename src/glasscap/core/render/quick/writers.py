"""The door to every faster way: what a part's pixels are written by, and one switch that turns all ways off."""

import typing
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import STRAIGHT, Writing
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.compose.group import GroupPart
from glasscap.core.render.quick.columns import COMPUTED, COPIED, EMPTY, TINTED, Columns, seen
from glasscap.core.render.quick.crisp import CrispBody, crisp_body, rows_of, solid_parts
from glasscap.core.render.quick.crisp_rows import CrispRows
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.spans import write_in_spans

_is_on = [True]


@contextmanager
def only_exact() -> Iterator[None]:
    """Have everything composed the one exact way meanwhile, in all threads."""
    before, _is_on[0] = _is_on[0], False
    try:
        yield
    finally:
        _is_on[0] = before


class Writer:
    """A writer of one part without composing it: of all of it, or of some columns."""

    def __init__(self, part: FinishedPart) -> None:
        # Not the part itself: that holds this.
        self._weights, self._content, self._casts = part.weights, part.content, part.casts
        self._bevel, self._mount, self._opacity = part.bevel, part.mount, part.part.opacity
        self._solid = None
        if not isinstance(part.content, GroupPart):
            self._solid = solid_parts(part.part, part.weights, part.content, part.casts, part.strokes, part.bevel)
        self.crisp: CrispBody | None = None if self._solid is None else crisp_body(self._solid)

    @cached_property
    def in_rows(self) -> CrispRows | FadingRows | None:
        """The writer of whole rows a run at a time, where that is the quicker way."""
        return None if self._solid is None else rows_of(self._solid)

    @property
    def is_copied(self) -> bool:
        """Whether whole rows are written of pixels that are there already."""
        return self.in_rows is not None and self._content.copied is not None

    def columns(self, box: PixelBox) -> Columns:
        """Return for each column of a box whether it is empty, the content's bytes, or must be computed.

        A tinted column is that of one shadow or glow alone.
        """
        full, empty = self._weights.columns(box)
        content = self._content
        if isinstance(content, GroupPart):
            full = full & full_columns(content, box)
        elif not content.is_opaque:
            full = np.zeros_like(full)
        if self._opacity < 1:
            full = np.zeros_like(full)
        beneath, tinted = [], empty
        for cast in self._casts:
            none = cast.is_empty(box)
            if cast.is_inner:
                full = full & none
            else:
                beneath.append(none)
                empty = empty & none
        if self._bevel is not None:
            none = self._bevel.is_empty(box)
            full, empty, tinted = full & none, empty & none, tinted & none
        if self._mount is not None:
            none = writer_of(self._mount).columns(box) == EMPTY
            empty, tinted = empty & none, tinted & none
        out = np.full(box.width, COMPUTED, np.uint8)
        if len(beneath) == 1:
            out[tinted] = TINTED
        out[empty] = EMPTY
        out[full] = COPIED
        return out

    def bytes(self, box: PixelBox) -> Bytes:
        """Return the pixels of copied columns as they are written: uint8 RGBA, shape of the box."""
        content = self._content
        if not isinstance(content, GroupPart):
            return content.bytes(box)
        out = np.zeros((box.height, box.width, 4), np.uint8)
        write_parts(out, box, held_in(content, box), STRAIGHT)
        return out

    def write_tint(self, out: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of tinted columns."""
        next(cast for cast in self._casts if not cast.is_inner).write(out, box, self._opacity, writing)


def writer_for(part: FinishedPart) -> Writer | None:
    """Return what writes a part faster than composing it does; None where that is switched off."""
    return writer_of(part) if _is_on[0] else None


def writer_of(part: FinishedPart) -> Writer:
    """Return a part's writer, whether ways are switched off or not."""
    if part.memo is None:
        part.memo = Writer(part)
    return typing.cast("Writer", part.memo)


def write_parts(out: Bytes, box: PixelBox, parts: Sequence[FinishedPart], writing: Writing) -> None:
    """Write parts, back to front, into `out` (zeros, uint8 of shape (box height, box width, 4)).

    `writing` turns premultiplied planes into the bytes wanted; opaque content is the same either way.
    """
    write_in_spans(out, box, parts, [writer_for(part) for part in parts], writing)


def are_runs(parts: Sequence[FinishedPart]) -> bool:
    """Whether runs of pixels are written of all parts, by rows or through masks."""
    writers = [writer_for(part) for part in parts]
    return all(writer is not None and (writer.in_rows or writer.crisp) for writer in writers)


def are_copied(parts: Sequence[FinishedPart]) -> bool:
    """Whether whole rows of all parts are pixels that are there already."""
    return all((writer := writer_for(part)) is not None and writer.is_copied for part in parts)


def held_in(group: GroupPart, box: PixelBox) -> list[FinishedPart]:
    """Return the parts of a group of which anything may lie in a box."""
    return [typing.cast("FinishedPart", held) for held in group.held_in(box)]


def full_columns(group: GroupPart, box: PixelBox) -> NDArray[np.bool_]:
    """Return in which columns of a box one member's opaque pixels are all there is to see of a group."""
    states = [writer_of(part).columns(box) for part in held_in(group, box)]
    return np.asarray(seen(states, box.width)[0] == COPIED)
