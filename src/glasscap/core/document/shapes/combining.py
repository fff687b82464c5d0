"""Combining shapes inside one cutout: the parts stay shapes of their own and can be worked on one by one."""

from collections.abc import Sequence

import numpy as np
import shapely
from msgspec.structs import replace

from glasscap.core.document.edits.items import add_items, remove_items, set_shape, update_item
from glasscap.core.document.model.job import Cutout, Item, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item, fresh_ids, fresh_name, items_of
from glasscap.core.document.model.region import polygons_on_sheet, shape_outline
from glasscap.core.document.shapes.points import placed_points
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.boolean import Operation, combined, normalised
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Outline, Points, straight_contour
from glasscap.core.geometry.types import Affine, normal_degrees
from glasscap.core.shapes.kinds import CombinedShape, Shape, ShapePart, library_shape
from glasscap.core.shapes.nodes import nodes_of
from glasscap.core.shapes.outlines import own_box, own_to_frame

_TOLERANCE = 1 / 64
# Slivers of a gap thinner than this, sheet px, are left out.
_THIN = 0.05


def part_at(shape: Shape, placement: ShapePlacement, does: Operation = "add") -> ShapePart:
    """Return a placed shape as a part, in the units of the sheet."""
    return ShapePart(
        replace(shape, keeps="inside"), placement.x, placement.y, placement.width, placement.height,
        placement.rotation, placement.is_mirrored, does,
    )  # fmt: skip


def placed_combined(
    parts: Sequence[ShapePart], like: ShapePlacement | None = None, before: CombinedShape | None = None
) -> tuple[CombinedShape, ShapePlacement]:
    """Return a combined shape with its placement, parts and sheet having the same units.

    `before` gives the side kept and the rounding. Raises ShapeError when nothing is left.
    """
    shape = CombinedShape(tuple(parts)) if before is None else replace(before, parts=tuple(parts))
    box = own_box(shape)
    assert box is not None
    return shape, ShapePlacement(*box.centre, box.width, box.height, keeps_ratio=True)


def combine(job: Job, item_ids: Sequence[str], does: Operation) -> tuple[Job, str]:
    """Combine the shapes of several cutouts into the first that has content, from back to front.

    Shapes that wait for a photo are used up; cutouts with content of their own stay. Return the job and the id
    of the cutout that has the shape. Raises ShapeError.
    """
    order = {i.id: n for n, (_, i) in enumerate(items_of(job))}
    items = [find_item(job, i) for i in sorted(item_ids, key=order.__getitem__)]
    shaped = [i for i in items if i.shape is not None and i.shape_placement is not None]
    if len(shaped) < 2:
        raise ShapeError("Combine", "two shapes are needed", "select two or more cutouts")
    target = next((i for i in shaped if i.content is not None), shaped[0])
    if target.is_locked:
        raise ShapeError(target.name, "it is locked", "unlock it first")
    others = [i for i in shaped if i.id != target.id]
    parts = [*_parts_of(target, "add"), *(p for i in others for p in _parts_of(i, does))]
    shape, placement = placed_combined(parts)
    assert target.shape is not None
    job = set_shape(job, target.id, replace(shape, keeps=target.shape.keeps), placement)
    return remove_items(job, [i.id for i in others if i.content is None and not i.is_locked]), target.id


def _parts_of(item: Item, does: Operation) -> tuple[ShapePart, ...]:
    """Return an item's shape as parts in sheet units; a combined one that is added gives its own parts."""
    assert item.shape is not None
    assert item.shape_placement is not None
    if isinstance(item.shape, CombinedShape) and does == "add" and not (item.shape.round or item.shape.corners):
        return _own_parts(item, item.shape)
    return (part_at(item.shape, item.shape_placement, does),)


def _own_parts(item: Item, shape: CombinedShape) -> tuple[ShapePart, ...]:
    """Return the parts of an item's combined shape in sheet units."""
    return tuple(
        replace(part_at(part.shape, placed), does=part.does, is_off=part.is_off)
        for part, placed in zip(shape.parts, parts_on_sheet(item), strict=True)
    )


def parts_on_sheet(item: Cutout) -> tuple[ShapePlacement, ...]:
    """Return where the parts of a combined shape lie on the sheet."""
    shape, placement = item.shape, item.shape_placement
    if not isinstance(shape, CombinedShape) or placement is None:
        return ()
    return tuple(_moved(p, *_map(shape, placement)) for p in shape.parts)


def _map(shape: CombinedShape, placement: ShapePlacement) -> tuple[Affine, float, float, bool]:
    """Return the map of a combined shape's units to the sheet, its scale, turn and mirror."""
    to_sheet = placement.to_sheet.after(own_to_frame(shape, placement.width, placement.height))
    return to_sheet, abs(to_sheet.determinant) ** 0.5, placement.rotation, placement.is_mirrored


def _moved(part: ShapePart, affine: Affine, scale: float, turn: float, is_mirrored: bool) -> ShapePlacement:
    x, y = affine.apply(part.x, part.y)
    degrees = normal_degrees(turn - part.rotation if is_mirrored else turn + part.rotation)
    return ShapePlacement(x, y, part.width * scale, part.height * scale, degrees, part.is_mirrored != is_mirrored)


def focused(job: Job, item_id: str, part: int | None) -> Job:
    """Return a job in which a cutout has one part of its combined shape as its shape; what tools then change."""
    item = find_item(job, item_id)
    if part is None or not isinstance(item.shape, CombinedShape) or part >= len(item.shape.parts):
        return job
    seen = replace(item, shape=item.shape.parts[part].shape, shape_placement=parts_on_sheet(item)[part])
    return _put(job, seen)


def unfocused(before: Job, after: Job, item_id: str, part: int | None) -> Job:
    """Return a job changed while focused with the combined shape in its place again. Raises ShapeError."""
    whole, seen = find_item(before, item_id), find_item(after, item_id)
    if part is None or not isinstance(whole.shape, CombinedShape) or part >= len(whole.shape.parts):
        return after
    placed = list(_own_parts(whole, whole.shape))
    if seen.shape is None or seen.shape_placement is None:
        return before
    old = placed[part]
    placed[part] = replace(part_at(seen.shape, seen.shape_placement), does=old.does, is_off=old.is_off)
    shape, placement = placed_combined(placed, whole.shape_placement, whole.shape)
    return _put(after, replace(seen, shape=shape, shape_placement=placement))


def _put(job: Job, item: Item) -> Job:
    return update_item(job, item.id, lambda _: item)


def add_part(job: Job, item_id: str, does: Operation, name: str = "circle") -> Job:
    """Add a part half as large as the shape in its middle; a shape not combined yet becomes the first part."""
    item = find_item(job, item_id)
    if item.shape is None or item.shape_placement is None:
        return job
    before = item.shape if isinstance(item.shape, CombinedShape) else None
    first = (part_at(item.shape, item.shape_placement),) if before is None else _own_parts(item, before)
    placement = item.shape_placement
    side = max(1.0, round(min(placement.width, placement.height) / 2))
    x, y = placement.x, placement.y
    if does == "add":
        x, y = placement.point(1.0, 0.0)
    fresh = part_at(library_shape(name), ShapePlacement(x, y, side, side), does)
    shape, placed = placed_combined((*first, fresh), None, before)
    return set_shape(job, item_id, replace(shape, keeps=item.shape.keeps), placed)


def change_part(
    job: Job, item_id: str, part: int, *, does: Operation | None = None, is_off: bool | None = None
) -> Job:
    """Change what a part does, or leave it out for now. Raises ShapeError when nothing would be left."""
    item = find_item(job, item_id)
    if not isinstance(item.shape, CombinedShape) or part >= len(item.shape.parts):
        return job
    parts = list(_own_parts(item, item.shape))
    old = parts[part]
    parts[part] = replace(old, does=does or old.does, is_off=old.is_off if is_off is None else is_off)
    shape, placement = placed_combined(parts, None, item.shape)
    return set_shape(job, item_id, shape, placement)


def remove_part(job: Job, item_id: str, part: int) -> Job:
    """Take a part away; the last one left becomes the shape itself. Raises ShapeError."""
    item = find_item(job, item_id)
    if not isinstance(item.shape, CombinedShape) or part >= len(item.shape.parts):
        return job
    parts = [p for n, p in enumerate(_own_parts(item, item.shape)) if n != part]
    if len(parts) == 1:
        (last,) = parts
        placement = ShapePlacement(last.x, last.y, last.width, last.height, last.rotation, last.is_mirrored)
        return set_shape(job, item_id, replace(last.shape, keeps=item.shape.keeps), placement)
    shape, placement = placed_combined(parts, None, item.shape)
    return set_shape(job, item_id, shape, placement)


def gap_between(job: Job, container_id: str, item_ids: Sequence[str]) -> tuple[Job, str]:
    """Make a shape of the gap between cutouts: what their common hull holds and none of them covers.

    It waits for a photo, in front on that sheet or in that group. Raises ShapeError where there is no gap.
    """
    items = [
        i for i in (find_item(job, k) for k in item_ids) if i.shape is not None and i.shape_placement is not None
    ]
    if len(items) < 2:
        raise ShapeError("Gap", "two cutouts are needed", "select the neighbours of the gap")
    hull = _hull(items)
    gap = Outline((straight_contour(hull),))
    for item in items:
        assert item.shape is not None
        assert item.shape_placement is not None
        gap = combined(gap, normalised(shape_outline(item.shape, item.shape_placement)), "subtract")
    kept = _without_slivers(gap)
    if not kept.contours:
        raise ShapeError("Gap", "there is none between these cutouts", "move them apart")
    shape, placement = placed_points(nodes_of(kept), None, made_by="Gap between neighbours")
    (new_id,) = fresh_ids(job, 1)
    item = Cutout(new_id, fresh_name(job, "Gap"), shape=shape, shape_placement=placement)
    return add_items(job, container_id, [item]), new_id


def _hull(items: Sequence[Item]) -> Points:
    flat: list[Points] = []
    for item in items:
        assert item.shape is not None
        assert item.shape_placement is not None
        flat += polygons_on_sheet(item.shape, item.shape_placement, tolerance=_TOLERANCE)
    hull = shapely.convex_hull(shapely.MultiPoint(np.concatenate(flat)))
    return np.asarray(shapely.get_coordinates(hull)[:-1])


def _without_slivers(outline: Outline) -> Outline:
    """Leave out contours that vanish when thinned: what a hull of chords leaves along curves."""
    kept = []
    for contour in outline.contours:
        (flat,) = flatten(Outline((contour,)), tolerance=_TOLERANCE)
        if not shapely.buffer(shapely.buffer(shapely.Polygon(flat), 0), -_THIN).is_empty:
            kept.append(contour)
    return Outline(tuple(kept))
