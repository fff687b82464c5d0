"""The Gaussian of a plane, by its samples at whole pixels."""

import math
from collections.abc import Callable
from typing import TypeVar

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.aside import Aside

Pixels = TypeVar("Pixels", NDArray[np.float32], NDArray[np.uint8])

# How far a Gaussian is sampled, in sigmas.
_REACH = 4.0
# Sampled at whole pixels a Gaussian narrower than this (px) loses width; three taps of its variance do not.
_SAMPLED = 0.7
# Planes of fewer cells are blurred sooner than a half of them is handed over.
_SHARED_CELLS = 150_000
# A Gaussian narrower than this (px) changes no level.
NARROWEST = 0.05


def reach(sigma: float) -> int:
    """Return how far a blur is felt, px: what lies beyond is under 1e-4."""
    return math.ceil(_REACH * sigma) + 2


def blurred(plane: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    """Return a plane blurred by a Gaussian of `sigma` of its own pixels, zero beyond its border."""
    if sigma < NARROWEST:
        return plane
    kernel = gaussian_kernel(sigma)

    def filtered(part: NDArray[np.float32]) -> NDArray[np.float32]:
        found = cv2.sepFilter2D(part, cv2.CV_32F, kernel, kernel, borderType=cv2.BORDER_CONSTANT)
        return np.asarray(found, np.float32)

    return _in_halves(filtered, plane, len(kernel) // 2)


def blurred_bytes(pixels: NDArray[np.uint8], sigma: float) -> NDArray[np.uint8]:
    """Return uint8 pixels, shape (h, w, channels), so blurred, their border repeated, round half up."""
    kernel = gaussian_kernel(sigma)

    def filtered(part: NDArray[np.uint8]) -> NDArray[np.uint8]:
        found = cv2.sepFilter2D(part, cv2.CV_8U, kernel, kernel, borderType=cv2.BORDER_REPLICATE)
        return np.asarray(found, np.uint8)

    return _in_halves(filtered, pixels, len(kernel) // 2)


def _in_halves(work: Callable[[Pixels], Pixels], plane: Pixels, far: int) -> Pixels:
    """Return what a filter makes of a plane; of a large one, a half each for two processors.

    Each has as many rows (`far`) of the other as are felt.
    """
    if plane.size < _SHARED_CELLS or len(plane) < 4 * far + 2:
        return work(plane)
    middle, out = len(plane) // 2, np.empty_like(plane)

    def lower() -> None:
        out[middle:] = work(plane[middle - far :])[far:]

    with Aside() as aside:
        aside.begin(lower, plane.nbytes)
        out[:middle] = work(plane[: middle + far])[:middle]
    return out


def gaussian_kernel(sigma: float) -> NDArray[np.float64]:
    """Return the Gaussian at whole pixels, normalised, shape (2 n + 1,)."""
    if sigma < _SAMPLED:
        side = sigma * sigma / 2
        return np.array([side, 1 - 2 * side, side])
    count = math.ceil(_REACH * sigma)
    values = np.exp(-(np.arange(-count, count + 1.0) ** 2) / (2 * sigma * sigma))
    return np.asarray(values / values.sum())
