"""Snapping a moved box to lines, and the guides to show for it."""

from collections.abc import Iterable, Sequence

from msgspec import Struct

from glasscap.core.document.model.job import Sheet
from glasscap.core.geometry.types import Box


class Guide(Struct, frozen=True):
    """A line that was snapped to: `is_vertical` with x = `at`, else y = `at`, in sheet px."""

    is_vertical: bool
    at: float


class Lines(Struct, frozen=True):
    """Lines that boxes snap to: x of vertical lines, y of level ones."""

    xs: tuple[float, ...] = ()
    ys: tuple[float, ...] = ()


class Snapped(Struct, frozen=True):
    """The shift that snaps, and the guides to show."""

    dx: float = 0.0
    dy: float = 0.0
    guides: tuple[Guide, ...] = ()


def snap_lines(sheet: Sheet, boxes: Iterable[Box] = ()) -> Lines:
    """Return the lines of a sheet's and of some boxes' edges and middles."""
    every = (Box(0, 0, sheet.width, sheet.height), *boxes)
    xs = tuple(x for b in every for x in (b.x0, b.centre[0], b.x1))
    ys = tuple(y for b in every for y in (b.y0, b.centre[1], b.y1))
    return Lines(xs, ys)


def snap_box(box: Box, lines: Lines, reach: float) -> Snapped:
    """Return the shift of at most `reach` sheet px that brings an edge or the middle onto a line."""
    cx, cy = box.centre
    dx, x = _nearest((box.x0, cx, box.x1), lines.xs, reach)
    dy, y = _nearest((box.y0, cy, box.y1), lines.ys, reach)
    guides = [Guide(True, x)] if x is not None else []
    return Snapped(dx, dy, (*guides, *([Guide(False, y)] if y is not None else [])))


def snap_point(x: float, y: float, lines: Lines, reach: float) -> Snapped:
    """Return the shift of at most `reach` that brings a point onto lines."""
    return snap_box(Box(x, y, x, y), lines, reach)


def _nearest(values: Sequence[float], lines: Sequence[float], reach: float) -> tuple[float, float | None]:
    pairs = [(abs(line - v), line - v, line) for v in values for line in lines]
    if not pairs:
        return 0.0, None
    distance, shift, line = min(pairs)
    return (shift, line) if distance <= reach else (0.0, None)
