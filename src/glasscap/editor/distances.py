"""Gaps between a moved box and its neighbours: shown in px, and snapped to where they become equal."""

from collections.abc import Iterator, Sequence

from msgspec import Struct

from glasscap.core.geometry.types import Box

# Neighbours nearest to the moved box that are looked at for equal gaps.
_MOST_NEIGHBOURS = 16
_SMALLEST = 0.5


class Distance(Struct, frozen=True):
    """A gap between two edges, (x0, y0) to (x1, y1) in sheet px, level or upright; `is_equal` to another."""

    x0: float
    y0: float
    x1: float
    y1: float
    is_equal: bool = False

    @property
    def length(self) -> float:
        """The gap in sheet px."""
        return abs(self.x1 - self.x0) + abs(self.y1 - self.y0)


def equal_gap_shift(box: Box, others: Sequence[Box], reach: float) -> tuple[float | None, float | None]:
    """Return the shifts (across, down) of at most `reach` that make gaps equal; None where there is none."""
    return _shift(box, others, reach), _shift(_flipped(box), [_flipped(o) for o in others], reach)


def _shift(box: Box, others: Sequence[Box], reach: float) -> float | None:
    row = _in_row(box, others)
    wanted = [x - box.x0 for x in _equal_places(box.width, row)]
    near = [dx for dx in wanted if abs(dx) <= reach]
    return min(near, key=abs) if near else None


def _equal_places(width: float, row: Sequence[Box]) -> Iterator[float]:
    """Yield the left edges at which a box of that width has the gap two others have, or lies halfway."""
    for a in row:
        for b in row:
            gap = b.x0 - a.x1
            if a is b or gap < _SMALLEST:
                continue
            yield b.x1 + gap
            yield a.x0 - gap - width
            if gap > width:
                yield (a.x1 + b.x0 - width) / 2


def distances(box: Box, others: Sequence[Box]) -> tuple[Distance, ...]:
    """Return the gaps to the nearest neighbours left, right, above and below."""
    level = _gaps(box, others)
    upright = [_turned(d) for d in _gaps(_flipped(box), [_flipped(o) for o in others])]
    return (*level, *upright)


def _gaps(box: Box, others: Sequence[Box]) -> list[Distance]:
    row = _in_row(box, others)
    left = max((o for o in row if o.x1 <= box.x0 + 1e-6), key=lambda o: o.x1, default=None)
    right = min((o for o in row if o.x0 >= box.x1 - 1e-6), key=lambda o: o.x0, default=None)
    found = []
    if left is not None:
        found.append((left.x1, box.x0, left))
    if right is not None:
        found.append((box.x1, right.x0, right))
    lengths = [b - a for a, b, _ in found]
    between = [b.x0 - a.x1 for a in row for b in row if b.x0 > a.x1]
    out = []
    for (start, end, other), length in zip(found, lengths, strict=True):
        others_alike = [n for n in lengths if abs(n - length) < 0.01]
        is_equal = len(others_alike) > 1 or any(abs(gap - length) < 0.01 for gap in between)
        y = (max(box.y0, other.y0) + min(box.y1, other.y1)) / 2
        out.append(Distance(start, y, end, y, is_equal))
    return out


def _in_row(box: Box, others: Sequence[Box]) -> list[Box]:
    """Return the nearest neighbours beside a box: those it overlaps in height."""
    row = [o for o in others if min(o.y1, box.y1) > max(o.y0, box.y0)]
    row.sort(key=lambda o: abs(o.centre[0] - box.centre[0]))
    return row[:_MOST_NEIGHBOURS]


def _flipped(box: Box) -> Box:
    return Box(box.y0, box.x0, box.y1, box.x1)


def _turned(distance: Distance) -> Distance:
    return Distance(distance.y0, distance.x0, distance.y1, distance.x1, distance.is_equal)
