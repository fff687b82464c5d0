"""Premultiplied pixels as four float planes: red, green, blue, alpha, each 0 to 255."""

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes

Plane = NDArray[np.float32]
Planar = NDArray[np.float32]


def planar_of(rgba: Bytes, *, is_premultiplied: bool, is_opaque: bool) -> Planar:
    """Return uint8 RGBA of shape (h, w, 4) as planes, shape (4, h, w)."""
    height, width = rgba.shape[:2]
    out = np.empty((4, height, width), np.float32)
    for channel in range(3 if is_opaque else 4):
        out[channel] = rgba[..., channel]
    if is_opaque:
        out[3] = 255.0
    elif not is_premultiplied:
        out[:3] *= out[3] * np.float32(1 / 255)
    return out


def lay_under(top: Planar, below: Planar) -> None:
    """Put `below` beneath `top`, in place: top + (1 - alpha_top) below (Porter-Duff over)."""
    rest = 1 - top[3] * np.float32(1 / 255)
    for channel in range(4):
        top[channel] += below[channel] * rest


def premultiplied_bytes(planes: Planar) -> Bytes:
    """Return planes as premultiplied uint8 RGBA, shape (h, w, 4)."""
    stacked = cv2.merge([planes[0], planes[1], planes[2], planes[3]])
    return np.asarray(cv2.convertScaleAbs(stacked))


def straight_bytes(planes: Planar) -> Bytes:
    """Return planes as straight uint8 RGBA, shape (h, w, 4), round half up; colour is 0 where alpha is 0."""
    alpha = planes[3]
    levels = alpha + np.float32(0.5)
    np.minimum(levels, np.float32(255.5), out=levels)
    seen = levels >= 1
    # A hair above the exact quotient, so that halves are not lost to single precision.
    factor = np.divide(np.float32(255.00001), alpha, out=np.zeros_like(alpha), where=seen)
    out = np.empty((*alpha.shape, 4), np.uint8)
    for channel in range(3):
        values = planes[channel] * factor
        values += np.float32(0.5)
        np.minimum(values, np.float32(255.5), out=values)
        out[..., channel] = values
    out[..., 3] = levels
    return out
