"""Colour carried into transparent pixels, so that programs that filter straight alpha draw no dark fringe."""

import cv2
import numpy as np

from glasscap.core.raster.pixels import Levels


def carried(rgba: Levels, px: int) -> Levels:
    """Return straight RGBA whose fully transparent pixels have the colour of the nearest visible one.

    Parameters
    ----------
    rgba : uint8 or uint16 array, shape (h, w, 4)
    px : int
        How far the colour runs on; alpha stays 0, what lies further keeps its zeros.
    """
    if px <= 0:
        return rgba
    is_clear = rgba[..., 3] == 0
    if not is_clear.any() or is_clear.all():
        return rgba
    distance, labels = cv2.distanceTransformWithLabels(
        is_clear.astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL
    )
    visible = ~is_clear
    owner = np.zeros(int(labels.max()) + 1, np.int64)
    owner[labels[visible]] = np.flatnonzero(visible)
    wanted = is_clear & (distance <= px)
    out = rgba.copy()
    out[wanted, :3] = rgba.reshape(-1, 4)[owner[labels[wanted]], :3]
    return out
