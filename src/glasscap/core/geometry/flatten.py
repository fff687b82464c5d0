"""Bézier outlines to polygons within a stated tolerance."""

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.bezier import cubics_of, outline_cubics
from glasscap.core.geometry.counting import numbers_within
from glasscap.core.geometry.outline import Outline, Points

MAX_SPLITS = 4096


def flatten(outline: Outline, *, tolerance: float) -> tuple[Points, ...]:
    """Flatten every contour.

    Parameters
    ----------
    outline : Outline
    tolerance : float
        Largest distance between curve and chord, in the outline's own unit.

    Returns
    -------
    tuple of float64 arrays, shape (n, 2)
        Polygons; the last point is joined to the first.
    """
    if not outline.contours:
        return ()
    points, counts = _flattened(outline_cubics(outline), tolerance)
    ends = np.cumsum(counts)[np.cumsum(outline.lengths // 3) - 1]
    return tuple([points[a:b] for a, b in pairwise([0, *ends.tolist()])])


def flatten_contour(contour: Points, *, tolerance: float) -> Points:
    """Flatten one closed contour of shape (3 n + 1, 2).

    Each cubic is cut in m equal parts by Wang's bound, which keeps every chord within the tolerance:
    m^2 >= 6 / 8 * max(|P0 - 2 P1 + P2|, |P1 - 2 P2 + P3|) / tolerance
    (Wang 1984, as given in Goldman, Pyramid Algorithms, 2003; formula from memory, held by a property test).

    Examples
    --------
    >>> from glasscap.core.geometry.outline import straight_contour
    >>> len(flatten_contour(straight_contour(np.array([[0.0, 0], [4, 0], [4, 3]])), tolerance=0.01))
    3
    """
    return _flattened(cubics_of(contour), tolerance)[0]


def _flattened(cubics: Points, tolerance: float) -> tuple[Points, NDArray[np.int64]]:
    """Return the points of cubics, shape (n, 4, 2), their ends left out, and how many each gives."""
    p0, p1, p2, p3 = (np.asarray(cubics[:, i], np.float64) for i in range(4))
    # p0 + c t + b t^2 + a t^3
    c, b = 3 * (p1 - p0), 3 * (p0 - 2 * p1 + p2)
    a = p3 - p0 - c - b
    # Thirds of b and of b + 3 a are the second differences at both ends.
    bend = np.maximum(np.hypot(b[:, 0], b[:, 1]), np.hypot(b[:, 0] + 3 * a[:, 0], b[:, 1] + 3 * a[:, 1])) / 3
    counts = np.clip(np.ceil(np.sqrt(0.75 * bend / tolerance)), 1, MAX_SPLITS).astype(np.int64)
    t = numbers_within(counts) / np.repeat(counts, counts)
    points = np.repeat(a, counts, axis=0)
    for factor in (b, c, p0):
        for axis in (0, 1):
            points[:, axis] *= t
        points += np.repeat(factor, counts, axis=0)
    return points, counts


def flatten_open(cubic: Points, *, tolerance: float) -> Points:
    """Flatten one cubic of shape (4, 2), its end included."""
    return np.concatenate([flatten_contour(cubic, tolerance=tolerance), cubic[3:]])
