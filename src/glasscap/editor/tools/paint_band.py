"""Painting a soft contour's band wider or narrower: a drag is one stroke of the brush."""

from glasscap.core.document.finishing.edits import change_soft
from glasscap.core.document.model.finishes import BandStroke
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool

# The brush's radius in reaches of the pointer (6 px of the screen), whatever the zoom.
BRUSH_REACHES = 2.5
# Points nearer to the last one than this share of the radius add nothing.
_APART = 0.25


def paint_band(scene: Scene, press: PointerEvent, *, is_wider: bool) -> Tool:
    """Widen the band of the item selected last under a drag, or narrow it; nothing without a soft contour."""
    item = scene.item
    soft, placement = item.finishes.edge.soft, item.shape_placement
    if soft is None or placement is None or item.is_locked:
        return None
    to_frame, radius = placement.to_sheet.inverse(), BRUSH_REACHES * scene.reach
    size, points, last = (placement.width, placement.height), [], None
    event = press
    while True:
        if last is None or (event.x - last.x) ** 2 + (event.y - last.y) ** 2 >= (_APART * radius) ** 2:
            u, v = to_frame.apply(event.x, event.y)
            points.append((round(u / size[0], 5), round(v / size[1], 5)))
            last = event
        stroke = BandStroke(tuple(points), round(radius / min(size), 5), is_wider)
        job = change_soft(scene.job, item.id, strokes=(*soft.strokes, stroke))
        if event.is_released:
            return Edit("Widen the band" if is_wider else "Narrow the band", job)
        event = yield Shown(job)
