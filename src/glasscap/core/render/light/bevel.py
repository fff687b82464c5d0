"""Highlight and shade of a slope along the edge, as planes."""

import math
from collections.abc import Iterator

import cv2
import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.document.model.finishes import Bevel, Shadow
from glasscap.core.document.model.paint import rgba_of
from glasscap.core.geometry.outline import Ints, bounds
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.blur import blurred
from glasscap.core.raster.edge_distance import distance_within
from glasscap.core.raster.gaussian import SoftPlane
from glasscap.core.raster.pixels import Planar, Plane
from glasscap.core.raster.planar import add_colour, lay_tint
from glasscap.core.render.light.casts import Cast
from glasscap.core.render.offsets.edges import Edges
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.plan.part import FLATNESS, Part

# A colour, 0 to 255 a channel, and how much of it is seen at most.
Tint = tuple[tuple[float, float, float], np.float32]


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
            key, lambda: self._made(edges, outermost, window, cache), lambda p: p[0].nbytes + p[1].nbytes
        )

    def _made(
        self, edges: Edges, base: OffsetKey, window: PixelBox, cache: ValueCache
    ) -> tuple[SoftPlane, SoftPlane]:
        scale, bevel = self._part.scale, self._bevel
        width, softness = bevel.width * scale, bevel.softness * scale
        k = max(1, math.floor(min(width, max(softness, width / 4)) / 6))
        # In steps, so that what is kept of one width serves for many others.
        far = 16 * math.ceil((width + 3 * softness + 2) / 16)
        outline, is_hole = edges.filling_polygons(base), self._part.region.is_hole
        lit = window.grown(far)
        if outline:
            # Beyond what is felt of the outline it is dark; the inner side of a hole's edge lies around it.
            is_around = self.is_inner == is_hole
            lit = lit.intersection(bounds(outline).rounded_out().grown(far if is_around else k))
        cells = lit.in_cells(k)
        if cells.is_empty:
            cells = PixelBox(cells.x0, cells.y0, cells.x0 + 1, cells.y0 + 1)
        spanned = cells.times(k)
        if is_hole:
            # The content goes on around a hole without end: its own end is no edge.
            coverage = 1 - edges.cells(base, cells, k)
        elif edges.is_whole(base):
            # Pixels of a body wholly in view are known.
            coverage = edges.on_cells(base, cells, k, (0.0, 0.0))
        else:
            coverage = edges.cells(base, cells, k)
        # Distances from whole pixels leave a faint hatching, which is not seen of what moves.
        away = None
        if edges.key.flatness > FLATNESS:
            # Another width or softness changes nothing of them.
            key = ("bevel distance", edges.key, base, cells, k, self.is_inner)
            away = cache.get(key, lambda: rough_distance(coverage, bevel), lambda p: p.nbytes)
        light, shade = slope_light(coverage, width / k, softness / k, bevel, away)
        return SoftPlane(light, spanned, k), SoftPlane(shade, spanned, k)

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return in which columns of a box there is none of it."""
        return self._planes[0].is_empty(box) & self._planes[1].is_empty(box)

    @property
    def casts(self) -> list[Cast]:
        """Highlight and shade as what lies beneath a body, where they do: no pixel has much of both."""
        colours = (self._bevel.highlight, self._bevel.shade)
        shadows = [Shadow(colour=colour, opacity=1.0) for colour in colours]
        planes = zip(shadows, self._planes, strict=True)
        return [Cast(shadow, soft, is_inner=False, is_inverse=False) for shadow, soft in planes]

    def within(self, box: PixelBox) -> "LightInBox":
        """Return highlight and shade in a box, to be laid over single pixels of it."""
        light, shade = (soft.band(box) for soft in self._planes)
        return LightInBox(light, shade, tuple(self._colours))

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
        for soft, (colour, opacity) in zip(self._planes, self._colours, strict=True):
            yield np.asarray(soft.band(box) * opacity, np.float32), colour

    @property
    def _colours(self) -> Iterator[Tint]:
        for text in (self._bevel.highlight, self._bevel.shade):
            red, green, blue, alpha = rgba_of(text)
            yield (red, green, blue), np.float32(alpha / 255)


class LightInBox(Struct, frozen=True, eq=False):
    """Highlight and shade in a box, of its shape, and their colours."""

    light: Plane
    shade: Plane
    colours: tuple[Tint, ...]

    @property
    def is_seen(self) -> NDArray[np.bool_]:
        """In which pixels of the box there may be any of it."""
        return np.asarray(self.light + self.shade > 0)

    def lay_at(self, planes: Planar, places: Ints) -> None:
        """Lay them over premultiplied planes of the pixels of those numbers, shape (4, 1, n), in place."""
        for plane, (colour, opacity) in zip((self.light, self.shade), self.colours, strict=True):
            lay_tint(planes, np.ascontiguousarray(plane).ravel()[places][None] * opacity, colour)


def slope_light(
    coverage: Plane, width: float, softness: float, bevel: Bevel, away: Plane | None = None
) -> tuple[Plane, Plane]:
    """Return highlight and shade of a slope along the edge of a coverage, each 0 to 1; lengths in its px.

    What lies beyond the coverage's border counts as level; nothing is lit right at it. `away` is how far each
    pixel lies from the edge on the bevel's side, where that is known already.
    """
    is_inner = bevel.side == "inner"
    light, shade = np.zeros(coverage.shape, np.float32), np.zeros(coverage.shape, np.float32)
    covered = _covered(coverage, bevel)
    if away is None:
        away = distance_within(covered, width + 2 * softness + 1)
    # The slope alone, and only within the shape: few pixels of many.
    farthest = np.float32(width + 2 * softness)
    is_seen = away < farthest
    is_seen &= covered > 0
    for border in (is_seen[:1], is_seen[-1:], is_seen[:, :1], is_seen[:, -1:]):
        border[:] = False
    places = np.flatnonzero(is_seen)
    seen = np.clip((farthest - away.ravel()[places]) / np.float32(max(softness, 1.0)), 0, 1)
    seen *= covered.ravel()[places]
    height = np.clip(away, 0, np.float32(width))
    if not is_inner:
        np.subtract(np.float32(width), height, out=height)
    received, level = _received(blurred(height, max(softness / 2, 0.8)), places, bevel)
    for plane, most in ((light, max(1 - level, 0.05)), (shade, -max(level, 0.05))):
        plane.ravel()[places] = np.clip(received * np.float32(1 / most), 0, 1) * seen
    return light, shade


def rough_distance(coverage: Plane, bevel: Bevel) -> Plane:
    """Return how far each pixel lies from the edge on a bevel's side; told from whole pixels, px.

    The edge lies half a pixel this side of the centre of the nearest pixel beyond it.
    """
    inside = (_covered(coverage, bevel) >= 0.5).view(np.uint8)
    distance = cv2.distanceTransform(inside, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    return np.subtract(distance, np.float32(0.5), out=np.asarray(distance, np.float32))


def _covered(coverage: Plane, bevel: Bevel) -> Plane:
    """Return how much of each pixel lies on a bevel's side of the edge."""
    return coverage if bevel.side == "inner" else 1 - coverage


def _received(height: Plane, places: Ints, bevel: Bevel) -> tuple[Plane, float]:
    """Return the light some pixels of a surface receive less what a level one does, shape (n,), and that."""
    angle, rise = math.radians(bevel.direction), math.radians(bevel.elevation)
    lx, ly, lz = math.cos(angle) * math.cos(rise), math.sin(angle) * math.cos(rise), math.sin(rise)
    row, step = height.ravel(), height.shape[1]
    across = (row[places + 1] - row[places - 1]) / 2
    down = (row[places + step] - row[places - step]) / 2
    toward = np.float32(lz) - np.float32(lx) * across - np.float32(ly) * down
    return toward / np.sqrt(across * across + down * down + 1) - np.float32(lz), lz
