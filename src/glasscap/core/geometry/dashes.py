"""Dashes along a closed polyline: pattern and offset as SVG `stroke-dasharray` and `-dashoffset`."""

import math
from typing import Literal

import numpy as np
import shapely
from msgspec import Struct

from glasscap.core.geometry.offset import polygons_of, quarter_segments
from glasscap.core.geometry.outline import Ints, Points, bounds
from glasscap.core.geometry.strips import general_strips, strips

Cap = Literal["butt", "round", "square"]
_MOST_DASHES = 20_000
_SHORTEST = 1e-9


def path_length(polygon: Points) -> float:
    """Return the length of a closed polyline of shape (n, 2)."""
    return float(np.hypot(*(np.roll(polygon, -1, axis=0) - polygon).T).sum())


def fitted_pattern(pattern: tuple[float, ...], length: float, *, is_even: bool) -> tuple[float, ...]:
    """Return the pattern an even number of lengths long, stretched to close evenly if asked.

    An odd pattern is repeated to make it even (SVG 2, 13.5.6). The stretch is the smallest that lets a whole
    number of patterns fill `length`.

    Examples
    --------
    >>> fitted_pattern((14.0, 7.0), 100.0, is_even=True)
    (13.333333333333332, 6.666666666666666)
    """
    whole = pattern * (1 + len(pattern) % 2)
    total = sum(whole)
    if not is_even or total <= 0 or length <= 0:
        return whole
    factor = length / (max(1, round(length / total)) * total)
    return tuple(v * factor for v in whole)


def dash_spans(pattern: tuple[float, ...], offset: float, length: float) -> list[tuple[float, float]]:
    """Return (start, end) of every dash along a closed path; one that crosses the start runs on past the end."""
    total = sum(pattern)
    if total <= 0 or length <= 0 or length / total * (len(pattern) / 2) > _MOST_DASHES:
        return [(0.0, length)]
    place = -math.fmod(offset, total)
    if place > 0:
        place -= total
    spans: list[tuple[float, float]] = []
    # A sum that is the length but for rounding has come to the end.
    end = length * (1 - 1e-12)
    while place < end:
        for index, size in enumerate(pattern):
            is_seen = place + size > 0 or (size == 0 and place == 0)
            if index % 2 == 0 and is_seen and place < end:
                spans.append((max(place, 0.0), min(place + size, length)))
            place += size
    if len(spans) > 1 and spans[0][0] == 0.0 and abs(spans[-1][1] - length) < 1e-9:
        spans[0] = (spans.pop()[0], spans[0][1] + length)
    return spans


def dash_polygons(
    polygons: tuple[Points, ...],
    pattern: tuple[float, ...],
    *,
    offset: float,
    width: float,
    cap: Cap,
    is_even: bool,
    tolerance: float,
    beyond: float = 1.0,
    measured: tuple[Points, ...] | None = None,
) -> tuple[Points, ...]:
    """Return regions that hold the dashes of every contour, a little wider than the stroke.

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
        The middle line of the stroke.
    pattern : tuple of float
        Lengths of dash and gap in turn.
    offset : float
        Where in the pattern the path begins.
    width : float
        The stroke's width; the regions reach farther on both sides, for the band itself cuts them.
    cap : "butt", "round" or "square"
    is_even : bool
        Whether the pattern is stretched to close.
    tolerance : float
        Largest distance of a round cap's chord from its arc.
    beyond : float
        How much farther that is.
    measured : tuple of float64 arrays, shape (n, 2), optional
        Lines beside the contours, along which lengths are told instead.

    Returns
    -------
    tuple of float64 arrays, shape (n, 2)
        Wound clockwise on screen (holes the other way), none over another.
    """
    rings: list[Points] = []
    for polygon in polygons:
        line = _beside(polygon, measured) if measured else polygon
        path = _Path.of(line)
        fitted = fitted_pattern(pattern, path.length, is_even=is_even)
        lengthen = width / 2 if cap == "square" else 0.0
        starts, ends = np.array(dash_spans(fitted, offset, path.length)).reshape(-1, 2).T
        starts, ends = starts - lengthen, ends + lengthen
        if line is not polygon:
            own = _Path.of(polygon)
            starts, ends = (own.beside(path, places) for places in (starts, ends))
            path, ends = own, np.maximum(starts, ends)
        rings += _dashes(*path.pieces(starts, ends), width, cap, tolerance, beyond)
    return tuple(rings)


def _beside(polygon: Points, lines: tuple[Points, ...]) -> Points:
    """Return the line whose box is most like a contour's."""
    box = bounds((polygon,))
    return min(lines, key=lambda line: sum(abs(a - b) for a, b in zip(bounds((line,)), box, strict=True)))


def _dashes(
    points: Points, which: Ints, width: float, cap: Cap, tolerance: float, beyond: float
) -> tuple[Points, ...]:
    """Return the dashes of one contour: their middle lines' points, and of which dash each is."""
    first = np.flatnonzero(np.diff(which, prepend=-1))
    last = np.append(first[1:], len(which)) - 1
    far = np.maximum.reduceat(points, first) - np.minimum.reduceat(points, first)
    is_long = far.max(axis=1) > _SHORTEST
    # Lines are counted anew: of a dash of no length only caps are seen.
    seen = np.repeat(is_long, last - first + 1)
    lines = points[seen], (np.cumsum(is_long) - 1)[which[seen]], width / 2 + beyond
    caps, discs = None, []
    if cap == "round":
        starts, ends = first[is_long], last[is_long]
        here, inner = np.concatenate([starts, ends]), np.concatenate([starts + 1, ends - 1])
        caps = _round_caps(points[here], points[inner], width / 2, tolerance)
        discs = _discs(points[first[~is_long]], width / 2, tolerance)
    between = np.hypot(*(np.roll(points[first], -1, axis=0) - points[last]).T)
    # Dashes with butt caps never meet; other caps may, before and after they were lengthened.
    if cap == "butt" or between.min() > width:
        return (*(strips(*lines, caps) if is_long.any() else ()), *discs)
    bodies = general_strips(*lines) if is_long.any() else []
    rounds = [*discs, *(() if caps is None else caps)]
    return polygons_of(shapely.union_all([*bodies, *map(shapely.Polygon, rounds)]))


def _round_caps(ends: Points, inner: Points, radius: float, tolerance: float) -> Points:
    """Return half discs beyond the ends of lines, next to which are `inner` points of theirs; shape (n, k, 2)."""
    outwards = ends - inner
    count = 2 * quarter_segments(radius, tolerance)
    angles = np.arctan2(outwards[:, 1], outwards[:, 0])[:, None] + np.linspace(-np.pi / 2, np.pi / 2, count + 1)
    return np.asarray(ends[:, None] + np.stack([np.cos(angles), np.sin(angles)], axis=-1) * radius)


def _discs(centres: Points, radius: float, tolerance: float) -> list[Points]:
    count = 4 * quarter_segments(radius, tolerance)
    angles = np.arange(count) * (2 * np.pi / count)
    return list(centres[:, None] + np.stack([np.cos(angles), np.sin(angles)], axis=-1) * radius)


class _Path(Struct, frozen=True, eq=False):
    """A closed polyline that repeats for ever, its corners by the length up to them."""

    points: Points
    at: Points
    length: float

    @classmethod
    def of(cls, polygon: Points) -> "_Path":
        closed = np.concatenate([polygon, polygon[:1]])
        steps = np.hypot(*np.diff(closed, axis=0).T)
        fresh = np.concatenate([[True], steps > 0])
        at = np.concatenate([[0.0], np.cumsum(steps)])[fresh]
        closed, length = closed[fresh], float(at[-1])
        return cls(np.concatenate([closed, closed[1:]]), np.concatenate([at, at[1:] + length]), length)

    def pieces(self, starts: Points, ends: Points) -> tuple[Points, Ints]:
        """Return the parts between two lengths, once round at most: their points, and of which each is."""
        shift = np.floor(starts / self.length) * self.length
        starts, ends = starts - shift, np.minimum(ends, starts + self.length) - shift
        first, last = (np.searchsorted(self.at, places, side="right") for places in (starts, ends))
        # Each has the corners it passes, and a point of its own before and after them.
        counts = last - first + 2
        which = np.repeat(np.arange(len(starts)), counts)
        begins = np.cumsum(counts) - counts
        corner = np.arange(len(which)) - begins[which] - 1 + first[which]
        points = self.points.take(corner, axis=0, mode="clip")
        points[begins], points[begins + counts - 1] = self._at(starts), self._at(ends)
        fresh = np.ones(len(points), bool)
        fresh[1:] = (which[1:] != which[:-1]) | (points[1:] != points[:-1]).any(axis=1)
        return points[fresh], which[fresh]

    def beside(self, other: "_Path", places: Points) -> Points:
        """Return the lengths up to the points nearest to places along another path, as often round."""
        around = np.floor(places / other.length)
        points = other._at(places - around * other.length)
        once = len(self.points) // 2
        # On the sides that end at the nearest corner and start there, counted past the beginning.
        corners = shapely.STRtree(np.asarray(shapely.points(self.points[:once]), object))
        corner = corners.nearest(shapely.points(points)) + once
        found, away = np.zeros((2, 2, len(points)))
        for number, side in enumerate((corner - 1, corner)):
            start = self.points[side]
            along = self.points[side + 1] - start
            square = (along * along).sum(axis=1)
            share = np.clip(((points - start) * along).sum(axis=1) / square, 0.0, 1.0)
            found[number] = self.at[side] + share * np.sqrt(square)
            away[number] = np.hypot(*(start + along * share[:, None] - points).T)
        nearest = np.where(away[0] <= away[1], found[0], found[1])
        # A place is found in one turn or the other.
        turns = np.rint(places / other.length - nearest / self.length)
        return np.asarray(nearest + turns * self.length)

    def _at(self, places: Points) -> Points:
        after = np.clip(np.searchsorted(self.at, places, side="right"), 1, len(self.at) - 1)
        low, high = self.at[after - 1], self.at[after]
        share = ((places - low) / (high - low))[:, None]
        return np.asarray(self.points[after - 1] * (1 - share) + self.points[after] * share)
