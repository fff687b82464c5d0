"""Edits of a shape's points; places are in sheet px."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.edits.items import set_shape
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.fit import fit_ways, thinned
from glasscap.core.geometry.outline import Outline, Points, straight_contour, transform
from glasscap.core.geometry.path_data import read_path_data, write_path_data
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import PointsShape
from glasscap.core.shapes.nodes import Nodes, mapped_nodes, nodes_of, path_and_kinds
from glasscap.core.shapes.outlines import corners_of_shape, outline_of, own_box, own_to_frame, shape_label

# Points stand for a library shape within this many px.
_THINNED = 0.02
_FINEST = 0.05


def nodes_on_sheet(item: Cutout) -> Nodes:
    """Return the points of a cutout's shape of points; () where it has none."""
    shape, placement = item.shape, item.shape_placement
    if not isinstance(shape, PointsShape) or placement is None:
        return ()
    return _placed_nodes(shape, placement)


@lru_cache(maxsize=8)
def _placed_nodes(shape: PointsShape, placement: ShapePlacement) -> Nodes:
    """Return points in sheet px, kept: the pointer asks for the same ones at every move."""
    to_sheet = placement.to_sheet.after(own_to_frame(shape, placement.width, placement.height))
    return mapped_nodes(nodes_of(read_path_data(shape.path, shape.fill), shape.kinds), to_sheet)


def set_nodes(job: Job, item_id: str, nodes: Nodes) -> Job:
    """Give a cutout's shape other points; turn, mirror and rounding stay. Raises ShapeError."""
    item = find_item(job, item_id)
    if not isinstance(item.shape, PointsShape) or item.shape_placement is None:
        return job
    shape, placement = placed_points(nodes, item.shape_placement, item.shape)
    if shape.corners:
        shape = replace(shape, corners=_same_corners(item.shape, item.shape_placement, shape, placement))
    return set_shape(job, item_id, shape, placement)


def _same_corners(
    before: PointsShape, was: ShapePlacement, after: PointsShape, now: ShapePlacement
) -> tuple[tuple[int, float], ...]:
    """Return the radii of single corners under the numbers their corners have now."""
    old = transform(corners_of_shape(before, was.width, was.height)[0], was.to_sheet)
    new = transform(corners_of_shape(after, now.width, now.height)[0], now.to_sheet)
    if not len(new):
        return ()
    kept = {
        int(np.hypot(*(new - old[number]).T).argmin()): radius
        for number, radius in before.corners
        if number < len(old)
    }
    return tuple(sorted(kept.items()))


def placed_points(
    nodes: Nodes, like: ShapePlacement | None, before: PointsShape | None = None, *, made_by: str = "Drawn shape"
) -> tuple[PointsShape, ShapePlacement]:
    """Return a shape of points given in sheet px, with its placement, turned and mirrored as `like` is.

    Raises ShapeError for points that enclose nothing.
    """
    turned = ShapePlacement(0, 0, 1, 1) if like is None else replace(like, x=0.0, y=0.0)
    path, kinds = path_and_kinds(mapped_nodes(nodes, turned.to_sheet.inverse()))
    fresh = PointsShape(path, made_by=made_by) if before is None else before
    # The way that was followed no longer tells the curve once its points are moved.
    shape = replace(fresh, path=path, kinds=kinds, way="", smoothness=0.0, drawn=None)
    box = own_box(shape)
    assert box is not None
    x, y = turned.to_sheet.apply(*box.centre)
    return shape, replace(turned, x=x, y=y, width=box.width, height=box.height)


def followed_shape(
    ways: Sequence[Points], smoothness: float, *, made_by: str
) -> tuple[PointsShape, ShapePlacement]:
    """Return the clean curve near closed ways in sheet px, with the ways kept so that it can be fitted anew.

    Raises ShapeError for ways that enclose nothing.
    """
    outline = fit_ways(ways, tolerance=smoothness)
    shape, placement = placed_points(nodes_of(outline), None, made_by=made_by)
    straight = Outline(tuple(straight_contour(w) for w in ways))
    return replace(shape, fill="evenodd", way=write_path_data(straight, 3), smoothness=smoothness), placement


def set_smoothness(job: Job, item_id: str, smoothness: float) -> Job:
    """Fit a followed edge anew: its curve may leave the way by so many sheet px. Raises ShapeError."""
    item = find_item(job, item_id)
    shape, placement = item.shape, item.shape_placement
    if not isinstance(shape, PointsShape) or placement is None or not shape.way:
        return job
    to_sheet = placement.to_sheet.after(own_to_frame(shape, placement.width, placement.height))
    ways = [transform(c[:-1:3], to_sheet) for c in read_path_data(shape.way).contours]
    if not smoothness >= _FINEST:
        raise ShapeError("Smoothness", f"{smoothness:g} px is out of range", f"use {_FINEST:g} or more")
    turned = replace(placement, x=0.0, y=0.0).to_sheet.inverse()
    made, placed = placed_points(nodes_of(fit_ways(ways, tolerance=smoothness)), placement, shape)
    way = write_path_data(Outline(tuple(straight_contour(transform(w, turned)) for w in ways)), 3)
    made = replace(made, way=way, smoothness=smoothness, drawn=shape.drawn, corners=())
    return set_shape(job, item_id, made, placed)


def to_points(job: Job, item_id: str) -> Job:
    """Turn any shape into points at its place and size; rounding becomes part of the outline."""
    item = find_item(job, item_id)
    if item.shape is None or item.shape_placement is None or isinstance(item.shape, PointsShape):
        return job
    size = (item.shape_placement.width, item.shape_placement.height)
    outline = thinned(outline_of(item.shape, *size), tolerance=_THINNED)
    placement = item.shape_placement
    nodes = mapped_nodes(nodes_of(outline), placement.to_sheet)
    shape, placed = placed_points(nodes, placement, made_by=f"{shape_label(item.shape)}, as points")
    return set_shape(job, item_id, replace(shape, keeps=item.shape.keeps), placed)


def outline_nodes(item: Cutout, affine: Affine) -> Nodes:
    """Return the points of any cutout's outline under a map of the sheet: what others snap to."""
    if item.shape is None or item.shape_placement is None:
        return ()
    outline = outline_of(item.shape, item.shape_placement.width, item.shape_placement.height)
    return mapped_nodes(nodes_of(outline), affine.after(item.shape_placement.to_sheet))
