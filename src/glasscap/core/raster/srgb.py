"""The curve of sRGB (IEC 61966-2-1), which Display P3 shares."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def srgb_linear(level: Floats) -> Floats:
    """Return linear light of encoded values, 0 to 1."""
    return np.where(level <= 0.04045, level / 12.92, ((level + 0.055) / 1.055) ** 2.4)


def srgb_encoded(light: Floats) -> Floats:
    """Return encoded values of linear light, clipped to 0 to 1."""
    light = np.clip(light, 0, 1)
    return np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)
