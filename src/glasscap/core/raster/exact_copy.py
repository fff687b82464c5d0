"""Photos that need no resampling: whole shifts, quarter turns and mirrors are views of the bytes."""

from functools import lru_cache

from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.pixels import Bytes

# How far from whole a shift may be (px): far under a level of any picture.
_NEAR = 1e-6


def exact_view(rgba: Bytes, to_output: Affine, box: PixelBox) -> tuple[Bytes, PixelBox] | None:
    """Return the photo's own pixels in the part of `box` that lies on it, or None if they must be resampled.

    Parameters
    ----------
    rgba : uint8 array, shape (height, width, 4)
    to_output : Affine
        From photo px to output px.
    box : PixelBox
        The output pixels wanted.

    Returns
    -------
    (pixels, box) or None
        A view of shape (box height, box width, 4) and where it lies.
    """
    turned = _turned(rgba, to_output)
    if turned is None:
        return None
    view, x, y = turned
    height, width = view.shape[:2]
    part = box.intersection(PixelBox(x, y, x + width, y + height))
    if part.is_empty:
        return view[:0, :0], PixelBox(box.x0, box.y0, box.x0, box.y0)
    return view[part.y0 - y : part.y1 - y, part.x0 - x : part.x1 - x], part


def _turned(rgba: Bytes, m: Affine) -> tuple[Bytes, int, int] | None:
    turn = _quarter_turn(m, rgba.shape[1], rgba.shape[0])
    if turn is None:
        return None
    is_swapped, down, across, x, y = turn
    view = rgba.swapaxes(0, 1) if is_swapped else rgba
    return view[::down, ::across], x, y


@lru_cache(maxsize=64)
def _quarter_turn(m: Affine, width: int, height: int) -> tuple[bool, int, int, int, int] | None:
    """Return whether axes are swapped, the steps down and across, and the shift; None if it is no such map."""
    linear = tuple(round(v) for v in m[:4])
    if any(abs(v - r) > _NEAR / max(width, height) for v, r in zip(m[:4], linear, strict=True)):
        return None
    a, b, c, d = linear
    if abs(a) + abs(c) != 1 or abs(b) + abs(d) != 1 or abs(a * d - b * c) != 1:
        return None
    x, y = m.e + min(a * width, 0) + min(c * height, 0), m.f + min(b * width, 0) + min(d * height, 0)
    if abs(x - round(x)) > _NEAR or abs(y - round(y)) > _NEAR:
        return None
    across, down = (a, d) if a else (c, b)
    return a == 0, 1 if down > 0 else -1, 1 if across > 0 else -1, round(x), round(y)
