"""Outlines that run along one another: drawn one by one each would leave a seam there."""

from collections.abc import Sequence
from itertools import combinations

import numpy as np
import shapely

from glasscap.core.geometry.outline import Points

# Output px: so near lines lie on one another, and so long they do before it shows.
_NEAR, _LONG = 1 / 32, 12.0


def share_an_edge(outlines: Sequence[tuple[Points, ...]]) -> bool:
    """Whether two of some outlines (closed polygons each, output px) run along one another for a while.

    Where they merely cross, or touch in a point, they do not.
    """
    lines = [_line(polygons) for polygons in outlines if any(len(p) > 2 for p in polygons)]
    near: dict[int, shapely.Geometry] = {}
    for (_, line), (other, there) in combinations(enumerate(lines), 2):
        if _are_apart(line.bounds, there.bounds):
            continue
        if other not in near:
            near[other] = shapely.buffer(there, _NEAR, quad_segs=2)
        if shapely.intersection(line, near[other]).length > _LONG:
            return True
    return False


def _line(polygons: tuple[Points, ...]) -> shapely.MultiLineString:
    return shapely.MultiLineString([np.concatenate([p, p[:1]]) for p in polygons if len(p) > 2])


def _are_apart(one: tuple[float, ...], other: tuple[float, ...]) -> bool:
    x0, y0, x1, y1 = one
    left, top, right, bottom = other
    return x1 + _NEAR < left or right + _NEAR < x0 or y1 + _NEAR < top or bottom + _NEAR < y0
