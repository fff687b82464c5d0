"""For the screen: fading content over shadows, summed on the cells of their blurs and enlarged as one.

Blurs are smooth: sums of their products on cells differ from those of single pixels by less than a level, and are
made many times as fast.
"""

from collections.abc import Sequence

import cv2
import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.gaussian import SoftPlane
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import Writing
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.shares.feather import Fading

# On smaller cells (px) single pixels are as soon summed.
_SMALLEST = 2


class Veil:
    """What opaque content is multiplied by, and what is added to it: premultiplied, where the content fades."""

    def __init__(self, factors: SoftPlane, added: SoftPlane | None) -> None:
        self._factors, self._added = factors, added

    @classmethod
    def of(cls, fading: Fading, casts: Sequence[Cast]) -> "Veil | None":
        """Return the veil of content that fades over shadows of wide blur.

        None where cells are small, where strength bends the fade more than cells can follow, it ends sharply, or
        a mask lets little of it through.
        """
        k = min([fading.soft.k, *(cast.k for cast in casts)])
        if k < _SMALLEST or fading.strength != 1 or fading.side is not None or fading.mask is not None:
            return None
        cells = fading.soft.box.in_cells(k)
        fade = fading.on_cells(cells, k)
        spanned = cells.times(k)
        # What each cast is still seen of, and what is seen of all so far: alphas from 0 to 1.
        alpha, shares = fade, []
        for cast in casts:
            share = cast.on_cells(cells, k) * (1 - alpha)
            if cast.is_clear_beneath:
                share *= 1 - fade
            shares.append(share)
            alpha = alpha + share
        # Opaque content has an alpha of 255 to be multiplied, as all of it together has.
        factors = np.asarray(cv2.merge([fade, fade, fade, alpha]), np.float32)
        added = None
        if any(level for cast in casts for level in cast.colour):
            colours = np.array([(*cast.colour, 0) for cast in casts], np.float32)
            added = SoftPlane(np.stack(shares, axis=-1) @ colours, spanned, k)
        return cls(SoftPlane(factors, spanned, k), added)

    def write(self, out: Bytes, content: Bytes, box: PixelBox, writing: Writing) -> None:
        """Write a box of content so veiled, premultiplied."""
        added = None if self._added is None else self._added.band(box)
        writing.multiply(out, content, self._factors.band(box), added)
