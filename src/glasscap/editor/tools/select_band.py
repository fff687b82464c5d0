"""Dragging a frame over an empty place: what lies in it as a whole is selected."""

from collections.abc import Sequence

from glasscap.core.document.model.job import Item
from glasscap.core.geometry.types import Box
from glasscap.editor.picking import items_within
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool


def select_band(scene: Scene, press: PointerEvent, items: Sequence[Item], selected: Sequence[str]) -> Tool:
    """Select the items within the frame; Shift adds them to those selected."""
    kept = tuple(selected) if press.has_shift else ()
    event = press
    while not event.is_released:
        event = yield Shown(scene.job, band=(press.x, press.y, event.x, event.y))
    box = Box(min(press.x, event.x), min(press.y, event.y), max(press.x, event.x), max(press.y, event.y))
    found = items_within(scene.job, items, box)
    return Edit("", scene.job, selected=(*(i for i in kept if i not in found), *found))
