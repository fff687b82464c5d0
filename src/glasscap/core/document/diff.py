"""What changed between two jobs, by identity first, so that it costs nothing for what is shared."""

from msgspec import Struct

from glasscap.core.document.model import Item, Job
from glasscap.core.document.query import items_of


class JobDiff(Struct, frozen=True):
    """Ids of sheets whose own values or order changed, and of items added, removed or changed."""

    sheets: frozenset[str]
    added: frozenset[str]
    removed: frozenset[str]
    changed: frozenset[str]
    has_photos_changed: bool

    def __bool__(self) -> bool:
        return bool(self.sheets or self.added or self.removed or self.changed or self.has_photos_changed)


def _items(job: Job) -> dict[str, Item]:
    return {item.id: item for _, item in items_of(job)}


def diff(old: Job, new: Job) -> JobDiff:
    """Compare two jobs."""
    none: frozenset[str] = frozenset()
    if old is new:
        return JobDiff(none, none, none, none, False)
    before, after = _items(old), _items(new)
    both = before.keys() & after.keys()
    old_sheets, new_sheets = ({s.id: s for s in job.sheets} for job in (old, new))
    sheets = {
        key
        for key in old_sheets.keys() | new_sheets.keys()
        if (a := old_sheets.get(key)) is not (b := new_sheets.get(key)) and a != b
    }
    return JobDiff(
        frozenset(sheets),
        frozenset(after.keys() - before.keys()),
        frozenset(before.keys() - after.keys()),
        frozenset(k for k in both if before[k] is not after[k] and before[k] != after[k]),
        old.photos is not new.photos and old.photos != new.photos,
    )
