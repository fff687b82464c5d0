"""Endless tiles: sampled anywhere, and reduced for being drawn small."""

import math

import cv2
import numpy as np

from glasscap.core.raster.pixels import Plane

# How many single pixels are sampled side by side.
_ACROSS = 1024


def reduced(tile: np.ndarray, across: float, down: float) -> np.ndarray:
    """Return an endless tile for being drawn with so many of its px to one: fewer px, each a mean of as many.

    `tile` is uint8 or float32 of any channels, its sides powers of two. Its px are joined two by two until less
    than two are drawn as one: as far as that linear sampling reaches.
    """
    rows, columns = tile.shape[:2]
    size = columns >> _halvings(across, columns), rows >> _halvings(down, rows)
    is_smaller = size != (columns, rows)
    return np.asarray(cv2.resize(tile, size, interpolation=cv2.INTER_AREA)) if is_smaller else tile


def _halvings(px: float, side: int) -> int:
    return 0 if px < 2 else min(int(math.log2(px) + 1e-9), int(math.log2(side)))


def wrapped(tile: np.ndarray, u: Plane, v: Plane) -> np.ndarray:
    """Return an endless tile's values at columns `u` and rows `v` (px, centres at halves; 1-D or 2-D), linear."""
    return wrapped_within(bordered(tile), u, v)


# Rows and columns more before and after a tile, so that neighbours across its seam are at hand.
_BEFORE, _AFTER = 1, 2


def bordered(tile: np.ndarray) -> np.ndarray:
    """Return an endless tile with some of what follows it on each side, for `wrapped_within`."""
    return np.asarray(cv2.copyMakeBorder(tile, _BEFORE, _AFTER, _BEFORE, _AFTER, cv2.BORDER_WRAP))


def wrapped_within(tile: np.ndarray, u: Plane, v: Plane) -> np.ndarray:
    """Return what `wrapped` does, of a tile that is `bordered`."""
    if u.ndim == 1:
        found = wrapped_within(tile, _in_rows(u), _in_rows(v))
        return found.reshape(-1, *found.shape[2:])[: len(u)]
    rows, columns = (size - _BEFORE - _AFTER for size in tile.shape[:2])
    u, v = _within(u - np.float32(0.5), columns), _within(v - np.float32(0.5), rows)
    u += _BEFORE
    v += _BEFORE
    return np.asarray(cv2.remap(tile, u, v, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))


def _in_rows(at: Plane) -> Plane:
    """Return places in rows of many, the last one repeated: only so many columns can be sampled at once."""
    rows = np.empty(len(at) + -len(at) % _ACROSS, np.float32)
    rows[: len(at)] = at
    rows[len(at) :] = at[-1:]
    return rows.reshape(-1, _ACROSS)


def _within(at: Plane, period: int) -> Plane:
    """Return places less whole periods, 0 to the period but for rounding."""
    return np.asarray(at - np.floor(at * np.float32(1 / period)) * np.float32(period))
