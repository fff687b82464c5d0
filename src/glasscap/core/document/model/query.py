"""Questions about a job."""

from collections import Counter
from collections.abc import Container, Iterable, Iterator

from msgspec.structs import replace

from glasscap.core.document.model.job import (
    Cutout,
    GroupContent,
    Item,
    Job,
    PhotoContent,
    PhotoRecord,
    Sheet,
    pictures_of,
    walk,
)
from glasscap.core.errors import GlassCapError

# Jobs whose items' ways are kept: what is shown, and what an edit makes on its way.
_KEPT_JOBS = 4
Way = tuple[Sheet, tuple[Item, ...], int]


class _Ways:
    """By its id, each item's sheet, the groups it lies in and itself, and its place among its neighbours."""

    def __init__(self) -> None:
        self._kept: tuple[tuple[Job, dict[str, Way]], ...] = ()

    def of(self, job: Job) -> dict[str, Way]:
        """Return the ways of a job's items; found once, since a job never changes."""
        for kept, ways in self._kept:
            if kept is job:
                return ways
        ways = {way[-1].id: (sheet, way, n) for sheet in job.sheets for way, n in _walked(sheet.items, ())}
        self._kept = ((job, ways), *self._kept[: _KEPT_JOBS - 1])
        return ways


def _walked(items: tuple[Item, ...], around: tuple[Item, ...]) -> Iterator[tuple[tuple[Item, ...], int]]:
    for place, item in enumerate(items):
        way = (*around, item)
        yield way, place
        if item.is_group:
            yield from _walked(item.items, way)


_ways = _Ways()


def items_of(job: Job) -> Iterator[tuple[Sheet, Item]]:
    """Yield every item with its sheet, a group before what it holds."""
    for sheet in job.sheets:
        for item in walk(sheet.items):
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
    """Return an item with its sheet and its place from the back among its neighbours. Raises KeyError."""
    sheet, way, place = _ways.of(job)[item_id]
    return sheet, way[-1], place


def path_to(job: Job, item_id: str) -> tuple[Sheet, tuple[Item, ...]]:
    """Return an item's sheet, and the groups it lies in from the outermost, itself last. Raises KeyError."""
    return _ways.of(job)[item_id][:2]


def siblings(job: Job, item_id: str) -> tuple[Item, ...]:
    """Return what an item lies among, itself included, back to front. Raises KeyError."""
    sheet, way = path_to(job, item_id)
    return way[-2].items if len(way) > 1 else sheet.items


def group_of(job: Job, item_id: str) -> Item | None:
    """Return the group an item lies in, or None. Raises KeyError."""
    way = path_to(job, item_id)[1]
    return way[-2] if len(way) > 1 else None


def topmost(items: Iterable[Item], ids: Container[str]) -> tuple[Item, ...]:
    """Return the items meant, back to front, without those that lie in another one meant."""
    found: list[Item] = []
    for item in items:
        found += [item] if item.id in ids else topmost(item.items, ids)
    return tuple(found)


def sheet_of(job: Job, container_id: str) -> Sheet:
    """Return the sheet with that id, or on which the group with that id lies. Raises KeyError."""
    found = next((s for s in job.sheets if s.id == container_id), None)
    return found if found is not None else path_to(job, container_id)[0]


def items_in(job: Job, container_id: str) -> tuple[Item, ...]:
    """Return what lies on a sheet or in a group, back to front. Raises KeyError."""
    for sheet in job.sheets:
        if sheet.id == container_id:
            return sheet.items
    return find_item(job, container_id).items


def has_item(job: Job, item_id: str) -> bool:
    """Whether the job holds that item."""
    return item_id in _ways.of(job)


def photo_record(job: Job, sha256: str) -> PhotoRecord:
    """Return what the job knows of a photo. Raises KeyError."""
    for record in job.photos:
        if record.sha256 == sha256:
            return record
    raise KeyError(sha256)


def photo_of(job: Job, item: Cutout) -> PhotoRecord | None:
    """Return the record of the photo in a cutout, or None when it has none."""
    return photo_record(job, item.content.sha256) if isinstance(item.content, PhotoContent) else None


def photos_in_versions(job: Job) -> set[str]:
    """Return the SHA-256 of photos that versions not shown use."""
    shown = replace(
        job,
        sheets=tuple(
            replace(s, versions=(), items=tuple(_without_versions(i) for i in s.items)) for s in job.sheets
        ),
    )
    left = Counter(key for _, key in pictures_of(job))
    left.subtract(key for _, key in pictures_of(shown))
    return {key for key, count in left.items() if count > 0}


def _without_versions(item: Item) -> Item:
    content = item.content
    if isinstance(content, GroupContent):
        content = GroupContent(tuple(_without_versions(i) for i in content.items))
    return replace(item, content=content, versions=())


def fresh_ids(job: Job, count: int) -> list[str]:
    """Return ids not in the job, derived from it alone."""
    taken = [s.id for s in job.sheets] + [i for s in job.sheets for i in _ids_in(s)]
    highest = max((int(i[1:]) for i in taken if i[1:].isdecimal()), default=0)
    return [f"i{highest + 1 + n}" for n in range(count)]


def _ids_in(sheet: Sheet) -> Iterator[str]:
    """Yield the ids of all items, those of versions not shown included."""
    yield from _ids_of(sheet.items)
    for version in sheet.versions:
        yield from _ids_of(version.items or ())


def _ids_of(items: Iterable[Item]) -> Iterator[str]:
    for item in walk(items):
        yield item.id
        yield from _ids_of(v.item for v in item.versions if v.item is not None)


def fresh_name(job: Job, wanted: str) -> str:
    """Return `wanted`, or with the first number that makes it one of a kind."""
    return fresh_names(job, [wanted])[0]


def fresh_names(job: Job, wanted: Iterable[str]) -> list[str]:
    """Return names as wanted, each with the first number that makes it one of a kind where that is needed."""
    taken, found = {i.name for _, i in items_of(job)}, list[str]()
    for name in wanted:
        numbered = (f"{name} {n}" for n in range(2, len(taken) + 3))
        found.append(name if name not in taken else next(n for n in numbered if n not in taken))
        taken.add(found[-1])
    return found


def named(kind: str, name: str, choices: dict[str, str]) -> str:
    """Return the id for a name. Raises GlassCapError listing the names there are."""
    if name not in choices:
        raise GlassCapError(f"{kind} {name!r}", "there is none of that name", f"there are {', '.join(choices)}")
    return choices[name]


def has_soft_contour(cutout: Cutout) -> bool:
    """Whether a cutout can have a soft contour: a photo's, within a shape."""
    shape = cutout.shape
    is_photo = isinstance(cutout.content, PhotoContent) and cutout.is_masked
    return is_photo and shape is not None and shape.keeps == "inside"
