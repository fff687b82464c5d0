"""Planes whose values spread or shrink by a disc: grey dilation and erosion (Serra 1982), linear in the radius.

A disc is a stack of rows. The largest of a stretch of a row is that of two stretches of a power of two (as in a
sparse table for range maxima), so each row of the disc takes a few passes, however long it is.
"""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

Levels = NDArray[np.uint8 | np.uint16]


def spread_by(plane: NDArray[np.float32], by: float, *, is_in_bytes: bool = False) -> NDArray[np.float32]:
    """Return a plane whose values spread (or, negative, shrink) by a disc of `by` px; beyond its border it is 0.

    Between two whole radii their mean is taken in proportion, which moves a straight edge by just that.

    Parameters
    ----------
    plane : float32 array, shape (h, w)
        0 to 1.
    by : float
        px.
    is_in_bytes : bool
        Whether values may be off by half of 1 / 255, the quicker way; else by half of 1 / 65535.

    Returns
    -------
    float32 array, shape (h, w)
    """
    out, reach = np.zeros_like(plane), max(math.ceil(by), 0)
    x, y, columns, rows = cv2.boundingRect((plane > 0).view(np.uint8))
    if rows:
        here = np.s_[max(y - reach, 0) : y + rows + reach, max(x - reach, 0) : x + columns + reach]
        out[here] = _spread(plane[here], by, 255 if is_in_bytes else 65535)
    return out


def _spread(plane: NDArray[np.float32], by: float, most: int) -> NDArray[np.float32]:
    whole = math.floor(abs(by))
    rest = abs(by) - whole
    # What shrinks is what is not there spreading.
    sign, nothing = (-1, most) if by < 0 else (1, 0)
    levels = _rounded(plane, sign * most, nothing, most)
    near, far = (_dilated(levels, radius, nothing) for radius in (whole, whole + bool(rest)))
    shares = (sign * (1 - rest) / most, sign * rest / most)
    found = cv2.addWeighted(near, shares[0], far, shares[1], nothing / most, dtype=cv2.CV_32F)
    return np.asarray(found, np.float32)


def _rounded(plane: NDArray[np.float32], factor: float, offset: float, most: int) -> Levels:
    """Return values times a factor, and more, as whole numbers up to `most`, in one pass."""
    kind, depth = (np.uint8, cv2.CV_8U) if most == 255 else (np.uint16, cv2.CV_16U)
    return np.asarray(cv2.addWeighted(plane, factor, plane, 0, offset, dtype=depth), kind)


def _dilated(levels: Levels, radius: int, beyond: int) -> Levels:
    """Return the largest level within a disc about each pixel."""
    if radius == 0:
        return levels
    height, width = levels.shape
    # The largest of so many levels from each place on.
    border = (radius, radius, radius, radius)
    largest = np.asarray(cv2.copyMakeBorder(levels, *border, cv2.BORDER_CONSTANT, value=(beyond,)), levels.dtype)
    length = 1
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
