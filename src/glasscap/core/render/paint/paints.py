"""Paint as pixels: flat colours, gradients by formula, textures as endless tiles."""

import math
from functools import lru_cache
from typing import Any, Protocol

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, TexturePaint, rgba_of
from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.endless import reduced, wrapped
from glasscap.core.raster.picking import box_of_pixels
from glasscap.core.raster.pixels import Bytes, Planar, Plane
from glasscap.core.raster.planar import opaque_bytes
from glasscap.core.raster.resample import Pyramid, preview_level
from glasscap.core.raster.words import filled_with, words
from glasscap.core.textures.tiles import SIDE, texture_tile

_SHADES = 4096
# The x and the y of pixels' centres, which broadcast to the shape of what is painted.
_Grid = tuple[NDArray[np.floating[Any]], NDArray[np.floating[Any]]]


class Path(Protocol):
    """An outline with what lies near it."""

    def within(self, box: PixelBox) -> tuple[Plane, Plane]:
        """Return, of each pixel of a box, the place along the outline, 0 to 1, and the distance to it."""


class PaintFrame(Struct, frozen=True, eq=False):
    """The frame a paint is laid out by.

    `to_output` maps the painted frame's own centred px, `width` by `height`, to output px; `sheet_to_output`
    is what textures follow, `path` what gradients along an outline do.
    """

    to_output: Affine
    width: float
    height: float
    sheet_to_output: Affine
    path: Path | None = None


def solid_colour(paint: Paint) -> tuple[float, float, float, float] | None:
    """Return a flat paint's premultiplied colour, 0 to 255, or None for one that varies."""
    if not isinstance(paint, ColourPaint):
        return None
    red, green, blue, alpha = rgba_of(paint.colour)
    return red * alpha / 255, green * alpha / 255, blue * alpha / 255, alpha


def paint_planes(paint: Paint, box: PixelBox, frame: PaintFrame, own: Pyramid | None) -> Planar:
    """Return a paint's premultiplied planes in a box, shape (4, h, w). Raises FinishError."""
    if isinstance(paint, GradientPaint):
        return _shaded(paint, _gradient_place(paint, box, frame))
    if isinstance(paint, TexturePaint):
        return _as_planes(_texture(paint, _grid_of(box), frame, own))
    colour = np.array(solid_colour(paint), np.float32)
    return np.broadcast_to(colour[:, None, None], (4, box.height, box.width))


def paint_bytes(paint: Paint, box: PixelBox, frame: PaintFrame) -> Bytes:
    """Return a box of an opaque paint that is no picture of one's own: uint8 RGBA. Raises FinishError."""
    if isinstance(paint, GradientPaint):
        shades = words(opaque_bytes(gradient_shades(paint).T[:, None]))[0]
        pixels = shades.take(_shade_numbers(_gradient_place(paint, box, frame)))
        return np.asarray(pixels.view(np.uint8).reshape(box.height, box.width, 4))
    if isinstance(paint, TexturePaint):
        return np.asarray(_texture(paint, _grid_of(box), frame, None), np.uint8)
    colour = solid_colour(paint)
    assert colour is not None
    return filled_with(colour, (box.height, box.width))


def paint_pixels(
    paint: GradientPaint | TexturePaint, ys: Ints, xs: Ints, frame: PaintFrame, own: Pyramid | None
) -> Planar:
    """Return a paint's premultiplied colours of single pixels, float32 of shape (4, n); ys and xs of shape (n,).

    Raises FinishError.
    """
    if isinstance(paint, TexturePaint):
        return _as_planes(_texture(paint, _grid_of_pixels(ys, xs), frame, own))
    if paint.way == "along":
        box = box_of_pixels(ys, xs)
        return _shaded(paint, _place_along(box, frame)[ys - box.y0, xs - box.x0])
    return _shaded(paint, _place_across(paint, _grid_of_pixels(ys, xs), frame))


def gradient_shades(paint: GradientPaint) -> Planar:
    """Return 4096 premultiplied colours from the first stop to the last, float32 of shape (4096, 4)."""
    at = np.array([s.at for s in paint.stops])
    colours = np.array([rgba_of(s.colour) for s in paint.stops])
    colours[:, :3] *= colours[:, 3:] / 255
    places = (np.arange(_SHADES) + 0.5) / _SHADES
    # With several stops at one place the first ends the stretch before it, the last begins the one after.
    shades = np.stack([np.interp(places, at + 1e-12 * np.arange(len(at)), c) for c in colours.T], axis=1)
    return shades.astype(np.float32)


def _gradient_place(paint: GradientPaint, box: PixelBox, frame: PaintFrame) -> Plane:
    return _place_along(box, frame) if paint.way == "along" else _place_across(paint, _grid_of(box), frame)


def _shaded(paint: GradientPaint, place: Plane) -> Planar:
    index = _shade_numbers(place)
    return np.stack([shades.take(index) for shades in np.ascontiguousarray(gradient_shades(paint).T)])


def _shade_numbers(place: Plane) -> NDArray[np.int32]:
    return np.clip(place * _SHADES, 0, _SHADES - 1).astype(np.int32)


def _place_along(box: PixelBox, frame: PaintFrame) -> Plane:
    return np.zeros((box.height, box.width), np.float32) if frame.path is None else frame.path.within(box)[0]


def _place_across(paint: GradientPaint, grid: _Grid, frame: PaintFrame) -> Plane:
    u, v = _own_coordinates(frame.to_output, grid)
    angle = math.radians(paint.angle)
    c, s = math.cos(angle), math.sin(angle)
    if paint.way == "linear":
        # The line's length is CSS Images 3, 3.1.1: corners get the end colours.
        length = max(abs(frame.width * c) + abs(frame.height * s), 1e-6)
        return np.asarray((u * c + v * s) / length + 0.5, np.float32)
    if paint.way == "radial":
        far = max(math.hypot(frame.width, frame.height) / 2, 1e-6)
        return np.asarray(np.hypot(u, v) / far, np.float32)
    turn = np.arctan2(-u * s + v * c, u * c + v * s) / (2 * math.pi)
    return np.asarray(turn % 1.0, np.float32)


def _grid_of(box: PixelBox) -> _Grid:
    x = np.arange(box.x0, box.x1) + 0.5
    y = np.arange(box.y0, box.y1) + 0.5
    return x[None, :], y[:, None]


def _grid_of_pixels(ys: Ints, xs: Ints) -> _Grid:
    return xs + 0.5, ys + 0.5


def _own_coordinates(to_output: Affine, grid: _Grid) -> tuple[Plane, Plane]:
    m, (x, y) = to_output.inverse(), grid
    u, v = m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f
    return u.astype(np.float32), v.astype(np.float32)


def _texture(paint: TexturePaint, grid: _Grid, frame: PaintFrame, own: Pyramid | None) -> np.ndarray:
    to_output = frame.sheet_to_output.after(Affine.rotation(paint.rotation)).after(Affine.scaling(paint.scale))
    scale = math.sqrt(abs(to_output.determinant))
    if own is not None:
        return _tiled(own.for_screen(preview_level(scale)), own.size, to_output, grid)
    return _tiled(_reduced_texture(paint.texture, 1 / scale), (SIDE, SIDE), to_output, grid)


@lru_cache(maxsize=16)
def _reduced_texture(name: str, px: float) -> Bytes:
    return reduced(texture_tile(name), px, px)


def _as_planes(pixels: np.ndarray) -> Planar:
    return np.ascontiguousarray(np.moveaxis(pixels, -1, 0)).astype(np.float32)


def tiled(tile: np.ndarray, size: tuple[int, int], to_output: Affine, box: PixelBox) -> np.ndarray:
    """Return a tile (uint8 or float32, any channels) repeated without end, seen through a map, in a box.

    `size` is the tile's (width, height) before any reduction, the px `to_output` maps from.
    """
    return _tiled(tile, size, to_output, _grid_of(box))


def tiled_at(tile: np.ndarray, size: tuple[int, int], to_output: Affine, ys: Ints, xs: Ints) -> np.ndarray:
    """Return a tile of one channel at single pixels, shape (n,); see `tiled`."""
    return _tiled(tile, size, to_output, _grid_of_pixels(ys, xs))


def _tiled(tile: np.ndarray, size: tuple[int, int], to_output: Affine, grid: _Grid) -> np.ndarray:
    u, v = _own_coordinates(to_output, grid)
    rows, columns = tile.shape[:2]
    return wrapped(tile, u * np.float32(columns / size[0]), v * np.float32(rows / size[1]))
