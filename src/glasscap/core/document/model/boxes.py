"""Boxes of items on the sheet, upright, in sheet px."""

from collections.abc import Iterable

from glasscap.core.document.model.job import Cutout, Item, Job, PaintContent
from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.query import photo_of
from glasscap.core.geometry.types import Box


def photo_box(job: Job, item: Cutout) -> Box | None:
    """Return the box of a cutout's whole photo, or None without one."""
    photo, placement = photo_of(job, item), item.content_placement
    if photo is None or placement is None:
        return None
    return frame_box(placement.to_sheet(photo.width, photo.height), 0, 0, photo.width, photo.height)


def content_box(job: Job, item: Cutout) -> Box | None:
    """Return the box of what could show through: the photo's, or that of all a group holds."""
    return box_around(job, item.items) if item.is_group else photo_box(job, item)


def item_box(job: Job, item: Cutout) -> Box | None:
    """Return the box of what an item shows: its shape's frame, or its content's where no shape cuts it."""
    content = content_box(job, item)
    is_cut = item.is_masked or content is None or isinstance(item.content, PaintContent)
    if item.shape is not None and item.shape_placement is not None and is_cut:
        return content if item.shape.keeps == "outside" and content is not None else item.shape_placement.box
    return content


def box_around(job: Job, items: Iterable[Item]) -> Box | None:
    """Return the box that holds the boxes of several items, or None when there is none."""
    whole: Box | None = None
    for item in items:
        box = item_box(job, item)
        if box is not None:
            whole = box if whole is None else whole.union(box)
    return whole
