"""Memory for a picture, made ready while it is still being found out how large the picture is to be."""

from threading import Thread

import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes

# Less than this is touched soon enough by whoever draws on it.
_WORTHWHILE_BYTES = 4 << 20
# The smallest page of memory; larger ones are touched more than once, which costs nothing.
_PAGE = 4096


class Ground:
    """Zeroed RGBA of up to `most`.

    The system clears memory when it is first touched, which takes as long as a fifth of all the drawing: a
    thread does that ahead.
    """

    def __init__(self, most: PixelBox) -> None:
        self._flat = np.zeros(most.width * most.height * 4, np.uint8)
        self._thread = Thread(target=self._touch) if self._flat.nbytes >= _WORTHWHILE_BYTES else None
        if self._thread is not None:
            self._thread.start()

    def _touch(self) -> None:
        self._flat[::_PAGE] = 0

    def of(self, box: PixelBox) -> Bytes:
        """Return zeros of a box no larger than the largest, shape (box height, box width, 4)."""
        if self._thread is not None:
            self._thread.join()
        return self._flat[: box.width * box.height * 4].reshape(box.height, box.width, 4)
