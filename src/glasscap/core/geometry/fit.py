"""Fitting clean cubic curves to points; thinning outlines to as few segments as a tolerance allows."""

import math
from collections.abc import Sequence

import numpy as np

from glasscap.core.geometry.bezier import contour_of, cubics_of, is_straight
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.rounding import corners_of

_ROUNDS = 8
# Farther off than so many tolerances, no better parameters will help.
_HOPELESS = 30
# A corner of a way is a turn of so many degrees, seen over this many steps and four tolerances each way.
_CORNER, _SEEN = 60.0, 4.0
# Points within this share of the tolerance of their chord are a straight side.
_STRAIGHT = 0.75
# Samples a segment of an outline is followed by while it is fitted anew.
_SAMPLES = 12
# Points around a place whose chord gives the direction there.
_TANGENT_REACH = 3


def fit_closed(points: Points, *, tolerance: float, corners: list[int] | None = None) -> Points:
    """Return a closed contour of cubics near closed points.

    Schneider, "An Algorithm for Automatically Fitting Digitized Curves", Graphics Gems (1990): least squares for
    the two free control lengths, Newton steps on the parameters, a split at the worst point.

    Parameters
    ----------
    points : float64 array, shape (n, 2)
        In order along a closed way, the first not repeated; n >= 3.
    tolerance : float
        Largest distance of a given point from the curve.
    corners : list of int, optional
        Points at which the curve may turn sharply; between them it is smooth.

    Returns
    -------
    float64 array, shape (3 m + 1, 2)
    """
    count = len(points)
    starts = sorted(set(corners or []))
    if not starts:
        # A smooth closed way: cut where it bends least, with the same direction on both sides.
        closed = np.concatenate([points, points[:1]])
        way = _direction(points, 0, is_closed=True)
        return contour_of(_joined(_fit(closed, way, -way, tolerance)))
    pieces = []
    for n, first in enumerate(starts):
        last = starts[(n + 1) % len(starts)] + (count if n == len(starts) - 1 else 0)
        run = points[np.arange(first, last + 1) % count]
        pieces += _fit(run, _leaving(run), _leaving(run[::-1]), tolerance)
    return contour_of(_joined(pieces))


def fit_ways(ways: Sequence[Points], *, tolerance: float) -> Outline:
    """Return clean curves near closed ways of many points, corners kept, filled by the even-odd rule."""
    contours = []
    for way in ways:
        step = float(np.median(np.hypot(*(np.roll(way, -1, axis=0) - way).T)))
        corners = sharp_turns(way, reach=_SEEN * step + 4 * tolerance, least=_CORNER)
        contours.append(fit_closed(way, tolerance=tolerance, corners=corners))
    return Outline(tuple(contours), "evenodd")


def sharp_turns(points: Points, *, reach: float, least: float) -> list[int]:
    """Return the points at which a closed way turns by `least` degrees or more, seen over `reach` each way."""
    count = len(points)
    step = max(float(np.median(np.hypot(*(np.roll(points, -1, axis=0) - points).T))), 1e-9)
    span = min(max(1, round(reach / step)), max(1, count // 6))
    back, ahead = points - np.roll(points, span, axis=0), np.roll(points, -span, axis=0) - points
    cross = back[:, 0] * ahead[:, 1] - back[:, 1] * ahead[:, 0]
    turn = np.degrees(np.abs(np.arctan2(cross, (back * ahead).sum(axis=1))))
    found: list[int] = []
    for n in np.argsort(-turn, kind="stable"):
        if turn[n] < least:
            break
        if all(min(abs(n - k), count - abs(n - k)) > span for k in found):
            found.append(int(n))
    return sorted(found)


def thinned(outline: Outline, *, tolerance: float) -> Outline:
    """Return an outline of as few segments as lie within a tolerance of it; corners and straight sides stay."""
    return Outline(tuple(_thinned(c, tolerance) for c in outline.contours), outline.fill_rule)


def _thinned(contour: Points, tolerance: float) -> Points:
    cubics = cubics_of(contour)
    count = len(cubics)
    straight = [is_straight(c) for c in cubics]
    ends = {n for n in range(count) if straight[n] or straight[n - 1]} | set(corners_of(contour))
    starts = sorted(ends) or [0]
    pieces: list[Points] = []
    for n, first in enumerate(starts):
        last = starts[(n + 1) % len(starts)] + (count if n == len(starts) - 1 else 0)
        pieces += _merged(cubics[np.arange(first, last) % count], tolerance)
    return contour_of(_joined(pieces)) if len(pieces) > 1 else contour


def _merged(run: Points, tolerance: float) -> list[Points]:
    """Put one cubic in the place of as many as it can stand for, from the first on."""
    t = np.arange(_SAMPLES) / _SAMPLES
    dense = np.concatenate([_at(c, t) for c in run] + [run[-1:, 3]])
    made: list[Points] = []
    start = 0
    while start < len(run):
        end, best = start + 1, run[start]
        while end < len(run):
            points = dense[start * _SAMPLES : (end + 1) * _SAMPLES + 1]
            found = _single(points, _end_way(run[start]), _end_way(run[end][::-1]), tolerance)
            if found is None:
                break
            end, best = end + 1, found
        made.append(best)
        start = end
    return made


def _end_way(cubic: Points) -> Points:
    for point in cubic[1:]:
        length = math.hypot(*(point - cubic[0]))
        if length > 1e-12:
            return np.asarray((point - cubic[0]) / length)
    return np.array([1.0, 0.0])


def _joined(pieces: list[Points]) -> Points:
    joined = np.array(pieces)
    joined[1:, 0] = joined[:-1, 3]
    joined[-1, 3] = joined[0, 0]
    return joined


def _direction(points: Points, at: int, *, is_closed: bool = False) -> Points:
    reach = min(_TANGENT_REACH, max(1, len(points) // 4))
    if is_closed:
        way = points[(at + reach) % len(points)] - points[at - reach]
    else:
        way = points[min(at + reach, len(points) - 1)] - points[max(at - reach, 0)]
    length = math.hypot(*way)
    return np.asarray(way / length) if length > 0 else np.array([1.0, 0.0])


def _leaving(points: Points) -> Points:
    # The point next to a corner often lies on its cut-off tip, so the way is taken beyond it.
    first = 1 if len(points) > 2 * _TANGENT_REACH else 0
    way = points[min(first + _TANGENT_REACH, len(points) - 1)] - points[first]
    length = math.hypot(*way)
    return np.asarray(way / length) if length > 0 else np.array([1.0, 0.0])


def _fit(points: Points, first: Points, last: Points, tolerance: float) -> list[Points]:
    """Return cubics along open points that leave in direction `first` and arrive against `last`."""
    if len(points) < 3 or _is_line(points, tolerance * _STRAIGHT):
        chord = (points[-1] - points[0]) / 3
        return [np.array([points[0], points[0] + chord, points[-1] - chord, points[-1]])]
    found = _single(points, first, last, tolerance)
    if found is not None:
        return [found]
    t = _chord_parameters(points)
    place = _worst(_least_squares(points, t, first, last), points, t)[1]
    place = min(max(place, 1), len(points) - 2)
    way = _direction(points, place)
    return [*_fit(points[: place + 1], first, -way, tolerance), *_fit(points[place:], way, last, tolerance)]


def _single(points: Points, first: Points, last: Points, tolerance: float) -> Points | None:
    """Return one cubic within a tolerance of open points, or None."""
    t = _chord_parameters(points)
    for _ in range(_ROUNDS):
        cubic = _least_squares(points, t, first, last)
        worst = _worst(cubic, points, t)[0]
        if worst <= tolerance:
            return cubic
        if worst > _HOPELESS * tolerance:
            return None
        t = _reparametrised(cubic, points, t)
    return None


def _is_line(points: Points, tolerance: float) -> bool:
    chord = points[-1] - points[0]
    length = math.hypot(*chord)
    if length <= 0:
        return False
    off = points - points[0]
    across = np.abs(off[:, 0] * chord[1] - off[:, 1] * chord[0]) / length
    along = (off @ chord) / length**2
    return bool(across.max() <= tolerance and along.min() >= -1e-9 and along.max() <= 1 + 1e-9)


def _chord_parameters(points: Points) -> Points:
    way = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    return way / way[-1] if way[-1] > 0 else np.linspace(0, 1, len(points))


def _least_squares(points: Points, t: Points, first: Points, last: Points) -> Points:
    u = 1 - t
    b1, b2 = 3 * u * u * t, 3 * u * t * t
    ends = np.outer(u**3 + b1, points[0]) + np.outer(t**3 + b2, points[-1])
    a1, a2 = np.outer(b1, first), np.outer(b2, last)
    rest = points - ends
    c11, c12, c22 = (a1 * a1).sum(), (a1 * a2).sum(), (a2 * a2).sum()
    x1, x2 = (a1 * rest).sum(), (a2 * rest).sum()
    determinant = c11 * c22 - c12 * c12
    length = math.hypot(*(points[-1] - points[0]))
    around = float(np.hypot(*np.diff(points, axis=0).T).sum())
    alpha = beta = max(length, around / 3) / 3
    if abs(determinant) > 1e-12 * max(c11 * c22, 1e-300):
        one, other = (x1 * c22 - x2 * c12) / determinant, (c11 * x2 - c12 * x1) / determinant
        if 1e-3 * around < one < 3 * around and 1e-3 * around < other < 3 * around:
            alpha, beta = one, other
    return np.array([points[0], points[0] + first * alpha, points[-1] + last * beta, points[-1]])


def _at(cubic: Points, t: Points) -> Points:
    u = (1 - t)[:, None]
    v = t[:, None]
    return np.asarray(u**3 * cubic[0] + 3 * u * u * v * cubic[1] + 3 * u * v * v * cubic[2] + v**3 * cubic[3])


def _worst(cubic: Points, points: Points, t: Points) -> tuple[float, int]:
    away = np.hypot(*(_at(cubic, t) - points).T)
    place = int(away.argmax())
    return float(away[place]), place


def _reparametrised(cubic: Points, points: Points, t: Points) -> Points:
    """Return parameters one Newton step nearer to the feet of the points."""
    d1, d2 = 3 * np.diff(cubic, axis=0), 6 * np.diff(cubic, n=2, axis=0)
    u, v = (1 - t)[:, None], t[:, None]
    off = _at(cubic, t) - points
    first = u * u * d1[0] + 2 * u * v * d1[1] + v * v * d1[2]
    second = u * d2[0] + v * d2[1]
    top = (off * first).sum(axis=1)
    foot = (first * first).sum(axis=1) + (off * second).sum(axis=1)
    moved = np.where(np.abs(foot) > 1e-12, t - top / np.where(foot == 0, 1.0, foot), t)
    moved = np.clip(moved, 0, 1)
    moved[0], moved[-1] = 0.0, 1.0
    return np.maximum.accumulate(moved)
