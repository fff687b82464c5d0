"""The photo of a call is decoded by another processor while the rest of the program is loaded."""

from collections.abc import Iterator, Sequence
from contextlib import suppress
from pathlib import Path

from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.formats.photo_jpeg import decode_ahead

_ENDINGS = (".jpg", ".jpeg")
_WRITTEN = ("-o", "--output")


def begin(arguments: Sequence[str]) -> None:
    """Begin to decode the first JPEG file that is read by a call, as its arguments have it.

    Only a guess, for nothing is known of the options yet: what was not meant is never asked for.
    """
    path = next(_photos(arguments), None)
    # Whatever keeps the file from being read is told when it is read in earnest.
    with suppress(OSError):
        if path is not None and path.is_file():
            decode_ahead(path.read_bytes(), DEFAULT_PIXEL_LIMIT)


def _photos(arguments: Sequence[str]) -> Iterator[Path]:
    for before, argument in zip(("", *arguments), arguments, strict=False):
        if argument.lower().endswith(_ENDINGS) and before not in _WRITTEN and not argument.startswith("-"):
            yield Path(argument)
