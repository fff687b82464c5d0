"""Questions about a job."""

from collections.abc import Iterator

from glasscap.core.document.model import Cutout, Item, Job, PhotoContent, PhotoRecord, Sheet
from glasscap.core.errors import GlassCapError


def items_of(job: Job) -> Iterator[tuple[Sheet, Item]]:
    """Yield every item with its sheet."""
    for sheet in job.sheets:
        for item in sheet.items:
            yield sheet, item


def find_sheet(job: Job, sheet_id: str) -> Sheet:
    """Return a sheet. Raises KeyError for an unknown id."""
    for sheet in job.sheets:
        if sheet.id == sheet_id:
            return sheet
    raise KeyError(sheet_id)


def find_item(job: Job, item_id: str) -> Item:
    """Return an item. Raises KeyError for an unknown id."""
    return locate(job, item_id)[1]


def locate(job: Job, item_id: str) -> tuple[Sheet, Item, int]:
    """Return an item with its sheet and its place from the back. Raises KeyError."""
    for sheet in job.sheets:
        for index, item in enumerate(sheet.items):
            if item.id == item_id:
                return sheet, item, index
    raise KeyError(item_id)


def has_item(job: Job, item_id: str) -> bool:
    """Whether the job holds that item."""
    return any(item.id == item_id for _, item in items_of(job))


def photo_record(job: Job, sha256: str) -> PhotoRecord:
    """Return what the job knows of a photo. Raises KeyError."""
    for record in job.photos:
        if record.sha256 == sha256:
            return record
    raise KeyError(sha256)


def photo_of(job: Job, item: Cutout) -> PhotoRecord | None:
    """Return the record of the photo in a cutout, or None when it has none."""
    return photo_record(job, item.content.sha256) if isinstance(item.content, PhotoContent) else None


def fresh_ids(job: Job, count: int) -> list[str]:
    """Return ids not in the job, derived from it alone."""
    taken = [s.id for s in job.sheets] + [i.id for _, i in items_of(job)]
    highest = max((int(i[1:]) for i in taken if i[1:].isdecimal()), default=0)
    return [f"i{highest + 1 + n}" for n in range(count)]


def fresh_name(job: Job, wanted: str) -> str:
    """Return `wanted`, or with the first number that makes it one of a kind."""
    names = {i.name for _, i in items_of(job)}
    if wanted not in names:
        return wanted
    return next(name for n in range(2, len(names) + 3) if (name := f"{wanted} {n}") not in names)


def named(kind: str, name: str, choices: dict[str, str]) -> str:
    """Return the id for a name. Raises GlassCapError listing the names there are."""
    if name not in choices:
        raise GlassCapError(f"{kind} {name!r}", "there is none of that name", f"there are {', '.join(choices)}")
    return choices[name]
