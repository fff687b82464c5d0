"""PNG row filters (W3C PNG Specification, section 9), whole bands at a time.

Rows come as bytes of shape (height, width, bytes a pixel).
"""

import numpy as np
from numpy.typing import NDArray

from glasscap.core.raster.pixels import Bytes

Words = NDArray[np.int16]


def _above(rgba: Bytes, y0: int, y1: int) -> Bytes:
    """Return the rows above rows y0..y1-1; zeros above the first."""
    if y0 > 0:
        return rgba[y0 - 1 : y1 - 1]
    above = np.zeros_like(rgba[y0:y1])
    above[1:] = rgba[y0 : y1 - 1]
    return above


def up_filter_room(rgba: Bytes, rows: int) -> Bytes:
    """Return memory for so many rows under filter 2, shape (rows, 1 + row bytes)."""
    _, width, depth = rgba.shape
    return np.empty((rows, 1 + depth * width), np.uint8)


def up_filtered(rgba: Bytes, y0: int, y1: int, room: Bytes | None = None) -> Bytes:
    """Return rows under filter 2 (Up), shape (rows, 1 + row bytes): the filter's number, then differences.

    They are written to `room`, if there is any.
    """
    _, width, depth = rgba.shape
    out = up_filter_room(rgba, y1 - y0) if room is None else room
    out[:, 0] = 2
    differences = out[:, 1:].reshape(y1 - y0, width, depth)
    first = 0
    if y0 == 0:
        differences[0] = rgba[0]
        first = 1
    np.subtract(rgba[y0 + first : y1], rgba[y0 + first - 1 : y1 - 1], out=differences[first:])
    return out


def adaptive_filtered(rgba: Bytes, y0: int, y1: int) -> Bytes:
    """Return rows each under the filter of least summed magnitude (the specification's heuristic, 12.7)."""
    rows = y1 - y0
    now = rgba[y0:y1].reshape(rows, -1).astype(np.int16)
    up = _above(rgba, y0, y1).reshape(rows, -1).astype(np.int16)
    left, corner = (_shifted(values, rgba.shape[2]) for values in (now, up))
    candidates = np.stack(
        [
            values.astype(np.uint8)
            for values in (
                now,
                now - left,
                now - up,
                now - (left + up) // 2,
                now - _paeth(left, up, corner),
            )
        ]
    )
    cost = np.abs(candidates.view(np.int8).astype(np.int16)).sum(axis=2, dtype=np.int64)
    best = cost.argmin(axis=0)
    chosen = candidates[best, np.arange(rows)]
    return np.concatenate([best[:, None].astype(np.uint8), chosen], axis=1)


def _shifted(rows: Words, depth: int) -> Words:
    out = np.zeros_like(rows)
    out[:, depth:] = rows[:, :-depth]
    return out


def _paeth(
    left: Words,
    up: Words,
    corner: Words,
) -> Words:
    """Return the nearest of the three to left + up - corner, in that order of preference."""
    to_left, to_up = np.abs(up - corner), np.abs(left - corner)
    to_corner = np.abs(left + up - 2 * corner)
    return np.where((to_left <= to_up) & (to_left <= to_corner), left, np.where(to_up <= to_corner, up, corner))
