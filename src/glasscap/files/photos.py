"""Photographs on the disk."""

from msgspec import Struct

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.formats.artwork import ENDING
from glasscap.core.formats.photo import PhotoFacts, photo_facts
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.photos.store import sha256_of
from glasscap.files.path_text import printable


class FoundPhoto(Struct, frozen=True):
    """A photo file that was read: its record for a job, its bytes, what the header said."""

    record: PhotoRecord
    data: bytes
    facts: PhotoFacts


def photo_from_bytes(data: bytes, name: str, *, pixel_limit: int = DEFAULT_PIXEL_LIMIT) -> FoundPhoto:
    """Check the header of a photo's bytes. Raises PhotoError."""
    name = printable(name)
    facts = photo_facts(data, name, pixel_limit=pixel_limit)
    if facts.format == "SVG" and not name.lower().endswith(ENDING):
        # By its name artwork is known to be drawn anew at every resolution.
        name += ENDING
    elif facts.format != "SVG" and name.lower().endswith(ENDING):
        name = f"{name} ({facts.format})"
    record = PhotoRecord(sha256_of(data), name, facts.width, facts.height, facts.profile)
    return FoundPhoto(record, data, facts)
