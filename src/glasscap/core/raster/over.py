"""Premultiplied bytes laid over one another: top + (1 - alpha of top) below (Porter-Duff over)."""

from collections.abc import Sequence

import cv2
import numpy as np

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, view_of

# A translucent pixel picked by itself takes as long as so many pixels of a whole box.
_PICKED = 80


def lay_over(below: Bytes, top: Bytes) -> None:
    """Lay premultiplied pixels over others, in place; shape (h, w, 4), rounded to the nearest level."""
    alpha = np.asarray(cv2.extractChannel(top, 3), np.uint8)
    translucent = np.asarray(cv2.inRange(alpha, 1, 254))
    if cv2.countNonZero(translucent) * _PICKED > alpha.size:
        _lay_all(below, top, alpha)
        return
    cv2.copyTo(top, cv2.inRange(alpha, 255, 255), below)
    found = cv2.findNonZero(translucent)
    if found is None:
        return
    xs, ys = found.reshape(-1, 2).T
    over = top[ys, xs].astype(np.uint16)
    below[ys, xs] = over + (below[ys, xs] * (255 - over[:, 3:]) + 127) // 255


def _lay_all(below: Bytes, top: Bytes, alpha: Bytes) -> None:
    height, width = alpha.shape
    rest = np.asarray(cv2.bitwise_not(alpha))
    flat, over, shares = (
        pixels.reshape(height, 4 * width) for pixels in (below, top, np.asarray(cv2.merge([rest] * 4)))
    )
    cv2.multiply(flat, shares, dst=flat, scale=1 / 255)
    cv2.add(flat, over, dst=flat)


def stacked(tops: Sequence[tuple[Bytes, PixelBox]], box: PixelBox) -> Bytes:
    """Return premultiplied pixels over one another in a box: each with its place in it, back to front."""
    if len(tops) == 1 and tops[0][1] == box:
        return tops[0][0]
    out = np.zeros((box.height, box.width, 4), np.uint8)
    if tops:
        lowest, place = tops[0]
        view_of(out, box, place)[:] = lowest
    for top, place in tops[1:]:
        lay_over(view_of(out, box, place), top)
    return out
