"""Which columns of a box are empty, copied as they are, of one tint, or must be computed."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

EMPTY, COPIED, COMPUTED, TINTED = 0, 1, 2, 3

Columns = NDArray[np.uint8]


def seen(states: Sequence[Columns], width: int) -> tuple[Columns, NDArray[np.int64]]:
    """Return what is to be done in each column of parts, back to front, and for copied ones with which part."""
    kind, source = np.zeros(width, np.uint8), np.zeros(width, np.int64)
    for number in range(len(states) - 1, -1, -1):
        free = kind == EMPTY
        kind[free] = states[number][free]
        source[free] = number
        # A tint is only one by itself: whatever lies beneath it must be composed.
        kind[(kind == TINTED) & (source > number) & (states[number] != EMPTY)] = COMPUTED
    return kind, source
