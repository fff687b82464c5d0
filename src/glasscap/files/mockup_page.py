"""The page for a client: a title, each version's mock-up, the versions' names in letters that ship."""

from collections.abc import Sequence

from glasscap.core.document.edits.versions import find_subject
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.mockups import Mockup
from glasscap.core.formats.page import PagePicture, Words, write_page
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import bounds
from glasscap.core.geometry.path_data import read_path_data
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.kinds import Letters
from glasscap.core.shapes.typesetting import set_type
from glasscap.files.font_book import FontBook

_FONT, _WEIGHT = "Oswald", 400.0
_FLATNESS = 1 / 512


def mockup_page(job: Job, mockup: Mockup, versions: Sequence[str], pixels: Sequence[Bytes]) -> bytes:
    """Return a PDF of one page with a picture for each version ("" for a single one)."""
    book = FontBook(has_system=False)
    subject = find_subject(job, mockup.subject_id).name
    pictures = [
        PagePicture(rgba, _words(name, book) if name else None)
        for name, rgba in zip(versions, pixels, strict=True)
    ]
    return write_page(_words(f"{subject} · {mockup.name}", book), pictures)


def _words(text: str, book: FontBook) -> Words | None:
    """Return words as outlines of type size 1, from x = 0 on; None where nothing of them is to be seen."""
    made = set_type(Letters(text, _FONT, _WEIGHT, align="left"), book)
    flat = flatten(read_path_data(made.path), tolerance=_FLATNESS) if made.path else ()
    if not flat:
        return None
    box = bounds(flat)
    return Words(tuple(p - (box.x0, 0.0) for p in flat), box.width)
