"""Placing a picture mask: a drag moves it over the shape, with Shift sizes it, with Ctrl turns it."""

import math

from msgspec.structs import replace

from glasscap.core.document.finishing.edits import change_edge
from glasscap.core.document.finishing.mask_frame import mask_to_output, masked_frame
from glasscap.core.document.model.finishes import LARGEST_MASK, SMALLEST_MASK, PictureMask
from glasscap.core.document.model.job import Item, Job, Sheet
from glasscap.core.document.model.query import photo_of, photo_record
from glasscap.core.document.model.region import Region, cutout_region
from glasscap.core.geometry.types import Affine, normal_degrees
from glasscap.editor.handles import Frame
from glasscap.editor.numbers import format_number
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_NEAREST = 1e-6


def place_mask(scene: Scene, press: PointerEvent) -> Tool:
    """Move, size or turn the mask of the item selected last; nothing without one."""
    mask, region = scene.item.finishes.edge.mask, _region(scene.job, scene.sheet, scene.item)
    if mask is None or region is None or scene.item.is_locked:
        return None
    frame = Frame(*masked_frame(region))
    shown, event, step = Shown(scene.job), press, None
    while True:
        if (event.x, event.y) != (press.x, press.y):
            placed, words, step = _placed(mask, frame, press, event)
            shown = Shown(change_edge(scene.job, scene.item.id, mask=placed), (), words)
        if event.is_released:
            return None if step is None else Edit(step, shown.job)
        event = yield shown


def mask_frame(job: Job, sheet: Sheet, item: Item) -> Frame | None:
    """Return the frame of an item's picture mask, or None without one."""
    mask, region = item.finishes.edge.mask, _region(job, sheet, item)
    if mask is None or region is None:
        return None
    picture = photo_record(job, mask.sha256)
    size = (picture.width, picture.height)
    return Frame(mask_to_output(mask, region, size), *size)


def _region(job: Job, sheet: Sheet, item: Item) -> Region | None:
    photo = photo_of(job, item)
    size = None if photo is None else (photo.width, photo.height)
    return cutout_region(item, size, (sheet.width, sheet.height), Affine())


def _placed(
    mask: PictureMask, frame: Frame, press: PointerEvent, event: PointerEvent
) -> tuple[PictureMask, str, str]:
    to_frame = frame.to_sheet.inverse()
    x, y = to_frame.apply(event.x, event.y)
    x0, y0 = to_frame.apply(press.x, press.y)
    centre = (mask.x * frame.width, mask.y * frame.height)
    then, now = (x0 - centre[0], y0 - centre[1]), (x - centre[0], y - centre[1])
    if event.has_shift:
        grown = math.hypot(*now) / max(math.hypot(*then), _NEAREST)
        size = min(max(mask.size * grown, SMALLEST_MASK), LARGEST_MASK)
        return replace(mask, size=size), f"{format_number(round(size * 100, 1))} %", "Size the mask"
    if event.has_ctrl:
        turn = math.degrees(math.atan2(now[1], now[0]) - math.atan2(then[1], then[0]))
        turned = normal_degrees(round(mask.rotation + turn, 1))
        return replace(mask, rotation=turned), f"{format_number(turned)}°", "Turn the mask"
    across, down = mask.x + (x - x0) / frame.width, mask.y + (y - y0) / frame.height
    words = f"{format_number(round(across * 100, 1))} %, {format_number(round(down * 100, 1))} %"
    return replace(mask, x=across, y=down), words, "Move the mask"
