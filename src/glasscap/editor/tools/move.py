"""Dragging what the grip holds, by whole pixels, snapping to the sheet, the photo and neighbours."""

import math

from glasscap.core.document.arranging.grips import Grip, held, transform_items
from glasscap.core.document.model.boxes import box_around, content_box
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.query import find_item
from glasscap.core.geometry.types import Box, Similarity
from glasscap.editor.distances import distances, equal_gap_shift
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import Guide, snap_box
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_LABELS = {"photo": "Move the photo", "together": "Move photo and shape", "shape": "Move the shape"}


def move(scene: Scene, press: PointerEvent) -> Tool:
    """Move every selected item; Shift keeps to one axis, Ctrl does not snap."""
    grip = held(scene.grip, scene.item)
    box = _held_box(scene)
    shown = Shown(scene.job)
    event = press
    while True:
        if not event.is_released or (event.x, event.y) != (press.x, press.y):
            shown = _moved(scene, box, event.x - press.x, event.y - press.y, event)
        if event.is_released:
            return Edit(_LABELS[grip], shown.job)
        event = yield shown


def _held_box(scene: Scene) -> Box:
    """Return the box of what the grip holds of the item, or of all several hold."""
    item = scene.item
    if len(scene.selected) > 1:
        whole = box_around(scene.job, scene.items)
        assert whole is not None
        return whole
    shape, photo = item.shape_placement, content_box(scene.job, item)
    if shape is not None and (scene.grip != "photo" or photo is None):
        return shape.box
    assert photo is not None
    return photo


def _moved(scene: Scene, box: Box, dx: float, dy: float, event: PointerEvent) -> Shown:
    if event.has_shift:
        dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
    guides: tuple[Guide, ...] = ()
    is_snapping = scene.is_snapping and not event.has_ctrl
    if is_snapping:
        dx, dy = _whole(box.x0, dx), _whole(box.y0, dy)
        if not event.has_shift:
            dx, dy, guides = _snapped(scene, box, dx, dy)
        dx, dy = _whole(box.x0, dx), _whole(box.y0, dy)
    grip = held(scene.grip, scene.item)
    job = transform_items(scene.job, scene.selected, scene.grip, Similarity(dx=dx, dy=dy))
    gaps = distances(_at(box, dx, dy), scene.others) if is_snapping and grip != "photo" else ()
    return Shown(job, guides, _words(find_item(job, scene.item.id), grip), distances=gaps)


def _at(box: Box, dx: float, dy: float) -> Box:
    return Box(box.x0 + dx, box.y0 + dy, box.x1 + dx, box.y1 + dy)


def _snapped(scene: Scene, box: Box, dx: float, dy: float) -> tuple[float, float, tuple[Guide, ...]]:
    """Return the shift onto lines, and where there is none to gaps as wide as others."""
    grip = held(scene.grip, scene.item)
    there = _at(box, dx, dy)
    snap = snap_box(there, scene.lines_for(grip), scene.reach)
    across, down = (None, None) if grip == "photo" else equal_gap_shift(there, scene.others, scene.reach)
    is_on = {guide.is_vertical for guide in snap.guides}
    dx += snap.dx if True in is_on or across is None else across
    dy += snap.dy if False in is_on or down is None else down
    return dx, dy, snap.guides


def _whole(start: float, shift: float) -> float:
    """Return the shift that ends on a pixel line, nearest to the wanted one."""
    return math.floor(start + shift + 0.5) - start


def _words(item: Item, grip: Grip) -> str:
    placement = item.content_placement if grip == "photo" else item.shape_placement
    return "" if placement is None else f"{format_number(placement.x)}, {format_number(placement.y)}"
