"""Strips of one width along open lines: side by side where nothing goes under, else by the general offset."""

import math

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.offset import polygons_of
from glasscap.core.geometry.outline import Ints, Points

# The cosine of the sharpest turn whose two sides are simply prolonged until they meet.
_SHARPEST = -0.5
# The tangent of half a turn that is hardly one: a strip's end is off by less than its square.
_SLIGHT = 0.1


def strips(points: Points, which: Ints, half: float, caps: Points | None = None) -> tuple[Points, ...]:
    """Return the strips of all that lies within `half` beside lines, square at their ends, mitred at corners.

    Parameters
    ----------
    points : float64 array, shape (n, 2)
        The lines' points, one line after the other, each of two at least, none twice in succession.
    which : int64 array, shape (n,)
        Of which line each is, from 0 on.
    half : float
        Half the strips' width.
    caps : float64 array, shape (2 lines, k, 2), optional
        What is to be added at the lines' starts, and then at their ends: each begins on the side of the line
        where the strip's ring comes from.

    Returns
    -------
    tuple of float64 arrays, shape (m, 2)
        Wound clockwise on screen, holes the other way. What belongs to one line is one ring mostly.
    """
    first = np.flatnonzero(np.diff(which, prepend=-1))
    along = np.diff(points, axis=0)
    length = np.hypot(along[:, 0], along[:, 1])
    is_side = which[1:] == which[:-1]
    across = np.stack([-along[:, 1], along[:, 0]], axis=1) / np.maximum(length, np.finfo(float).tiny)[:, None]
    # The side before each point and the one after it; at ends both are the same.
    before = np.concatenate([across[:1], across])
    after = np.concatenate([across, across[-1:]])
    before[first] = after[first]
    last = np.append(first[1:], len(points)) - 1
    after[last] = before[last]
    room = 1 + (before * after).sum(axis=1)
    is_sharp = room < 1 + _SHARPEST
    room[is_sharp] = 1.0
    # The tangent of half the turn, by which one side of the strip is shorter and the other longer.
    bend = (before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]) / room
    goes_under = is_side & (length <= half * np.abs(bend[:-1] + bend[1:]))
    reach = (before + after) * (half / room)[:, None]
    is_seen = _without_stubs(goes_under, np.abs(bend), first, last)
    is_hard = np.zeros(len(first), bool)
    is_hard[which[is_sharp]] = True
    is_hard[which[:-1][goes_under]] = True
    rings = _rings(points[is_seen], reach[is_seen], which[is_seen])
    # A curve that turns by a quarter at most does not come back to itself; a tangent is more than its angle.
    turned = np.add.reduceat(np.abs(bend), first) > math.pi / 4
    easy = np.flatnonzero(turned & ~is_hard)
    is_hard[easy] = ~_are_simple([rings[line] for line in easy.tolist()])
    hard = np.flatnonzero(is_hard)
    if caps is not None:
        rings = _with_caps(rings, caps)
    if len(hard) == 0:
        return tuple(rings)
    seen = is_hard[which]
    moved = general_strips(points[seen], np.searchsorted(hard, which[seen]), half)
    found = [ring for ring, is_general in zip(rings, is_hard.tolist(), strict=True) if not is_general]
    if caps is not None:
        found += [*caps[hard], *caps[len(first) + hard]]
    return (*found, *(ring for region in moved for ring in polygons_of(region)))


def _without_stubs(goes_under: NDArray[np.bool_], bend: Points, first: Ints, last: Ints) -> NDArray[np.bool_]:
    """Return which points are seen: all but those next to an end where the line hardly turns there.

    A line may end in a stub that is shorter than its strip is drawn in by the slightest turn. What goes under
    with such a point is taken from `goes_under`, in place.
    """
    is_seen = np.ones(len(bend), bool)
    for stub, beside in ((first, first + 1), (last - 1, last - 1)):
        drop = goes_under[stub] & (last - first > 1) & (bend[beside] < _SLIGHT)
        goes_under[stub[drop]] = False
        is_seen[beside[drop]] = False
    return is_seen


def general_strips(points: Points, which: Ints, half: float) -> list[BaseGeometry]:
    """Return the same as regions, whatever the lines."""
    lines = shapely.linestrings(points, indices=which)
    regions = shapely.buffer(lines, half, cap_style="flat", join_style="mitre")
    return list(np.asarray(regions, object))


def _rings(points: Points, reach: Points, which: Ints) -> list[Points]:
    """Return each line's ring: there along one side, back along the other."""
    first = np.flatnonzero(np.diff(which, prepend=-1))
    ends = np.append(first[1:], len(which))
    # A line of n points from a on: n numbers up from a, then n down from there.
    counts = 2 * (ends - first)
    starts = np.cumsum(counts) - counts
    place = numbers_within(counts)
    size = np.repeat(ends - first, counts)
    is_back = place >= size
    number = np.repeat(first, counts) + np.where(is_back, 2 * size - 1 - place, place)
    made = points[number] + np.where(is_back, 1, -1)[:, None] * reach[number]
    spans = zip(starts.tolist(), (starts + counts).tolist(), strict=True)
    return [made[start:end] for start, end in spans]


def _with_caps(rings: list[Points], caps: Points) -> list[Points]:
    """Return rings that go round a cap at both ends: there along one side, back along the other."""
    made = []
    for ring, start, end in zip(rings, caps[: len(rings)], caps[len(rings) :], strict=True):
        there = len(ring) // 2
        made.append(np.concatenate((ring[:there], end, ring[there:], start)))
    return made


def _are_simple(rings: list[Points]) -> NDArray[np.bool_]:
    """Return of each ring whether it does not cross itself."""
    if not rings:
        return np.zeros(0, bool)
    numbers = np.repeat(np.arange(len(rings)), [len(ring) for ring in rings])
    return np.asarray(
        shapely.is_valid(shapely.polygons(shapely.linearrings(np.concatenate(rings), indices=numbers)))
    )
