"""Writing PNG (W3C PNG Specification, Third Edition): RGBA of 8 or 16 bits a channel, fast or small."""

import struct
import zlib
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from isal import isal_zlib
from msgspec import Struct

from glasscap.core.errors import ExportError
from glasscap.core.formats.png_chunks import (
    SIGNATURE,
    TRUECOLOUR_WITH_ALPHA,
    chunk,
    colour_chunks,
    end_chunk,
    header_chunk,
    side_chunks,
)
from glasscap.core.formats.png_filters import adaptive_filtered, up_filter_room, up_filtered
from glasscap.core.raster.pixels import Bytes, Levels
from glasscap.core.work.threads import workers
from glasscap.core.work.ticket import no_progress

# Filtered rows are packed while the processor's own memory still holds them.
_BAND_BYTES = 1 << 20
_MIN_SPLIT_BYTES = 1 << 20
_ADLER_BASE = 65521
_ZLIB_FASTEST = b"\x78\x01"


class PngOptions(Struct, frozen=True):
    """Options of a PNG: `is_small` trades time for size; density, profile and metadata are stored when given."""

    is_small: bool = False
    pixels_per_inch: float | None = None
    icc: bytes = b""
    exif: bytes = b""


def write_png(
    rgba: Levels, options: PngOptions | None = None, progress: Callable[[float], None] = no_progress
) -> bytes:
    """Encode straight RGBA of shape (height, width, 4), uint8 or uint16, as a PNG file.

    `progress` is called with the share done (0 to 1), possibly from other threads; it may raise to stop.
    Raises ExportError for a picture without pixels.
    """
    options = options or PngOptions()
    height, width = rgba.shape[:2]
    if width == 0 or height == 0:
        raise ExportError("The picture", "nothing of it is visible", "check inset, opacity and place")
    rows, bits = _as_bytes(rgba)
    packed = deflated_small(rows, progress) if options.is_small else _deflated_fast(rows, progress)
    return b"".join(
        [
            SIGNATURE,
            header_chunk(width, height, bits, TRUECOLOUR_WITH_ALPHA),
            *colour_chunks(options.icc),
            *side_chunks(options.pixels_per_inch, options.exif),
            *(chunk(b"IDAT", part) for part in packed if part),
            end_chunk(),
        ]
    )


def _as_bytes(rgba: Levels) -> tuple[Bytes, int]:
    """Return pixels as bytes in network order, shape (h, w, bytes a pixel), and bits a channel."""
    if rgba.dtype == np.uint8:
        return np.asarray(rgba, np.uint8), 8
    return rgba.astype(">u2").view(np.uint8).reshape(*rgba.shape[:2], 8), 16


def _deflated_fast(rgba: Bytes, progress: Callable[[float], None]) -> list[bytes]:
    """Return a zlib stream in parts: of large pictures two raw-deflate halves joined by a full flush.

    As RFC 1950 and RFC 1951 have it.
    """
    height = len(rgba)
    if rgba.nbytes < _MIN_SPLIT_BYTES or height < 2:
        packer = _packer(with_header=True)
        return [*map(packer.compress, _filtered(rgba, (0, height), progress)), packer.flush()]
    middle = height // 2

    def pack(span: tuple[int, int]) -> tuple[list[bytes], int, int]:
        return _deflate_rows(rgba, span, is_last=span[1] == height, progress=progress)

    with workers("pack", 2) as pool:
        halves = list(pool.map(pack, [(0, middle), (middle, height)]))
    check = 1
    for _, adler, length in halves:
        check = adler32_combined(check, adler, length)
    return [_ZLIB_FASTEST, *(part for packed, _, _ in halves for part in packed), struct.pack(">I", check)]


def _packer(*, with_header: bool = False) -> Any:
    return isal_zlib.compressobj(1, isal_zlib.DEFLATED, 15 if with_header else -15)


def _deflate_rows(
    rgba: Bytes, span: tuple[int, int], *, is_last: bool, progress: Callable[[float], None]
) -> tuple[list[bytes], int, int]:
    packer = _packer()
    parts: list[bytes] = []
    check, length = 1, 0
    for filtered in _filtered(rgba, span, progress):
        check = isal_zlib.adler32(filtered, check)
        length += filtered.nbytes
        parts.append(packer.compress(filtered))
    parts.append(packer.flush() if is_last else packer.flush(isal_zlib.Z_FULL_FLUSH))
    return parts, check, length


def _filtered(rgba: Bytes, span: tuple[int, int], progress: Callable[[float], None]) -> Iterator[Bytes]:
    """Yield rows under filter 2, band by band, each in the memory of the one before."""
    bands = list(_bands(rgba, *span))
    room = up_filter_room(rgba, bands[0][1] - bands[0][0])
    for y0, y1 in bands:
        yield up_filtered(rgba, y0, y1, room[: y1 - y0])
        progress(y1 / len(rgba))


def _bands(rgba: Bytes, y0: int, y1: int) -> Iterator[tuple[int, int]]:
    rows = max(_BAND_BYTES // rgba[0].nbytes, 1)
    for y in range(y0, y1, rows):
        yield y, min(y + rows, y1)


def adler32_combined(first: int, second: int, second_length: int) -> int:
    """Return the Adler-32 of two strings joined, from theirs (RFC 1950; as zlib's adler32_combine).

    Examples
    --------
    >>> adler32_combined(zlib.adler32(b"kiln "), zlib.adler32(b"trail"), 5) == zlib.adler32(b"kiln trail")
    True
    """
    a1, b1 = first & 0xFFFF, first >> 16
    a2, b2 = second & 0xFFFF, second >> 16
    low = (a1 + a2 - 1) % _ADLER_BASE
    high = (b1 + b2 + second_length * (a1 - 1)) % _ADLER_BASE
    return high << 16 | low


def deflated_small(rgba: Bytes, progress: Callable[[float], None]) -> list[bytes]:
    """Return a zlib stream of best-filtered rows, in parts."""
    packer = zlib.compressobj(9, zlib.DEFLATED, 15, 9)
    parts = []
    for y0, y1 in _bands(rgba, 0, len(rgba)):
        parts.append(packer.compress(np.ascontiguousarray(adaptive_filtered(rgba, y0, y1)).data))
        progress(y1 / len(rgba))
    return [b"".join([*parts, packer.flush()])]
