"""Edits of sheets: added, duplicated, ordered, sized by hand, by use or by what lies on them."""

import math

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.edits.items import drop_unused_photos, mapped, shifted, update_sheet
from glasscap.core.document.model.job import Job, Sheet, walk
from glasscap.core.document.model.query import find_sheet, fresh_ids
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Box


class SheetPreset(Struct, frozen=True):
    """A size by use: px, and the resolution it is meant for."""

    label: str
    width: int
    height: int
    ppi: float = 96.0


def _printed(label: str, width_mm: float, height_mm: float, ppi: float = 300.0) -> SheetPreset:
    return SheetPreset(label, round(width_mm / 25.4 * ppi), round(height_mm / 25.4 * ppi), ppi)


# Trimmed sizes: ISO 216 (A series) and ISO/IEC 7810 ID-1; sizes for the screen are common practice, no source.
PRESETS = (
    _printed("Card, 85.6 × 54 mm", 85.6, 53.98),
    _printed("Postcard, A6", 148, 105),
    _printed("Flyer, A5", 148, 210),
    _printed("Page, A4", 210, 297),
    SheetPreset("Square picture, 1080", 1080, 1080),
    SheetPreset("Upright picture, 1080 × 1350", 1080, 1350),
    SheetPreset("Wide picture, 1200 × 630", 1200, 630),
    SheetPreset("Video frame, 1920 × 1080", 1920, 1080),
    SheetPreset("Avatar, 400", 400, 400),
)


def add_sheet(job: Job, after_id: str) -> Job:
    """Return the job with an empty sheet behind another, with that one's size, bleed and backdrop."""
    (new_id,) = fresh_ids(job, 1)
    like = find_sheet(job, after_id)
    fresh = replace(like, id=new_id, name=_free_name(job, "Sheet"), items=(), versions=())
    return insert_sheet(job, fresh, after_id)


def insert_sheet(job: Job, sheet: Sheet, after_id: str) -> Job:
    """Return the job with a sheet right behind another; one whose name is taken gets a number."""
    named = replace(sheet, name=_free_name(job, sheet.name)) if _has(job, sheet.name) else sheet
    return _inserted(job, named, _place(job, after_id) + 1)


def _has(job: Job, name: str) -> bool:
    return any(s.name == name for s in job.sheets)


def duplicate_sheet(job: Job, sheet_id: str) -> Job:
    """Return the job with a copy of a sheet, cutouts and all, right behind it."""
    sheet = find_sheet(job, sheet_id)
    new_id, *item_ids = fresh_ids(job, 1 + sum(1 for _ in walk(sheet.items)))
    ids = iter(item_ids)
    items = tuple(mapped(item, lambda i: replace(i, id=next(ids), versions=())) for item in sheet.items)
    return insert_sheet(job, replace(sheet, id=new_id, items=items, versions=()), sheet_id)


def remove_sheet(job: Job, sheet_id: str) -> Job:
    """Return the job without a sheet and its cutouts. Raises PlacementError for the last one."""
    if len(job.sheets) == 1:
        raise PlacementError(job.sheets[0].name, "a job has at least one sheet", "add another first")
    left = tuple(s for s in job.sheets if s.id != sheet_id)
    return drop_unused_photos(replace(job, sheets=left))


def rename_sheet(job: Job, sheet_id: str, name: str) -> Job:
    """Return the job with a sheet under another name; nothing but spaces changes nothing."""
    name = " ".join(name.split())
    return update_sheet(job, sheet_id, lambda s: replace(s, name=name)) if name else job


def move_sheet(job: Job, sheet_id: str, place: int) -> Job:
    """Return the job with a sheet at another place."""
    sheet = find_sheet(job, sheet_id)
    return _inserted(replace(job, sheets=tuple(s for s in job.sheets if s is not sheet)), sheet, place)


def resize_sheet(job: Job, sheet_id: str, width: float, height: float, ppi: float | None = None) -> Job:
    """Return the job with a sheet of another size in px (fractions round up); nothing on it moves.

    Raises PlacementError for a size or resolution that is none.
    """
    size = tuple(max(1, math.ceil(v - 1e-6)) for v in (width, height))

    def sized(sheet: Sheet) -> Sheet:
        resolution = sheet.resolution_ppi if ppi is None else ppi
        return replace(sheet, width=size[0], height=size[1], resolution_ppi=resolution)

    return update_sheet(job, sheet_id, sized)


def set_bleed(job: Job, sheet_id: str, bleed: float) -> Job:
    """Return the job with a bleed of so many px around a sheet (fractions round up). Raises PlacementError."""
    return update_sheet(job, sheet_id, lambda s: replace(s, bleed=math.ceil(bleed - 1e-6)))


def sheet_around(job: Job, sheet_id: str, box: Box) -> Job:
    """Return the job with a sheet just as large as a box of its own px; all that lies on it moves along.

    Raises PlacementError for a box without size.
    """
    x0, y0 = (math.floor(v + 1e-6) for v in (box.x0, box.y0))
    x1, y1 = (math.ceil(v - 1e-6) for v in (box.x1, box.y1))
    sized = resize_sheet(job, sheet_id, x1 - x0, y1 - y0)
    return update_sheet(sized, sheet_id, lambda s: replace(s, items=tuple(shifted(i, -x0, -y0) for i in s.items)))


def _place(job: Job, sheet_id: str) -> int:
    return next(n for n, s in enumerate(job.sheets) if s.id == sheet_id)


def _inserted(job: Job, sheet: Sheet, place: int) -> Job:
    place = max(0, min(place, len(job.sheets)))
    return replace(job, sheets=(*job.sheets[:place], sheet, *job.sheets[place:]))


def _free_name(job: Job, wanted: str) -> str:
    """Return a sheet's name that none has yet."""
    taken = {s.name for s in job.sheets}
    stem = wanted.rstrip("0123456789 ") or wanted
    count = 1
    while f"{stem} {count}" in taken or (count == 1 and wanted != "Sheet"):
        count += 1
    return f"{stem} {count}"
