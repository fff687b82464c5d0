"""The parallel of a ragged contour: where the centre of a ball goes that rolls around its points.

Of thousands of points it finds the few the ball touches, many times as fast as a general offset. Pockets behind
straits the ball does not get through may count as filled.
"""

import math
from itertools import chain, repeat

import numpy as np
import shapely
from numpy.typing import NDArray

from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import following, preceding, signed_area

Places = NDArray[np.complex128]

# Among very many points, those between the first of a group and of the next are left out at once, in these steps.
_MANY, _GROUPS = 500, (16, 12, 8, 6, 5, 4, 3)
_SHORTEST = 1e-9
# Then one by one, until two rounds leave out none.
_MOST_ROUNDS = 40


def rolled_contour(polygon: Points, distance: float, *, tolerance: float, arc_step: float) -> Points | None:
    """Return the outline of all points within `distance` of a contour's points and of what it encloses, or None.

    Parameters
    ----------
    polygon : float64 array, shape (n, 2)
        Clockwise on screen, a hole the other way.
    distance : float
        Not 0; outwards positive. Inwards the ball rolls inside.
    tolerance : float
        How far the outline may be short between two points; the polygon is its own parallel at twice that.
    arc_step : float
        Radians between the points of an arc.

    Returns
    -------
    float64 array, shape (m, 2), or None
        Wound as the polygon; empty where the ball has no room. Outwards it may cross itself: it winds around what
        is within the distance at least once. Inwards None where it would.
    """
    if abs(distance) <= 2 * tolerance:
        # A ball so small would fall through between points.
        return polygon
    side = math.copysign(1, distance)
    # Complex numbers take half the steps of pairs of arrays.
    points = polygon[:, 0] + 1j * polygon[:, 1]
    points = points[following(points) != points]
    if len(points) > 2:
        points = _close_together(points, math.sqrt(8 * abs(distance) * tolerance))
        points = _touched(points, abs(distance), side)
    if len(points) < 3:
        return np.zeros((0, 2))
    made = _pairs(_way_around(points, abs(distance), side, arc_step))
    if signed_area(made) * signed_area(_pairs(points)) <= 0:
        # A ball with no room goes round the wrong way.
        return np.zeros((0, 2))
    return made if distance > 0 or shapely.is_valid(shapely.Polygon(made)) else None


def _pairs(points: Places) -> Points:
    return np.stack((points.real, points.imag), axis=1)


def _close_together(points: Places, longest: float) -> Places:
    """Set points between those farther apart: e apart they leave e^2 / (8 distance) out (sagitta)."""
    along = following(points) - points
    length = np.abs(along)
    if length.max(initial=0.0) <= longest:
        return points
    counts = np.ceil(np.maximum(length / longest, 1.0)).astype(np.int64)
    which = np.repeat(np.arange(len(points)), counts)
    return points[which] + (along / counts)[which] * numbers_within(counts)


def _touched(points: Places, radius: float, side: float) -> Places:
    """Leave out points beneath a ball that rests on two others, until it rests on all of them in turn.

    Such a point is touched by no ball at all, as a point beneath a chord is on no convex hull.
    """
    idle = 0
    for group in chain(_GROUPS, repeat(2, _MOST_ROUNDS)):
        if group > 2 and len(points) < _MANY:
            continue
        left = _not_beneath(points, group, radius, side)
        idle = idle + 1 if len(left) == len(points) else 0
        if (group == 2 and idle >= 2) or len(left) < 3:
            break
        # Points in the middle of one group are at the end of another in the next round.
        half = len(left) // 2 | 1
        points = np.concatenate((left[half:], left[:half]))
    return points


def _not_beneath(points: Places, group: int, radius: float, side: float) -> Places:
    """Return the points that are left where a ball rests on the first of each group and that of the next."""
    count = len(points) // group
    grouped = points[: count * group].reshape(count, group)
    first = grouped[:, 0]
    to = np.empty_like(first)
    np.subtract(first[1:], first[:-1], out=to[:-1])
    to[-1] = points[count * group % len(points)] - first[-1]
    to /= 2
    # A fold has no direction.
    to[to == 0] = _SHORTEST
    # Rows are as long as there are groups: short ones take many times as long.
    between = np.ascontiguousarray(grouped[:, 1:].T)
    between -= first + to
    # As if the ball rested on -1 and 1.
    between /= to
    rise = (radius / np.abs(to)) ** 2 - 1
    falls_through = rise < 0
    rise = np.sqrt(np.maximum(rise, 0.0)) * (2 * side)
    out = between.imag
    # Nearer to the ball's centre than the points it rests on, or on its side of them.
    is_left = between.real**2 + out * (out + rise) < 1
    is_left |= (out < 0) if side > 0 else (out > 0)
    is_left |= falls_through
    left = np.ones(len(points), np.bool_)
    left[: count * group].reshape(count, group)[:, 1:] = is_left.T
    return points[left]


def _way_around(points: Places, radius: float, side: float, arc_step: float) -> Places:
    """Return the way of the ball's centre: an arc about each point, from resting on it and the one before."""
    along = following(points) - points
    along[along == 0] = _SHORTEST
    half = np.abs(along) / 2
    to = along * (0.5 - 1j * side * np.sqrt(np.maximum(radius * radius - half * half, 0.0)) / (2 * half))
    start = preceding(to - along)
    turn = np.angle(to * start.conj())
    counts = np.ceil(np.maximum(turn * side / arc_step, 1.0)).astype(np.int64)
    which = np.repeat(np.arange(len(points)), counts)
    made: Places = points[which] + start[which] * np.exp((1j * turn / counts)[which] * numbers_within(counts))
    return made
