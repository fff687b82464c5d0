"""Moving what a grip holds: the photo, the shape, or both together."""

from collections.abc import Sequence
from typing import Literal

from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share, covered_by_moving, kept_reach, shape_held_inside
from glasscap.core.document.edits.items import change_items
from glasscap.core.document.model.job import Cutout, GroupContent, Job, PhotoRecord
from glasscap.core.document.model.query import photo_of
from glasscap.core.geometry.types import Similarity

Grip = Literal["photo", "together", "shape"]


def held(grip: Grip, item: Cutout) -> Grip:
    """Return what a grip really holds of an item that may lack a part."""
    if item.content_placement is None and not item.is_group:
        return "shape"
    return "photo" if item.shape is None else grip


def transform_items(job: Job, item_ids: Sequence[str], grip: Grip, change: Similarity) -> Job:
    """Apply a similarity to what the grip holds of each unlocked item.

    An item that keeps its shape covered stops where it would be bared.
    """
    return change_items(job, item_ids, lambda i: transformed(job, i, held(grip, i), change))


def transformed(job: Job, item: Cutout, grip: Grip, change: Similarity) -> Cutout:
    """Return an item with a similarity applied to what the grip holds; a group's photo is all it holds."""
    if item.is_group and grip != "shape":
        inside = tuple(transformed(job, i, "together", change) for i in item.items)
        item = replace(item, content=GroupContent(inside))
    content, shape = item.content_placement, item.shape_placement
    if content is not None and grip != "shape":
        content = content.under(change)
    if shape is not None and grip != "photo":
        shape = shape.under(change)
    return stopped(item, replace(item, content_placement=content, shape_placement=shape), photo_of(job, item))


def stopped(before: Cutout, after: Cutout, photo: PhotoRecord | None) -> Cutout:
    """Return `after`, or the nearest to it that keeps the shape covered if the cutout asks for that.

    Only what moved is held back, so moving the shape never moves the photo, and the other way round. What
    was bare before may stay bare.
    """
    if not after.keeps_covered or photo is None:
        return after
    reach = kept_reach(before, photo)
    if reach is None or not bare_share(after, photo, reach):
        return after
    if after.content_placement != before.content_placement:
        content = covered_by_moving(after, photo, reach)
        return before if content is None else replace(after, content_placement=content)
    shape = shape_held_inside(after, photo, reach)
    return before if shape is None else replace(after, shape_placement=shape)
