"""Placing by number: what is typed in the steps, each an edit of a job."""

from collections.abc import Callable, Iterable
from typing import TypeVar

from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.arranging.grips import stopped
from glasscap.core.document.edits.items import change_item, set_content_placement, set_shape
from glasscap.core.document.model.boxes import content_box
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import find_item, locate, photo_of
from glasscap.core.geometry.types import Box, Similarity, normal_degrees

Fit = Callable[[Cutout, PhotoRecord], ContentPlacement | None]
P = TypeVar("P", ContentPlacement, ShapePlacement)


def _changed(placement: P, changes: dict[str, float | bool | None]) -> P:
    given = {key: value for key, value in changes.items() if value is not None}
    if "rotation" in given:
        given["rotation"] = normal_degrees(given["rotation"])
    return replace(placement, **given)


def place_content(job: Job, item_id: str, **changes: float | bool | None) -> Job:
    """Change fields of a photo's placement; None leaves one as it is. Raises PlacementError."""

    def change(item: Cutout) -> Cutout:
        if item.content_placement is None:
            return item
        placement = _changed(item.content_placement, changes)
        return stopped(item, replace(item, content_placement=placement), photo_of(job, item))

    return change_item(job, item_id, change)


def place_shape(job: Job, item_id: str, **changes: float | bool | None) -> Job:
    """Change fields of a shape's placement; None leaves one as it is. Raises PlacementError."""

    def change(item: Cutout) -> Cutout:
        if item.shape_placement is None:
            return item
        placement = _changed(item.shape_placement, changes)
        return stopped(item, replace(item, shape_placement=placement), photo_of(job, item))

    return change_item(job, item_id, change)


def scale_content(job: Job, item_id: str, scale: float) -> Job:
    """Give a photo a scale about its shape's centre, so that a small one is not lost; without a shape its own.

    Both ways alike in proportion. Raises PlacementError.
    """
    item = find_item(job, item_id)
    content, shape = item.content_placement, item.shape_placement
    if content is None:
        return job
    factor, about = scale / content.scale_x, content if shape is None else shape
    scaled = content.under(Similarity(about.x, about.y, scale=factor))
    return place_content(job, item_id, x=scaled.x, y=scaled.y, scale_x=scale, scale_y=content.scale_y * factor)


def centre_content(job: Job, item_id: str) -> Job:
    """Put a photo's centre on its sheet's."""
    sheet, item, _ = locate(job, item_id)
    if item.content_placement is None:
        return job
    return place_content(job, item_id, x=sheet.width / 2, y=sheet.height / 2)


def centre_shape(job: Job, item_id: str) -> Job:
    """Put a shape's centre on its photo's, or on the sheet's when it has none; on whole pixels."""
    sheet, item, _ = locate(job, item_id)
    placement, content = item.shape_placement, item.content_placement
    if placement is None:
        return job
    x, y = (sheet.width / 2, sheet.height / 2) if content is None else (content.x, content.y)
    placed = replace(placement, x=x, y=y).on_whole_pixels()
    return place_shape(job, item_id, x=placed.x, y=placed.y)


def fit_shape(job: Job, item_id: str) -> Job:
    """Make a shape the largest its photo (or the sheet, when it has none) holds, centred and upright."""
    sheet, item, _ = locate(job, item_id)
    if item.shape is None:
        return job
    box = content_box(job, item) or Box(0, 0, sheet.width, sheet.height)
    return set_shape(job, item_id, item.shape, largest_centred(item.shape, box.width, box.height, *box.centre))


def fit_photos(job: Job, item_ids: Iterable[str], fit: Fit) -> Job:
    """Give the photos of unlocked cutouts the placement that `fit(cutout, photo)` says."""
    for item_id in item_ids:
        item = find_item(job, item_id)
        photo = photo_of(job, item)
        placement = None if photo is None or item.is_locked else fit(item, photo)
        if placement is not None:
            job = set_content_placement(job, item_id, placement)
    return job
