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
    lines = [_line(polygons) for polygons in outlines]
    return any(_run_along(one, other) for one, other in combinations(lines, 2))


def _line(polygons: tuple[Points, ...]) -> shapely.MultiLineString:
    rings = [np.concatenate([p, p[:1]]) for p in polygons if len(p) > 2]
    return shapely.MultiLineString(rings)


def _run_along(one: shapely.MultiLineString, other: shapely.MultiLineString) -> bool:
    reach = shapely.box(*_grown(other.bounds)) if len(other.geoms) else None
    if reach is None or not shapely.intersects(one, reach):
        return False
    near = shapely.buffer(other, _NEAR, quad_segs=2)
    return bool(shapely.intersection(one, near).length > _LONG)


def _grown(bounds: tuple[float, ...]) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = bounds
    return x0 - _NEAR, y0 - _NEAR, x1 + _NEAR, y1 + _NEAR
