"""Perspective between planes: the 3 x 3 matrix that takes the unit square to a quadrilateral.

P. S. Heckbert, Fundamentals of Texture Mapping and Image Warping, UCB/CSD 89/516, 1989, section 2.2.3.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import signed_area

Matrix = NDArray[np.float64]
# Share of the quadrilateral's largest side squared that a triangle of its corners has at least.
_FLATTEST = 1e-6


def square_to_quad(corners: Sequence[tuple[float, float]]) -> Matrix:
    """Return the matrix that takes (0, 0), (1, 0), (1, 1), (0, 1) to four corners in that order, shape (3, 3).

    Raises ShapeError for corners that are no convex quadrilateral: part of the plane would lie behind the eye.
    """
    quad = np.asarray(corners, float)
    if quad.shape != (4, 2) or not np.isfinite(quad).all() or not is_convex(quad):
        raise ShapeError("Four corners", "they are no convex quadrilateral", "put them in order round the place")
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = quad.tolist()
    sum_x, sum_y = x0 - x1 + x2 - x3, y0 - y1 + y2 - y3
    dx1, dx2, dy1, dy2 = x1 - x2, x3 - x2, y1 - y2, y3 - y2
    det = dx1 * dy2 - dx2 * dy1
    g = (sum_x * dy2 - dx2 * sum_y) / det
    h = (dx1 * sum_y - sum_x * dy1) / det
    return np.array(
        [[x1 - x0 + g * x1, x3 - x0 + h * x3, x0], [y1 - y0 + g * y1, y3 - y0 + h * y3, y0], [g, h, 1.0]]
    )


def is_convex(quad: Points) -> bool:
    """Whether four corners in order turn one way, none of them nearly straight; shape (4, 2)."""
    sides = np.roll(quad, -1, axis=0) - quad
    largest = float((sides**2).sum(axis=1).max())
    areas = [signed_area(np.delete(quad, n, axis=0)) for n in range(4)]
    least = _FLATTEST * max(largest, 1e-300)
    return all(a > least for a in areas) or all(a < -least for a in areas)


def mapped(matrix: Matrix, points: Points) -> Points:
    """Return points under a perspective, shape (n, 2)."""
    out = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    return out[:, :2] / out[:, 2:]
