"""Edits of a cutout's shape by name and number: kind, parameters, size, proportions, corners, link."""

from collections.abc import Iterable

from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.arranging.grips import stopped
from glasscap.core.document.edits.items import change_item, set_shape
from glasscap.core.document.model.boxes import content_box
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item, locate, photo_of
from glasscap.core.document.shapes.refit import refitted, regrown
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import ParametricShape, Shape, library_shape
from glasscap.core.shapes.library.table import complete_params
from glasscap.core.shapes.outlines import has_equal_sides, natural_ratio


def choose_shape(job: Job, item_id: str, name: str) -> Job:
    """Give a cutout another shape of the library where the old one was, the same side kept.

    Without a shape before, the largest that fits the photo. Raises ShapeError.
    """
    item = find_item(job, item_id)
    if isinstance(item.shape, ParametricShape) and item.shape.name == name:
        return job
    return take_shape(job, item_id, library_shape(name))


def take_shape(job: Job, item_id: str, shape: Shape) -> Job:
    """Give a cutout another shape: centre, turn, about its size, finishes and the kept side stay."""
    sheet, item, _ = locate(job, item_id)
    if item.shape is None or item.shape_placement is None:
        box = content_box(job, item) or Box(0, 0, sheet.width, sheet.height)
        placement = largest_centred(shape, box.width, box.height, *box.centre)
        return set_shape(job, item_id, shape, placement)
    placement = refitted(item.shape_placement, item.shape, shape).on_whole_pixels()
    return set_shape(job, item_id, replace(shape, keeps=item.shape.keeps), placement)


def set_params(job: Job, item_id: str, params: Iterable[tuple[str, float]]) -> Job:
    """Change numbers of a library shape; one at its own proportions keeps them. Raises ShapeError."""
    item = find_item(job, item_id)
    if not isinstance(item.shape, ParametricShape) or item.shape_placement is None:
        return job
    values = complete_params(item.shape.name, (*item.shape.params, *params))
    after = replace(item.shape, params=values)
    return set_shape(job, item_id, after, regrown(item.shape_placement, item.shape, after))


def resize_shape(
    job: Job,
    item_id: str,
    width: float | None,
    height: float | None,
    *,
    on_whole_pixels: bool,
    fixed: tuple[float, float] = (0.0, 0.0),
) -> Job:
    """Give a shape a width or height, both where it keeps its ratio. Raises PlacementError.

    `fixed` is the point of the frame that stays, each coordinate -1 to 1.
    """
    item = find_item(job, item_id)
    if item.shape is None or item.shape_placement is None:
        return job
    before = item.shape_placement
    if width is not None and height is None:
        height = width if has_equal_sides(item.shape) else before.height
        if before.keeps_ratio:
            height = _in_ratio(width * before.height / before.width, is_whole=on_whole_pixels)
    elif height is not None and width is None:
        width = height if has_equal_sides(item.shape) else before.width
        if before.keeps_ratio:
            width = _in_ratio(height * before.width / before.height, is_whole=on_whole_pixels)
    size = (before.width if width is None else width, before.height if height is None else height)
    if has_equal_sides(item.shape):
        size = (size[0], size[0])
    placed = sized_about(before, size, fixed)
    return _placed(job, item_id, placed.on_whole_pixels() if on_whole_pixels else placed)


def _in_ratio(value: float, *, is_whole: bool) -> float:
    return float(max(1, round(value))) if is_whole else value


def sized_about(
    placement: ShapePlacement, size: tuple[float, float], fixed: tuple[float, float]
) -> ShapePlacement:
    """Return the placement of another size, one point of the frame (each coordinate -1 to 1) held fixed."""
    before = placement.point(*fixed)
    after = placement.to_sheet.apply(fixed[0] * size[0] / 2, fixed[1] * size[1] / 2)
    moved = placement.moved(before[0] - after[0], before[1] - after[1])
    return replace(moved, width=size[0], height=size[1])


def _placed(job: Job, item_id: str, placement: ShapePlacement) -> Job:
    def change(item: Cutout) -> Cutout:
        return stopped(item, replace(item, shape_placement=placement), photo_of(job, item))

    return change_item(job, item_id, change)


def set_ratio(job: Job, item_id: str, ratio: float, fixed: tuple[float, float] = (0.0, 0.0)) -> Job:
    """Give a shape a width over height and hold it: the width stays. Raises ShapeError."""
    item = find_item(job, item_id)
    if item.shape is None or item.shape_placement is None:
        return job
    if not 1e-3 <= ratio <= 1e3:
        raise ShapeError("Ratio", f"{ratio:g} is out of range", "use 0.001 to 1000")
    if has_equal_sides(item.shape):
        raise ShapeError("Ratio", "this shape is as wide as it is high", "choose an ellipse or a rectangle")
    before = item.shape_placement
    height = float(max(1, round(before.width / ratio)))
    placed = sized_about(before, (before.width, height), fixed)
    return _placed(job, item_id, replace(placed.on_whole_pixels(), keeps_ratio=True))


def hold_ratio(job: Job, item_id: str, is_kept: bool) -> Job:
    """Hold width to height while sizing, or let go."""
    item = find_item(job, item_id)
    if item.shape_placement is None:
        return job
    return _placed(job, item_id, replace(item.shape_placement, keeps_ratio=is_kept))


def unstretch(job: Job, item_id: str) -> Job:
    """Give a shape its own proportions back: the width stays."""
    item = find_item(job, item_id)
    ratio = None if item.shape is None else natural_ratio(item.shape)
    return (
        job
        if ratio is None or item.shape is None or has_equal_sides(item.shape)
        else set_ratio(job, item_id, ratio)
    )


def set_round(job: Job, item_id: str, radius: float, corner: int | None = None) -> Job:
    """Round every corner of a shape alike, or one. Raises ShapeError."""
    item = find_item(job, item_id)
    if item.shape is None or item.shape_placement is None:
        return job
    if corner is None:
        shape = replace(item.shape, round=radius, corners=())
    else:
        own = {**dict(item.shape.corners), corner: radius}
        kept = tuple(sorted((n, r) for n, r in own.items() if r != item.shape.round))
        shape = replace(item.shape, corners=kept)
    return set_shape(job, item_id, shape, item.shape_placement)


def link_shapes(job: Job, item_id: str, others: Iterable[str]) -> Job:
    """Give cutouts the shape of one, and let a change in any change all of them."""
    item = find_item(job, item_id)
    if item.shape is None:
        return job
    shape, name = item.shape, item.shape_link or item.id
    for other in others:
        if other != item_id:
            job = take_shape(job, other, shape)
            job = change_item(job, other, lambda i: replace(i, shape_link=name) if i.shape is not None else i)
    return change_item(job, item_id, lambda i: replace(i, shape_link=name))


def unlink_shape(job: Job, item_id: str) -> Job:
    """Let a cutout's shape be its own again."""
    return change_item(job, item_id, lambda i: replace(i, shape_link=""))
