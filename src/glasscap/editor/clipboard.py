"""Cutouts on the clipboard: a small job file, so that they can be pasted into another job."""

import re
from collections.abc import Container, Sequence

from msgspec.structs import replace

from glasscap.core.document.edits.items import drop_unused_photos
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item, topmost
from glasscap.core.errors import GlassCapError
from glasscap.core.formats.job import JobFile, read_job, write_job
from glasscap.core.photos.store import PhotoStore

MIME = "application/vnd.glasscap.cutouts"

_PATH = re.compile(r"[Mm]\s*[-+.\d][-+.,\d\sMmLlHhVvCcSsQqTtAaZzeE]*")


def copied(job: Job, sheet_id: str, item_ids: Sequence[str], store: PhotoStore) -> bytes:
    """Return items (in the sheet's order) and their photos as bytes. Raises PhotoMissingError."""
    sheet = next(s for s in job.sheets if s.id == sheet_id)
    items = topmost(sheet.items, set(item_ids))
    small = drop_unused_photos(replace(job, sheets=(replace(sheet, items=items),)))
    embedded = replace(small, photos=tuple(replace(p, link=None) for p in small.photos))
    return write_job(embedded, store.data)


def pasted(data: bytes, known: Container[str]) -> JobFile | None:
    """Return what `copied` put there but for photos `known` by their SHA-256, or None for anything else."""
    try:
        return read_job(data, "clipboard", known)
    except GlassCapError:
        return None


def items_in(found: JobFile) -> tuple[Item, ...]:
    """Return the items of a clipboard job."""
    return tuple(find_item(found.job, i.id) for i in found.job.sheets[0].items)


def is_drawing(text: str) -> bool:
    """Whether text on the clipboard is an SVG drawing or path data."""
    plain = text.strip()
    return plain.startswith(("<svg", "<?xml")) or _PATH.fullmatch(plain) is not None
