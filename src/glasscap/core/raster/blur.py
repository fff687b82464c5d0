"""The Gaussian of a plane, by its samples at whole pixels."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

# How far a Gaussian is sampled, in sigmas.
_REACH = 4.0
# Sampled at whole pixels a Gaussian narrower than this (px) loses width; three taps of its variance do not.
_SAMPLED = 0.7
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
    found = cv2.sepFilter2D(plane, cv2.CV_32F, kernel, kernel, borderType=cv2.BORDER_CONSTANT)
    return np.asarray(found, np.float32)


def blurred_bytes(pixels: NDArray[np.uint8], sigma: float) -> NDArray[np.uint8]:
    """Return uint8 pixels, shape (h, w, channels), so blurred, their border repeated, round half up."""
    kernel = gaussian_kernel(sigma)
    found = cv2.sepFilter2D(pixels, cv2.CV_8U, kernel, kernel, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(found, np.uint8)


def gaussian_kernel(sigma: float) -> NDArray[np.float64]:
    """Return the Gaussian at whole pixels, normalised, shape (2 n + 1,)."""
    if sigma < _SAMPLED:
        side = sigma * sigma / 2
        return np.array([side, 1 - 2 * side, side])
    count = math.ceil(_REACH * sigma)
    values = np.exp(-(np.arange(-count, count + 1.0) ** 2) / (2 * sigma * sigma))
    return np.asarray(values / values.sum())
