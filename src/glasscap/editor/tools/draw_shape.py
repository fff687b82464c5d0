"""Drawing a new shape on the bench: a circle stays a circle, Ctrl or the right button carries it along."""

import math

from msgspec.structs import replace

from glasscap.core.document.edits.intake import add_waiting_shape
from glasscap.core.document.edits.items import set_shape
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import fresh_ids
from glasscap.core.shapes.kinds import Shape, library_shape
from glasscap.core.shapes.outlines import has_equal_sides, natural_ratio
from glasscap.editor.numbers import format_number
from glasscap.editor.snapping import snap_point
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

_SMALLEST_DRAWN = 2.0


def draw_shape(scene: Scene, press: PointerEvent, name: str) -> Tool:
    """Draw from corner to corner; Shift gives equal sides.

    With a cutout selected it gets this shape; else a shape is made that waits for a photo.
    """
    start, last = _snapped(scene, press), press
    shape, shown = library_shape(name), Shown(scene.job)
    ratio = natural_ratio(shape)
    event = press
    while True:
        if event.has_ctrl or event.has_right_button:
            start = (start[0] + event.x - last.x, start[1] + event.y - last.y)
        last = event
        box = _box(
            scene,
            _whole(start) if scene.is_snapping else start,
            event,
            ratio=ratio or (1.0 if event.has_shift else None),
        )
        is_drawn = box[2] >= _SMALLEST_DRAWN and box[3] >= _SMALLEST_DRAWN
        if is_drawn:
            shown = _drawn(scene, shape, box)
        if event.is_released:
            return _edit(scene, shown.job) if is_drawn else None
        event = yield shown


def _snapped(scene: Scene, event: PointerEvent) -> tuple[float, float]:
    if not scene.is_snapping:
        return event.x, event.y
    snap = snap_point(event.x, event.y, scene.lines_for("shape"), scene.reach)
    return _whole((event.x + snap.dx, event.y + snap.dy))


def _whole(at: tuple[float, float]) -> tuple[float, float]:
    return math.floor(at[0] + 0.5), math.floor(at[1] + 0.5)


def _box(
    scene: Scene, start: tuple[float, float], event: PointerEvent, *, ratio: float | None
) -> tuple[float, float, float, float]:
    """Return centre x, y, width, height."""
    end = _snapped(scene, event)
    width, height = abs(end[0] - start[0]), abs(end[1] - start[1])
    if ratio is not None:
        width, height = max(width, height * ratio), max(height, width / ratio)
        if scene.is_snapping:
            width, height = math.floor(width + 0.5), math.floor(height + 0.5)
    x1 = start[0] + math.copysign(width, end[0] - start[0])
    y1 = start[1] + math.copysign(height, end[1] - start[1])
    return (start[0] + x1) / 2, (start[1] + y1) / 2, width, height


def _drawn(scene: Scene, shape: Shape, box: tuple[float, float, float, float]) -> Shown:
    is_held = natural_ratio(shape) is not None and not has_equal_sides(shape)
    placement = ShapePlacement(*box, keeps_ratio=is_held)
    x, y, width, height = (format_number(v) for v in box)
    words = f"{width} × {height} at {x}, {y}"
    if scene.selected:
        old = scene.item.shape
        kept = shape if old is None else replace(shape, keeps=old.keeps)
        return Shown(set_shape(scene.job, scene.item.id, kept, placement), (), words)
    job, _ = add_waiting_shape(scene.job, scene.container, shape, placement)
    return Shown(job, (), words)


def _edit(scene: Scene, job: Job) -> Edit:
    selected = scene.selected or (fresh_ids(scene.job, 1)[0],)
    return Edit("Draw the shape", job, selected)
