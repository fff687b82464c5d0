"""Photo adjustments: exposure, contrast, saturation, warmth on decoded pixels; never on the photo."""

from functools import lru_cache

import cv2
import numpy as np

from glasscap.core.document.model.finishes import Adjustments
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.srgb import srgb_encoded, srgb_linear

# Rec. 709 luma weights, as CSS Filter Effects 1 uses them for `saturate()`.
_LUMA = (0.2126, 0.7152, 0.0722)


@lru_cache(maxsize=16)
def level_table(adjustments: Adjustments) -> Bytes:
    """Return what becomes of each level of red, green and blue, uint8 of shape (256, 3).

    Exposure and warmth multiply linear light; contrast turns encoded values about the middle grey 0.5 by the
    factor 1 + c/100 (above 0: 1 / (1 - c/100), up to 8).
    """
    light = srgb_linear(np.arange(256) / 255)[:, None] * 2.0**adjustments.exposure_ev
    warm = adjustments.warmth / 100
    # Red and blue by up to two thirds of a step against each other.
    light = light * np.array([2.0 ** (warm * 0.33), 1.0, 2.0 ** (-warm * 0.66)])
    c = adjustments.contrast / 100
    factor = 1 + c if c <= 0 else min(1 / max(1 - c, 0.125), 8.0)
    values = (srgb_encoded(light) - 0.5) * factor + 0.5
    return np.floor(np.clip(values, 0, 1) * 255 + 0.5).astype(np.uint8)


def adjusted(rgba: Bytes, adjustments: Adjustments) -> Bytes:
    """Return straight (or opaque) uint8 RGBA of shape (h, w, 4) with all but the blur applied."""
    if rgba.size == 0:
        return rgba
    table = np.empty((256, 1, 4), np.uint8)
    table[:, 0, :3] = level_table(adjustments)
    table[:, 0, 3] = np.arange(256)
    out: Bytes = np.asarray(cv2.LUT(np.ascontiguousarray(rgba), table))
    if adjustments.saturation == 0:
        return out
    s = 1 + adjustments.saturation / 100
    matrix = np.zeros((4, 4), np.float32)
    matrix[:3, :3] = np.eye(3) * s + (1 - s) * np.array(_LUMA)[None, :]
    matrix[3, 3] = 1
    cv2.transform(out, matrix, dst=out)
    return out
