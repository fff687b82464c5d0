"""Dragging what the grip holds, by whole pixels, snapping to the sheet and the photo."""

import math

from glasscap.core.document.grips import Grip, held, transform_items
from glasscap.core.document.model import Item
from glasscap.core.document.query import find_item
from glasscap.core.geometry.types import Box, Similarity
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import Guide, photo_box, snap_box
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_LABELS = {"photo": "Move the photo", "together": "Move photo and shape", "shape": "Move the shape"}


def move(scene: Scene, press: PointerEvent) -> Tool:
    """Move every selected item; Shift keeps to one axis, Alt does not snap."""
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
    item = scene.item
    shape, photo = item.shape_placement, photo_box(item, scene.photo)
    if shape is not None and (scene.grip != "photo" or photo is None):
        return shape.box
    assert photo is not None
    return photo


def _moved(scene: Scene, box: Box, dx: float, dy: float, event: PointerEvent) -> Shown:
    if event.has_shift:
        dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
    guides: tuple[Guide, ...] = ()
    if scene.is_snapping and not event.has_alt:
        dx, dy = _whole(box.x0, dx), _whole(box.y0, dy)
        there = Box(box.x0 + dx, box.y0 + dy, box.x1 + dx, box.y1 + dy)
        snap = snap_box(there, scene.lines_for(held(scene.grip, scene.item)), scene.reach)
        if not event.has_shift:
            dx, dy, guides = dx + snap.dx, dy + snap.dy, snap.guides
        dx, dy = _whole(box.x0, dx), _whole(box.y0, dy)
    job = transform_items(scene.job, scene.selected, scene.grip, Similarity(dx=dx, dy=dy))
    return Shown(job, guides, _words(find_item(job, scene.item.id), held(scene.grip, scene.item)))


def _whole(start: float, shift: float) -> float:
    """Return the shift that ends on a pixel line, nearest to the wanted one."""
    return math.floor(start + shift + 0.5) - start


def _words(item: Item, grip: Grip) -> str:
    placement = item.content_placement if grip == "photo" else item.shape_placement
    return "" if placement is None else f"{format_number(placement.x)}, {format_number(placement.y)}"
