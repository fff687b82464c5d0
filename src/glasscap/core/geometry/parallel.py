"""The parallel of one simple contour, side by side: where it serves, many times as fast as a general offset."""

import math

import numpy as np
import shapely
from numpy.typing import NDArray

from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import following, preceding

# Shorter sides (of the polygon's unit) have no direction to go by.
_SHORTEST = 1e-9


def parallel_contour(
    polygon: Points, distance: float, *, tolerance: float, arc_step: float | None, may_cross: bool = False
) -> Points | None:
    """Return the outline of all points within `distance` of what a contour encloses, or None.

    Every side is moved outwards (negative: inwards) and keeps its direction; neighbours meet in their common
    point. Where they open wider than that may be, an arc joins them. None where a side would be turned round, or
    two parts of the outline meet: then something goes under, and a general offset must find out what.

    In any other case nothing does: all sides move outwards (or all inwards), so how often the contour winds
    around a point only ever grows (or falls). Had parts of it met on the way, it would wind twice around some
    points (or backwards), still do so at the end, and cross itself there.

    Of an outline that `may_cross` itself (outwards alone) nothing need go under: it winds around all points
    within the distance at least once and around no others. For it is the contour convolved with a circle, and
    that winds around a point as often as there are pieces of what is enclosed within the distance of it (Guibas,
    Ramshaw and Stolfi 1983, from memory; held by tests), but for loops that are cut off where it winds twice.

    Parameters
    ----------
    polygon : float64 array, shape (n, 2)
        Clockwise on screen, not crossing itself.
    distance : float
        Not 0.
    tolerance : float
        How far the common point of two sides may stand out of the arc between them.
    arc_step : float or None
        Radians between the points of an arc; None for joins of another kind: then None is returned where there
        is such a join.
    may_cross : bool
        Whether it may wind around points more than once; None for a negative distance then.

    Returns
    -------
    float64 array, shape (m, 2), or None
    """
    along = following(polygon) - polygon
    length = np.hypot(along[:, 0], along[:, 1])
    if len(polygon) < 3 or not length.min() > _SHORTEST or (may_cross and distance < 0):
        return None
    across_x, across_y = along[:, 1] / length * distance, -along[:, 0] / length * distance
    before_x, before_y = preceding(across_x), preceding(across_y)
    square = distance * distance
    cosine = (before_x * across_x + before_y * across_y) / square
    sine = (before_x * across_y - before_y * across_x) / square * math.copysign(1, distance)
    with np.errstate(divide="ignore", invalid="ignore"):
        tangent = sine / (1 + cosine)
        # 1 / cos(turn / 2)
        stretch = np.sqrt(2 / (1 + cosine))
    wide = (sine > 0) & ~(abs(distance) * (stretch - 1) <= tolerance)
    wide |= cosine <= -1
    if wide.any() and arc_step is None:
        return None
    gain = np.where(wide, 0.0, tangent) * abs(distance)
    is_turned = ~(length + gain + following(gain) > 0)
    if is_turned.any():
        if not may_cross:
            return None
        # A side that would be cut keeps its end, and so does its neighbour.
        wide |= (is_turned | preceding(is_turned)) & (tangent < 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        meeting_x = polygon[:, 0] + (before_x + across_x) / (1 + cosine)
        meeting_y = polygon[:, 1] + (before_y + across_y) / (1 + cosine)
    made = np.stack([meeting_x, meeting_y], axis=1)
    if arc_step is not None and wide.any():
        made = _with_arcs(made, polygon, (before_x, before_y), np.arctan2(sine, cosine), wide, distance, arc_step)
    # Sides that keep their direction and all turn one way go round once, as they did before.
    is_convex = (sine * distance >= 0).all()
    return made if is_convex or may_cross or shapely.is_valid(shapely.Polygon(made)) else None


def _with_arcs(
    meeting: Points,
    polygon: Points,
    before: tuple[Points, Points],
    turn: Points,
    wide: NDArray[np.bool_],
    distance: float,
    arc_step: float,
) -> Points:
    """Return the points with arcs about the corners that are `wide`, from where the side before ends."""
    # Sides that are not cut where the outline bends in have their ends joined straight.
    counts = np.where(wide, np.ceil(np.maximum(turn / arc_step, 1)) + 1, 1).astype(np.int64)
    which = np.repeat(np.arange(len(polygon)), counts)
    place = numbers_within(counts)
    made = meeting.take(which, axis=0)
    on_arc = wide.take(which)
    corner = which[on_arc]
    angle = turn[corner] * place[on_arc] / (counts[corner] - 1) * math.copysign(1, distance)
    cosine, sine = np.cos(angle), np.sin(angle)
    x, y = (part[corner] for part in before)
    made[on_arc] = polygon[corner] + np.stack([x * cosine - y * sine, x * sine + y * cosine], axis=1)
    return made
