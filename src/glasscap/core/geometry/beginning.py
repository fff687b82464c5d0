"""The beginning of a closed path: a place told by its form, not by the order of its points."""

import numpy as np

from glasscap.core.geometry.outline import Points, transform
from glasscap.core.geometry.types import Affine

# Points closer to the beginning than this (the path's unit) are taken for it.
_SHORTEST = 1e-6


def begun_on_top(polygon: Points, to_frame: Affine) -> Points:
    """Return a closed polyline that begins where it crosses the upright through its middle, topmost.

    However finely a curve was flattened and whatever an offset made of it, it begins at the same place.

    Parameters
    ----------
    polygon : float64 array, shape (n, 2)
    to_frame : Affine
        Maps its points to the frame in which up is up, so that what is turned keeps its beginning.

    Returns
    -------
    float64 array, shape (n + 1, 2) or less
    """
    x, y = transform(polygon, to_frame).T
    x = x - (x.min() + x.max()) / 2
    is_left = x < 0
    crossing = np.flatnonzero(is_left != np.roll(is_left, -1))
    if len(crossing) == 0:
        return polygon
    after = (crossing + 1) % len(x)
    share = x[crossing] / (x[crossing] - x[after])
    top = int(np.argmin(y[crossing] + (y[after] - y[crossing]) * share))
    side, end = int(crossing[top]), int(after[top])
    start = polygon[side] + (polygon[end] - polygon[side]) * share[top]
    rest = np.roll(polygon, -(side + 1), axis=0)
    # At a corner it begins with the corner, not with a way too short to have a direction.
    return np.concatenate([start[None], rest[np.hypot(*(rest - start).T) > _SHORTEST]])
