"""Parallel outlines: polygons moved outwards or inwards by a distance, corners joined as SVG joins them."""

import math
from collections.abc import Iterator
from typing import Literal

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.parallel import parallel_contour
from glasscap.core.geometry.polygon import following, oriented, preceding, signed_area
from glasscap.core.geometry.rolled import rolled_contour

Join = Literal["mitre", "round", "bevel"]

_FEWEST_SEGMENTS, _MOST_SEGMENTS = 8, 400
# A vertex that turns less (degrees) belongs to a curve: there every join looks the same.
_SMOOTH_TURN = 12.0
# A shorter way than this moves nothing that could be seen.
_SHORTEST = 1e-6
# Between points a ball's way is short all along an edge, where it shows: of the tolerance it may take a part.
_CLOSER = 16
# Vertices above which an outline is thinned before it is moved, or may cross itself: the time grows faster than
# their number.
_MANY = 500


def offset_polygons(
    polygons: tuple[Points, ...],
    distance: float,
    *,
    tolerance: float,
    join: Join = "round",
    mitre_limit: float = 4.0,
    may_cross: bool = False,
) -> tuple[Points, ...]:
    """Return the outline of all points within `distance` outside (or, negative, deeper than it inside).

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
        Contours that do not overlap; holes are wound the other way.
    distance : float
        Outwards positive, in the polygons' unit.
    tolerance : float
        Largest distance of a round corner's chord from its arc.
    join : "mitre", "round" or "bevel"
        How corners are joined; a mitre longer than `mitre_limit` widths is bevelled (SVG 2, 13.5.4).
    may_cross : bool
        Whether a single contour of many points may cross itself outwards; it winds around all there is.

    Returns
    -------
    tuple of float64 arrays, shape (n, 2)
        Wound clockwise on screen, holes the other way; empty when nothing is left.
    """
    if abs(distance) < _SHORTEST:
        return polygons
    segments = quarter_segments(abs(distance), tolerance)
    is_one = len(polygons) == 1 and signed_area(polygons[0]) > 0
    if is_one:
        arc_step = math.pi / 2 / segments if join == "round" else None
        # With few points the general offset is as quick.
        may_cross = may_cross and len(polygons[0]) > _MANY
        beside = parallel_contour(
            polygons[0], distance, tolerance=tolerance, arc_step=arc_step, may_cross=may_cross
        )
        if beside is not None:
            return (beside,)
    thinned = tuple(_without_dents(p, distance, tolerance) for p in polygons)
    # One contour need not be made valid first: to be moved it is taken apart anyway.
    region = shapely.Polygon(thinned[0]) if is_one else region_of(thinned)
    if region.is_empty:
        return ()
    if join == "round":
        moved: BaseGeometry = shapely.buffer(region, distance, quad_segs=segments)
    else:
        moved = shapely.buffer(region, distance, quad_segs=segments, join_style="bevel")
        if join == "mitre":
            moved = _with_tips(moved, polygons, distance, mitre_limit)
    return polygons_of(moved)


def ragged_parallel(polygons: tuple[Points, ...], distance: float, *, tolerance: float) -> tuple[Points, ...]:
    """Return about what `offset_polygons` does with round joins, of contours of many points while they move.

    What is outwards may cross itself, and winds around all of it at least once.
    """
    arc_step = math.pi / 2 / quarter_segments(abs(distance), tolerance) if distance else 0.0
    made: list[Points] = []
    for polygon in polygons:
        rolled = rolled_contour(polygon, distance, tolerance=tolerance / _CLOSER, arc_step=arc_step)
        if rolled is None:
            return offset_polygons(polygons, distance, tolerance=tolerance)
        if len(rolled):
            made.append(rolled)
    return tuple(made)


def _without_dents(polygon: Points, distance: float, tolerance: float) -> Points:
    """Leave out vertices in dents that a disc of the distance cannot enter, where there are very many.

    A dent under a chord c lets the disc in by c^2 / (8 distance) at most (sagitta), which is kept under the
    tolerance; points are left out from the side the outline moves to, so nothing of it is lost.
    """
    longest, side = math.sqrt(8 * abs(distance) * tolerance), math.copysign(1, distance)
    x, y = np.ascontiguousarray(polygon.T)
    parity = 0
    idle = 0
    while len(x) > _MANY and idle < 2:
        ahead_x, ahead_y = following(x) - x, following(y) - y
        back_x, back_y = preceding(ahead_x), preceding(ahead_y)
        drop = side * (back_x * ahead_y - back_y * ahead_x) <= 0
        drop &= (back_x + ahead_x) ** 2 + (back_y + ahead_y) ** 2 <= longest * longest
        # Neighbours are never left out at once: every other vertex in turn.
        drop[parity::2] = False
        if len(drop) % 2:
            drop[-1] = False
        left = np.flatnonzero(~drop)
        idle = idle + 1 if len(left) == len(x) else 0
        x, y, parity = x[left], y[left], 1 - parity
    return np.stack([x, y], axis=1)


def region_of(polygons: tuple[Points, ...]) -> BaseGeometry:
    """Return contours as a region, holes cut out of what surrounds them."""
    rings = [p for p in polygons if len(p) >= 3 and signed_area(p) != 0]
    solid = [shapely.Polygon(p) for p in rings if signed_area(p) > 0]
    holes = [shapely.Polygon(p) for p in rings if signed_area(p) < 0]
    region = shapely.union_all([_valid(p) for p in solid]) if len(solid) != 1 else _valid(solid[0])
    if holes:
        region = shapely.difference(region, shapely.union_all([_valid(p) for p in holes]))
    return region


def united(one: tuple[Points, ...], other: tuple[Points, ...]) -> tuple[Points, ...]:
    """Return the contours of what lies within either of two outlines."""
    return polygons_of(shapely.union(region_of(one), region_of(other)))


def _valid(polygon: shapely.Polygon) -> BaseGeometry:
    return polygon if shapely.is_valid(polygon) else shapely.buffer(polygon, 0)


def polygons_of(region: BaseGeometry) -> tuple[Points, ...]:
    """Return a region's contours, clockwise on screen, holes the other way."""
    found: list[Points] = []
    for part in _parts(region):
        found.append(oriented(shapely.get_coordinates(part.exterior)[:-1]))
        found += [oriented(shapely.get_coordinates(ring)[:-1])[::-1] for ring in part.interiors]
    return tuple(found)


def _parts(region: BaseGeometry) -> Iterator[shapely.Polygon]:
    # One is mostly all there is, and taking apart takes its time.
    for part in [region] if isinstance(region, shapely.Polygon) else shapely.get_parts(region):
        if isinstance(part, shapely.Polygon) and not part.is_empty:
            yield part


def quarter_segments(distance: float, tolerance: float) -> int:
    """Return how many chords a quarter turn of that radius needs: sagitta r (1 - cos(step / 2)) <= tolerance."""
    step = 2 * math.acos(max(1 - tolerance / distance, 0.0)) if tolerance < distance else math.pi
    return min(max(math.ceil(math.pi / 2 / step), _FEWEST_SEGMENTS), _MOST_SEGMENTS)


def _with_tips(
    moved: BaseGeometry, polygons: tuple[Points, ...], distance: float, mitre_limit: float
) -> BaseGeometry:
    """Add the mitre of every corner the offset opens; inwards they are cut away instead."""
    tips = [tip for p in polygons for tip in _tips(p, distance, mitre_limit)]
    if not tips:
        return moved
    if distance > 0:
        return shapely.union_all([moved, *tips])
    return shapely.difference(moved, shapely.union_all(tips))


def _tips(polygon: Points, distance: float, mitre_limit: float) -> Iterator[shapely.Polygon]:
    along = following(polygon) - polygon
    length = np.hypot(along[:, 0], along[:, 1])
    keep = length > 0
    corners, along = polygon[keep], along[keep] / length[keep, None]
    before = preceding(along)
    turn = np.arctan2(before[:, 0] * along[:, 1] - before[:, 1] * along[:, 0], (before * along).sum(axis=1))
    opens = (turn > 0) if distance > 0 else (turn < 0)
    # Mitre length over width is 1 / sin(corner angle / 2) = 1 / cos(turn / 2).
    ratio = 1 / np.maximum(np.cos(turn / 2), 1e-9)
    chosen = opens & (np.abs(turn) > math.radians(_SMOOTH_TURN)) & (ratio <= mitre_limit + 1e-9)
    for index in np.flatnonzero(chosen):
        first = np.array([before[index, 1], -before[index, 0]]) * distance
        second = np.array([along[index, 1], -along[index, 0]]) * distance
        tip = (first + second) / (1 + float(np.dot(first, second)) / distance**2)
        corner = corners[index]
        yield shapely.Polygon([corner, corner + first, corner + tip, corner + second])
