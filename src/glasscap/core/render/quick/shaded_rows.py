"""Rows in which soft things are drawn at a time: many where an edge is upright, fewer where it is slanted."""

from collections.abc import Callable, Iterator
from typing import Protocol, TypeVar

from glasscap.core.geometry.types import PixelBox

# Never fewer rows than these are parted from others, and never more drawn at a time.
_FEWEST_ROWS, _MOST_ROWS = 96, 384
# Pixels that could be computed in the time a group takes by itself; and the most that are computed at a time.
_GROUP_PX, _MOST_PX = 40_000, 200_000


class Spans(Protocol):
    """Which columns of some rows need to be computed."""

    @property
    def width(self) -> int:
        """The number of columns."""


Found = TypeVar("Found", bound=Spans)


def shaded_rows(box: PixelBox, look: Callable[[PixelBox], Found]) -> Iterator[tuple[PixelBox, Found]]:
    """Return the rows of a box in groups, and what `look` tells of each."""
    for y0 in range(box.y0, box.y1, _MOST_ROWS):
        rows = PixelBox(box.x0, y0, box.x1, min(y0 + _MOST_ROWS, box.y1))
        yield from _parted(rows, look(rows), look)


def _parted(rows: PixelBox, found: Found, look: Callable[[PixelBox], Found]) -> Iterator[tuple[PixelBox, Found]]:
    """Part rows where along a slanted edge that leaves so many columns fewer that it is worth while."""
    size = found.width * rows.height
    if rows.height > _FEWEST_ROWS and size > _GROUP_PX:
        middle = rows.y0 + rows.height // 2
        halves = [(half, look(half)) for half in (rows._replace(y1=middle), rows._replace(y0=middle))]
        parted = sum(of_half.width * half.height for half, of_half in halves)
        if size > _MOST_PX or size - parted > _GROUP_PX:
            for half, of_half in halves:
                yield from _parted(half, of_half, look)
            return
    yield rows, found
