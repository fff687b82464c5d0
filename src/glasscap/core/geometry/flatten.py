"""Bézier outlines to polygons within a stated tolerance."""

import math

import numpy as np

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
    return tuple(flatten_contour(c, tolerance=tolerance) for c in outline.contours)


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
    starts, rest = contour[:-1:3], contour[1:].reshape(-1, 3, 2)
    cubics = np.concatenate([starts[:, None], rest], axis=1)
    pieces = [_split(cubic, tolerance) for cubic in cubics]
    return np.concatenate(pieces)


def _split(cubic: Points, tolerance: float) -> Points:
    bend = max(math.hypot(*(cubic[i] - 2 * cubic[i + 1] + cubic[i + 2])) for i in (0, 1))
    count = min(MAX_SPLITS, max(1, math.ceil(math.sqrt(0.75 * bend / tolerance))))
    t = (np.arange(count) / count)[:, None]
    u = 1 - t
    return np.asarray(u**3 * cubic[0] + 3 * u * u * t * cubic[1] + 3 * u * t * t * cubic[2] + t**3 * cubic[3])
