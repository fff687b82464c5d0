"""Shadows, glows and bevels as planes."""

import math
from collections.abc import Callable, Hashable
from dataclasses import replace

import cv2
import numpy as np
from msgspec.structs import replace as changed
from numpy.typing import NDArray

from glasscap.core.document.finishes import AS_SHOT, Bevel, Glow, Lights, Shadow
from glasscap.core.document.paint import ColourPaint, rgba_of
from glasscap.core.document.region import Region, covers_shape, filled_region
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.coverage import cover
from glasscap.core.raster.gaussian import PlaneMaker, SoftEdge, SoftPlane, blurred, soften, soften_edge
from glasscap.core.raster.resample import Quality
from glasscap.core.render.bands import OUTLINE, OffsetKey, bands_of, solid_spans
from glasscap.core.render.bounds import outer_reach
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.edges import Edges
from glasscap.core.render.paints import is_opaque_paint
from glasscap.core.render.part import Part
from glasscap.core.render.planar import Planar, Plane, add_colour

# The alpha of a part's body in a box of cells, 0 to 1.
AlphaMaker = Callable[[Part, PixelBox], Plane]
# Cells to a sigma on which a painted silhouette is spread.
_SPREAD_CELLS_PER_SIGMA = 12
Terms = tuple[tuple[float, OffsetKey], ...]


class Cast:
    """One shadow or glow: a soft plane in a colour."""

    def __init__(self, shadow: Shadow, soft: SoftEdge, *, is_inner: bool, is_inverse: bool) -> None:
        self._soft, self._is_inverse, self.is_inner = soft, is_inverse, is_inner
        self._is_clear_beneath = shadow.is_clear_beneath
        red, green, blue, alpha = rgba_of(shadow.colour)
        self.colour = (red, green, blue)
        self._opacity = shadow.opacity * alpha / 255

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return in which columns of a box there is none of it."""
        return self._soft.is_full(box) if self._is_inverse else self._soft.is_empty(box)

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the shadow is fainter than `faintest`."""
        return self._soft.hull(faintest / max(self._opacity, 1e-6))

    def alpha(self, box: PixelBox, opacity: float) -> Plane:
        """Return what is seen of it where nothing else lies, 0 to 255; `opacity` is its part's."""
        return np.asarray(self._soft.band(box) * np.float32(self._opacity * opacity * 255), np.float32)

    def _plane(self, box: PixelBox) -> Plane:
        soft = self._soft.band(box)
        if self._is_inverse:
            soft = 1 - soft
        return np.asarray(soft * np.float32(self._opacity), np.float32)

    def lay_beneath(self, planes: Planar, box: PixelBox, body_alpha: Plane) -> None:
        """Lay a shadow beneath premultiplied planes, in place; `body_alpha` (0 to 255) may clear it."""
        share = self._plane(box)
        if self._is_clear_beneath:
            share *= 1 - body_alpha * np.float32(1 / 255)
        share *= 1 - planes[3] * np.float32(1 / 255)
        add_colour(planes, share, (*self.colour, 255.0))

    def tint(self, planes: Planar, box: PixelBox) -> None:
        """Lay the colour over premultiplied planes without changing their alpha, in place."""
        plane = self._plane(box)
        rest = 1 - plane
        share = plane * (planes[3] * np.float32(1 / 255))
        for channel, level in enumerate(self.colour):
            planes[channel] *= rest
            if level:
                planes[channel] += share * np.float32(level)


def casts_of(
    part: Part,
    window: PixelBox,
    quality: Quality,
    cache: ValueCache,
    alpha: AlphaMaker,
    *,
    is_opaque: bool,
) -> list[Cast]:
    """Return a part's shadows and glows, inner ones first, then those beneath from the top down."""
    lights = part.lights
    maker = _CastMaker(part, window, quality, cache, alpha, is_opaque)
    inner = [*_glow(lights.inner_glow), *((lights.inner_shadow,) if lights.inner_shadow else ())]
    outer = [*_glow(lights.outer_glow), *lights.shadows]
    return [maker.inner(s) for s in inner] + [maker.outer(s) for s in outer]


def _glow(glow: Glow | None) -> list[Shadow]:
    return [] if glow is None else [glow.as_shadow]


class _CastMaker:
    def __init__(
        self,
        part: Part,
        window: PixelBox,
        quality: Quality,
        cache: ValueCache,
        alpha: AlphaMaker,
        is_opaque: bool,
    ) -> None:
        self._part, self._window, self._quality, self._cache, self._alpha = part, window, quality, cache, alpha
        self._is_opaque = is_opaque
        self._edges = Edges(part.region, part.edge, window, cache)
        self._terms = silhouette_terms(part) if is_opaque else None

    def inner(self, shadow: Shadow) -> Cast:
        """Shade from the edge inwards: 1 less the visible content's own blurred coverage."""
        scale, keeps_inside = self._part.scale, self._keeps_inside
        bands = bands_of(self._part.finishes.strokes, scale)
        border = OUTLINE
        if bands:
            border = min(OUTLINE, bands[0].inner, key=lambda k: k.order)
            if not keeps_inside:
                border = max(OUTLINE, bands[-1].outer, key=lambda k: k.order)
        by = -shadow.spread * scale if keeps_inside else shadow.spread * scale
        soft = self._outlined(((1.0, border.moved(by)),), shadow, shadow.blur * scale / 2)
        return Cast(shadow, soft, is_inner=True, is_inverse=keeps_inside)

    def outer(self, shadow: Shadow) -> Cast:
        """Shade of the whole silhouette."""
        spread = shadow.spread * self._part.scale
        terms = self._terms
        if terms is not None and (spread == 0 or len(terms) == 1):
            terms = tuple((factor, key.moved(spread)) for factor, key in terms)
            soft: SoftEdge = self._outlined(terms, shadow, self._silhouette_sigma(shadow))
        else:
            soft = self._painted(shadow, spread)
        return Cast(shadow, soft, is_inner=False, is_inverse=False)

    @property
    def _keeps_inside(self) -> bool:
        return self._part.region.shape is None or self._part.region.shape.keeps == "inside"

    def _silhouette_sigma(self, shadow: Shadow) -> float:
        sigma = shadow.blur * self._part.scale / 2
        edge = self._part.edge
        if edge.feather > 0:
            # A Gaussian of a Gaussian is one of the summed variances.
            sigma = math.hypot(sigma, edge.feather * self._part.scale / 2)
        return sigma

    def _outlined(self, terms: Terms, shadow: Shadow, sigma: float) -> SoftEdge:
        """Blur a sum of parallel outlines."""
        scale = self._part.scale
        dx, dy = shadow.dx * scale, shadow.dy * scale
        key = ("cast", self._edges.key, terms, sigma, dx, dy, self._window, self._quality)

        def made(cells: PixelBox, k: float) -> Plane:
            total = np.zeros((cells.height, cells.width), np.float32)
            for factor, offset in terms:
                flat = tuple((p + np.array([dx, dy])) / k for p in self._edges.polygons(offset))
                total += np.float32(factor) * cover(flat, cells).plane(cells)
            return total

        drawn = self._kept((self._edges.key, terms, dx, dy), made)
        return self._cache.get(
            key,
            lambda: soften_edge(drawn, self._window, sigma, self._quality, is_of_pixels=True),
            lambda s: s.nbytes,
        )

    def _kept(self, name: Hashable, made: PlaneMaker) -> PlaneMaker:
        """Return a maker that keeps what it drew for the screen: another blur of it is then soon done."""
        if self._quality == "final":
            return made

        def drawn(cells: PixelBox, k: float) -> Plane:
            return self._cache.get(("cells", name, cells, k), lambda: made(cells, k), lambda p: p.nbytes)

        return drawn

    def _body(self) -> Part:
        """Return what casts: content and strokes alone; what is opaque casts the same whatever it shows."""
        part = self._part
        body = replace(part, finishes=changed(part.finishes, lights=Lights()), mount=None, opacity=1.0)
        if not self._is_opaque:
            return body
        body = replace(body, photo=None, paint=ColourPaint("#000000"), adjustments=AS_SHOT)
        region = part.region
        if region.shape is None or not self._keeps_inside or not covers_shape(region, outer_reach(part)):
            return body
        return replace(body, region=filled_region(region.shape, region.placement, region.sheet_to_output))

    def _painted(self, shadow: Shadow, spread: float) -> SoftPlane:
        """Blur the alpha of the body as it is painted."""
        scale = self._part.scale
        body = self._body()
        light = (shadow.dx, shadow.dy, shadow.blur, shadow.spread)
        key = ("cast", body, light, self._window, self._quality)
        move = Affine.translation(shadow.dx * scale, shadow.dy * scale)

        sigma = shadow.blur * scale / 2

        def made(cells: PixelBox, k: float) -> Plane:
            n = _finer_cells(k, sigma) if spread else 1
            small = shrunk(body, Affine.scaling(n / k).after(move))
            fine = PixelBox(cells.x0 * n, cells.y0 * n, cells.x1 * n, cells.y1 * n)
            plane = grown(self._alpha(small, fine), spread * n / k)
            if n == 1:
                return plane
            return np.asarray(cv2.resize(plane, (cells.width, cells.height), interpolation=cv2.INTER_AREA))

        drawn = self._kept((body, shadow.dx, shadow.dy, shadow.spread), made)
        return self._cache.get(
            key, lambda: soften(drawn, self._window, sigma, self._quality, is_of_pixels=True), lambda s: s.nbytes
        )


def _finer_cells(k: float, sigma: float) -> int:
    """Return how many times finer than cells of k px a silhouette is spread: a disc of few cells is none."""
    return max(1, min(math.floor(k), math.ceil(_SPREAD_CELLS_PER_SIGMA * k / max(sigma, 1e-6))))


def shrunk(part: Part, change: Affine) -> Part:
    """Return a part under a further map of the output."""
    region = part.region
    moved = Region(
        change.after(region.photo_to_output),
        region.photo_size,
        region.shape,
        region.placement,
        change.after(region.sheet_to_output),
    )
    return replace(part, region=moved)


def grown(plane: Plane, by: float) -> Plane:
    """Return a plane whose values spread (or, negative, shrink) by a disc of `by` px.

    Between two whole radii their mean is taken in proportion, which moves a straight edge by just that.
    """
    whole = math.floor(abs(by))
    rest = abs(by) - whole
    near = _morphed(plane, math.copysign(whole, by))
    if rest == 0:
        return near
    further = _morphed(plane, math.copysign(whole + 1, by))
    return np.asarray(near + (further - near) * np.float32(rest))


def _morphed(plane: Plane, by: float) -> Plane:
    side = round(abs(by))
    if side == 0:
        return plane
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * side + 1, 2 * side + 1))
    change = cv2.dilate if by > 0 else cv2.erode
    return np.asarray(change(plane, disc, borderType=cv2.BORDER_CONSTANT, borderValue=0))


def silhouette_terms(part: Part) -> Terms | None:
    """Return a body's alpha as a sum of parallel outlines, or None where it is not so simple."""
    region, edge, strokes = part.region, part.edge, part.finishes.strokes
    if region.shape is not None and region.shape.keeps == "outside":
        return None
    if edge.mask is not None or not covers_shape(region, 0 if region.shape is None else outer_reach(part)):
        return None
    if edge.feather > 0 and (strokes or edge.strength != 1 or edge.feather_side != "centred"):
        return None
    if any(s.opacity < 1 or s.dashes or s.texture != "smooth" or not is_opaque_paint(s.paint) for s in strokes):
        return None
    spans = solid_spans(bands_of(strokes, part.scale))
    terms: list[tuple[float, OffsetKey]] = []
    for inner, outer in spans:
        terms.append((1.0, outer))
        if inner is not None:
            terms.append((-1.0, inner))
    return tuple(terms)


class BevelPlanes:
    """Highlight and shade of a slope along the edge.

    The height is the distance to the edge up to the width, smoothed; the light is the cosine between the
    slope's normal and the light's direction, less what a level surface receives.
    """

    def __init__(
        self, part: Part, bevel: Bevel, edges: Edges, outermost: OffsetKey, window: PixelBox, cache: ValueCache
    ) -> None:
        self._part, self._bevel = part, bevel
        self._is_inner = bevel.side == "inner"
        base = outermost
        key = ("bevel", edges.key, base, bevel, window)
        self._planes: tuple[SoftPlane, SoftPlane] = cache.get(
            key, lambda: self._made(edges, base, window), lambda p: p[0].nbytes + p[1].nbytes
        )

    @property
    def is_inner(self) -> bool:
        """Whether it lies on the body."""
        return self._is_inner

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
        for soft, colour in zip(self._planes, (self._bevel.highlight, self._bevel.shade), strict=True):
            red, green, blue, alpha = rgba_of(colour)
            plane = soft.band(box) * np.float32(alpha / 255)
            share = plane * (planes[3] * np.float32(1 / 255))
            rest = 1 - plane
            for channel, level in enumerate((red, green, blue)):
                planes[channel] *= rest
                planes[channel] += share * np.float32(level)

    def beneath(self, box: PixelBox) -> Planar:
        """Return an outer bevel's own premultiplied planes."""
        out = np.zeros((4, box.height, box.width), np.float32)
        for soft, colour in zip(self._planes, (self._bevel.highlight, self._bevel.shade), strict=True):
            red, green, blue, alpha = rgba_of(colour)
            plane = soft.band(box) * np.float32(alpha / 255)
            for channel, level in enumerate((red, green, blue, 255.0)):
                out[channel] += plane * np.float32(level)
        return out


def slope_light(coverage: Plane, width: float, softness: float, bevel: Bevel) -> tuple[Plane, Plane]:
    """Return highlight and shade of a slope along the edge of a coverage, each 0 to 1; lengths in its px."""
    inside = (coverage >= 0.5).astype(np.uint8)
    solid = inside if bevel.side == "inner" else 1 - inside
    # The edge lies half a pixel this side of the nearest centre beyond it.
    away = cv2.distanceTransform(solid, cv2.DIST_L2, cv2.DIST_MASK_PRECISE) - np.float32(0.5)
    height = np.minimum(np.maximum(away, 0), np.float32(width))
    if bevel.side == "outer":
        height = -height
    height = (
        blurred(np.asarray(height - height.min(), np.float32), max(softness / 2, 0.8)) if height.size else height
    )
    down, across = np.gradient(height)
    angle, rise = math.radians(bevel.direction), math.radians(bevel.elevation)
    lx, ly, lz = math.cos(angle) * math.cos(rise), math.sin(angle) * math.cos(rise), math.sin(rise)
    received = (lz - across * lx - down * ly) / np.sqrt(1 + across * across + down * down) - lz
    within = coverage if bevel.side == "inner" else 1 - coverage
    near = np.clip((width + 2 * softness - away) / max(softness, 1.0), 0, 1)
    light = np.clip(received / max(1 - lz, 0.05), 0, 1) * within * near
    shade = np.clip(-received / max(lz, 0.05), 0, 1) * within * near
    return light.astype(np.float32), shade.astype(np.float32)
