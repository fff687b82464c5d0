"""Bézier outlines to polygons within a stated tolerance."""

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.bezier import cubics_of, outline_cubics
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
    cubics = outline_cubics(outline)
    points, counts = _flattened(cubics, tolerance)
    ends = np.cumsum([len(c) // 3 for c in outline.contours])
    return tuple(np.split(points, np.cumsum(counts)[ends[:-1] - 1]))


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
    first, second = (cubics[:, i] - 2 * cubics[:, i + 1] + cubics[:, i + 2] for i in (0, 1))
    bend = np.maximum(np.hypot(first[:, 0], first[:, 1]), np.hypot(second[:, 0], second[:, 1]))
    counts = np.clip(np.ceil(np.sqrt(0.75 * bend / tolerance)), 1, MAX_SPLITS).astype(np.int64)
    which = np.repeat(np.arange(len(cubics)), counts)
    within = np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
    t = (within / counts[which])[:, None]
    u = 1 - t
    p0, p1, p2, p3 = (cubics[which, i] for i in range(4))
    points = np.asarray(u**3 * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t**3 * p3)
    return points, counts


def flatten_open(cubic: Points, *, tolerance: float) -> Points:
    """Flatten one cubic of shape (4, 2), its end included."""
    return np.concatenate([flatten_contour(cubic, tolerance=tolerance), cubic[3:]])
