"""Outlines: closed contours of cubic Bézier segments, knowing nothing of how they are drawn."""

import math
from collections.abc import Sequence
from functools import cached_property
from itertools import pairwise
from typing import Literal, Protocol

import numpy as np
from msgspec import Struct
from msgspec.structs import force_setattr
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.types import Affine, Box

Points = NDArray[np.float64]
Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]
Counts = NDArray[np.int64]
FillRule = Literal["nonzero", "evenodd"]


class OutlineSink(Protocol):
    """A target for outlines: a path writer, a wire view, a pen."""

    def move_to(self, x: float, y: float) -> object:
        """Start a contour."""

    def curve_to(self, x1: float, y1: float, x2: float, y2: float, x: float, y: float) -> object:
        """Add one cubic segment from the current point."""

    def close(self) -> object:
        """Close the contour."""


class Outline(Struct, frozen=True, eq=False, dict=True):
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
            if contour.ndim != 2 or contour.shape[1] != 2 or len(contour) < 4 or len(contour) % 3 != 1:
                raise ShapeError("Outline", "a contour is not made of whole cubic segments")
            contour.flags.writeable = False
        if not np.isfinite(self.points).all():
            raise ShapeError("Outline", "a point is not a finite number")
        ends = np.cumsum(self.lengths)
        if (self.points[ends - self.lengths] != self.points[ends - 1]).any():
            raise ShapeError("Outline", "a contour is open", "end it on its first point")

    @classmethod
    def of_points(cls, points: Points, lengths: Counts, fill_rule: FillRule = "nonzero") -> "Outline":
        """Return contours that lie in one array after one another, each made to end where it begins.

        Nothing else is checked. Letters have hundreds of contours: what is done to all is done at one go.
        """
        ends = np.cumsum(lengths)
        points[ends - 1] = points[ends - lengths]
        points.flags.writeable = False
        bounds = [0, *ends.tolist()]
        contours = tuple([points[a:b] for a, b in pairwise(bounds)])
        made = cls((), fill_rule)
        force_setattr(made, "contours", contours)
        made.__dict__.update(points=points, lengths=lengths)
        return made

    @cached_property
    def points(self) -> Points:
        """The points of all contours in one array, shape (n, 2)."""
        return np.concatenate(self.contours) if self.contours else np.zeros((0, 2))

    @cached_property
    def lengths(self) -> Counts:
        """The number of points of each contour."""
        return np.array([len(c) for c in self.contours], np.int64)

    def draw(self, sink: OutlineSink) -> None:
        """Send every contour to `sink`."""
        for contour in self.contours:
            sink.move_to(*contour[0].tolist())
            for x1, y1, x2, y2, x, y in contour[1:].reshape(-1, 6).tolist():
                sink.curve_to(x1, y1, x2, y2, x, y)
            sink.close()

    def transformed(self, affine: Affine) -> "Outline":
        """Return the outline under an affine map."""
        if not all(map(math.isfinite, affine)):
            raise ShapeError("Outline", "its map is not finite")
        # Points checked once stay finite under any finite map.
        return Outline.of_points(transform(self.points, affine), self.lengths, self.fill_rule)


def transform(points: Points, affine: Affine) -> Points:
    """Map points of shape (n, 2) by an affine map."""
    # Column by column: along rows of two each sum takes many times as long.
    x, y = points[:, 0], points[:, 1]
    out = np.empty(points.shape)
    out[:, 0] = x * affine.a + y * affine.c + affine.e
    out[:, 1] = x * affine.b + y * affine.d + affine.f
    return out


def placed_together(placed: Sequence[tuple[Outline, Affine]]) -> Outline:
    """Return the contours of many outlines, each under its own map, as one outline. Raises ShapeError."""
    if not placed:
        return Outline(())
    maps = np.array([affine for _, affine in placed])
    if not np.isfinite(maps).all():
        raise ShapeError("Outline", "its map is not finite")
    points = np.concatenate([outline.points for outline, _ in placed])
    a, b, c, d, e, f = np.repeat(maps, [len(outline.points) for outline, _ in placed], axis=0).T
    x, y = points.T
    mapped = np.stack([a * x + c * y + e, b * x + d * y + f], axis=1)
    return Outline.of_points(mapped, np.concatenate([outline.lengths for outline, _ in placed]))


def straight_contour(corners: Points) -> Points:
    """Return corners of shape (n, 2) as a closed contour of straight cubic segments."""
    start, end = corners, np.roll(corners, -1, axis=0)
    segments = np.stack([start + (end - start) / 3, start + (end - start) * (2 / 3), end], axis=1)
    return np.concatenate([start[:1], segments.reshape(-1, 2)])


def extent_of(points: Points) -> Box:
    """Return the box of points of shape (n, 2), n > 0."""
    # One column after the other: NumPy takes many times as long along an axis of two.
    x, y = points[:, 0], points[:, 1]
    return Box(float(x.min()), float(y.min()), float(x.max()), float(y.max()))


def bounds(polygons: tuple[Points, ...]) -> Box:
    """Return the box of all points. Raises ShapeError when there are none."""
    boxes = [extent_of(p) for p in polygons if len(p)]
    if not boxes:
        raise ShapeError("Outline", "there are no points")
    x0, y0, x1, y1 = zip(*boxes, strict=True)
    return Box(min(x0), min(y0), max(x1), max(y1))
