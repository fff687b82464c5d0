"""A placed photograph at output resolution, never an unfiltered warp.

Whole shifts, quarter turns and mirrors copy the photo's bytes. Enlarging uses Lanczos-4. Reducing goes by
area to at most twice the target, warps there, and averages 2 x 2; previews take the next larger level of a
halving pyramid and interpolate linearly.
"""

import math
from collections.abc import Callable
from typing import Literal

import cv2
import numpy as np
from msgspec import Struct, field

from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.exact_copy import exact_view
from glasscap.core.raster.pixels import Bytes, PhotoPixels

# What is shown while something moves may be a little coarser than the preview that follows.
Quality = Literal["final", "preview", "moving"]

# Rec. 709, on encoded values, as CSS Masking 1, 7.10 has it; of RGBA.
LUMINANCE = np.array([[0.2126, 0.7152, 0.0722, 0.0]], np.float32)
# Source px around the wanted part, enough for Lanczos-4's eight taps and one pixel of rounding.
_MARGIN = 6


class Pyramid(Struct, eq=False):
    """A photo and its reductions, made when first asked for.

    Photos with alpha are reduced premultiplied in 16 bit; opaque ones as they are. `size` is the upright
    size (width, height) the placement speaks of; a draft's own pixels are fewer.
    """

    photo: PhotoPixels
    size: tuple[int, int]
    _reduced: dict[tuple[int, int], Bytes] = field(default_factory=dict)
    _screen: dict[int, Bytes] = field(default_factory=dict)
    _luminance: dict[int, Bytes] = field(default_factory=dict)
    _latest: tuple[tuple[int, int], Bytes] | None = None
    redraw: Callable[[int], PhotoPixels] | None = None
    _drawn: "Pyramid | None" = None

    @property
    def is_draft(self) -> bool:
        """Whether it holds fewer pixels than the photo has."""
        return self.redraw is None and self.photo.size != self.size

    def at_scale(self, scale: float) -> "Pyramid":
        """Return artwork drawn anew for `scale` output px per px of its own; photographs as they are."""
        if self.redraw is None:
            return self
        width = max(1, math.ceil(self.size[0] * scale - 1e-6))
        if width == self.photo.size[0]:
            return self
        drawn = self._drawn
        if drawn is None or drawn.photo.size[0] != width:
            # Drawn once more it stays as it is.
            drawn = self._drawn = Pyramid(self.redraw(width), self.size)
        return drawn

    @property
    def nbytes(self) -> int:
        """Bytes held, photo included."""
        latest = 0 if self._latest is None else self._latest[1].nbytes
        kept = (*self._reduced.values(), *self._screen.values(), *self._luminance.values())
        drawn = 0 if self._drawn is None else self._drawn.nbytes
        return self.photo.rgba.nbytes + latest + drawn + sum(r.nbytes for r in kept)

    def base(self) -> Bytes:
        """Return full size, premultiplied 16 bit for a photo with alpha."""
        if self.photo.is_opaque:
            return self.photo.rgba
        width, height = self.photo.size
        return self._kept((width, height), lambda: _premultiplied16(self.photo.rgba))

    def halved(self, level: int) -> Bytes:
        """Return the photo halved `level` times by area."""
        if level == 0:
            return self.base()
        width, height = self.photo.size
        size = (max(1, width >> level), max(1, height >> level))
        return self._kept(size, lambda: _area(self.halved(level - 1), size))

    def reduced(self, factor: float) -> Bytes:
        """Return the photo reduced by area to `factor` of its size (under 1); the latest is kept."""
        width, height = self.photo.size
        size = (max(1, math.ceil(width * factor)), max(1, math.ceil(height * factor)))
        latest = self._latest
        if latest is None or latest[0] != size:
            latest = self._latest = (size, _area(self.base(), size))
        return latest[1]

    def for_screen(self, level: int) -> Bytes:
        """Return the photo halved `level` times, premultiplied in 8 bit."""
        if self.photo.is_opaque:
            return self.halved(level)
        if level not in self._screen:
            self._screen[level] = ((self.halved(level).astype(np.uint32) + 128) // 257).astype(np.uint8)
        return self._screen[level]

    def luminance(self, level: int) -> Bytes:
        """Return the luminance of an opaque photo halved `level` times, 8 bit, shape (h, w)."""
        if level not in self._luminance:
            self._luminance[level] = np.asarray(cv2.transform(self.halved(level), LUMINANCE), np.uint8)
        return self._luminance[level]

    def _kept(self, size: tuple[int, int], make: Callable[[], Bytes]) -> Bytes:
        if size not in self._reduced:
            self._reduced[size] = make()
        return self._reduced[size]


def _area(source: Bytes, size: tuple[int, int]) -> Bytes:
    return np.asarray(cv2.resize(source, size, interpolation=cv2.INTER_AREA))


def _premultiplied16(rgba: Bytes) -> Bytes:
    wide = rgba.astype(np.uint32)
    wide[..., :3] = (wide[..., :3] * wide[..., 3:] * 257 + 127) // 255
    wide[..., 3] *= 257
    return wide.astype(np.uint16)


def _straight8(premultiplied16: Bytes) -> Bytes:
    values = premultiplied16.astype(np.float32)
    alpha = values[..., 3:]
    with np.errstate(divide="ignore", invalid="ignore"):
        colour = np.where(alpha > 0, values[..., :3] * (255 / alpha), 0)
    out = np.empty(values.shape, np.uint8)
    out[..., :3] = np.floor(np.minimum(colour, 255) + 0.5)
    out[..., 3] = np.floor(values[..., 3] / 257 + 0.5)
    return out


def sample(
    pyramid: Pyramid, to_output: Affine, box: PixelBox, quality: Quality = "final"
) -> tuple[Bytes, PixelBox]:
    """Return a placed photo's pixels in (at least part of) a box of output px.

    Parameters
    ----------
    pyramid : Pyramid
    to_output : Affine
        From photo px to output px.
    box : PixelBox
        The output pixels wanted.
    quality : "final", or for the screen "preview" and "moving"

    Returns
    -------
    pixels : uint8 array, shape (h, w, 4), straight alpha
        A view of the photo where its bytes can be copied. Colours run on beyond the photo's border.
    box : PixelBox
        Where the pixels lie: all of `box`, or in the copying case its part on the photo.
    """
    pyramid = pyramid.at_scale(math.sqrt(abs(to_output.determinant)))
    copied = None if pyramid.photo.size != pyramid.size else exact_view(pyramid.photo.rgba, to_output, box)
    if copied is not None:
        return copied
    scale = math.sqrt(abs(to_output.determinant)) * pyramid.size[0] / pyramid.photo.size[0]
    if quality != "final":
        level = preview_level(scale)
        pixels = _warp(pyramid, pyramid.halved(level), to_output, box, cv2.INTER_LINEAR)
    elif scale >= 1 - 1e-9:
        pixels = _warp(pyramid, pyramid.base(), to_output, box, cv2.INTER_LANCZOS4)
    else:
        pixels = _supersampled(pyramid, to_output, box, scale)
    if pixels.dtype != np.uint8:
        return _straight8(pixels), box
    return pixels, box


def preview_level(scale: float) -> int:
    """Return how often to halve a photo shown at `scale` output px per photo px: the next larger level."""
    return max(0, math.floor(math.log2(1 / scale) + 1e-6)) if scale < 1 else 0


def sample_for_screen(pyramid: Pyramid, to_output: Affine, box: PixelBox) -> Bytes:
    """Return a placed photo in a box, premultiplied uint8 RGBA; colours run on beyond its border."""
    pyramid = pyramid.at_scale(math.sqrt(abs(to_output.determinant)))
    scale = math.sqrt(abs(to_output.determinant)) * pyramid.size[0] / pyramid.photo.size[0]
    source = pyramid.for_screen(preview_level(scale))
    nearest = scale >= 8
    way = cv2.INTER_NEAREST if nearest else cv2.INTER_LINEAR
    return _warp(pyramid, source, to_output, box, way)


def luminance_for_screen(pyramid: Pyramid, to_output: Affine, box: PixelBox) -> Bytes:
    """Return a placed opaque photo's luminance in a box, uint8 of its shape; beyond its border it runs on."""
    scale = math.sqrt(abs(to_output.determinant)) * pyramid.size[0] / pyramid.photo.size[0]
    return _warp(pyramid, pyramid.luminance(preview_level(scale)), to_output, box, cv2.INTER_LINEAR)


def _supersampled(pyramid: Pyramid, to_output: Affine, box: PixelBox, scale: float) -> Bytes:
    source = pyramid.reduced(2 * scale) if scale < 0.5 else pyramid.base()
    doubled = PixelBox(2 * box.x0, 2 * box.y0, 2 * box.x1, 2 * box.y1)
    twice = _warp(pyramid, source, Affine.scaling(2.0).after(to_output), doubled, cv2.INTER_LINEAR)
    return _area(twice, (box.width, box.height))


def _warp(pyramid: Pyramid, source: Bytes, to_output: Affine, box: PixelBox, interpolation: int) -> Bytes:
    """Warp (a reduction of) the photo into a box; pixel centres lie at halves."""
    width, height = pyramid.size
    to_source = Affine.scaling(source.shape[1] / width, source.shape[0] / height).after(to_output.inverse())
    part, origin = _needed_part(source, to_source, box)
    to_part = Affine.translation(-origin[0] - 0.5, -origin[1] - 0.5).after(to_source)
    m = to_part.after(Affine.translation(box.x0 + 0.5, box.y0 + 0.5))
    matrix = np.array([[m.a, m.c, m.e], [m.b, m.d, m.f]])
    flags = interpolation | cv2.WARP_INVERSE_MAP
    size = (box.width, box.height)
    out = cv2.warpAffine(part, matrix, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(out)


def _needed_part(source: Bytes, to_source: Affine, box: PixelBox) -> tuple[Bytes, tuple[int, int]]:
    """Return the part of the source a box looks at (the warp takes at most 32767 px a side)."""
    corners = [to_source.apply(x, y) for x in (box.x0, box.x1) for y in (box.y0, box.y1)]
    xs, ys = zip(*corners, strict=True)
    height, width = source.shape[:2]
    x0, x1 = (min(max(v, 0), width) for v in (math.floor(min(xs)) - _MARGIN, math.ceil(max(xs)) + _MARGIN))
    y0, y1 = (min(max(v, 0), height) for v in (math.floor(min(ys)) - _MARGIN, math.ceil(max(ys)) + _MARGIN))
    x0, y0 = min(x0, width - 1), min(y0, height - 1)
    return source[y0 : max(y1, y0 + 1), x0 : max(x1, x0 + 1)], (x0, y0)
