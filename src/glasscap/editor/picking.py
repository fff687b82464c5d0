"""The item under the pointer."""

import math
from collections.abc import Iterable, Sequence

import numpy as np

from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import items_in, photo_of
from glasscap.core.document.model.region import cutout_region, polygons_on_sheet
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine, Box
from glasscap.core.shapes.kinds import Shape
from glasscap.editor.form_handles import FormHandle
from glasscap.editor.handles import Frame, Handle

_TOLERANCE = 0.5


def handle_at(handles: tuple[Handle, ...], x: float, y: float, reach: float) -> Handle | None:
    """Return the handle nearest to a sheet point within `reach` sheet px."""
    near = [(abs(h.x - x) ** 2 + abs(h.y - y) ** 2, n) for n, h in enumerate(handles)]
    if not near or min(near)[0] > reach * reach:
        return None
    return handles[min(near)[1]]


def form_at(handles: tuple[FormHandle, ...], x: float, y: float, reach: float) -> FormHandle | None:
    """Return the handle of a shape's number nearest to a sheet point within `reach` sheet px."""
    near = [(math.hypot(h.x - x, h.y - y), n) for n, h in enumerate(handles)]
    return handles[min(near)[1]] if near and min(near)[0] <= reach else None


def frame_holds(frame: Frame, x: float, y: float) -> bool:
    """Whether a sheet point lies in a frame."""
    u, v = frame.to_sheet.inverse().apply(x, y)
    return abs(u) <= frame.width / 2 and abs(v) <= frame.height / 2


def item_at(job: Job, items: Sequence[Cutout], x: float, y: float) -> Cutout | None:
    """Return the frontmost of some items seen at a sheet point, hidden and locked ones left out."""
    for item in reversed(items):
        if not (item.is_hidden or item.is_locked) and shows_at(job, item, x, y):
            return item
    return None


def innermost_at(job: Job, items: Sequence[Cutout], x: float, y: float) -> Cutout | None:
    """Return the frontmost cutout seen at a sheet point that is no group, looking into groups."""
    found = item_at(job, items, x, y)
    return innermost_at(job, found.items, x, y) if found is not None and found.is_group else found


def hit_at(job: Job, containers: Iterable[str], x: float, y: float) -> Cutout | None:
    """Return what is seen at a sheet point in the innermost of nested containers that shows something there.

    `containers` are ids from the open group outwards to the sheet; a group does not hide what lies outside it.
    """
    passed: set[str] = set()
    for container in containers:
        found = item_at(job, [i for i in items_in(job, container) if i.id not in passed], x, y)
        if found is not None:
            return found
        passed.add(container)
    return None


def shows_at(job: Job, item: Cutout, x: float, y: float) -> bool:
    """Whether an item's visible region (or its waiting shape) holds a sheet point."""
    if item.is_group:
        return _group_shows_at(job, item, x, y)
    photo = photo_of(job, item)
    if photo is None or item.content_placement is None:
        return shape_holds(item, x, y)
    region = cutout_region(item, (photo.width, photo.height), (1, 1), Affine())
    if region is None:
        return False
    u, v = region.photo_to_output.inverse().apply(x, y)
    if not (0 <= u <= photo.width and 0 <= v <= photo.height):
        return False
    if region.shape is None or region.placement is None:
        return True
    return _holds(region.shape, region.placement, x, y) == (region.shape.keeps == "inside")


def _group_shows_at(job: Job, group: Cutout, x: float, y: float) -> bool:
    if group.shape is not None and group.is_masked:
        is_inside = shape_holds(group, x, y)
        if is_inside != (group.shape.keeps == "inside"):
            return False
    return any(not i.is_hidden and shows_at(job, i, x, y) for i in group.items)


def items_within(job: Job, items: Sequence[Cutout], box: Box) -> tuple[str, ...]:
    """Return the ids of items that lie in a box as a whole, hidden and locked ones left out."""
    found = []
    for item in items:
        own = None if item.is_hidden or item.is_locked else item_box(job, item)
        if own is not None and box.x0 <= own.x0 and own.x1 <= box.x1 and box.y0 <= own.y0 and own.y1 <= box.y1:
            found.append(item.id)
    return tuple(found)


def shape_holds(item: Cutout, x: float, y: float) -> bool:
    """Whether an item's shape, whatever shows through it, holds a sheet point."""
    return (
        item.shape is not None
        and item.shape_placement is not None
        and _holds(item.shape, item.shape_placement, x, y)
    )


def _holds(shape: Shape, placement: ShapePlacement, x: float, y: float) -> bool:
    """Whether a placed shape holds a sheet point; its frame is asked first, which is far quicker."""
    u, v = placement.to_sheet.inverse().apply(x, y)
    if abs(u) > placement.width / 2 + _TOLERANCE or abs(v) > placement.height / 2 + _TOLERANCE:
        return False
    return (
        sum(winding(polygon, x, y) for polygon in polygons_on_sheet(shape, placement, tolerance=_TOLERANCE)) != 0
    )


def winding(polygon: Points, x: float, y: float) -> int:
    """Return how often a polygon of shape (n, 2) winds round a point."""
    if len(polygon) < 3:
        return 0
    x0, y0 = polygon.T
    x1, y1 = np.roll(polygon, -1, axis=0).T
    side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)
    up, down = (y0 <= y) & (y1 > y) & (side > 0), (y0 > y) & (y1 <= y) & (side < 0)
    return int(up.sum()) - int(down.sum())
