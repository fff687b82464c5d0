"""Versions: alternatives of a cutout or a sheet kept beside it, one of them shown.

Those not shown are whole values under the same ids, so rows of the export list and mock-ups stay meant.
"""

from msgspec.structs import replace

from glasscap.core.document.edits.items import update_item, update_sheet
from glasscap.core.document.model.job import Cutout, Job, Sheet, SheetVersion, Version
from glasscap.core.document.model.query import find_item
from glasscap.core.errors import PlacementError

_STEM = "Version"


def version_names(subject: Cutout | Sheet) -> tuple[str, ...]:
    """Return the names of a cutout's or sheet's versions in their order; none for a single one."""
    return tuple(v.name for v in subject.versions)


def shown_version(subject: Cutout | Sheet) -> str:
    """Return the name of the version shown, "" for a single one."""
    if isinstance(subject, Sheet):
        return next((v.name for v in subject.versions if v.items is None), "")
    return next((v.name for v in subject.versions if v.item is None), "")


def find_subject(job: Job, subject_id: str) -> Cutout | Sheet:
    """Return a sheet or a cutout. Raises KeyError."""
    found = next((s for s in job.sheets if s.id == subject_id), None)
    return found if found is not None else find_item(job, subject_id)


def add_version(job: Job, subject_id: str) -> Job:
    """Keep what is shown as a version and show another that is the same for now. Raises PlacementError."""
    subject = find_subject(job, subject_id)
    names = version_names(subject) or (f"{_STEM} 1",)
    fresh = next(name for n in range(2, len(names) + 3) if (name := f"{_STEM} {n}") not in names)
    first: list[_Pair] = _pairs(subject) or [(names[0], None)]
    kept = [(name, _bare(subject) if value is None else value) for name, value in first]
    at = names.index(shown_version(subject)) + 1 if subject.versions else 1
    return _put(job, subject_id, [*kept[:at], (fresh, None), *kept[at:]], subject)


def show_version(job: Job, subject_id: str, name: str) -> Job:
    """Show another version; what was shown is kept under its name. Raises PlacementError for no such name."""
    subject = find_subject(job, subject_id)
    if name == shown_version(subject):
        return job
    wanted = dict(_pairs(subject)).get(name)
    if wanted is None:
        known = ", ".join(version_names(subject)) or "none"
        raise PlacementError(subject.name, f"it has no version {name!r}", f"there are: {known}")
    pairs = [
        (n, None if n == name else (_bare(subject) if value is None else value)) for n, value in _pairs(subject)
    ]
    return _put(job, subject_id, pairs, wanted)


def rename_version(job: Job, subject_id: str, old: str, new: str) -> Job:
    """Give a version another name; nothing but spaces changes nothing. Raises PlacementError for one taken."""
    new, subject = " ".join(new.split()), find_subject(job, subject_id)
    if not new or new == old:
        return job
    if new in version_names(subject):
        raise PlacementError(subject.name, f"there is a version {new!r} already", "choose another name")
    return _put(job, subject_id, [(new if n == old else n, value) for n, value in _pairs(subject)], subject)


def remove_version(job: Job, subject_id: str, name: str) -> Job:
    """Drop a version; in place of the one shown its neighbour shows. A last one is no version any more."""
    names = version_names(find_subject(job, subject_id))
    if name not in names:
        return job
    if name == shown_version(find_subject(job, subject_id)) and len(names) > 1:
        at = names.index(name)
        job = show_version(job, subject_id, names[at + 1] if at + 1 < len(names) else names[at - 1])
    subject = find_subject(job, subject_id)
    left = [pair for pair in _pairs(subject) if pair[0] != name]
    return _put(job, subject_id, left if len(left) > 1 else [], subject)


def in_version(job: Job, subject_id: str, name: str) -> Job:
    """Return the job with that version shown; "" for the one that is. Raises PlacementError."""
    return show_version(job, subject_id, name) if name else job


# A version as (name, value), None for the one shown.
_Pair = tuple[str, Cutout | Sheet | None]


def _pairs(subject: Cutout | Sheet) -> list[_Pair]:
    if isinstance(subject, Cutout):
        return [(v.name, v.item) for v in subject.versions]
    return [
        (v.name, None if v.items is None else replace(subject, items=v.items, backdrop=v.backdrop, versions=()))
        for v in subject.versions
    ]


def _bare(subject: Cutout | Sheet) -> Cutout | Sheet:
    return replace(subject, versions=())


def _put(job: Job, subject_id: str, pairs: list[_Pair], shown: Cutout | Sheet) -> Job:
    """Put a value with its versions in the subject's place; id, name and lock stay as they are."""
    if isinstance(shown, Sheet):
        sheets = tuple(
            SheetVersion(name, v.items, v.backdrop) if isinstance(v, Sheet) else SheetVersion(name)
            for name, v in pairs
        )
        look = shown
        return update_sheet(
            job, subject_id, lambda s: replace(s, items=look.items, backdrop=look.backdrop, versions=sheets)
        )
    own = tuple(Version(name, v if isinstance(v, Cutout) else None) for name, v in pairs)
    now = shown

    def change(item: Cutout) -> Cutout:
        return replace(now, id=item.id, name=item.name, is_locked=item.is_locked, versions=own)

    return update_item(job, subject_id, change)
