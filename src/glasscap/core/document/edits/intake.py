"""Photographs coming into a job."""

from collections.abc import Container, Sequence

from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import (
    cells_side_by_side,
    cutout_of_photo,
    photo_in_box,
    plain_name,
    sheet_for_photos,
)
from glasscap.core.document.edits.items import (
    add_items,
    add_photo,
    container_of,
    copies_of,
    shifted,
    swap_photo,
    with_photo,
)
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item, fresh_ids, fresh_name, sheet_of
from glasscap.core.shapes.kinds import Shape
from glasscap.core.shapes.outlines import shape_label

# Sheet px between copies of a shape set beside one another.
_GAP = 20.0


def job_of_photos(photos: Sequence[PhotoRecord], cut_out: Container[str] = ()) -> Job:
    """Return a new job whose sheet holds the photos, each under its largest circle.

    Those named in `cut_out`, by their SHA-256, have a transparency of their own and come as they are.
    """
    ids = [f"i{n + 2}" for n in range(len(photos))]
    return Job(
        (sheet_for_photos("s1", ids, list(photos), cut_out),), tuple({p.sha256: p for p in photos}.values())
    )


def add_waiting_shape(job: Job, container_id: str, shape: Shape, placement: ShapePlacement) -> tuple[Job, str]:
    """Put a shape that waits for a photo on a sheet or into a group; return the job and its id."""
    (new_id,) = fresh_ids(job, 1)
    name = fresh_name(job, shape_label(shape))
    waiting = Cutout(new_id, name, shape=shape, shape_placement=placement)
    return add_items(job, container_id, [waiting]), new_id


def fill_shape(job: Job, item_id: str, photos: Sequence[PhotoRecord]) -> Job:
    """Put photos into a shape that waits for one: the first into it, further ones into copies set beside it."""
    waiting = find_item(job, item_id)
    placement = waiting.shape_placement
    assert placement is not None
    job = swap_photo(job, item_id, photos[0])
    step, there = placement.box.width + _GAP, container_of(job, item_id)
    for number, photo in enumerate(photos[1:], 1):
        (copy,) = copies_of(job, [shifted(waiting, number * step, 0)])
        named = replace(copy, name=fresh_name(job, plain_name(photo.name)))
        job = add_items(add_photo(job, photo), there, [with_photo(job, named, photo)])
    return job


def add_photos(job: Job, container_id: str, photos: Sequence[PhotoRecord], cut_out: Container[str] = ()) -> Job:
    """Put photos on a sheet or into a group in front, each under its largest circle.

    One is fitted to the sheet, several to cells side by side. Those in `cut_out` come as they are, as in
    `job_of_photos`.
    """
    sheet = sheet_of(job, container_id)
    for photo, cell in zip(photos, cells_side_by_side(len(photos), sheet.width, sheet.height), strict=True):
        placement = photo_in_box(photo, cell.width, cell.height, *cell.centre)
        (new_id,) = fresh_ids(job, 1)
        name, is_cut = fresh_name(job, plain_name(photo.name)), photo.sha256 in cut_out
        cutout = cutout_of_photo(new_id, name, photo, placement, is_cut=is_cut)
        job = add_items(add_photo(job, photo), container_id, [cutout])
    return job
