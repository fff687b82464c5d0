"""The matte of an object whose rough contour is known: alpha in a band along it, from the photo's own colours."""

from collections.abc import Sequence

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.matting import BACKGROUND, OBJECT, UNKNOWN, closed_form, linear_models
from glasscap.core.raster.pixels import Bytes, Plane
from glasscap.core.raster.rim_colours import object_colours
from glasscap.core.raster.scan import cover

_RADIUS = 1


class PaintedStroke(Struct, frozen=True, eq=False):
    """A stroke of the brush, shape (n, 2) in px with a radius, that widens the band or takes from it."""

    points: Points
    radius: float
    is_wider: bool


class Matte(Struct, frozen=True, eq=False):
    """An alpha, uint8 of shape (h, w), where it is not simply all or nothing, and the object's colours there."""

    alpha: Bytes
    is_open: NDArray[np.bool_]
    colours: Bytes | None = None

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return self.alpha.nbytes + self.is_open.nbytes + (0 if self.colours is None else self.colours.nbytes)


def contour_matte(
    rgb: Bytes,
    polygons: Sequence[Points],
    width: float,
    strokes: Sequence[PaintedStroke] = (),
    *,
    widest: float = 1.0,
    most_open: int = 24_000,
    wants_colours: bool = False,
) -> Matte:
    """Return the matte of what lies within polygons.

    Parameters
    ----------
    rgb : uint8 array, shape (h, w, 3)
    polygons : sequence of float64 arrays, shape (n, 2)
        The contour in the picture's px; holes are wound the other way.
    width : float
        The band's width, px, half of it to each side of the contour.
    strokes : sequence of PaintedStroke
        Later ones count where they cross.
    widest : float
        How far strokes widen the band at most, in halves of its width.
    most_open : int
        The number of pixels that are solved for; a larger band is solved on a smaller picture.
    wants_colours : bool
        Whether the object's own colours are estimated, too.
    """
    height, across = rgb.shape[:2]
    scale = _working_scale(polygons, width, strokes, rgb, most_open)
    size = max(1, round(across * scale)), max(1, round(height * scale))
    small = rgb if scale == 1 else np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
    steps = size[0] / across, size[1] / height
    trimap = _trimap(polygons, width, strokes, size, steps, widest)
    solved = closed_form(small, trimap)
    colours = object_colours(small, solved) if wants_colours else None
    if scale == 1:
        return _whole(small, trimap, solved, colours)
    return _enlarged(rgb, small, trimap, solved, colours)


def _working_scale(
    polygons: Sequence[Points], width: float, strokes: Sequence[PaintedStroke], rgb: Bytes, most_open: int
) -> float:
    """Return the scale, 1 or below, at which the band has no more than some px."""
    box = PixelBox(0, 0, rgb.shape[1], rgb.shape[0])
    length = sum(_length_within(np.concatenate([p, p[:1]]), box) for p in polygons if len(p))
    painted = sum(2 * s.radius * (_length(s.points) + 2 * s.radius) for s in strokes if s.is_wider)
    return float(min(1.0, (most_open / max(length * width + painted, 1.0)) ** 0.5))


def _length(points: Points) -> float:
    return float(np.hypot(*np.diff(points, axis=0).T).sum()) if len(points) > 1 else 0.0


def _length_within(points: Points, box: PixelBox) -> float:
    steps = np.hypot(*np.diff(points, axis=0).T)
    middle = (points[1:] + points[:-1]) / 2
    is_in = (middle >= 0).all(axis=1) & (middle[:, 0] <= box.width) & (middle[:, 1] <= box.height)
    return float(steps[is_in].sum())


def _trimap(
    polygons: Sequence[Points],
    width: float,
    strokes: Sequence[PaintedStroke],
    size: tuple[int, int],
    steps: tuple[float, float],
    widest: float,
) -> Bytes:
    box, step = PixelBox(0, 0, *size), (steps[0] * steps[1]) ** 0.5
    placed = tuple(polygon * np.array(steps) for polygon in polygons)
    is_in = (cover(placed, box).plane(box) >= 0.5).astype(np.uint8)
    away = _distance(is_in, is_beyond=False) - _distance(is_in, is_beyond=True)
    half = max(width * step / 2, 1.0)
    is_open = np.abs(away) <= half
    for stroke in strokes:
        drawn = np.zeros(is_in.shape, np.uint8)
        line = (stroke.points * np.array(steps) - 0.5).round().astype(np.int32).reshape(-1, 1, 2)
        cv2.polylines(drawn, [line], False, 1, max(1, round(2 * stroke.radius * step)))
        is_drawn = drawn > 0
        if stroke.is_wider:
            is_open |= is_drawn & (np.abs(away) <= widest * half)
        else:
            is_open &= ~is_drawn
    known = np.where(is_in > 0, np.uint8(OBJECT), np.uint8(BACKGROUND))
    return np.where(is_open, np.uint8(UNKNOWN), known)


def _distance(is_in: Bytes, *, is_beyond: bool) -> Plane:
    """Return how far each pixel lies within, or beyond, in px; pixels beside the contour half a px."""
    plane = 1 - is_in if is_beyond else is_in
    if plane.all():
        # There is no contour to be near to.
        return np.full(plane.shape, 1e6, np.float32)
    found = np.asarray(cv2.distanceTransform(plane, cv2.DIST_L2, cv2.DIST_MASK_PRECISE), np.float32)
    return np.where(plane > 0, found - np.float32(0.5), np.float32(0))


def _whole(rgb: Bytes, trimap: Bytes, solved: Plane, colours: Bytes | None) -> Matte:
    is_open = trimap == UNKNOWN
    alpha = np.asarray(np.floor(solved * 255 + 0.5), np.uint8)
    if colours is None:
        return Matte(alpha, is_open)
    cleaned = rgb.copy()
    cleaned[is_open] = _mixed(rgb[is_open], colours[is_open], solved[is_open])
    return Matte(alpha, is_open, cleaned)


def _enlarged(rgb: Bytes, small: Bytes, trimap: Bytes, solved: Plane, colours: Bytes | None) -> Matte:
    """Return a matte at full size: the linear models of the small one, with the full picture's colours."""
    height, width = rgb.shape[:2]
    known = np.asarray(cv2.resize(trimap, (width, height), interpolation=cv2.INTER_NEAREST), np.uint8)
    is_open = known == UNKNOWN
    ys, xs = np.nonzero(is_open)
    alpha = np.where(known == OBJECT, np.uint8(255), np.uint8(0))
    if len(ys) == 0:
        return Matte(alpha, is_open, None if colours is None else rgb)
    at_x = ((xs + 0.5) * (small.shape[1] / width) - 0.5).astype(np.float32)
    at_y = ((ys + 0.5) * (small.shape[0] / height) - 0.5).astype(np.float32)
    slopes, offsets = linear_models(small, solved, _RADIUS)
    own = rgb[ys, xs]
    value = (_at(slopes, at_x, at_y) * (own.astype(np.float32) / 255)).sum(axis=1)
    value += _at(offsets, at_x, at_y)[:, 0]
    share = np.clip(value, 0, 1)
    alpha[ys, xs] = np.floor(share * 255 + 0.5).astype(np.uint8)
    if colours is None:
        return Matte(alpha, is_open)
    cleaned = rgb.copy()
    cleaned[ys, xs] = _mixed(own, _at(colours.astype(np.float32), at_x, at_y), share)
    return Matte(alpha, is_open, cleaned)


def _at(planes: NDArray[np.float32], xs: NDArray[np.float32], ys: NDArray[np.float32]) -> NDArray[np.float32]:
    """Return planes between pixels, shape (n, channels)."""
    rows = -(-len(xs) // _ROW)
    across, down = (np.resize(v, rows * _ROW).reshape(rows, _ROW) for v in (xs, ys))
    found = cv2.remap(planes, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(found, np.float32).reshape(rows * _ROW, -1)[: len(xs)]


# Maps are no wider than the vision library takes.
_ROW = 1024


def _mixed(own: NDArray[np.number], clean: NDArray[np.number], share: Plane) -> Bytes:
    """Return clean colours, the more the less of a pixel the object fills: what it fills whole stays as shot."""
    mixed = share[:, None] * own.astype(np.float32) + (1 - share[:, None]) * clean.astype(np.float32)
    return np.asarray(np.floor(mixed + 0.5), np.uint8)
