"""The orientation tag (EXIF 2.32, tag 0x0112) applied to pixels."""

import numpy as np

from glasscap.core.raster.pixels import Bytes

TAG = 0x0112


def upright(pixels: Bytes, orientation: int) -> Bytes:
    """Return pixels as they are to be seen; shape (height, width, ...).

    Values 1 to 8 as in EXIF: 2 mirrored left to right, 3 turned by 180 degrees, 4 mirrored top to bottom,
    5 transposed, 6 to be turned clockwise, 7 transposed across, 8 to be turned anticlockwise. Any other
    value is taken as 1.
    """
    if orientation in (5, 6, 7, 8):
        pixels = pixels.swapaxes(0, 1)
    if orientation in (2, 3, 6, 7):
        pixels = pixels[:, ::-1]
    if orientation in (3, 4, 7, 8):
        pixels = pixels[::-1]
    return np.ascontiguousarray(pixels)


def upright_size(width: int, height: int, orientation: int) -> tuple[int, int]:
    """Return (width, height) as seen."""
    return (height, width) if orientation in (5, 6, 7, 8) else (width, height)
