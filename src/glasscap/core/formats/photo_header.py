"""Headers of picture files: all they say of themselves before any pixel is decoded."""

import io
import struct

from msgspec import Struct
from PIL import Image, UnidentifiedImageError

from glasscap.core.errors import PhotoError, PhotoTooBigError
from glasscap.core.formats.orientation import TAG, upright_size
from glasscap.core.formats.tiff_deep import read_deep_tiff

# The limit is our own, checked on the header and settable; the library's fixed one is switched off.
Image.MAX_IMAGE_PIXELS = None

DEFAULT_PIXEL_LIMIT = 300_000_000
FORMATS = ("JPEG", "PNG", "WEBP", "TIFF", "AVIF", "BMP", "GIF")
ENDINGS = (".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff", ".avif", ".bmp", ".gif", ".svg")
_BITS_TAG, _RATIONAL_FAULTS = 258, (OSError, ValueError, SyntaxError, EOFError, struct.error)
DECODER_FAULTS = (
    *_RATIONAL_FAULTS, IndexError, KeyError, TypeError, AttributeError, OverflowError, ZeroDivisionError,
    RuntimeError, Image.DecompressionBombError,
)  # fmt: skip


class PhotoHeader(Struct, frozen=True):
    """Format, size as stored and as seen (px), orientation, bits per channel, profile, channel mode."""

    format: str
    stored_size: tuple[int, int]
    orientation: int
    bits: int
    icc: bytes | None
    mode: str

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) as seen, px."""
        return upright_size(*self.stored_size, self.orientation)


def read_header(data: bytes, name: str, *, pixel_limit: int = DEFAULT_PIXEL_LIMIT) -> PhotoHeader:
    """Read the header of a picture file.

    Raises
    ------
    PhotoError
        If the bytes are none of the formats read.
    PhotoTooBigError
        If it has more pixels than `pixel_limit`; nothing has been decoded then.
    """
    if not data:
        raise PhotoError(name, "the file is empty", "choose another picture")
    deep = read_deep_tiff(data)
    if deep is not None:
        width, height = deep.width, deep.height
        _check_size(name, width, height, pixel_limit)
        return PhotoHeader("TIFF", (width, height), deep.orientation, 16, deep.icc, deep.mode)
    image = open_lazily(data, name)
    orientation = _orientation(image)
    # The library states the size of a TIFF after its turn.
    width, height = upright_size(*image.size, orientation) if image.format == "TIFF" else image.size
    _check_size(name, width, height, pixel_limit)
    return PhotoHeader(
        image.format or "",
        (width, height),
        orientation,
        _bits(data, image),
        image.info.get("icc_profile") or None,
        image.mode,
    )


def _check_size(name: str, width: int, height: int, pixel_limit: int) -> None:
    if width * height > pixel_limit:
        millions = f"{width} x {height} is {width * height / 1e6:.0f} million pixels"
        raise PhotoTooBigError(name, f"{millions}, the limit is {pixel_limit / 1e6:g}", "raise the pixel limit")


def open_lazily(data: bytes, name: str) -> Image.Image:
    """Open a picture without decoding it. Raises PhotoError."""
    try:
        return Image.open(io.BytesIO(data), formats=FORMATS)
    except UnidentifiedImageError:
        kinds = "JPEG, PNG, WebP, TIFF, AVIF, BMP, GIF or SVG"
        raise PhotoError(name, "it is not a picture that can be read, or is cut short", f"use {kinds}") from None
    except DECODER_FAULTS as error:
        raise PhotoError(name, f"its header is damaged ({error})", "save the picture anew") from error


def _orientation(image: Image.Image) -> int:
    try:
        value = image.getexif().get(TAG, 1)
    except DECODER_FAULTS:
        return 1
    return value if isinstance(value, int) and 1 <= value <= 8 else 1


def _bits(data: bytes, image: Image.Image) -> int:
    if image.format == "PNG":
        return data[24]
    if image.format == "TIFF":
        bits = image.tag_v2.get(_BITS_TAG, (8,))  # type: ignore[attr-defined]
        return max(bits) if isinstance(bits, tuple) else int(bits)
    return 8
