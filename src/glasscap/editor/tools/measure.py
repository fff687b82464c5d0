"""Measuring a line of the photo: drag across it, its width becomes a number of the cutout."""

import math
from collections.abc import Callable

from glasscap.core.document.model.job import Job
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.line_width import colours_along, width_across
from glasscap.core.raster.pixels import Bytes
from glasscap.editor.numbers import format_number
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

Take = Callable[[Job, float], Job]
_SAMPLES_PER_PX, _MOST_SAMPLES, _SHORTEST = 4, 1600, 2.0


def measure_line(scene: Scene, press: PointerEvent, take: Take, pixels: Bytes | None) -> Tool:
    """Give `take(job, width)` the width of the line crossed; of the whole way where there is no line.

    `pixels` are the selected photo's (RGBA, possibly a reduction), or None without one.
    """
    shown, event = Shown(scene.job), press
    width: float | None = None
    while True:
        way = (press.x, press.y, event.x, event.y)
        length = math.hypot(event.x - press.x, event.y - press.y)
        if length >= _SHORTEST:
            found = None if pixels is None else _line_across(scene, way, length, pixels)
            width = round(length if found is None else found, 2)
            words = f"{'Line' if found is not None else 'Way'} {format_number(width)} px"
            shown = Shown(take(scene.job, width), (), words, way)
        if event.is_released:
            return None if width is None else Edit("Take a line's width", shown.job)
        event = yield shown


def _line_across(
    scene: Scene, way: tuple[float, float, float, float], length: float, pixels: Bytes
) -> float | None:
    photo, placement = scene.photo, scene.item.content_placement
    if photo is None or placement is None:
        return None
    to_photo = placement.to_sheet(photo.width, photo.height).inverse()
    to_pixels = Affine.scaling(pixels.shape[1] / photo.width, pixels.shape[0] / photo.height).after(to_photo)
    count = min(max(16, round(length * _SAMPLES_PER_PX)), _MOST_SAMPLES)
    start, end = to_pixels.apply(*way[:2]), to_pixels.apply(*way[2:])
    return width_across(colours_along(pixels, start, end, count), length, math.dist(start, end))
