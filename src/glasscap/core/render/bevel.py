"""Highlight and shade of a slope along the edge, as planes."""

import math
from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.document.finishes import Bevel
from glasscap.core.document.paint import rgba_of
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.blur import blurred, reach
from glasscap.core.raster.gaussian import SoftPlane
from glasscap.core.render.bands import OffsetKey
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.edges import Edges
from glasscap.core.render.part import Part
from glasscap.core.render.planar import Planar, Plane, add_colour, lay_tint


class BevelPlanes:
    """Highlight and shade of a slope along the edge.

    The height is the distance to the edge up to the width, smoothed; the light is the cosine between the
    slope's normal and the light's direction, less what a level surface receives.
    """

    def __init__(
        self, part: Part, bevel: Bevel, edges: Edges, outermost: OffsetKey, window: PixelBox, cache: ValueCache
    ) -> None:
        self._part, self._bevel = part, bevel
        self.is_inner = bevel.side == "inner"
        key = ("bevel", edges.key, outermost, bevel, window)
        self._planes: tuple[SoftPlane, SoftPlane] = cache.get(
            key, lambda: self._made(edges, outermost, window), lambda p: p[0].nbytes + p[1].nbytes
        )

    def _made(self, edges: Edges, base: OffsetKey, window: PixelBox) -> tuple[SoftPlane, SoftPlane]:
        scale, bevel = self._part.scale, self._bevel
        width, softness = bevel.width * scale, bevel.softness * scale
        k = max(1, math.floor(min(width, max(softness, width / 4)) / 6))
        far = math.ceil(width + 3 * softness) + 2
        cells = PixelBox(
            (window.x0 - far) // k - 1,
            (window.y0 - far) // k - 1,
            -(-(window.x1 + far) // k) + 1,
            -(-(window.y1 + far) // k) + 1,
        )
        spanned = PixelBox(cells.x0 * k, cells.y0 * k, cells.x1 * k, cells.y1 * k)
        light, shade = slope_light(edges.cells(base, cells, k), width / k, softness / k, bevel)
        return SoftPlane(light, spanned, k), SoftPlane(shade, spanned, k)

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return in which columns of a box there is none of it."""
        return self._planes[0].is_empty(box) & self._planes[1].is_empty(box)

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the light is fainter than `faintest`."""
        one, other = (soft.hull(faintest) for soft in self._planes)
        return one.union(other)

    def light(self, planes: Planar, box: PixelBox) -> None:
        """Lay highlight and shade over premultiplied planes without changing their alpha, in place."""
        for plane, colour in self._tints(box):
            lay_tint(planes, plane, colour)

    def beneath(self, box: PixelBox) -> Planar:
        """Return an outer bevel's own premultiplied planes."""
        out = np.zeros((4, box.height, box.width), np.float32)
        for plane, colour in self._tints(box):
            add_colour(out, plane, (*colour, 255.0))
        return out

    def _tints(self, box: PixelBox) -> Iterator[tuple[Plane, tuple[float, float, float]]]:
        for soft, colour in zip(self._planes, (self._bevel.highlight, self._bevel.shade), strict=True):
            red, green, blue, alpha = rgba_of(colour)
            yield np.asarray(soft.band(box) * np.float32(alpha / 255), np.float32), (red, green, blue)


def slope_light(coverage: Plane, width: float, softness: float, bevel: Bevel) -> tuple[Plane, Plane]:
    """Return highlight and shade of a slope along the edge of a coverage, each 0 to 1; lengths in its px."""
    inside = (coverage >= 0.5).view(np.uint8)
    light, shade = np.zeros_like(coverage), np.zeros_like(coverage)
    x, y, columns, rows = cv2.boundingRect(inside)
    if not rows:
        return light, shade
    # Further out the surface is level.
    smoothed = max(softness / 2, 0.8)
    far = reach(smoothed) + (2 if bevel.side == "inner" else math.ceil(width + 2 * softness) + 2)
    here = np.s_[max(y - far, 0) : y + rows + far, max(x - far, 0) : x + columns + far]
    within = coverage[here] if bevel.side == "inner" else 1 - coverage[here]
    solid = inside[here] if bevel.side == "inner" else 1 - inside[here]
    # The edge lies half a pixel this side of the nearest centre beyond it.
    away = cv2.distanceTransform(solid, cv2.DIST_L2, cv2.DIST_MASK_PRECISE) - np.float32(0.5)
    height = np.minimum(np.maximum(away, 0), np.float32(width))
    if bevel.side == "outer":
        np.subtract(np.float32(width), height, out=height)
    received, level = _received(blurred(height, smoothed), bevel)
    # Where the slope is, and there only as far as the shape goes.
    np.subtract(np.float32(width + 2 * softness), away, out=away)
    away *= np.float32(1 / max(softness, 1.0))
    seen = np.minimum(np.maximum(away, 0, out=away), 1, out=away)
    seen *= within
    for plane, most in ((light, max(1 - level, 0.05)), (shade, -max(level, 0.05))):
        part = received * np.float32(1 / most)
        np.minimum(np.maximum(part, 0, out=part), 1, out=part)
        np.multiply(part, seen, out=plane[here])
    return light, shade


def _received(height: Plane, bevel: Bevel) -> tuple[Plane, float]:
    """Return the light a surface receives less what a level one does, and that."""
    angle, rise = math.radians(bevel.direction), math.radians(bevel.elevation)
    lx, ly, lz = math.cos(angle) * math.cos(rise), math.sin(angle) * math.cos(rise), math.sin(rise)
    down, across = np.gradient(height)
    steep = across * across
    steep += down * down
    steep += 1
    across *= np.float32(-lx)
    down *= np.float32(ly)
    across -= down
    across += np.float32(lz)
    across /= np.sqrt(steep)
    across -= np.float32(lz)
    return across, lz
