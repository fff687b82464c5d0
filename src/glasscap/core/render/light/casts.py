"""Shadows and glows as planes."""

import math
from collections.abc import Callable, Hashable

import cv2
import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from glasscap.core.document.model.finishes import AS_SHOT, Glow, Lights, Shadow
from glasscap.core.document.model.paint import ColourPaint, rgba_of
from glasscap.core.document.model.region import covers_shape, filled_region
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.gaussian import PlaneMaker, SoftEdge, SoftPlane, soften, soften_edge
from glasscap.core.raster.pixels import Bytes, Planar, Plane
from glasscap.core.raster.planar import Writing, add_colour, lay_tint
from glasscap.core.raster.resample import Quality
from glasscap.core.raster.row_spans import RowSpans
from glasscap.core.raster.spreading import spread_by
from glasscap.core.render.offsets.silhouette import Terms, finer_cells, shrunk, silhouette_terms
from glasscap.core.render.plan.bands import OUTLINE, bands_of
from glasscap.core.render.plan.bounds import content_reach
from glasscap.core.render.plan.part import Part
from glasscap.core.render.shares.shares import Weights

# The alpha of a part's body in a box of cells, 0 to 1.
AlphaMaker = Callable[[Part, PixelBox], Plane]


class Cast:
    """One shadow or glow: a soft plane in a colour."""

    def __init__(self, shadow: Shadow, soft: SoftEdge, *, is_inner: bool, is_inverse: bool) -> None:
        self._soft, self._is_inverse, self.is_inner = soft, is_inverse, is_inner
        self._is_clear_beneath = shadow.is_clear_beneath
        red, green, blue, alpha = rgba_of(shadow.colour)
        self.colour = (red, green, blue)
        self._opacity = shadow.opacity * alpha / 255

    @property
    def opacity(self) -> float:
        """Its opacity at its fullest, 0 to 1."""
        return self._opacity

    @property
    def is_clear_beneath(self) -> bool:
        """Whether it is taken away where the body lies."""
        return self._is_clear_beneath

    def is_empty(self, box: PixelBox) -> NDArray[np.bool_]:
        """Return in which columns of a box there is none of it."""
        return self._soft.is_full(box) if self._is_inverse else self._soft.is_empty(box)

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the shadow is fainter than `faintest`."""
        return self._soft.hull(faintest / max(self._opacity, 1e-6))

    def write(self, out: Bytes, box: PixelBox, opacity: float, writing: Writing) -> None:
        """Write what is seen of it where nothing else lies; `opacity` is its part's."""
        writing.tint(out, self._soft.band(box), self._opacity * opacity * 255, self.colour)

    def plane(self, box: PixelBox) -> Plane:
        """Return its share of each pixel, 0 to 1, as though nothing else lay there."""
        return np.asarray(self.undimmed(box) * np.float32(self._opacity), np.float32)

    def undimmed(self, box: PixelBox) -> Plane:
        """Return its share of each pixel as though it were opaque at its fullest; not to be written to."""
        soft = self._soft.band(box)
        return 1 - soft if self._is_inverse else soft

    @property
    def is_wide(self) -> bool:
        """Whether its blur is held as a plane of which single pixels are quickly told."""
        return isinstance(self._soft, SoftPlane) and not self._is_inverse

    @property
    def k(self) -> int:
        """The side of the cells on which its blur is held, px; 1 where it is not."""
        return self._soft.k if isinstance(self._soft, SoftPlane) else 1

    def on_cells(self, cells: PixelBox, k: int) -> Plane:
        """Return its share of cells of k px, where its blur is held on such; float32 of the box's shape."""
        assert isinstance(self._soft, SoftPlane)
        soft = self._soft.on_cells(cells, k)
        return (1 - soft if self._is_inverse else soft) * np.float32(self._opacity)

    def at(self, ys: NDArray[np.int64], xs: NDArray[np.int64], box: PixelBox) -> NDArray[np.float32]:
        """Return its share of single pixels of a box, counted from its corner; shape (n,)."""
        if not isinstance(self._soft, SoftPlane) or self._is_inverse:
            return self.plane(box)[ys, xs]
        return np.asarray(self._soft.at(ys + box.y0, xs + box.x0) * np.float32(self._opacity), np.float32)

    def spans(self, box: PixelBox) -> RowSpans:
        """Return the columns of each row of a box in which there may be any of it, where it `is_wide`."""
        assert isinstance(self._soft, SoftPlane)
        return self._soft.spans(box)

    def lay_beneath(self, planes: Planar, plane: Plane, body_alpha: Plane) -> None:
        """Lay a shadow, its own `plane`, beneath premultiplied planes, in place.

        `body_alpha` (0 to 255) may clear it.
        """
        share = plane * (1 - planes[3] * np.float32(1 / 255))
        if self._is_clear_beneath:
            share *= 1 - body_alpha * np.float32(1 / 255)
        add_colour(planes, share, (*self.colour, 255.0))

    def tint(self, planes: Planar, box: PixelBox) -> None:
        """Lay the colour over premultiplied planes without changing their alpha, in place."""
        lay_tint(planes, self.plane(box), self.colour)


def casts_of(
    part: Part,
    weights: Weights,
    window: PixelBox,
    quality: Quality,
    cache: ValueCache,
    alpha: AlphaMaker,
    *,
    is_opaque: bool,
) -> list[Cast]:
    """Return a part's shadows and glows, inner ones first, then those beneath from the top down."""
    lights = part.lights
    maker = _CastMaker(part, weights, window, quality, cache, alpha, is_opaque)
    inner = [*_glow(lights.inner_glow), *((lights.inner_shadow,) if lights.inner_shadow else ())]
    outer = [*_glow(lights.outer_glow), *lights.shadows]
    return [maker.inner(s) for s in inner] + [maker.outer(s) for s in outer]


def _glow(glow: Glow | None) -> list[Shadow]:
    return [] if glow is None else [glow.as_shadow]


class _CastMaker:
    def __init__(
        self,
        part: Part,
        weights: Weights,
        window: PixelBox,
        quality: Quality,
        cache: ValueCache,
        alpha: AlphaMaker,
        is_opaque: bool,
    ) -> None:
        self._part, self._window, self._quality, self._cache, self._alpha = part, window, quality, cache, alpha
        self._weights, self._edges, self._is_opaque = weights, weights.edges, is_opaque
        self._terms = silhouette_terms(part) if is_opaque else None

    def inner(self, shadow: Shadow) -> Cast:
        """Shade from the edge inwards: 1 less the visible content's own blurred coverage."""
        scale, is_hole = self._part.scale, self._part.region.is_hole
        bands = bands_of(self._part.finishes.strokes, scale)
        border = OUTLINE
        if bands:
            border = min(OUTLINE, bands[0].inner, key=lambda k: k.order)
            if is_hole:
                border = max(OUTLINE, bands[-1].outer, key=lambda k: k.order)
        by = shadow.spread * scale if is_hole else -shadow.spread * scale
        soft = self._outlined(((1.0, border.moved(by)),), shadow, shadow.blur * scale / 2)
        return Cast(shadow, soft, is_inner=True, is_inverse=not is_hole)

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
                total += np.float32(factor) * self._edges.cells(offset, cells, k, (dx, dy))
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
            key = ("cells", name, cells, k, self._quality)
            return self._cache.get(key, lambda: made(cells, k), lambda p: p.nbytes)

        return drawn

    def _body(self) -> Part:
        """Return what casts: content and strokes alone; what is opaque casts the same whatever it shows."""
        part = self._part
        bare = replace(part.finishes, lights=Lights())
        # Nobody's slot for the screen: what casts is drawn in windows of its own.
        body = replace(part, finishes=bare, mount=None, opacity=1.0, cutout_id="")
        if not self._is_opaque or part.edge.soft is not None:
            return body
        body = replace(body, photo=None, paint=ColourPaint("#000000"), adjustments=AS_SHOT)
        region = part.region
        if region.shape is None or region.is_hole or not covers_shape(region, content_reach(part)):
            return body
        return replace(body, region=filled_region(region.shape, region.placement, region.sheet_to_output))

    def _painted(self, shadow: Shadow, spread: float) -> SoftPlane:
        """Blur the alpha of the body as it is painted."""
        scale = self._part.scale
        body = self._body()
        light = (shadow.dx, shadow.dy, shadow.blur, shadow.spread)
        key = ("cast", body, light, self._window, self._quality)
        shift = (shadow.dx * scale, shadow.dy * scale)
        sigma = shadow.blur * scale / 2

        def painted(cells: PixelBox, k: float) -> Plane:
            return self._alpha(shrunk(body, Affine.scaling(1 / k).after(Affine.translation(*shift))), cells)

        seen = self._kept((body, shadow.dx, shadow.dy), painted)

        def made(cells: PixelBox, k: float) -> Plane:
            if not spread:
                return seen(cells, k)
            n = finer_cells(k, sigma, self._quality)
            fine = cells.times(n)
            plane = spread_by(seen(fine, k / n), spread * n / k, is_in_bytes=self._quality != "final")
            if n == 1:
                return plane
            return np.asarray(cv2.resize(plane, (cells.width, cells.height), interpolation=cv2.INTER_AREA))

        drawn = self._kept((body, shadow.dx, shadow.dy, shadow.spread), made) if spread else made
        return self._cache.get(
            key, lambda: soften(drawn, self._window, sigma, self._quality, is_of_pixels=True), lambda s: s.nbytes
        )
