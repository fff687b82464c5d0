"""Rounding the corners of any outline with true arcs that touch both sides."""

import math
from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.bezier import (
    contour_of,
    cubics_of,
    end_velocities,
    is_straight,
    part_of,
    point_at,
    velocity_at,
)
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen

# Turns below are taken for smooth, turns above for points with no inside to round, degrees.
_LEAST_TURN, _MOST_TURN = 2.0, 178.5
# Segments below this share of the contour are specks.
_SPECK = 1e-8
_TRIES, _STEPS, _SMALLER = 8, 10, 0.6
# How often radii are scaled down where arcs meet; straight sides need one or two.
_PASSES = 16


class _Corner:
    """A corner between two sides, both seen from it outwards: chains of cubics, shape (n, 4, 2)."""

    def __init__(self, back: Points, ahead: Points, radius: float) -> None:
        self.back, self.ahead, self.radius = back, ahead, radius
        one, other = velocity_at(back[0], 0), velocity_at(ahead[0], 0)
        cross = one[0] * other[1] - one[1] * other[0]
        self.hand = 1.0 if cross > 0 else -1.0
        turn = math.pi - abs(math.atan2(cross, float(np.dot(one, other))))
        self.reach = math.tan(turn / 2)
        self.is_straight = len(back) == len(ahead) == 1 and is_straight(back[0]) and is_straight(ahead[0])
        self.cuts = (0.0, 0.0)
        self.centre = (0.0, 0.0)

    def solve(self) -> None:
        """Find where a circle of the radius touches both sides, a smaller one where there is none."""
        for _ in range(_TRIES):
            if self.radius <= 0 or self._touches():
                return
            self.radius *= _SMALLER
        self.radius, self.cuts = 0.0, (0.0, 0.0)

    def _touches(self) -> bool:
        """Newton's method on the two parameters at which the offset sides meet."""
        way = self.radius * self.reach
        if self.is_straight:
            lengths = [math.hypot(*(side[0, 3] - side[0, 0])) for side in (self.back, self.ahead)]
            return self._settle(np.array([way / max(length, 1e-300) for length in lengths]))
        at = np.array([_along(self.back, way), _along(self.ahead, way)])
        size = max(1e-12, float(np.abs(self.back).max()), float(np.abs(self.ahead).max()))
        for _ in range(_STEPS):
            miss = self._miss(at)
            if np.abs(miss).max() < 1e-12 * size:
                break
            h = 1e-6
            slope = np.stack(
                [
                    (self._miss(at + d) - self._miss(at - d)) / (2 * h)
                    for d in (np.array([h, 0]), np.array([0, h]))
                ],
                axis=1,
            )
            if abs(np.linalg.det(slope)) < 1e-300:
                return False
            at = np.clip(at - np.linalg.solve(slope, miss), 0, (len(self.back), len(self.ahead)))
        if np.abs(self._miss(at)).max() > 1e-7 * size:
            return False
        return self._settle(at)

    def _settle(self, at: Points) -> bool:
        self.cuts = (float(at[0]), float(at[1]))
        x, y = self._moved(self.back, at[0], self.hand)
        self.centre = (float(x), float(y))
        return True

    def _miss(self, at: Points) -> Points:
        return self._moved(self.back, at[0], self.hand) - self._moved(self.ahead, at[1], -self.hand)

    def _moved(self, side: Points, at: float, hand: float) -> Points:
        place, along = _at(side, at)
        along = along / max(math.hypot(*along), 1e-300)
        return np.asarray(place + np.array([-along[1], along[0]]) * (hand * self.radius))


def rounded(outline: Outline, radius: float, chosen: Mapping[int, float] | None = None) -> Outline:
    """Round corners.

    Parameters
    ----------
    outline : Outline
    radius : float
        For every corner, in the outline's unit.
    chosen : mapping from corner number to radius, optional
        Corners that have their own; numbers count the corners along the contours.

    Returns
    -------
    Outline
        Where arcs would meet on a side both their radii are scaled down alike, as CSS Backgrounds and
        Borders 3 does (4.5) for a box; a corner whose sides bend too much for its radius gets a smaller one.
    """
    own = chosen or {}
    if radius <= 0 and not any(r > 0 for r in own.values()):
        return outline
    made, number = [], 0
    for contour in map(without_specks, outline.contours):
        starts = corners_of(contour)
        radii = [own.get(number + n, radius) for n in range(len(starts))]
        number += len(starts)
        made.append(_rounded(contour, starts, radii) if any(r > 0 for r in radii) else contour)
    return Outline(tuple(made), outline.fill_rule)


def corners_of(contour: Points) -> list[int]:
    """Return the segments a contour's corners start: where its direction turns at once."""
    return [int(n) for n in _turns(cubics_of(contour))[0]]


def _turns(cubics: Points) -> tuple[NDArray[np.int64], Points, Points]:
    """Return the segments that corners start, with the ways back along the one before and ahead."""
    starts, ends = end_velocities(cubics)
    back, ahead = -np.roll(ends, 1, axis=0), starts
    turn = np.degrees(_angles(-back, ahead))
    found = np.flatnonzero((turn > _LEAST_TURN) & (turn < _MOST_TURN))
    return found, back[found], ahead[found]


def without_specks(contour: Points) -> Points:
    """Return a contour without segments too short to see: ends that met but for rounding."""
    cubics = cubics_of(contour)
    kept = np.ptp(cubics, axis=1).max(axis=1) > _SPECK * max(float(np.ptp(contour, axis=0).max()), 1e-300)
    if kept.all() or kept.sum() < 2:
        return contour
    cubics = cubics[kept].copy()
    cubics[1:, 0] = cubics[:-1, 3]
    cubics[-1, 3] = cubics[0, 0]
    return contour_of(cubics)


def _angles(one: Points, other: Points) -> NDArray[np.float64]:
    """Return the angles between directions of shape (n, 2), radians, 0 to pi."""
    cross = one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0]
    return np.asarray(np.abs(np.arctan2(cross, (one * other).sum(axis=1))))


def _rounded(contour: Points, starts: list[int], radii: list[float]) -> Points:
    cubics = cubics_of(contour)
    count, number = len(cubics), len(starts)
    sides = [
        cubics[np.arange(first, starts[(n + 1) % number] + (count if n == number - 1 else 0)) % count]
        for n, first in enumerate(starts)
    ]
    corners = [
        _Corner(sides[n - 1][::-1, ::-1], sides[n], radius)
        for n, radius in zip(range(number), radii, strict=True)
    ]
    _limit(corners, sides)
    return _joined(corners, sides)


def _limit(corners: list[_Corner], sides: list[Points]) -> None:
    """Scale radii down until no two arcs overlap on a side."""
    for corner in corners:
        corner.solve()
    for _ in range(_PASSES):
        factors = [1.0] * len(corners)
        for n, side in enumerate(sides):
            other = (n + 1) % len(corners)
            used = corners[n].cuts[1] + corners[other].cuts[0]
            if used > len(side) * (1 + 1e-9):
                factors[n], factors[other] = (min(factors[k], len(side) / used) for k in (n, other))
        if min(factors) == 1.0:
            return
        for corner, factor in zip(corners, factors, strict=True):
            if factor < 1.0:
                corner.radius *= factor
                corner.solve()
    for corner in corners:
        corner.radius, corner.cuts = 0.0, (0.0, 0.0)


def _joined(corners: list[_Corner], sides: list[Points]) -> Points:
    pieces: list[Points] = []
    for n, side in enumerate(sides):
        corner, following = corners[n], corners[(n + 1) % len(corners)]
        if corner.radius > 0:
            pieces.append(_arc(corner))
        kept = _between(side, corner.cuts[1], len(side) - following.cuts[0])
        if len(kept):
            pieces.append(kept)
    joined = np.concatenate(pieces)
    # Ends meet to rounding error only; every segment starts where the last one ended.
    joined[1:, 0] = joined[:-1, 3]
    joined[-1, 3] = joined[0, 0]
    return contour_of(joined)


def _arc(corner: _Corner) -> Points:
    start, _ = _at(corner.back, corner.cuts[0])
    end, _ = _at(corner.ahead, corner.cuts[1])
    cx, cy = corner.centre
    first = math.degrees(math.atan2(start[1] - cy, start[0] - cx))
    sweep = math.degrees(math.atan2(end[1] - cy, end[0] - cx)) - first
    # Around the inside of the turn: an outline that turns right goes round clockwise.
    sweep = sweep % 360 if corner.hand < 0 else -((-sweep) % 360)
    arc = np.array(Pen().arc(cx, cy, corner.radius, first, sweep).points)
    return cubics_of(arc)


def _along(side: Points, way: float) -> float:
    """Return about which parameter lies `way` along a chain."""
    for n, cubic in enumerate(side):
        length = float(np.hypot(*np.diff(cubic, axis=0).T).sum())
        if way <= length or n == len(side) - 1:
            return n + min(1.0, way / max(length, 1e-300))
        way -= length
    return float(len(side))


def _at(side: Points, at: float) -> tuple[Points, Points]:
    """Return place and direction on a chain; beyond its ends along its end segments' tangents."""
    n = min(max(int(at), 0), len(side) - 1)
    t = at - n
    if 0 <= t <= 1:
        return point_at(side[n], t), velocity_at(side[n], t)
    end = 0.0 if t < 0 else 1.0
    along = velocity_at(side[n], end)
    return point_at(side[n], end) + along * (t - end), along


def _between(side: Points, start: float, end: float) -> Points:
    kept = []
    for n, cubic in enumerate(side):
        low, high = max(start - n, 0.0), min(end - n, 1.0)
        if high - low > 1e-9:
            kept.append(part_of(cubic, low, high))
    return np.array(kept).reshape(-1, 4, 2)


def corner_frames(outline: Outline) -> tuple[Points, Points, Points]:
    """Return the corners' places (n, 2), unit ways between their sides (n, 2), half angles' sines (n,)."""
    places, ways, sines = [np.empty((0, 2))], [np.empty((0, 2))], [np.empty(0)]
    for contour in map(without_specks, outline.contours):
        cubics = cubics_of(contour)
        found, back, ahead = _turns(cubics)
        way = _units(back) + _units(ahead)
        places.append(cubics[found, 0])
        ways.append(way / np.maximum(np.hypot(way[:, :1], way[:, 1:]), 1e-12))
        sines.append(np.sin(_angles(back, ahead) / 2))
    return np.concatenate(places), np.concatenate(ways), np.concatenate(sines)


def _units(ways: Points) -> Points:
    return np.asarray(ways / np.hypot(ways[:, :1], ways[:, 1:]))
