"""Circle and ellipse: equal-area polygons from the formula, cubics for editing."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.shapes.library.spec import Values


def polygon_count(radius: float, tolerance: float) -> int:
    """Return how many sides keep an equal-area polygon within `tolerance` of its circle.

    The sagitta r (pi / n)^2 / 2 is split in two parts outside and one part inside by the equal-area radius,
    so the largest distance is about a third of r (pi / n)^2; a multiple of 4 of at least 32.
    """
    sides = math.pi * math.sqrt(max(radius, 1e-9) / (3 * tolerance))
    return 4 * math.ceil(max(32.0, sides) / 4)


def ellipse_polygon(width: float, height: float, values: Values, tolerance: float) -> tuple[Points, ...]:
    """Return one polygon whose area is exactly pi/4 width height.

    A regular n-gon of circumradius R has area n R^2 sin(2 pi / n) / 2 (Abramowitz & Stegun 4.3 gives the
    triangle's half sine rule); R is chosen so that it equals pi r^2, then the polygon is stretched.
    The middles of four sides lie on the axes, so the box is not exceeded there.
    """
    count = polygon_count(max(width, height) / 2, tolerance)
    step = 2 * math.pi / count
    swell = math.sqrt(step / math.sin(step))
    angle = (np.arange(count) + 0.5) * step
    points = np.empty((count, 2))
    points[:, 0], points[:, 1] = np.cos(angle) * (width / 2 * swell), np.sin(angle) * (height / 2 * swell)
    return (points,)


def ellipse_outline(width: float, height: float, values: Values) -> Outline:
    """Return 8 cubics, controls at 4/3 tan(angle / 4) of the tangent; radius error 4e-6."""
    step = math.pi / 4
    reach = 4 / 3 * math.tan(step / 4)
    angle = np.arange(9) * step
    point = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    tangent = np.stack([-np.sin(angle), np.cos(angle)], axis=1) * reach
    point[8] = point[0]
    rest = np.stack([(point + tangent)[:-1], (point - tangent)[1:], point[1:]], axis=1).reshape(-1, 2)
    contour = np.concatenate([point[:1], rest]) * (np.array([width, height]) / 2)
    return Outline((contour,))
