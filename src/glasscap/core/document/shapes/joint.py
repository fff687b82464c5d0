"""The outline of several items together: what the edge and strokes of a group without a shape follow."""

from collections.abc import Iterable, Iterator, Sequence

from glasscap.core.document.model.job import Cutout, Item, Job, PaintContent
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import photo_of
from glasscap.core.document.shapes.combining import part_at, placed_combined
from glasscap.core.errors import ShapeError
from glasscap.core.shapes.kinds import MOST_PARTS, Shape, ShapePart, library_shape


def joint_outline(job: Job, items: Iterable[Item]) -> tuple[Shape, ShapePlacement] | None:
    """Return one shape of the outlines of all that shows, or None where there is none to follow."""
    parts = [p for item in items for p in _parts(job, item)]
    try:
        return _joined(parts) if parts else None
    except ShapeError:
        return None


def _joined(parts: Sequence[ShapePart]) -> tuple[Shape, ShapePlacement]:
    while len(parts) > MOST_PARTS:
        parts = [part_at(*placed_combined(some)) for some in _chunks(parts)]
    return placed_combined(parts)


def _chunks(parts: Sequence[ShapePart]) -> Iterator[Sequence[ShapePart]]:
    for start in range(0, len(parts), MOST_PARTS):
        yield parts[start : start + MOST_PARTS]


def _parts(job: Job, item: Cutout) -> list[ShapePart]:
    """Return what shows of an item as parts in sheet units; of a hole the whole photo."""
    if item.is_hidden or item.opacity == 0:
        return []
    shape, placement = item.shape, item.shape_placement
    is_cut = item.is_masked or isinstance(item.content, PaintContent)
    if shape is not None and placement is not None and is_cut and shape.keeps == "inside":
        return [part_at(shape, placement)] if item.content is not None else []
    if item.is_group:
        return [p for inner in item.items for p in _parts(job, inner)]
    photo, placed = photo_of(job, item), item.content_placement
    if photo is None or placed is None:
        return []
    width, height = photo.width * placed.scale_x, photo.height * placed.scale_y
    frame = ShapePlacement(placed.x, placed.y, width, height, placed.rotation, placed.is_mirrored)
    return [part_at(library_shape("rectangle"), frame)]
