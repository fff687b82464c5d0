"""Decoding by the picture library with no more memory than the pixels need."""

from typing import Any

import cv2
import numpy as np
from PIL import Image

from glasscap.core.errors import PhotoError
from glasscap.core.formats import avif_process
from glasscap.core.formats.orientation import TAG
from glasscap.core.formats.photo_header import DECODER_FAULTS, open_lazily
from glasscap.core.formats.row_bands import bands
from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.own_process import GaveUpError

# These are stored by the library as four bytes a px, as our pixels are.
_FOUR_BYTES = ("RGB", "RGBA")


def load(data: bytes, name: str) -> Bytes | Image.Image:
    """Decode a picture: RGBA of shape (height, width, 4) where that takes no copy, else a picture of its mode.

    Raises PhotoError if the file is damaged.
    """
    image: Any = open_lazily(data, name)
    try:
        if image.format == "WEBP" and image.n_frames == 1:
            return _webp(data)
        image.seek(0)
        # A TIFF that lies on its side is turned by the library, into a picture of its own.
        is_turned = image.format == "TIFF" and image.getexif().get(TAG, 1) != 1
        if image.mode not in _FOUR_BYTES or "transparency" in image.info or image.format == "WEBP" or is_turned:
            image.load()
            return image  # type: ignore[no-any-return]
        width, height = image.size
        rgba = np.empty((height, width, 4), np.uint8)
        if image.format == "AVIF" and width * height > avif_process.LARGE_PX:
            avif_process.decode(data, image.mode, rgba)
            return rgba
        # The decoder writes into our array; a copy of what it would take itself is not made.
        own = Image.core.map_buffer(rgba, image.size, "raw", 0, (image.mode, 0, 1))  # type: ignore[attr-defined]
        image.im = own
        image.load()
    except GaveUpError as error:
        raise PhotoError(
            name, f"it cannot be read ({error})", "close other programs, or fetch it anew"
        ) from error
    except DECODER_FAULTS as error:
        raise PhotoError(name, f"the file is cut short or damaged ({error})", "fetch it anew") from error
    if image.im is not own:
        # The library put another picture in its place.
        return image  # type: ignore[no-any-return]
    if image.mode == "RGB":
        rgba[..., 3] = 255
    return rgba


def _webp(data: bytes) -> Bytes:
    """Decode a still WebP file; OSError if it is damaged."""
    found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    if found is None:
        raise OSError("it cannot be decoded")
    height, width, channels = found.shape
    has_alpha = channels == 4
    rgba = found if has_alpha else np.empty((height, width, 4), np.uint8)
    turned = cv2.COLOR_BGRA2RGBA if has_alpha else cv2.COLOR_BGR2RGBA
    for rows in bands(height, width):
        rgba[rows] = cv2.cvtColor(found[rows], turned)
    return rgba  # type: ignore[return-value]
