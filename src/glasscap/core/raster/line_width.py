"""The width of a line in a photo, from the colours met on the way across it."""

import cv2
import numpy as np

from glasscap.core.geometry.outline import Points
from glasscap.core.raster.pixels import Bytes

# Photo px.
_SOFT = 0.8
# A step of colour smaller than this (levels, along the way) is no edge.
_FAINTEST = 2.0


def colours_along(rgba: Bytes, start: tuple[float, float], end: tuple[float, float], count: int) -> Points:
    """Return `count` colours met on a straight way through a photo, px; shape (count, 3)."""
    share = np.linspace(0, 1, count)
    x = (start[0] + (end[0] - start[0]) * share - 0.5).astype(np.float32)[None, :]
    y = (start[1] + (end[1] - start[1]) * share - 0.5).astype(np.float32)[None, :]
    height, width = rgba.shape[:2]
    x0, x1 = max(int(x.min()) - 2, 0), min(int(x.max()) + 3, width)
    y0, y1 = max(int(y.min()) - 2, 0), min(int(y.max()) + 3, height)
    if x1 <= x0 or y1 <= y0:
        return np.zeros((count, 3))
    part = np.ascontiguousarray(rgba[y0:y1, x0:x1, :3])
    found = cv2.remap(part, x - x0, y - y0, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(found[0], np.float64)


def width_across(colours: Points, length: float, photo_length: float) -> float | None:
    """Return how wide the line is that a way crosses, or None if it crosses none.

    `length` is the way's in the unit wanted, `photo_length` the same in photo px.
    The two strongest edges at which the colour changes one way and back are taken, each to a fraction of a
    sample by the parabola through its neighbours.
    """
    count = len(colours)
    if count < 8:
        return None
    # Interpolated pixels change in steps a pixel long: smoothed away before the change is looked at.
    soft = max(_SOFT * count / max(photo_length, 1e-6), 1.0)
    smooth = cv2.GaussianBlur(
        colours.astype(np.float32), (1, 0), sigmaX=0.01, sigmaY=soft, borderType=cv2.BORDER_REPLICATE
    )
    change = np.gradient(smooth, axis=0)
    strength = np.hypot(np.hypot(change[:, 0], change[:, 1]), change[:, 2])
    inner = strength[1:-1]
    peaks = 1 + np.flatnonzero((inner >= strength[:-2]) & (inner > strength[2:]) & (inner >= _FAINTEST))
    best, width = 0.0, None
    for n, first in enumerate(peaks):
        for second in peaks[n + 1 :]:
            both = min(float(strength[first]), float(strength[second]))
            if both > best and float(np.dot(change[first], change[second])) < 0:
                best = both
                samples = _peak(strength, int(second)) - _peak(strength, int(first))
                width = samples * length / (count - 1)
    return width


def _peak(values: np.ndarray, index: int) -> float:
    left, middle, right = (float(values[index + k]) for k in (-1, 0, 1))
    bend = left - 2 * middle + right
    return index + (0.5 * (left - right) / bend if bend < 0 else 0.0)
