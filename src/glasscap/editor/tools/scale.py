"""Dragging a corner or a side: size of the shape, scale of the photo or of both."""

import math

from msgspec.structs import replace

from glasscap.core.document.arranging.grips import stopped, transform_items
from glasscap.core.document.edits.items import change_item
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.placement import SMALLEST
from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.shaping import sized_about
from glasscap.core.geometry.types import Similarity
from glasscap.core.shapes.outlines import has_equal_sides
from glasscap.editor.handles import Frame, Handle, selection_frame
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import snap_point
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_LABELS = {"photo": "Scale the photo", "together": "Scale photo and shape", "shape": "Size the shape"}
_SMALLEST_FACTOR = 1e-4


def scale(scene: Scene, press: PointerEvent, handle: Handle) -> Tool:
    """Scale about the opposite corner or side; Ctrl about the centre; Shift keeps a shape's proportions."""
    frame = selection_frame(scene.job, scene.items, scene.grip)
    assert frame is not None
    off = (handle.x - press.x, handle.y - press.y)
    shown = Shown(scene.job)
    event = press
    while True:
        if not event.is_released or (event.x, event.y) != (press.x, press.y):
            at = _at_handle(scene, event, off)
            sized = _sized if handle.grip == "shape" and len(scene.selected) == 1 else _scaled
            shown = sized(scene, frame, handle, at)
        if event.is_released:
            return Edit(_LABELS[handle.grip], shown.job)
        event = yield shown


def _at_handle(scene: Scene, event: PointerEvent, off: tuple[float, float]) -> PointerEvent:
    """Return the event moved from the pointer to the handle it holds, snapped to sheet and photo."""
    x, y = event.x + off[0], event.y + off[1]
    if scene.is_snapping:
        snap = snap_point(x, y, scene.lines_for("shape"), scene.reach)
        x, y = x + snap.dx, y + snap.dy
    return PointerEvent(x, y, event.is_released, event.has_shift, event.has_ctrl)


def _anchor(handle: Handle, *, is_central: bool) -> tuple[float, float]:
    return (0.0, 0.0) if is_central else (-handle.u, -handle.v)


def _scaled(scene: Scene, frame: Frame, handle: Handle, at: PointerEvent) -> Shown:
    """Scale by the pointer's way along the line from the fixed corner; never distorts."""
    fixed = frame.point(*_anchor(handle, is_central=at.has_ctrl))
    start = frame.point(handle.u, handle.v)
    way = (start[0] - fixed[0], start[1] - fixed[1])
    length = way[0] ** 2 + way[1] ** 2
    factor = ((at.x - fixed[0]) * way[0] + (at.y - fixed[1]) * way[1]) / length if length else 1.0
    change = Similarity(*fixed, scale=max(factor, _SMALLEST_FACTOR))
    job = transform_items(scene.job, scene.selected, scene.grip, change)
    placement = find_item(job, scene.item.id).content_placement
    is_own = placement is not None and len(scene.selected) == 1
    share = placement.scale_x if placement is not None and is_own else change.scale
    words = f"{format_number(share * 100, 1)} %"
    return Shown(job, (), words)


def _sized(scene: Scene, frame: Frame, handle: Handle, at: PointerEvent) -> Shown:
    item = scene.item
    assert item.shape is not None
    assert item.shape_placement is not None
    is_equal = has_equal_sides(item.shape)
    size = _new_size(
        frame,
        handle,
        at,
        is_equal=is_equal,
        keeps_ratio=item.shape_placement.keeps_ratio,
        is_whole=scene.is_snapping,
    )
    placed = sized_about(item.shape_placement, size, _anchor(handle, is_central=at.has_ctrl))
    if scene.is_snapping:
        placed = placed.on_whole_pixels()

    def change(before: Item) -> Item:
        return stopped(before, replace(before, shape_placement=placed), scene.photo)

    job = change_item(scene.job, item.id, change)
    now = find_item(job, item.id).shape_placement or placed
    return Shown(job, (), f"{format_number(now.width)} × {format_number(now.height)}")


def _new_size(
    frame: Frame, handle: Handle, at: PointerEvent, *, is_equal: bool, keeps_ratio: bool, is_whole: bool
) -> tuple[float, float]:
    u, v = frame.to_sheet.inverse().apply(at.x, at.y)
    share = 1.0 if at.has_ctrl else 0.5
    width, height = frame.width, frame.height
    if handle.u:
        width = (handle.u * u + (0 if at.has_ctrl else frame.width / 2)) * (2 * share)
    if handle.v:
        height = (handle.v * v + (0 if at.has_ctrl else frame.height / 2)) * (2 * share)
    width, height = max(width, SMALLEST), max(height, SMALLEST)
    if is_equal:
        side = width if handle.u and not handle.v else height if handle.v and not handle.u else max(width, height)
        width = height = side
    elif at.has_shift or keeps_ratio:
        factor = max(width / frame.width if handle.u else 0, height / frame.height if handle.v else 0)
        width, height = frame.width * factor, frame.height * factor
    if is_whole:
        width, height = max(1.0, math.floor(width + 0.5)), max(1.0, math.floor(height + 0.5))
    return width, height
