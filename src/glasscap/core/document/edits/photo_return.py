"""A photo of the job that was found again, as it was or changed."""

from typing import Any

import msgspec
from msgspec.structs import replace

from glasscap.core.document.edits.items import add_photo, drop_unused_photos, swap_photo
from glasscap.core.document.model.job import Job, PhotoContent, PhotoRecord
from glasscap.core.document.model.query import items_of


def photo_returned(job: Job, photo: PhotoRecord, link: str | None) -> Job:
    """Say where a photo's very bytes lie now; None takes it into the job file."""
    back = tuple(replace(p, link=link) if p.sha256 == photo.sha256 else p for p in job.photos)
    return replace(job, photos=back)


def photo_replaced(job: Job, old: PhotoRecord, new: PhotoRecord) -> Job:
    """Put another picture wherever `old` is used; in cutouts shape, turn, mirror and centre stay."""
    job = add_photo(job, new)
    for _, item in items_of(job):
        if isinstance(item.content, PhotoContent) and item.content.sha256 == old.sha256:
            job = swap_photo(job, item.id, new)
    fields = msgspec.to_builtins(job)
    photos = fields.pop("photos")
    return drop_unused_photos(
        msgspec.convert({**_renamed(fields, old.sha256, new.sha256), "photos": photos}, Job)
    )


def _renamed(value: Any, old: str, new: str) -> Any:
    """Return a value with another SHA-256 wherever masks, paints, backdrops or sets name one."""
    if isinstance(value, dict):
        return {key: _renamed(below, old, new) for key, below in value.items()}
    if isinstance(value, list | tuple):
        return [_renamed(below, old, new) for below in value]
    return new if value == old else value
