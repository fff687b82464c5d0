"""A picture put into a place: in perspective, bent, lit, behind what stands before it.

Coordinates are px of the place's backdrop unless said otherwise. The frame of a place is the unit square; a
picture is fitted into it, its pixels are found through the inverse of each surface's perspective.
"""

from collections.abc import Callable

import cv2
import numpy as np

from glasscap.core.document.model.mockups import Fit
from glasscap.core.geometry.homography import Matrix, mapped, square_to_quad
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import clip_convex, oriented
from glasscap.core.geometry.types import PixelBox
from glasscap.core.mockup.place import Place, Surface
from glasscap.core.raster.pixels import Bytes, Plane
from glasscap.core.raster.scan import cover
from glasscap.core.work.ticket import no_check

Rect = tuple[float, float, float, float]
# Samples across an output px.
_FINER = 2
_SQUARE = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])


def fitted(aspect: float, frame_aspect: float, fit: Fit) -> Rect:
    """Return where a picture lies in the unit frame, (u0, v0, u1, v1).

    *contain* shows all of it, *cover* fills the frame, both in the picture's own proportions; *stretch* does not
    keep them.
    """
    if fit == "stretch":
        return (0.0, 0.0, 1.0, 1.0)
    ratio = aspect / frame_aspect
    is_wide = (ratio > 1) == (fit == "contain")
    width, height = (1.0, 1 / ratio) if is_wide else (ratio, 1.0)
    return ((1 - width) / 2, (1 - height) / 2, (1 + width) / 2, (1 + height) / 2)


def distortion(aspect: float, frame_aspect: float, fit: Fit) -> float:
    """Return by how much a picture is stretched, 1 for not at all."""
    ratio = aspect / frame_aspect
    return max(ratio, 1 / ratio) if fit == "stretch" else 1.0


def wanted_size(place: Place, aspect: float, fit: Fit, scale: float = 1.0) -> tuple[int, int]:
    """Return the px (width, height) a picture needs so that no place of it is enlarged at an output scale."""
    u0, v0, u1, v1 = fitted(aspect, place.aspect, fit)
    width = height = 1.0
    for surface in place.surfaces:
        quad = np.asarray(surface.corners)
        sides = np.hypot(*(np.roll(quad, -1, axis=0) - quad).T)
        a, b, c, d = surface.part
        width = max(width, max(sides[0], sides[2]) / (c - a))
        height = max(height, max(sides[1], sides[3]) / (d - b))
    return (
        max(1, int(np.ceil(width * (u1 - u0) * scale * _FINER))),
        max(1, int(np.ceil(height * (v1 - v0) * scale * _FINER))),
    )


def mockup(
    place: Place, picture: Bytes, fit: Fit, scale: float = 1.0, check: Callable[[], None] = no_check
) -> Bytes:
    """Return a place with a picture in it.

    Parameters
    ----------
    place : Place
    picture : uint8 array, shape (h, w, 4)
        Premultiplied sRGB.
    fit : Fit
    scale : float
        Output px per px of the backdrop.
    check : callable
        Called between surfaces; raises CancelledError to stop.

    Returns
    -------
    uint8 array, shape (round(height scale), round(width scale), 4), opaque.
    """
    size = max(1, round(place.size[0] * scale)), max(1, round(place.size[1] * scale))
    backdrop = _resized(place.backdrop, size)
    layer = np.zeros((size[1], size[0], 4), np.float32)
    rect = fitted(picture.shape[1] / picture.shape[0], place.aspect, fit)
    for surface in place.surfaces:
        check()
        _add_surface(layer, place, surface, picture, rect, scale)
    if place.light is not None:
        light = cv2.resize(place.light, size, interpolation=cv2.INTER_CUBIC)
        layer[..., :3] = np.minimum(layer[..., :3] * light[..., None], layer[..., 3:])
    if place.mask is not None:
        layer *= _resized(place.mask, size)[..., None]
    out = layer + backdrop * (1 - layer[..., 3:] * np.float32(1 / 255))
    out[..., 3] = 255
    return np.asarray(np.clip(out + 0.5, 0, 255), np.uint8)


def _resized(pixels: Bytes | Plane, size: tuple[int, int]) -> Plane:
    way = cv2.INTER_AREA if size[0] < pixels.shape[1] else cv2.INTER_CUBIC
    same = pixels.shape[1::-1] == size
    return np.asarray(pixels if same else cv2.resize(pixels, size, interpolation=way), np.float32)


def _add_surface(layer: Plane, place: Place, surface: Surface, picture: Bytes, rect: Rect, scale: float) -> None:
    """Add what a surface shows, in place: surfaces lie beside one another, so their shares add up."""
    to_place = square_to_quad(surface.corners)
    corners = np.asarray(surface.corners) * scale
    reach = 0.0 if place.bend is None else float(np.abs(place.bend).max())
    spare = np.ceil(reach * np.ptp(corners, axis=0)) + 1
    low, high = (
        np.floor(corners.min(axis=0) - spare).astype(int),
        np.ceil(corners.max(axis=0) + spare).astype(int),
    )
    whole = PixelBox(0, 0, layer.shape[1], layer.shape[0])
    box = PixelBox(*low.tolist(), *high.tolist()).intersection(whole)
    if box.is_empty:
        return
    u, v = _frame_points(place, surface, to_place, box, scale)
    height, width = picture.shape[:2]
    x = (u - rect[0]) / (rect[2] - rect[0]) * width - 0.5
    y = (v - rect[1]) / (rect[3] - rect[1]) * height - 0.5
    sampled = cv2.remap(
        picture, x.astype(np.float32), y.astype(np.float32), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    )
    shown = cv2.resize(sampled.astype(np.float32), (box.width, box.height), interpolation=cv2.INTER_AREA)
    share = (
        _flat_share(surface, to_place, rect, box, scale) if place.bend is None else _bent_share(u, v, rect, box)
    )
    layer[box.y0 : box.y1, box.x0 : box.x1] += shown * share[..., None]


def _frame_points(
    place: Place, surface: Surface, to_place: Matrix, box: PixelBox, scale: float
) -> tuple[Points, Points]:
    """Return where in the frame the samples of a box lie, two arrays of shape (finer height, finer width)."""
    n = _FINER
    xs = (box.x0 + (np.arange(box.width * n) + 0.5) / n) / scale
    ys = (box.y0 + (np.arange(box.height * n) + 0.5) / n) / scale
    back = np.linalg.inv(to_place)
    grid_x, grid_y = np.meshgrid(xs, ys)
    w = back[2, 0] * grid_x + back[2, 1] * grid_y + back[2, 2]
    u = (back[0, 0] * grid_x + back[0, 1] * grid_y + back[0, 2]) / w
    v = (back[1, 0] * grid_x + back[1, 1] * grid_y + back[1, 2]) / w
    u0, v0, u1, v1 = surface.part
    u, v = u0 + u * (u1 - u0), v0 + v * (v1 - v0)
    if place.bend is not None:
        rows, columns = place.bend.shape[:2]
        width, height = place.size
        at_x = (grid_x / width * (columns - 1)).astype(np.float32)
        at_y = (grid_y / height * (rows - 1)).astype(np.float32)
        shift = cv2.remap(place.bend, at_x, at_y, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        u, v = u + shift[..., 0], v + shift[..., 1]
    return u, v


def _flat_share(surface: Surface, to_place: Matrix, rect: Rect, box: PixelBox, scale: float) -> Plane:
    """Return the exact coverage of the picture on a flat surface."""
    u0, v0, u1, v1 = surface.part
    frame = np.array([(u0, v0), (u1, v0), (u1, v1), (u0, v1)])
    shown = np.array([(rect[0], rect[1]), (rect[2], rect[1]), (rect[2], rect[3]), (rect[0], rect[3])])
    common = clip_convex(shown, frame)
    if not len(common):
        return np.zeros((box.height, box.width), np.float32)
    on_square = (common - (u0, v0)) / (u1 - u0, v1 - v0)
    return cover((oriented(mapped(to_place, on_square) * scale),), box).plane(box)


def _bent_share(u: Points, v: Points, rect: Rect, box: PixelBox) -> Plane:
    """Return about how much of each px of a bent surface the picture covers, from its distance to the edge."""
    share = np.ones_like(u)
    for field, low, high in (
        (u, max(rect[0], 0.0), min(rect[2], 1.0)),
        (v, max(rect[1], 0.0), min(rect[3], 1.0)),
    ):
        steep = np.hypot(*np.gradient(field)) + 1e-12
        distance = np.minimum(field - low, high - field) / steep
        share *= np.clip(0.5 + distance / _FINER, 0, 1)
    return np.asarray(cv2.resize(share, (box.width, box.height), interpolation=cv2.INTER_AREA), np.float32)
