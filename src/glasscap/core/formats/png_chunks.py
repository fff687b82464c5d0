"""Chunks of a PNG file (W3C PNG Specification, Third Edition): what is said of the pixels."""

import struct
import zlib

from isal import isal_zlib

SIGNATURE = b"\x89PNG\r\n\x1a\n"
TRUECOLOUR_WITH_ALPHA, INDEXED = 6, 3
_METRES_PER_INCH = 0.0254


def chunk(kind: bytes, body: bytes) -> bytes:
    """Return a chunk: length, kind, body, CRC."""
    check = isal_zlib.crc32(body, isal_zlib.crc32(kind))
    return b"".join((struct.pack(">I", len(body)), kind, body, struct.pack(">I", check)))


def header_chunk(width: int, height: int, bits: int, colour_type: int) -> bytes:
    """Return IHDR of a picture that is not interlaced."""
    return chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, bits, colour_type, 0, 0, 0))


def colour_chunks(icc: bytes = b"") -> list[bytes]:
    """Return the profile, or sRGB with its recommended gAMA and cHRM (PNG specification, 11.3.2.5)."""
    if icc:
        return [chunk(b"iCCP", b"ICC profile\0\0" + zlib.compress(icc, 9))]
    primaries = (31270, 32900, 64000, 33000, 30000, 60000, 15000, 6000)
    return [
        chunk(b"gAMA", struct.pack(">I", 45455)),
        chunk(b"cHRM", struct.pack(">8I", *primaries)),
        chunk(b"sRGB", b"\0"),
    ]


def side_chunks(pixels_per_inch: float | None, exif: bytes = b"") -> list[bytes]:
    """Return density and metadata, where there are any."""
    made = []
    if pixels_per_inch is not None:
        per_metre = round(pixels_per_inch / _METRES_PER_INCH)
        made.append(chunk(b"pHYs", struct.pack(">IIB", per_metre, per_metre, 1)))
    if exif:
        made.append(chunk(b"eXIf", exif.removeprefix(b"Exif\0\0")))
    return made


def end_chunk() -> bytes:
    """Return IEND."""
    return chunk(b"IEND", b"")
