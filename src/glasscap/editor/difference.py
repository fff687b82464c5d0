"""Where two pictures differ, and how much: a picture that shows it."""

from functools import lru_cache

import cv2
import numpy as np

from glasscap.core.raster.pixels import Bytes

# From one level to all 255, on a scale of halvings: a difference of one must be seen.
_FAINT, _MIDDLE, _STRONG = (20, 130, 120), (232, 161, 58), (192, 38, 38)
_GROUND, _DIMMED = 40, 0.3


def difference_picture(one: Bytes, other: Bytes) -> Bytes:
    """Return opaque RGBA of the shape of two premultiplied pictures, uint8 (h, w, 4).

    Pixels that are equal are a dim grey of the first; others go from teal (one level in any channel) by amber to
    red (255 levels).
    """
    away = np.asarray(cv2.absdiff(one, other)).max(axis=2)
    grey = np.asarray(cv2.cvtColor(one, cv2.COLOR_RGBA2GRAY))
    dim = np.asarray(cv2.convertScaleAbs(grey, alpha=_DIMMED, beta=_GROUND), np.uint8)
    shown = np.asarray(cv2.cvtColor(dim, cv2.COLOR_GRAY2RGBA), np.uint8)
    differs = away > 0
    shown[differs] = _ramp()[away[differs]]
    return shown


@lru_cache(1)
def _ramp() -> Bytes:
    """Return the colour of each difference, shape (256, 4)."""
    share = np.log2(np.arange(256) + 1.0) / 8
    stops = np.array([_FAINT, _MIDDLE, _STRONG], float)
    colours = [np.interp(share, (1 / 8, 0.5, 1.0), stops[:, channel]) for channel in range(3)]
    table = np.stack([*colours, np.full(256, 255.0)], axis=1)
    return np.asarray(np.floor(table + 0.5), np.uint8)
