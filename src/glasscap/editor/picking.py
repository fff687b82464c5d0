"""What lies under the pointer."""

import math

import numpy as np

from glasscap.core.document.model import Cutout, Job, Sheet
from glasscap.core.document.query import photo_of
from glasscap.core.document.region import cutout_region, region_polygons, shape_polygons
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine
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


def item_at(job: Job, sheet: Sheet, x: float, y: float) -> Cutout | None:
    """Return the frontmost item seen at a sheet point, hidden and locked ones left out."""
    for item in reversed(sheet.items):
        if not (item.is_hidden or item.is_locked) and shows_at(job, item, x, y):
            return item
    return None


def shows_at(job: Job, item: Cutout, x: float, y: float) -> bool:
    """Whether an item's visible region (or its waiting shape) holds a sheet point."""
    photo = photo_of(job, item)
    if photo is None or item.content_placement is None:
        return shape_holds(item, x, y)
    region = cutout_region(item, (photo.width, photo.height), (1, 1), Affine())
    flat = () if region is None else region_polygons(region, tolerance=_TOLERANCE)
    return sum(winding(polygon, x, y) for polygon in flat) != 0


def shape_holds(item: Cutout, x: float, y: float) -> bool:
    """Whether an item's shape, whatever shows through it, holds a sheet point."""
    if item.shape is None or item.shape_placement is None:
        return False
    flat = shape_polygons(item.shape, item.shape_placement, Affine(), tolerance=_TOLERANCE)
    return sum(winding(polygon, x, y) for polygon in flat) != 0


def winding(polygon: Points, x: float, y: float) -> int:
    """Return how often a polygon of shape (n, 2) winds round a point."""
    if len(polygon) < 3:
        return 0
    x0, y0 = polygon.T
    x1, y1 = np.roll(polygon, -1, axis=0).T
    side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)
    up, down = (y0 <= y) & (y1 > y) & (side > 0), (y0 > y) & (y1 <= y) & (side < 0)
    return int(up.sum()) - int(down.sum())
