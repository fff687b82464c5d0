"""Pixel buffers whose type says what they hold."""

from typing import Any, TypeVar, overload

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox

Number = TypeVar("Number", np.uint8, np.float32)

Bytes = NDArray[np.uint8]
# One channel, shape (h, w); four of them, premultiplied, shape (4, h, w).
Plane = NDArray[np.float32]
Planar = NDArray[np.float32]
# A channel's levels: 0 to 255 or 0 to 65535.
Levels = NDArray[np.unsignedinteger[Any]]


class PhotoPixels(Struct, frozen=True, eq=False):
    """A decoded photograph: straight (unassociated) alpha, sRGB, upright, read-only.

    Attributes
    ----------
    rgba : uint8 array, shape (height, width, 4)
    is_opaque : bool
        Whether every alpha is 255.
    """

    rgba: Bytes
    is_opaque: bool

    def __post_init__(self) -> None:
        self.rgba.flags.writeable = False

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        return self.rgba.shape[1], self.rgba.shape[0]


class Picture(Struct, frozen=True, eq=False):
    """A finished picture: straight alpha, sRGB, read-only; colour is 0 where alpha is 0.

    Attributes
    ----------
    rgba : uint8 array, shape (height, width, 4)
    x, y : int
        Where its top-left pixel lies, in output px of the sheet.
    """

    rgba: Bytes
    x: int
    y: int

    def __post_init__(self) -> None:
        self.rgba.flags.writeable = False

    @property
    def width(self) -> int:
        """Columns."""
        return int(self.rgba.shape[1])

    @property
    def height(self) -> int:
        """Rows."""
        return int(self.rgba.shape[0])

    @property
    def box(self) -> PixelBox:
        """Its place, in output px of the sheet."""
        return PixelBox(self.x, self.y, self.x + self.width, self.y + self.height)

    def cut(self, box: PixelBox) -> "Picture":
        """Return the part in `box`, which must lie inside; shares memory."""
        return Picture(view_of(self.rgba, self.box, box), box.x0, box.y0)


def view_of(pixels: NDArray[Number], box: PixelBox, part: PixelBox) -> NDArray[Number]:
    """Return the pixels in a part of the box in which they lie, shape (h, w) or (h, w, 4); shares memory."""
    return pixels[part.y0 - box.y0 : part.y1 - box.y0, part.x0 - box.x0 : part.x1 - box.x0]


def edge_padded(pixels: Bytes, where: PixelBox, box: PixelBox) -> Bytes:
    """Return pixels of a part of a box as the whole of it, its border repeated; black where there are none."""
    if where.is_empty:
        out = np.zeros((box.height, box.width, 4), np.uint8)
        out[..., 3] = 255
        return out
    sides = (where.y0 - box.y0, box.y1 - where.y1, where.x0 - box.x0, box.x1 - where.x1)
    return np.asarray(cv2.copyMakeBorder(pixels, *sides, cv2.BORDER_REPLICATE), np.uint8)


def visible_box(picture: Picture) -> PixelBox:
    """Return the smallest box outside which alpha is 0 everywhere; empty for an empty picture."""
    alpha = picture.rgba[..., 3]
    rows = np.flatnonzero(alpha.any(axis=1))
    if len(rows) == 0:
        return PixelBox(picture.x, picture.y, picture.x, picture.y)
    columns = np.flatnonzero(alpha[rows[0] : rows[-1] + 1].any(axis=0))
    x, y = picture.x, picture.y
    return PixelBox(x + int(columns[0]), y + int(rows[0]), x + int(columns[-1]) + 1, y + int(rows[-1]) + 1)


@overload
def premultiplied(rgba: Bytes) -> Bytes: ...


@overload
def premultiplied(rgba: Levels) -> Levels: ...


def premultiplied(rgba: Levels) -> Levels:
    """Return straight RGBA, uint8 or uint16, as premultiplied, round half up; shape (..., 4)."""
    is_deep = rgba.dtype == np.uint16
    most = 65535 if is_deep else 255
    alpha: Levels = rgba[..., 3:].astype(np.uint32 if is_deep else np.uint16)
    out = np.empty_like(rgba)
    out[..., :3] = (rgba[..., :3] * alpha + most // 2) // most
    out[..., 3] = rgba[..., 3]
    return out
