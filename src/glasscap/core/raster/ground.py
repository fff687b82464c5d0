"""Memory for a picture, made ready ahead of who draws on it."""

from threading import Condition, Thread

import numpy as np

from glasscap.core.raster.pixels import Bytes

# Less than this is touched soon enough by who draws on it.
_WORTHWHILE_BYTES = 4 << 20
# Bytes touched at a time; the smallest page of memory (larger ones are touched again, which costs nothing).
_STEP, _PAGE = 2 << 20, 4096


class Ground:
    """Zeroed RGBA.

    The system clears memory when it is first touched, which takes as long as a fifth of all the drawing: a
    thread does that, some rows ahead.
    """

    def __init__(self, height: int, width: int) -> None:
        self._rgba = np.zeros((height, width, 4), np.uint8)
        self._touched, self._more = self._rgba.nbytes, Condition()
        if self._rgba.nbytes >= _WORTHWHILE_BYTES:
            self._touched = 0
            Thread(target=self._touch, name="ground", daemon=True).start()

    def _touch(self) -> None:
        flat = self._rgba.reshape(-1)
        for start in range(0, len(flat), _STEP):
            flat[start : start + _STEP : _PAGE] = 0
            with self._more:
                self._touched = start + _STEP
                self._more.notify()

    def rows(self, y0: int, y1: int) -> Bytes:
        """Return rows y0 .. y1-1 to be drawn on; waits until they are ready."""
        end = y1 * self._rgba.strides[0]
        with self._more:
            self._more.wait_for(lambda: self._touched >= end)
        return self._rgba[y0:y1]

    def whole(self) -> Bytes:
        """Return all of it."""
        return self.rows(0, len(self._rgba))
