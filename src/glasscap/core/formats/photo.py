"""Reading photographs from bytes into upright sRGB pixels."""

import numpy as np
from msgspec import Struct
from PIL import Image

from glasscap.core.errors import PhotoError, PhotoTooBigError
from glasscap.core.formats.artwork import cleaned, draw_artwork, is_artwork
from glasscap.core.formats.colour import BrokenProfileError, profile_name, to_srgb
from glasscap.core.formats.orientation import upright
from glasscap.core.formats.photo_deep import decode_deep
from glasscap.core.formats.photo_header import (
    DEFAULT_PIXEL_LIMIT,
    PhotoHeader,
    read_header,
)
from glasscap.core.formats.photo_jpeg import decode_jpeg, has_plain_colour
from glasscap.core.formats.photo_loading import load
from glasscap.core.formats.row_bands import bands
from glasscap.core.formats.tiff_deep import decode_deep_tiff
from glasscap.core.free_memory import memory
from glasscap.core.raster.pixels import Bytes, PhotoPixels

# How a header names pictures of one colour channel, 8 and 16 bit, with and without alpha.
GREY_MODES = ("1", "L", "LA", "I;16", "I;16B", "I")
# Bytes held of each px while it is read at the most, by the decoder and in what is handed on; of others `_USUAL`.
_BYTES_A_PX, _USUAL = {"WEBP": 9, "AVIF": 15}, 6
# The same of pictures of four inks and of 16 bits a channel; and more for one that is to be turned upright.
_INKS, _DEEP_BYTES, _TURNED_BYTES = 9, 17, 4
# Bits a channel of a TIFF that is read by `tiff_deep`.
_DEEP = 16
_ALPHA_MODES = ("RGBA", "LA", "PA", "La", "RGBa")


class PhotoFacts(Struct, frozen=True):
    """The header of a photo file: upright size in px, profile name ("" for none), bits, a note on repairs."""

    width: int
    height: int
    format: str
    profile: str
    bits: int
    note: str = ""


def photo_facts(data: bytes, name: str, *, pixel_limit: int = DEFAULT_PIXEL_LIMIT) -> PhotoFacts:
    """Return what a file is without decoding it. Raises PhotoError."""
    if is_artwork(data):
        _, (width, height), was_changed = cleaned(data, name)
        note = "scripts or outside references in it are left out" if was_changed else ""
        return PhotoFacts(width, height, "SVG", "sRGB", 8, note)
    header = read_header(data, name, pixel_limit=pixel_limit)
    profile = profile_name(header.icc) if header.icc else ""
    note = "its colour profile is broken, so it is read as sRGB" if _is_broken(header) else ""
    return PhotoFacts(*header.size, header.format, profile, header.bits, note)


def read_photo(data: bytes, name: str, *, pixel_limit: int = DEFAULT_PIXEL_LIMIT) -> PhotoPixels:
    """Decode a photograph: orientation applied, colours in sRGB, 16 bit rounded to 8, own alpha kept.

    Parameters
    ----------
    data : bytes
        A JPEG, PNG, WebP, TIFF, AVIF, BMP or GIF file (the first frame), or an SVG drawing at its own size.
    name : str
        Its name, for messages.
    pixel_limit : int
        More pixels than this are refused before memory is taken.

    Returns
    -------
    PhotoPixels

    Raises
    ------
    PhotoError
        For anything that is no such picture, is truncated, or is too big.
    """
    if is_artwork(data):
        return draw_artwork(data, name)
    header = read_header(data, name, pixel_limit=pixel_limit)
    _check_memory(name, header)
    decoded, alpha = _decoded(data, name, header), None
    if isinstance(decoded, tuple):
        decoded, alpha = decoded
    rgba = _managed(decoded, header)
    if alpha is not None:
        rgba[..., 3] = alpha
    # The library turns the pixels of an eight-bit TIFF itself.
    is_upright = header.format == "TIFF" and header.bits != _DEEP
    pixels = np.ascontiguousarray(rgba) if is_upright else upright(rgba, header.orientation)
    return PhotoPixels(pixels, is_opaque=header.format == "JPEG" or bool(pixels[..., 3].min() == 255))


def _check_memory(name: str, header: PhotoHeader) -> None:
    """Refuse a photo that there is no memory for, before any is taken. Raises PhotoTooBigError."""
    width, height = header.stored_size
    each = _INKS if header.mode == "CMYK" else _BYTES_A_PX.get(header.format, _USUAL)
    if header.bits > 8:
        each = _DEEP_BYTES
    if header.orientation > 1:
        each += _TURNED_BYTES
    needed, found = width * height * each, memory()
    if found is not None and needed > (free := found[1]):
        takes = f"{width} x {height} px take {needed / 1e9:.1f} GB to read"
        why = f"{takes}, and {free / 1e9:.1f} GB of memory are free"
        raise PhotoTooBigError(name, why, "close other programs, or save it smaller")


def read_draft(data: bytes, name: str, at_least: int) -> PhotoPixels | None:
    """Decode a JPEG quickly at a whole fraction (1/2, 1/4, 1/8), its longer side `at_least` px or more.

    Returns None where no draft is to be had. Raises PhotoError for a damaged file.
    """
    if is_artwork(data):
        return None
    header = read_header(data, name)
    longest = max(header.stored_size)
    fraction = next((n for n in (8, 4, 2) if longest // n >= at_least), 1)
    if header.format != "JPEG" or fraction == 1 or not has_plain_colour(data):
        return None
    rgba = _managed(decode_jpeg(data, name, fraction=fraction), header)
    return PhotoPixels(upright(rgba, header.orientation), is_opaque=True)


def _decoded(
    data: bytes, name: str, header: PhotoHeader
) -> Image.Image | Bytes | tuple[Image.Image, Bytes | None]:
    if header.format == "JPEG" and has_plain_colour(data):
        return decode_jpeg(data, name)
    if header.format == "TIFF" and header.bits == _DEEP:
        levels, alpha = decode_deep_tiff(data, name)
        return (Image.fromarray(levels, "CMYK"), alpha) if header.mode == "CMYK" else levels
    if header.bits > 8 and header.format != "TIFF":
        return decode_deep(data, name)
    if header.bits > _DEEP:
        why = f"it holds numbers of {header.bits} bits"
        raise PhotoError(name, why, "save it with 8 or 16 bits per channel")
    return load(data, name)


def _managed(decoded: Image.Image | Bytes, header: PhotoHeader) -> Bytes:
    """Return straight sRGB RGBA of what a decoder gave (an RGBA array or a picture of any mode).

    Band by band: whole copies on the way would take several times the memory of the photo.
    """
    if isinstance(decoded, np.ndarray):
        if header.icc is not None:
            for rows in bands(*decoded.shape[:2]):
                decoded[rows] = _converted(decoded[rows], header)
        return decoded
    width, height = decoded.size
    out = np.empty((height, width, 4), np.uint8)
    for rows in bands(height, width):
        out[rows] = _converted(decoded.crop((0, rows.start, width, rows.stop)), header)
    return out


def _converted(decoded: Image.Image | Bytes, header: PhotoHeader) -> Bytes:
    if isinstance(decoded, np.ndarray):
        if header.icc is None:
            return decoded
        # A grey photo's profile speaks of one channel.
        channels = decoded[..., 0] if header.mode in GREY_MODES else decoded[..., :3]
        colour = Image.fromarray(np.ascontiguousarray(channels))
        alpha: Bytes | None = decoded[..., 3]
    else:
        colour, alpha = _split(decoded)
    if header.icc is not None:
        try:
            colour = to_srgb(colour, header.icc)
        except BrokenProfileError:
            colour = colour.convert("RGB")
    rgba = np.array(colour.convert("RGBA"))
    if alpha is not None:
        rgba[..., 3] = alpha
    return rgba


def _split(image: Image.Image) -> tuple[Image.Image, Bytes | None]:
    """Return colour (L, RGB or CMYK) and alpha of a picture of any mode."""
    if image.mode in _ALPHA_MODES or "transparency" in image.info:
        rgba = image.convert("RGBA")
        colour = rgba.convert("L") if image.mode == "LA" else rgba.convert("RGB")
        return colour, np.asarray(rgba.getchannel("A"))
    if image.mode in ("L", "RGB", "CMYK"):
        return image, None
    return image.convert("L" if image.mode == "1" else "RGB"), None


def _is_broken(header: PhotoHeader) -> bool:
    if header.icc is None:
        return False
    mode = "CMYK" if header.mode == "CMYK" else "L" if header.mode in GREY_MODES else "RGB"
    try:
        to_srgb(Image.new(mode, (1, 1)), header.icc)
    except BrokenProfileError:
        return True
    return False
