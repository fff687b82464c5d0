"""PNG and TIFF with 16 bits per channel, reduced to 8 with correct rounding."""

import struct

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.errors import PhotoError
from glasscap.core.formats.png_chunks import SIGNATURE
from glasscap.core.formats.row_bands import bands
from glasscap.core.raster.pixels import Bytes


def to_8_bit(values: NDArray[np.uint16]) -> Bytes:
    """Return round(v / 257) of 16-bit values (65535 / 255 = 257), the nearest 8-bit level.

    Examples
    --------
    >>> to_8_bit(np.array([0, 128, 129, 65535], np.uint16)).tolist()
    [0, 0, 1, 255]
    """
    return ((values.astype(np.uint32) + 128) // 257).astype(np.uint8)


def decode_deep(data: bytes, name: str) -> Bytes:
    """Decode a 16-bit picture to 8-bit RGBA, shape (height, width, 4).

    Raises
    ------
    PhotoError
        If the file is damaged or holds another kind of numbers.
    """
    try:
        found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    except cv2.error as error:
        raise PhotoError(name, "the file is cut short or damaged", "fetch it anew") from error
    if found is None:
        raise PhotoError(name, "the file is cut short or damaged", "fetch it anew")
    if found.dtype != np.uint16:
        kind = f"it holds {found.dtype} numbers"
        raise PhotoError(name, kind, "save it with 8 or 16 bits per channel")
    deep = np.asarray(found if found.ndim == 3 else found[..., None], np.uint16)
    height, width, channels = deep.shape
    out = np.full((height, width, 4), 255, np.uint8)
    for rows in bands(height, width):
        levels = to_8_bit(deep[rows])
        out[rows, :, :3] = levels[..., :1] if channels in (1, 2) else levels[..., 2::-1]
        if channels in (2, 4):
            out[rows, :, 3] = levels[..., -1]
    clear = _clear_grey(data) if deep.shape[2] == 1 else None
    if clear is not None:
        out[deep[..., 0] == clear] = 0
    return out


def _clear_grey(data: bytes) -> int | None:
    """Return the grey that a PNG says is clear (PNG specification, 11.3.2.1, colour type 0); None for none."""
    at = len(SIGNATURE)
    while data.startswith(SIGNATURE) and at + 8 <= len(data):
        size, kind = struct.unpack_from(">I4s", data, at)
        if kind == b"tRNS" and size == 2:
            return int.from_bytes(data[at + 8 : at + 10])
        if kind == b"IDAT":
            return None
        at += 12 + size
    return None
