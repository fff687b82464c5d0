"""A place of a mock-up: a backdrop, surfaces that take a picture, the light on them, what stands before."""

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.document.model.mockups import Corners
from glasscap.core.raster.pixels import Bytes


class Surface(Struct, frozen=True):
    """A flat piece: its corners in px of the backdrop, and which part (u0, v0, u1, v1) of the frame it shows."""

    corners: Corners
    part: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)


class Place(Struct, frozen=True, eq=False):
    """A stand-in place.

    Attributes
    ----------
    key, label : str
    aspect : float
        Width over height of the frame the surfaces make together.
    surfaces : tuple of Surface
    backdrop : uint8 array, shape (h, w, 4), opaque
    light : float32 array of any size, or None
        What colours are multiplied by, laid over the backdrop.
    mask : float32 array, shape (h, w), or None
        How much of the picture shows, 0 to 1: what stands before it is left out.
    bend : float32 array, shape (rows, columns, 2), or None
        By how much (in shares of the frame) the picture is shifted, a smooth field laid over the backdrop.
    """

    key: str
    label: str
    aspect: float
    surfaces: tuple[Surface, ...]
    backdrop: Bytes
    light: NDArray[np.float32] | None = None
    mask: NDArray[np.float32] | None = None
    bend: NDArray[np.float32] | None = None

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        height, width = self.backdrop.shape[:2]
        return width, height


def frame_aspect(corners: Corners) -> float:
    """Return width over height of a quadrilateral by the means of its opposite sides."""
    quad = np.asarray(corners, float)
    sides = np.hypot(*(np.roll(quad, -1, axis=0) - quad).T)
    return float((sides[0] + sides[2]) / (sides[1] + sides[3]))
