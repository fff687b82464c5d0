"""A photo's metadata (EXIF 2.32, CIPA DC-008): what is kept of it, and how it gets into a TIFF file."""

import io
import struct
import warnings
from typing import Any

from PIL import Image
from PIL.TiffImagePlugin import ImageFileDirectory_v2

# EXIF 2.32, table 4: orientation; px per unit across and down, and the unit (2 is the inch).
_ORIENTATION, _X_RESOLUTION, _Y_RESOLUTION, _RESOLUTION_UNIT, _INCH = 0x0112, 0x011A, 0x011B, 0x0128, 2
_EXIF_DIRECTORY, _GPS_DIRECTORY = 0x8769, 0x8825
# The tags that describe the photo: description, maker, model, software, date, artist, host computer, copyright,
# rating, density. The others of its first directory tell how its own file is laid out.
_DESCRIBING = frozenset(
    {0x010E, 0x010F, 0x0110, 0x0131, 0x0132, 0x013B, 0x013C, 0x8298, 0x4746, _X_RESOLUTION, _Y_RESOLUTION}
    | {_RESOLUTION_UNIT}
)
# The photo's own size, and what belongs to its file alone: interoperability, its preview.
_OF_ITS_FILE = frozenset({0xA002, 0xA003, 0xA005})
_ENTRY = 12


def photo_exif(data: bytes) -> bytes:
    """Return a photo's metadata, upright (its pixels are turned already); empty for none.

    A tag whose value is of a kind that its number does not allow is left out.
    """
    made, is_any = Image.Exif(), False
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data)) as image:
                exif = image.getexif()
            found = {tag: exif[tag] for tag in exif if tag in _DESCRIBING}
            inner = {tag: dict(exif.get_ifd(tag)) for tag in (_EXIF_DIRECTORY, _GPS_DIRECTORY)}
    except (OSError, ValueError, SyntaxError, TypeError, KeyError, struct.error, Image.DecompressionBombError):
        return b""
    for tag, value in found.items():
        if _can_be_written({tag: value}):
            made[tag], is_any = value, True
    for directory, tags in inner.items():
        kept = {k: v for k, v in tags.items() if k not in _OF_ITS_FILE and _can_be_written({k: v})}
        if kept:
            made[directory], is_any = kept, True
    if not is_any:
        return b""
    made[_ORIENTATION] = 1
    return bytes(made.tobytes())


def with_density(exif: bytes, ppi: float) -> bytes:
    """Return EXIF data that names a density in px an inch; the rest stays."""
    made = _loaded(exif)
    made[_X_RESOLUTION] = made[_Y_RESOLUTION] = ppi
    made[_RESOLUTION_UNIT] = _INCH
    return bytes(made.tobytes())


def _loaded(exif: bytes) -> Image.Exif:
    made = Image.Exif()
    if exif:
        made.load(exif)
    for tag in (_EXIF_DIRECTORY, _GPS_DIRECTORY):
        if tag in made:
            made[tag] = dict(made.get_ifd(tag))
    return made


def _directory(tags: dict[int, Any], offset: int) -> bytes:
    """Return a directory of little-endian TIFF as it stands at an offset of the file."""
    made = ImageFileDirectory_v2(prefix=b"II")
    for tag, value in tags.items():
        made[tag] = value
    return bytes(made.tobytes(offset))


def _can_be_written(tags: dict[int, Any]) -> bool:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            _directory(tags, 0)
    except (AttributeError, TypeError, ValueError, KeyError, OverflowError, struct.error):
        return False
    return True


def tiff_with_metadata(data: bytes, exif: bytes) -> bytes:
    """Return a little-endian TIFF file that holds EXIF data, too: its first directory is written anew at the end.

    TIFF 6.0, section 2: a directory is a count, entries of twelve bytes in the order of their tags, and the place
    of the next one.
    """
    if not exif:
        return data
    (old,) = struct.unpack_from("<I", data, 4)
    own = _entries(data, old)
    more = {tag: value for tag, value in dict(_loaded(exif)).items() if tag not in own}
    data += bytes(-len(data) % 2)
    place = len(data)
    data += _directory(more, place)
    entries = own | _entries(data, place)
    data += bytes(-len(data) % 2)
    start = struct.pack("<I", len(data))
    body = struct.pack("<H", len(entries)) + b"".join(entries[tag] for tag in sorted(entries)) + bytes(4)
    return data[:4] + start + data[8:] + body


def _entries(data: bytes, offset: int) -> dict[int, bytes]:
    """Return the entries of a directory by their tags."""
    (count,) = struct.unpack_from("<H", data, offset)
    places = range(offset + 2, offset + 2 + count * _ENTRY, _ENTRY)
    return {struct.unpack_from("<H", data, at)[0]: data[at : at + _ENTRY] for at in places}
