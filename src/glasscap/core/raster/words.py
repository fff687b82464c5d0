"""Pixels as one number each: far quicker to pick and to write than four bytes."""

from collections.abc import Sequence
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Ints
from glasscap.core.raster.pixels import Bytes

Words = NDArray[np.uint32]
Number = TypeVar("Number", bound=np.generic)


def words(rgba: Bytes) -> Words:
    """Return pixels of shape (h, w, 4) as one number each, shape (h, w); shares memory."""
    return rgba.view(np.uint32)[..., 0]


def one_long_row(pixels: NDArray[Number]) -> tuple[NDArray[Number], int]:
    """Return numbers, shape (h, w), as one row that runs on through them, and how far apart their rows start.

    Always a view; what lies between two rows is not to be touched. Raises ValueError for a mirrored or turned
    view: no row runs through that, and what is written to a copy is lost.
    """
    height, width = pixels.shape
    if not _runs_on(pixels):
        raise ValueError("these pixels do not run on from the left to the right and downwards")
    step = pixels.strides[0] // pixels.itemsize
    count = (height - 1) * step + width if height and width else 0
    return np.lib.stride_tricks.as_strided(pixels, (count,), (pixels.itemsize,)), step


def picked(pixels: NDArray[Number], ys: Ints, xs: Ints) -> NDArray[Number]:
    """Return single ones of numbers of shape (h, w), shape (n,); what is mirrored or turned is not copied."""
    if not _runs_on(pixels):
        return np.asarray(pixels[ys, xs])
    row, step = one_long_row(pixels)
    found: NDArray[Number] = row[ys * step + xs]
    return found


def _runs_on(pixels: NDArray[Number]) -> bool:
    """Whether numbers lie row by row, from the left to the right and downwards."""
    return pixels.strides[1] == pixels.itemsize and pixels.strides[0] >= pixels.shape[1] * pixels.itemsize


def filled_with(colour: Sequence[float], shape: tuple[int, ...]) -> Bytes:
    """Return pixels of one opaque colour."""
    word = np.array(colour, np.uint8).view(np.uint32)[0]
    return np.full(shape, word).view(np.uint8).reshape(*shape, 4)
