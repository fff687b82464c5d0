"""Rows in which soft things are drawn at a time: many where few columns need it, fewer along a slanted edge."""

from collections.abc import Callable, Iterator
from typing import Protocol, TypeVar

from glasscap.core.geometry.types import PixelBox

# Never fewer rows than these but at a box's end, and so many pixels to be computed at most where there are more.
_FEWEST_ROWS, _MOST_ROWS, _MOST_PX = 96, 384, 200_000


class Spans(Protocol):
    """Which columns of some rows need to be computed."""

    @property
    def width(self) -> int:
        """How many they are."""


Found = TypeVar("Found", bound=Spans)


def shaded_rows(box: PixelBox, look: Callable[[PixelBox], Found]) -> Iterator[tuple[PixelBox, Found]]:
    """Return the rows of a box in groups, and what `look` tells of each."""
    for y0 in range(box.y0, box.y1, _MOST_ROWS):
        yield from _parted(PixelBox(box.x0, y0, box.x1, min(y0 + _MOST_ROWS, box.y1)), look)


def _parted(rows: PixelBox, look: Callable[[PixelBox], Found]) -> Iterator[tuple[PixelBox, Found]]:
    found = look(rows)
    if rows.height <= _FEWEST_ROWS or found.width * rows.height <= _MOST_PX:
        yield rows, found
        return
    middle = rows.y0 + rows.height // 2
    yield from _parted(rows._replace(y1=middle), look)
    yield from _parted(rows._replace(y0=middle), look)
