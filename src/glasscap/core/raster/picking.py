"""Picking from long arrays, and stretches of entries that belong together, the quick way."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox


def kept(flags: NDArray[np.bool_], *arrays: NDArray[Any]) -> tuple[NDArray[Any], ...]:
    """Return what is kept of each array, shape (n,): by places, the quicker way where flags follow no pattern."""
    places = np.flatnonzero(flags)
    return tuple(array[places] for array in arrays)


def box_of_pixels(ys: Ints, xs: Ints) -> PixelBox:
    """Return the smallest box that holds single pixels, at least one."""
    return PixelBox(int(xs.min()), int(ys.min()), int(xs.max()) + 1, int(ys.max()) + 1)


def starts_of_runs(keys: Ints) -> Ints:
    """Return where stretches of equal keys start, of keys of shape (n,)."""
    is_first = np.ones(len(keys), np.bool_)
    np.not_equal(keys[1:], keys[:-1], out=is_first[1:])
    return np.flatnonzero(is_first)


def ends_of(starts: Ints, count: int) -> Ints:
    """Return where stretches that follow one another end, the last at `count`."""
    ends = np.empty_like(starts)
    ends[:-1] = starts[1:]
    ends[-1:] = count
    return ends
