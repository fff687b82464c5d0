"""Polygons: signed area, clipping to a convex region."""

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Points

Number = TypeVar("Number", np.bool_, np.float64, np.complex128)


def following(numbers: NDArray[Number]) -> NDArray[Number]:
    """Return for each row the next one, the first after the last; several times as fast as a general roll."""
    return np.concatenate((numbers[1:], numbers[:1]))


def preceding(numbers: NDArray[Number]) -> NDArray[Number]:
    """Return for each row the one before, the last before the first."""
    return np.concatenate((numbers[-1:], numbers[:-1]))


def signed_area(polygon: Points) -> float:
    """Return the shoelace area of points of shape (n, 2); positive when clockwise on screen (y down).

    Examples
    --------
    >>> signed_area(np.array([[0.0, 0], [2, 0], [2, 3], [0, 3]]))
    6.0
    """
    if len(polygon) < 3:
        return 0.0
    # Seen from the first point, the edges that end there span nothing.
    x, y = (polygon[1:] - polygon[0]).T
    return float(np.dot(x[:-1], y[1:]) - np.dot(y[:-1], x[1:])) / 2


def signed_areas(polygons: tuple[Points, ...]) -> Points:
    """Return the `signed_area` of each polygon, shape (n,), at one go; none is empty."""
    lengths = np.array([len(p) for p in polygons])
    first = np.cumsum(lengths) - lengths
    points: Points = np.concatenate(polygons)
    x, y = (points - np.repeat(points[first], lengths, axis=0)).T
    # Seen from the first point, edges that begin or end there span nothing; the step to the next polygon is none.
    cross = np.append(x[:-1] * y[1:] - y[:-1] * x[1:], 0.0)
    cross[first + lengths - 1] = 0.0
    return np.asarray(np.add.reduceat(cross, first) / 2)


def total_area(polygons: tuple[Points, ...]) -> float:
    """Return the absolute area of contours that do not overlap, holes being wound the other way."""
    return abs(sum(signed_area(p) for p in polygons))


def oriented(polygon: Points) -> Points:
    """Return the polygon wound clockwise on screen."""
    return polygon if signed_area(polygon) >= 0 else polygon[::-1]


def clip_convex(polygon: Points, region: Points) -> Points:
    """Cut a polygon by a convex one (Sutherland and Hodgman 1974), keeping its signed area exact.

    Parameters
    ----------
    polygon, region : float64 arrays, shape (n, 2) and (m, 2)
        `region` is convex, either way round.

    Returns
    -------
    float64 array, shape (k, 2)
        Possibly empty. Where the result falls in several parts they are joined by edges run through
        twice, which add no area.
    """
    corners = oriented(region)
    for start, end in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        if len(polygon) == 0:
            break
        normal = np.array([start[1] - end[1], end[0] - start[0]])
        polygon = _clip_half_plane(polygon, (polygon - start) @ normal)
    return polygon


def _clip_half_plane(polygon: Points, side: Points) -> Points:
    inside = side >= 0
    if inside.all():
        return polygon
    if not inside.any():
        return polygon[:0]
    following, next_side = np.roll(polygon, -1, axis=0), np.roll(side, -1)
    crosses = inside != np.roll(inside, -1)
    t = np.zeros(len(polygon))
    t[crosses] = side[crosses] / (side[crosses] - next_side[crosses])
    cut = polygon + t[:, None] * (following - polygon)
    pairs = np.stack([polygon, cut], axis=1).reshape(-1, 2)
    return np.asarray(pairs[np.stack([inside, crosses], axis=1).reshape(-1)])


def extent_along(polygons: tuple[Points, ...], axes: Points) -> Points:
    """Return lows and highs of all points along two axes.

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
    axes : float64 array, shape (2, 2)
        The two unit axes as rows.

    Returns
    -------
    float64 array, shape (2, 2)
        Row 0 the lowest coordinate on each axis, row 1 the highest.
    """
    along = np.concatenate(polygons) @ axes.T
    return np.stack([along.min(axis=0), along.max(axis=0)])
