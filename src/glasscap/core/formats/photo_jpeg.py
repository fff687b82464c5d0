"""JPEG decoding by libjpeg-turbo; CMYK goes another way."""

import numpy as np
import simplejpeg

from glasscap.core.errors import PhotoError
from glasscap.core.raster.pixels import Bytes

_PLAIN = ("YCbCr", "RGB", "Gray")


def has_plain_colour(data: bytes) -> bool:
    """Whether the file holds grey, RGB or YCbCr (not CMYK)."""
    try:
        return simplejpeg.decode_jpeg_header(data)[2] in _PLAIN
    except ValueError:
        return False


def decode_jpeg(data: bytes, name: str, *, fraction: int = 1) -> Bytes:
    """Decode to RGBA, shape (height, width, 4), at 1/`fraction` of the size (1, 2, 4, 8).

    Raises
    ------
    PhotoError
        If the file is truncated or damaged.
    """
    try:
        if fraction == 1:
            return np.asarray(simplejpeg.decode_jpeg(data, "RGBA"))
        height, width, *_ = simplejpeg.decode_jpeg_header(data)
        return np.asarray(
            simplejpeg.decode_jpeg(
                data,
                "RGBA",
                fastdct=True,
                fastupsample=True,
                min_height=-(-height // fraction),
                min_width=-(-width // fraction),
                min_factor=1,
            )
        )
    except ValueError as error:
        raise PhotoError(name, f"the file is cut short or damaged ({error})", "fetch it anew") from error
