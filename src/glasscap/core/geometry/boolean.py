"""Combining outlines; curves stay curves. Built on a path-operations library that works in single precision."""

from typing import Literal

import numpy as np
import pathops
import shapely
from numpy.typing import NDArray

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Flags, Outline, Points, extent_of
from glasscap.core.geometry.polygon import signed_area, signed_areas
from glasscap.core.geometry.types import Affine

Rings = NDArray[np.object_]
Operation = Literal["add", "subtract", "intersect", "exclude"]

_OPERATIONS: dict[Operation, pathops.PathOp] = {
    "add": pathops.PathOp.UNION,
    "subtract": pathops.PathOp.DIFFERENCE,
    "intersect": pathops.PathOp.INTERSECTION,
    "exclude": pathops.PathOp.XOR,
}
_FILLS = {"nonzero": pathops.FillType.WINDING, "evenodd": pathops.FillType.EVEN_ODD}
# The library's unit: coordinates are brought to about this size, where single precision has 5e-5 to spare.
_UNITS = 1024.0
# Share of the box below which a contour is a sliver left by rounding.
_SLIVER = 1e-9
# Flattening this fine tells whether an outline crosses itself, as a share of the box of its points.
_LOOK = 1e-4
# Contours looked for others at once: nested ones have pairs by the square of their number.
_AT_ONCE = 256
# More crossings than this would take longer than anyone waits; a sample of sides tells.
_MOST_CROSSINGS, _SAMPLED = 150_000, 256


def normalised(outline: Outline) -> Outline:
    """Return the same region as contours that neither cross nor overlap, holes wound the other way.

    Contours that do neither stay as they are, but for their direction. Raises ShapeError where the region
    cannot be found.
    """
    kept = _with_area(outline)
    if not kept.contours:
        return Outline(())
    flat = _looked_at(kept)
    rings = _rings(flat)
    if rings is not None and _are_apart(rings):
        return _nested(kept, flat, rings)
    if _crossings(flat) > _MOST_CROSSINGS:
        raise ShapeError("Shape", "its outline crosses itself too often", "use fewer points")
    return _region(kept, None, "add")


def _with_area(outline: Outline) -> Outline:
    """Leave out contours that are upright or level lines, or single points."""
    if not outline.contours:
        return outline
    first = np.cumsum(outline.lengths) - outline.lengths
    size = np.maximum.reduceat(outline.points, first) - np.minimum.reduceat(outline.points, first)
    has_area = np.asarray((size > 0).all(axis=1))
    return outline if has_area.all() else _chosen(outline, has_area)


def _chosen(outline: Outline, is_kept: Flags) -> Outline:
    """Return some of an outline's contours."""
    points = outline.points[np.repeat(is_kept, outline.lengths)]
    return Outline.of_points(points, outline.lengths[is_kept], outline.fill_rule)


def combined(one: Outline, other: Outline, operation: Operation) -> Outline:
    """Return what an operation makes of two outlines. Raises ShapeError where the region cannot be found."""
    return _region(one, other, operation)


def _looked_at(outline: Outline) -> tuple[Points, ...]:
    box = extent_of(outline.points)
    return flatten(outline, tolerance=max(box.width, box.height, 1e-9) * _LOOK)


def _rings(flat: tuple[Points, ...]) -> Rings | None:
    """Return polygons as the geometry library has them, made at one go; None where one has no side."""
    lengths = [len(p) for p in flat]
    if min(lengths) < 3:
        return None
    lines = shapely.linearrings(np.concatenate(flat), indices=np.repeat(np.arange(len(flat)), lengths))
    return np.asarray(shapely.polygons(lines))


def _are_apart(rings: Rings) -> bool:
    """Whether no polygon crosses itself and no two touch."""
    if not shapely.is_valid(rings).all():
        return False
    edges = shapely.boundary(rings)
    tree = shapely.STRtree(edges)
    for first in range(0, len(edges), _AT_ONCE):
        # A polygon is looked at with those whose boxes it meets, not with itself: that was done.
        one, other = tree.query(edges[first : first + _AT_ONCE])
        is_pair = one + first < other
        if shapely.intersects(edges[one[is_pair] + first], edges[other[is_pair]]).any():
            return False
    return True


def _crossings(flat: tuple[Points, ...]) -> float:
    """Return about how often sides cross, from a sample of them: the work grows with it."""
    sides = np.concatenate([np.stack([p, np.roll(p, -1, axis=0)], axis=1) for p in flat if len(p)])
    lines = np.atleast_1d(np.asarray(shapely.linestrings(sides), object))
    sample = lines[:: max(1, len(lines) // _SAMPLED)]
    pairs = shapely.STRtree(lines).query(sample, predicate="intersects")
    # Every side meets itself and its two neighbours.
    return float(max(0.0, pairs.shape[1] / len(sample) - 3) * len(lines) / 2)


def _nested(outline: Outline, flat: tuple[Points, ...], rings: Rings) -> Outline:
    """Keep the contours that part inside from outside, inside on their right; drop those within a region."""
    signs = np.where(signed_areas(flat) > 0, 1, -1)
    tree, points = shapely.STRtree(rings), shapely.points([p[0] for p in flat])
    depth, turns = np.zeros((2, len(flat)), np.int64)
    for first in range(0, len(flat), _AT_ONCE):
        inner, outer = tree.query(points[first : first + _AT_ONCE], predicate="within")
        is_other = inner + first != outer
        inner, outer = inner[is_other] + first, outer[is_other]
        depth += np.bincount(inner, minlength=len(flat))
        turns += np.bincount(inner, weights=signs[outer], minlength=len(flat)).astype(np.int64)
    if outline.fill_rule == "evenodd":
        is_out = depth % 2 == 1
        is_in = ~is_out
    else:
        is_out, is_in = turns != 0, turns + signs != 0
    kept, is_turned = is_in != is_out, (signs > 0) != is_in
    if kept.all() and not is_turned.any() and outline.fill_rule == "nonzero":
        return outline
    turned = zip(outline.contours, kept.tolist(), is_turned.tolist(), strict=True)
    return Outline(tuple(c[::-1].copy() if back else c for c, is_kept, back in turned if is_kept))


def _region(one: Outline, other: Outline | None, operation: Operation) -> Outline:
    outlines = [one] if other is None else [one, other]
    filled = [o for o in outlines if o.contours]
    if not filled:
        return Outline(())
    boxes = [outline_box(o) for o in filled]
    box = boxes[0] if len(boxes) == 1 else boxes[0].union(boxes[1])
    scale = _UNITS / max(box.width, box.height, 1e-9)
    to_units = Affine.scaling(scale).after(Affine.translation(-box.centre[0], -box.centre[1]))
    try:
        paths = [_to_path(o.transformed(to_units)) for o in outlines]
        if other is None:
            found = paths[0]
            found.simplify(fix_winding=True, keep_starting_points=False)
        else:
            for path in paths:
                path.simplify(fix_winding=True, keep_starting_points=False)
            found = pathops.op(*paths, _OPERATIONS[operation], fix_winding=True, keep_starting_points=False)
    except pathops.PathOpsError as error:
        raise ShapeError("Shape", "its outline crosses itself too often", "use fewer points") from error
    contours = _to_contours(found)
    return _wound(Outline(contours).transformed(to_units.inverse()))


def _to_path(outline: Outline) -> "pathops.Path":
    path = pathops.Path(fillType=_FILLS[outline.fill_rule])
    for contour in outline.contours:
        path.moveTo(*contour[0].tolist())
        for x1, y1, x2, y2, x, y in contour[1:].reshape(-1, 6).tolist():
            path.cubicTo(x1, y1, x2, y2, x, y)
        path.close()
    return path


def _to_contours(path: "pathops.Path") -> tuple[Points, ...]:
    path.convertConicsToQuads(1e-4)
    made: list[Points] = []
    points: list[tuple[float, float]] = []
    for verb, given in path:
        if verb == pathops.PathVerb.MOVE:
            points = [given[0]]
        elif verb == pathops.PathVerb.LINE:
            points += _straight(points[-1], given[0])
        elif verb == pathops.PathVerb.QUAD:
            points += _raised(points[-1], *given)
        elif verb == pathops.PathVerb.CUBIC:
            points += given
        elif verb == pathops.PathVerb.CLOSE and points:
            if points[-1] != points[0]:
                points += _straight(points[-1], points[0])
            if len(points) >= 4:
                made.append(np.array(points, np.float64))
            points = []
    return tuple(made)


def _straight(start: tuple[float, float], end: tuple[float, float]) -> list[tuple[float, float]]:
    dx, dy = (end[0] - start[0]) / 3, (end[1] - start[1]) / 3
    return [(start[0] + dx, start[1] + dy), (end[0] - dx, end[1] - dy), end]


def _raised(
    start: tuple[float, float], control: tuple[float, float], end: tuple[float, float]
) -> list[tuple[float, float]]:
    (x0, y0), (x1, y1), (x2, y2) = start, control, end
    return [
        (x0 + (x1 - x0) * 2 / 3, y0 + (y1 - y0) * 2 / 3),
        (x2 + (x1 - x2) * 2 / 3, y2 + (y1 - y2) * 2 / 3),
        end,
    ]


def _wound(outline: Outline) -> Outline:
    """Drop slivers; wind outer contours clockwise on screen and holes the other way, by how deep they lie."""
    if not outline.contours:
        return outline
    box = outline_box(outline)
    kept = [
        (contour, polygon)
        for contour, polygon in zip(outline.contours, _looked_at(outline), strict=True)
        if abs(signed_area(polygon)) > _SLIVER * box.width * box.height
    ]
    sizes = [abs(signed_area(polygon)) for _, polygon in kept]
    rings = [shapely.Polygon(polygon) for _, polygon in kept]
    inner = [ring.representative_point() if ring.is_valid else ring.centroid for ring in rings]
    made = []
    for (contour, polygon), size, point in zip(kept, sizes, inner, strict=True):
        larger = [ring for ring, other in zip(rings, sizes, strict=True) if other > size]
        depth = int(np.count_nonzero(shapely.contains(larger, point))) if larger else 0
        is_clockwise = signed_area(polygon) > 0
        made.append(contour if is_clockwise == (depth % 2 == 0) else contour[::-1].copy())
    return Outline(tuple(made))
