"""Outlines: closed contours of cubic Bézier segments, knowing nothing of how they are drawn."""

import math
from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.types import Affine, Box

Points = NDArray[np.float64]
FillRule = Literal["nonzero", "evenodd"]


class OutlineSink(Protocol):
    """What an outline can be drawn into: a path writer, a wire view, a pen."""

    def move_to(self, x: float, y: float) -> object:
        """Start a contour."""

    def curve_to(self, x1: float, y1: float, x2: float, y2: float, x: float, y: float) -> object:
        """Add one cubic segment from the current point."""

    def close(self) -> object:
        """Close the contour."""


@dataclass(frozen=True, eq=False)
class Outline:
    """Closed contours of cubic segments.

    Parameters
    ----------
    contours : tuple of float64 arrays, shape (3 n + 1, 2)
        Point, control, control, point ...; the last point repeats the first.
    fill_rule : "nonzero" or "evenodd"
        How overlapping contours count, as in SVG.

    Raises
    ------
    ShapeError
        For a contour of another length, an open one, or one with NaN or infinity.
    """

    contours: tuple[Points, ...]
    fill_rule: FillRule = "nonzero"

    def __post_init__(self) -> None:
        for contour in self.contours:
            _check_contour(contour)
            contour.flags.writeable = False
        if self.contours and not np.isfinite(np.concatenate(self.contours)).all():
            raise ShapeError("Outline", "a point is not a finite number")

    def draw(self, sink: OutlineSink) -> None:
        """Send every contour to `sink`."""
        for contour in self.contours:
            sink.move_to(*contour[0].tolist())
            for x1, y1, x2, y2, x, y in contour[1:].reshape(-1, 6).tolist():
                sink.curve_to(x1, y1, x2, y2, x, y)
            sink.close()

    def transformed(self, affine: Affine) -> "Outline":
        """Return the outline under an affine map."""
        made = object.__new__(Outline)
        # What was checked once stays whole under any finite map.
        contours = tuple(transform(c, affine) for c in self.contours)
        if not all(map(math.isfinite, affine)):
            raise ShapeError("Outline", "its map is not finite")
        for contour in contours:
            contour[-1] = contour[0]
            contour.flags.writeable = False
        object.__setattr__(made, "contours", contours)
        object.__setattr__(made, "fill_rule", self.fill_rule)
        return made


def _check_contour(contour: Points) -> None:
    if contour.ndim != 2 or contour.shape[1] != 2 or len(contour) < 4 or len(contour) % 3 != 1:
        raise ShapeError("Outline", "a contour is not made of whole cubic segments")
    # Of two numbers a comparison of lists is far quicker. What is not a number is found later.
    first, last = contour[0].tolist(), contour[-1].tolist()
    if first != last and not np.isnan(first).any():
        raise ShapeError("Outline", "a contour is open", "end it on its first point")


def transform(points: Points, affine: Affine) -> Points:
    """Map points of shape (n, 2) by an affine map."""
    matrix = np.array([[affine.a, affine.b], [affine.c, affine.d]])
    return np.asarray(points @ matrix + np.array([affine.e, affine.f]))


def straight_contour(corners: Points) -> Points:
    """Return corners of shape (n, 2) as a closed contour of straight cubic segments."""
    start, end = corners, np.roll(corners, -1, axis=0)
    segments = np.stack([start + (end - start) / 3, start + (end - start) * (2 / 3), end], axis=1)
    return np.concatenate([start[:1], segments.reshape(-1, 2)])


def bounds(polygons: tuple[Points, ...]) -> Box:
    """Return the box of all points. Raises ShapeError when there are none."""
    if not polygons or not any(len(p) for p in polygons):
        raise ShapeError("Outline", "there are no points")
    low = np.min([p.min(axis=0) for p in polygons if len(p)], axis=0)
    high = np.max([p.max(axis=0) for p in polygons if len(p)], axis=0)
    return Box(float(low[0]), float(low[1]), float(high[0]), float(high[1]))
