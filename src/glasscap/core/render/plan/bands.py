"""Strokes as a partition of the plane: nested offsets of one outline, and what lies between them."""

from itertools import pairwise

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Join, Stroke


class OffsetKey(Struct, frozen=True):
    """One parallel outline: its distance (output px, outwards positive) and how its corners are joined.

    Where `holds` is given what lies within that outline belongs to this one too: the tip of a mitre may
    stand out of a wider outline with cut corners.
    """

    distance: float
    join: Join = "round"
    mitre_limit: float = 4.0
    holds: "OffsetKey | None" = None

    def moved(self, by: float) -> "OffsetKey":
        """Return the outline further out."""
        if by == 0:
            return self
        holds = None if self.holds is None else self.holds.moved(by)
        return OffsetKey(self.distance + by, self.join, self.mitre_limit, holds)

    @property
    def order(self) -> tuple[float, int]:
        """Sorts offsets from the innermost outwards; where distances agree, by how much a corner holds."""
        rank = ("bevel", "round", "mitre").index(self.join)
        return self.distance, rank if self.distance > 0 else -rank if self.distance < 0 else 0


OUTLINE = OffsetKey(0.0)


class Band(Struct, frozen=True):
    """The band between two neighbouring offsets, and its strokes (numbers in the list), topmost first.

    It `is_inside` where content shows through what strokes leave.
    """

    inner: OffsetKey
    outer: OffsetKey
    strokes: tuple[int, ...]
    is_inside: bool


def offsets_of(stroke: Stroke, scale: float) -> tuple[OffsetKey, OffsetKey]:
    """Return the inner and outer offset of a stroke in output px."""
    low, high = stroke.band
    keys = (OffsetKey(v * scale, stroke.join, stroke.mitre_limit) if v else OUTLINE for v in (low, high))
    inner, outer = keys
    return inner, outer


def bands_of(strokes: tuple[Stroke, ...], scale: float) -> tuple[Band, ...]:
    """Return the elementary bands of strokes that are on, from the innermost outwards.

    The outline itself is always one of the borders, so that every band lies inside or outside of it.
    """
    spans = {n: offsets_of(s, scale) for n, s in enumerate(strokes) if s.is_on and s.width > 0}
    keys = sorted({OUTLINE, *(key for span in spans.values() for key in span)}, key=lambda k: k.order)
    place = {key: index for index, key in enumerate(keys)}
    keys = _nested(keys)
    return tuple(
        Band(
            inner,
            outer,
            tuple(n for n, (low, high) in spans.items() if place[low] <= index < place[high]),
            index < place[OUTLINE],
        )
        for index, (inner, outer) in enumerate(pairwise(keys))
    )


def turned_out(bands: tuple[Band, ...]) -> tuple[Band, ...]:
    """Return the bands of a hole as seen from what is kept around it: that lies within all of them."""
    return tuple(Band(b.outer, b.inner, b.strokes, not b.is_inside) for b in reversed(bands))


def _nested(keys: list[OffsetKey]) -> list[OffsetKey]:
    """Return offsets, innermost first, of which each holds the one before whatever their corners."""
    out: list[OffsetKey] = []
    for key in keys:
        before = out[-1] if out else OUTLINE
        # The outline itself lies between all inner and all outer offsets.
        is_parted = OUTLINE not in (key, before)
        if is_parted and (before.holds or (before.join, before.mitre_limit) != (key.join, key.mitre_limit)):
            key = replace(key, holds=before)
        out.append(key)
    return out


def solid_spans(bands: tuple[Band, ...]) -> list[tuple[OffsetKey | None, OffsetKey]]:
    """Return what content and strokes fill together, as (inner, outer) offsets; None: from the very inside."""
    first = bands[0].inner if bands else OUTLINE
    spans: list[tuple[OffsetKey | None, OffsetKey]] = [(None, first)]
    for band in bands:
        if not (band.is_inside or band.strokes):
            continue
        if spans[-1][1] == band.inner:
            spans[-1] = (spans[-1][0], band.outer)
        else:
            spans.append((band.inner, band.outer))
    return spans
