"""Rectangle with one radius per corner."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.shapes.library.ellipse import polygon_count
from glasscap.core.shapes.library.spec import Values

CORNERS = ("corner_tl", "corner_tr", "corner_br", "corner_bl")
_SIGNS = ((-1, -1), (1, -1), (1, 1), (-1, 1))
# Fewer segments would show in the area of the fan below.
_FEWEST = 8
# A side shorter than this is none: two corners meet there.
_SAME = 1e-9


def limited_radii(width: float, height: float, values: Values) -> tuple[float, ...]:
    """Return the four radii, all scaled down together where two would meet.

    CSS Backgrounds and Borders 3, section 4.5: f = min(side / sum of its two radii), applied if f < 1.
    """
    radii = [max(0.0, values[name]) for name in CORNERS]
    sides = (width, height, width, height)
    sums = [radii[i] + radii[(i + 1) % 4] for i in range(4)]
    factor = min([1.0, *(side / total for side, total in zip(sides, sums, strict=True) if total > 0)])
    return tuple(radius * factor for radius in radii)


def rectangle_polygon(width: float, height: float, values: Values, tolerance: float) -> tuple[Points, ...]:
    """Return one polygon whose area is exactly width height - (1 - pi/4) sum of r^2."""
    radii = limited_radii(width, height, values)
    return (np.concatenate([_corner(width, height, i, radii[i], tolerance) for i in range(4)]),)


def _corner(width: float, height: float, index: int, radius: float, tolerance: float) -> Points:
    sx, sy = _SIGNS[index]
    if radius <= 0:
        return np.array([[sx * width / 2, sy * height / 2]])
    count = max(_FEWEST, math.ceil(polygon_count(radius, tolerance) / 4))
    step = math.pi / 2 / count
    reach = np.full(count + 1, _fan_radius(radius, count, step))
    reach[0] = reach[-1] = radius
    angle = math.pi + index * math.pi / 2 + np.arange(count + 1) * step
    arc = np.stack([np.cos(angle), np.sin(angle)], axis=1) * reach[:, None]
    return np.asarray(arc + np.array([sx * (width / 2 - radius), sy * (height / 2 - radius)]))


def _fan_radius(radius: float, count: int, step: float) -> float:
    """Return the inner vertices' distance that gives a fan from r to r the area pi r^2 / 4.

    Two outer triangles r R sin(step) / 2 and count - 2 inner ones R^2 sin(step) / 2.
    """
    a, b = (count - 2) * math.sin(step) / 2, radius * math.sin(step)
    c = -math.pi * radius * radius / 4
    return (-b + math.sqrt(b * b - 4 * a * c)) / (2 * a)


def rectangle_outline(width: float, height: float, values: Values) -> Outline:
    """Return lines and one cubic a rounded corner."""
    radii = limited_radii(width, height, values)
    points: list[Points] = []
    for (sx, sy), radius, index in zip(_SIGNS, radii, range(4), strict=True):
        corner = np.array([sx * width / 2, sy * height / 2])
        along_in = np.array([(0.0, 1.0), (-1.0, 0.0), (0.0, -1.0), (1.0, 0.0)][index])
        along_out = np.array([(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0)][index])
        _append_line(points, corner + along_in * radius)
        if radius > 0:
            rest = radius * (1 - 4 / 3 * math.tan(math.pi / 8))
            points += [corner + along_in * rest, corner + along_out * rest, corner + along_out * radius]
    _append_line(points, points[0])
    points[-1] = points[0]
    return Outline((np.array(points),))


def _append_line(points: list[Points], end: Points) -> None:
    if points:
        start = points[-1]
        if np.abs(end - start).max() < _SAME:
            return
        points += [start + (end - start) / 3, start + (end - start) * (2 / 3)]
    points.append(end)
