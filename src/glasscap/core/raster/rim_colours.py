"""Colours of an object without what shines through its soft rim.

Germer, Uelwer, Conrad, Harmeling, "Fast Multi-Level Foreground Estimation", ICPR 2020: object and surroundings
are estimated together from coarse to fine; each level begins with the last one's colours.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes, Plane

# The paper's parameters: regularisation, and rounds at levels up to 32 px and above.
_EVENNESS, _SMALL, _SMALL_ROUNDS, _LARGE_ROUNDS = 1e-5, 32, 10, 2
Floats = NDArray[np.float32]


def object_colours(rgb: Bytes, alpha: Plane) -> Bytes:
    """Return the object's own colours.

    Parameters
    ----------
    rgb : uint8 array, shape (h, w, 3)
    alpha : float32 array, shape (h, w), 0 to 1

    Returns
    -------
    uint8 array, shape (h, w, 3)
        Meant for pixels where alpha is above 0; elsewhere the nearest colours of the object run on.
    """
    height, width = alpha.shape
    picture = rgb.astype(np.float32) / 255
    levels = max(int(np.ceil(np.log2(max(height, width)))), 1)
    colours = np.zeros((1, 1, 6), np.float32)
    share = alpha.ravel()
    for first, weight in ((0, share), (3, 1 - share)):
        total = max(float(weight.sum()), 1e-6)
        colours[0, 0, first : first + 3] = (picture.reshape(-1, 3) * weight[:, None]).sum(axis=0) / total
    for level in range(levels + 1):
        size = tuple(max(1, round(side ** (level / levels))) for side in (width, height))
        small = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
        thin = np.asarray(cv2.resize(alpha, size, interpolation=cv2.INTER_AREA), np.float32)
        colours = _nearest(colours, size)
        rounds = _SMALL_ROUNDS if max(size) <= _SMALL else _LARGE_ROUNDS
        for _ in range(rounds):
            colours = _smoothed(colours, small.reshape(size[1], size[0], 3), thin.reshape(size[1], size[0]))
    return np.asarray(np.floor(colours[..., :3] * 255 + 0.5), np.uint8)


def _nearest(colours: Floats, size: tuple[int, int]) -> Floats:
    height, width = colours.shape[:2]
    ys = (np.arange(size[1]) * height) // size[1]
    xs = (np.arange(size[0]) * width) // size[0]
    return np.asarray(colours[ys][:, xs], np.float32)


def _smoothed(colours: Floats, picture: Floats, alpha: Plane) -> Floats:
    """Return colours of object (0 to 2) and surroundings (3 to 5) that agree with picture and neighbours."""
    rest = 1 - alpha
    own, crossed, other = alpha * alpha, alpha * rest, rest * rest
    right = np.concatenate([alpha[..., None] * picture, rest[..., None] * picture], axis=-1)
    padded = np.pad(colours, ((1, 1), (1, 1), (0, 0)), mode="edge")
    beside = np.pad(alpha, 1, mode="edge")
    height, width = alpha.shape
    for dy, dx in ((0, 1), (2, 1), (1, 0), (1, 2)):
        here = np.s_[dy : dy + height, dx : dx + width]
        pull = _EVENNESS + np.abs(alpha - beside[here])
        own, other = own + pull, other + pull
        right = right + pull[..., None] * padded[here]
    scale = 1 / (own * other - crossed * crossed)
    first = (other[..., None] * right[..., :3] - crossed[..., None] * right[..., 3:]) * scale[..., None]
    second = (own[..., None] * right[..., 3:] - crossed[..., None] * right[..., :3]) * scale[..., None]
    return np.asarray(np.clip(np.concatenate([first, second], axis=-1), 0, 1), np.float32)
