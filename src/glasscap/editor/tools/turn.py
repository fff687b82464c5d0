"""Dragging the turn handle."""

import math

from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.query import find_item
from glasscap.core.geometry.types import Similarity
from glasscap.editor.handles import Handle, selection_frame
from glasscap.editor.numbers import format_number
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_LABELS = {"photo": "Turn the photo", "together": "Turn photo and shape", "shape": "Turn the shape"}
_STEP_DEGREES = 15.0


def turn(scene: Scene, press: PointerEvent, handle: Handle) -> Tool:
    """Turn about the frame's centre; Shift in steps of 15 degrees."""
    frame = selection_frame(scene.job, scene.items, scene.grip)
    assert frame is not None
    centre = frame.point(0, 0)
    start = math.degrees(math.atan2(press.y - centre[1], press.x - centre[0]))
    shown = Shown(scene.job)
    event = press
    while True:
        if not event.is_released or (event.x, event.y) != (press.x, press.y):
            angle = math.degrees(math.atan2(event.y - centre[1], event.x - centre[0])) - start
            shown = _turned(scene, handle, centre, angle, has_steps=event.has_shift)
        if event.is_released:
            return Edit(_LABELS[handle.grip], shown.job)
        event = yield shown


def _turned(scene: Scene, handle: Handle, centre: tuple[float, float], angle: float, *, has_steps: bool) -> Shown:
    item = scene.item
    is_one = len(scene.selected) == 1
    start = _rotation(item, handle) if is_one else 0.0
    wanted = start + angle
    wanted = round(wanted / _STEP_DEGREES) * _STEP_DEGREES if has_steps else round(wanted, 1)
    change = Similarity(*centre, degrees=wanted - start)
    job = transform_items(scene.job, scene.selected, scene.grip, change)
    now = wanted if item.is_group or not is_one else _rotation(find_item(job, item.id), handle)
    return Shown(job, (), f"{format_number(now, 1)}°")


def _rotation(item: Item, handle: Handle) -> float:
    """Return how far what is held is turned; what a group holds has no turn of its own."""
    placement = item.content_placement if handle.grip == "photo" else item.shape_placement
    return 0.0 if placement is None else placement.rotation
