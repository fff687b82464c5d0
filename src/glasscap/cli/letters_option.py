"""``--letters``: words as the shape of a cut."""

import argparse

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.errors import CallError
from glasscap.core.shapes.kinds import Letters, LettersShape
from glasscap.core.shapes.outlines import own_box
from glasscap.core.shapes.typesetting import set_type
from glasscap.files.font_book import DEFAULT_FONT, FontBook

# The share of the photo's width or height, where no size is given.
_SHARE = 0.8


def made(call: argparse.Namespace, width: int, height: int) -> tuple[LettersShape, ShapePlacement]:
    """Return the words set in type, in the middle of a photo of that size. Raises CallError, ShapeError."""
    how = {k: getattr(call, k) for k in ("weight", "tracking", "line") if getattr(call, k) is not None}
    letters = Letters(call.letters.replace("\\n", "\n"), call.font or DEFAULT_FONT, **how)
    book = FontBook()
    if letters.font not in book.families:
        raise CallError(f"--font {letters.font}", "no such font is installed", "see glasscap fonts")
    path = set_type(letters, book).path
    shape = LettersShape(letters, path)
    box = own_box(shape)
    assert box is not None
    size = call.type_size or min(width * _SHARE / box.width, height * _SHARE / box.height)
    return shape, ShapePlacement(width / 2, height / 2, box.width * size, box.height * size, keeps_ratio=True)
