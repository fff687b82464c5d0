"""Numbers within stretches that follow one another in long arrays."""

import numpy as np
from numpy.typing import NDArray


def numbers_within(counts: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return 0, 1, ... up to each of some counts, one after another; int64 of shape (sum of counts,).

    Examples
    --------
    >>> numbers_within(np.array([2, 0, 3])).tolist()
    [0, 1, 0, 1, 2]
    """
    return np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts)
