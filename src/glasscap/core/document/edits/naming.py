"""Names that follow what a cutout holds, until it is named by hand."""

import re

from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import plain_name
from glasscap.core.document.edits.items import change_item
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import fresh_name, items_of, photo_of
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.outlines import shape_label

_LONGEST = 24


def own_name(job: Job, item: Item) -> str:
    """Return what an item is called after what it holds: its words, its photo or its shape; "" for a group."""
    if isinstance(item.shape, LettersShape):
        return " ".join(item.shape.letters.text.split())[:_LONGEST] or "Letters"
    photo = photo_of(job, item)
    if photo is not None:
        return plain_name(photo.name)
    return "" if item.shape is None or item.is_group else shape_label(item.shape)


def is_own_name(job: Job, item: Item) -> bool:
    """Whether an item has the name of what it holds, perhaps with a number."""
    own = own_name(job, item)
    return bool(own) and re.fullmatch(rf"{re.escape(own)}( \d+)?", item.name) is not None


def named_after_contents(before: Job, after: Job) -> Job:
    """Return the job after an edit, with items renamed that had the name of what they held before it."""
    known = {item.id: item for _, item in items_of(before)}
    for _, item in items_of(after):
        old = known.get(item.id)
        if old is None or old is item or old.name != item.name:
            continue
        wanted = own_name(after, item)
        if wanted and wanted != own_name(before, old) and is_own_name(before, old):
            name = fresh_name(change_item(after, item.id, lambda i: replace(i, name="")), wanted)
            after = change_item(after, item.id, lambda i, name=name: replace(i, name=name))  # type: ignore[misc]
    return after
