"""Colours proposed from a picture: the centres of its clusters, most frequent first."""

import cv2
import numpy as np

from glasscap.core.raster.pixels import Bytes

_SIDE = 48
_ROUNDS = 12


def proposed_colours(rgba: Bytes, count: int) -> tuple[tuple[int, int, int], ...]:
    """Return up to `count` colours that stand for a picture.

    Parameters
    ----------
    rgba : uint8 array, shape (h, w, 4), straight alpha
    count : int

    Returns
    -------
    tuple of (red, green, blue)
        k-means centres begun from the farthest points, so that the same picture gives the same colours.
    """
    small = cv2.resize(rgba, (_SIDE, _SIDE), interpolation=cv2.INTER_AREA).reshape(-1, 4).astype(float)
    points = small[small[:, 3] >= 128, :3]
    if len(points) == 0:
        return ()
    centres = _farthest(points, count)
    for _ in range(_ROUNDS):
        nearest = ((points[:, None] - centres[None]) ** 2).sum(axis=2).argmin(axis=1)
        kept = [points[nearest == n].mean(axis=0) for n in range(len(centres)) if (nearest == n).any()]
        centres = np.array(kept)
    nearest = ((points[:, None] - centres[None]) ** 2).sum(axis=2).argmin(axis=1)
    order = np.argsort(-np.bincount(nearest, minlength=len(centres)), kind="stable")
    return tuple((int(r), int(g), int(b)) for r, g, b in np.floor(centres[order] + 0.5))


def _farthest(points: np.ndarray, count: int) -> np.ndarray:
    chosen = [points[np.argmin(((points - points.mean(axis=0)) ** 2).sum(axis=1))]]
    away = ((points - chosen[0]) ** 2).sum(axis=1)
    while len(chosen) < count and away.max() > 1:
        chosen.append(points[int(away.argmax())])
        away = np.minimum(away, ((points - chosen[-1]) ** 2).sum(axis=1))
    return np.array(chosen)
