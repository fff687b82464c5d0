"""Planes whose values spread or shrink by a disc: grey dilation and erosion (Serra 1982), linear in the radius.

A disc is a stack of rows. The largest of a stretch of a row is that of two stretches of a power of two (as in a
sparse table for range maxima), so each row of the disc takes a few passes, however long it is.
"""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

Levels = NDArray[np.uint16]
_MOST = 65535


def spread_by(plane: NDArray[np.float32], by: float) -> NDArray[np.float32]:
    """Return a plane whose values spread (or, negative, shrink) by a disc of `by` px; beyond its border it is 0.

    Between two whole radii their mean is taken in proportion, which moves a straight edge by just that.

    Parameters
    ----------
    plane : float32 array, shape (h, w)
        0 to 1.
    by : float
        px.

    Returns
    -------
    float32 array, shape (h, w), off by 1 / 65535 at most
    """
    out, reach = np.zeros_like(plane), max(math.ceil(by), 0)
    x, y, columns, rows = cv2.boundingRect((plane > 0).view(np.uint8))
    if rows:
        here = np.s_[max(y - reach, 0) : y + rows + reach, max(x - reach, 0) : x + columns + reach]
        out[here] = _spread(plane[here], by)
    return out


def _spread(plane: NDArray[np.float32], by: float) -> NDArray[np.float32]:
    whole = math.floor(abs(by))
    rest = abs(by) - whole
    levels = np.asarray(plane * np.float32(_MOST) + np.float32(0.5)).astype(np.uint16)
    if by < 0:
        np.subtract(_MOST, levels, out=levels)
    beyond = _MOST if by < 0 else 0
    near = _dilated(levels, whole, beyond).astype(np.float32)
    if rest:
        near += (_dilated(levels, whole + 1, beyond) - near) * np.float32(rest)
    near *= np.float32(1 / _MOST)
    return np.asarray(1 - near if by < 0 else near, np.float32)


def _dilated(levels: Levels, radius: int, beyond: int) -> Levels:
    """Return the largest level within a disc about each pixel."""
    if radius == 0:
        return levels
    height, width = levels.shape
    # The largest of so many levels from each place on.
    largest, length = np.pad(levels, radius, constant_values=beyond), 1
    out = np.zeros_like(levels)
    for down in range(radius, -1, -1):
        half = round(math.sqrt(radius * radius - down * down))
        while 2 * length <= 2 * half + 1:
            largest = np.maximum(largest[:, :-length], largest[:, length:])
            length *= 2
        first, second = radius - half, radius + half + 1 - length
        row = np.maximum(largest[:, first : first + width], largest[:, second : second + width])
        for top in {radius - down, radius + down}:
            np.maximum(out, row[top : top + height], out=out)
    return out
