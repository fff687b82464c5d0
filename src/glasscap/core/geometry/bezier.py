"""Cubic segments as arrays: points on them, their boxes, cutting them, the nearest point."""

import math

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Outline, Points, extent_of
from glasscap.core.geometry.types import Box


def cubics_of(contour: Points) -> Points:
    """Return a contour of shape (3 n + 1, 2) as segments of shape (n, 4, 2)."""
    starts, rest = contour[:-1:3], contour[1:].reshape(-1, 3, 2)
    return np.concatenate([starts[:, None], rest], axis=1)


def segment_starts(outline: Outline) -> NDArray[np.int64]:
    """Return where each segment's first point stands in all contours' points put in one row."""
    counts = outline.lengths // 3
    # A contour has one point more than three a segment.
    return np.arange(counts.sum()) * 3 + np.repeat(np.arange(len(counts)), counts)


def outline_cubics(outline: Outline) -> Points:
    """Return the segments of all contours, shape (n, 4, 2), at one go: letters have hundreds of contours."""
    return outline.points.take(segment_starts(outline)[:, None] + np.arange(4), axis=0)


def contour_of(cubics: Points) -> Points:
    """Return segments of shape (n, 4, 2) that follow each other as a contour of shape (3 n + 1, 2)."""
    return np.concatenate([cubics[:1, 0], cubics[:, 1:].reshape(-1, 2)])


def point_at(cubic: Points, t: float) -> Points:
    """Return the point of a cubic, shape (4, 2), at t."""
    u = 1 - t
    return np.asarray(
        u * u * u * cubic[0] + 3 * u * u * t * cubic[1] + 3 * u * t * t * cubic[2] + t**3 * cubic[3]
    )


def velocity_at(cubic: Points, t: float) -> Points:
    """Return the derivative of a cubic at t; where it vanishes at an end, the direction it leaves in."""
    u = 1 - t
    a, b, c = cubic[1] - cubic[0], cubic[2] - cubic[1], cubic[3] - cubic[2]
    found = 3 * (u * u * a + 2 * u * t * b + t * t * c)
    if math.hypot(*found) > 1e-9 * max(1e-300, float(np.abs(cubic - cubic[0]).max())):
        return np.asarray(found)
    chords = (cubic[2] - cubic[0], cubic[3] - cubic[0]) if t < 0.5 else (cubic[3] - cubic[1], cubic[3] - cubic[0])
    return next((np.asarray(chord) for chord in chords if math.hypot(*chord) > 0), np.asarray(found))


def end_velocities(cubics: Points) -> tuple[Points, Points]:
    """Return `velocity_at` the starts and at the ends of segments of shape (n, 4, 2), shape (n, 2) each."""
    size = np.abs(cubics - cubics[:, :1]).max(axis=(1, 2))

    def first_of(points: Points) -> Points:
        """Return the way from the first point to the next one that is not in the same place."""
        ways = points[:, 1:] - points[:, :1]
        lengths = np.hypot(ways[..., 0], ways[..., 1])
        # The next control point must be further off than rounding; the others anywhere else.
        is_away = lengths > np.maximum(size, 1e-300)[:, None] * [1e-9 / 3, 0, 0]
        which = is_away.argmax(axis=1)
        found = ways[np.arange(len(ways)), which]
        return np.asarray(np.where((which == 0)[:, None], 3 * found, found))

    return first_of(cubics), -first_of(cubics[:, ::-1])


def split_at(cubic: Points, t: float) -> tuple[Points, Points]:
    """Cut a cubic in two at t (de Casteljau)."""
    a, b, c = (cubic[i] + (cubic[i + 1] - cubic[i]) * t for i in range(3))
    d, e = a + (b - a) * t, b + (c - b) * t
    middle = d + (e - d) * t
    return np.array([cubic[0], a, d, middle]), np.array([middle, e, c, cubic[3]])


def part_of(cubic: Points, start: float, end: float) -> Points:
    """Return what lies between two parameters of a cubic."""
    rest = cubic if start <= 0 else split_at(cubic, start)[1]
    return rest if end >= 1 else split_at(rest, (end - start) / (1 - start))[0]


def is_straight(cubic: Points) -> bool:
    """Whether a cubic, shape (4, 2), is a straight side as outlines write them: its controls at the thirds."""
    chord = cubic[3] - cubic[0]
    size = 1e-7 * max(float(np.abs(chord).max()), 1e-12)
    return bool(
        np.abs(cubic[1] - cubic[0] - chord / 3).max() < size
        and np.abs(cubic[3] - cubic[2] - chord / 3).max() < size
    )


def outline_box(outline: Outline) -> Box:
    """Return the smallest box of an outline's curves (not of their control points)."""
    box = extent_of(outline.points.take(segment_starts(outline), axis=0))
    # A curve lies within its control points: only where one of those stands out may it.
    if extent_of(outline.points) == box:
        return box
    cubics = outline_cubics(outline)
    # Roots of the derivative a t^2 + b t + c for each axis.
    p0, p1, p2, p3 = (cubics[:, i] for i in range(4))
    a, b, c = p3 - 3 * p2 + 3 * p1 - p0, 2 * (p2 - 2 * p1 + p0), p1 - p0
    with np.errstate(divide="ignore", invalid="ignore"):
        root = np.sqrt(b * b - 4 * a * c)
        q = -(b + np.where(b < 0, -root, root)) / 2
        roots = np.stack([q / a, c / q])
    inside = (roots > 0) & (roots < 1)
    t = np.where(inside, roots, 0.0)
    u = 1 - t
    value = u * u * u * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * p3
    return box.union(extent_of(value.reshape(-1, 2)))


def nearest_on(contour: Points, x: float, y: float) -> tuple[int, float, float]:
    """Return (segment, t, distance) of the point of a contour nearest to (x, y)."""
    cubics = cubics_of(contour)
    t = np.linspace(0, 1, 17)[None, :, None]
    u = 1 - t
    p0, p1, p2, p3 = (cubics[:, None, i] for i in range(4))
    at = u**3 * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t**3 * p3
    away = np.hypot(at[..., 0] - x, at[..., 1] - y)
    segment, place = divmod(int(away.argmin()), 17)
    low, high = max(0.0, (place - 1) / 16), min(1.0, (place + 1) / 16)
    cubic = cubics[segment]

    def distance(value: float) -> float:
        px, py = point_at(cubic, value)
        return math.hypot(px - x, py - y)

    for _ in range(40):
        one, other = low + (high - low) / 3, high - (high - low) / 3
        low, high = (low, other) if distance(one) < distance(other) else (one, high)
    best = (low + high) / 2
    return segment, best, distance(best)
