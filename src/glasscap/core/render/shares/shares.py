"""Shares of each pixel that the content and each stroke fill."""

from collections.abc import Callable, Mapping
from functools import cached_property, partial

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.paint import is_opaque_paint
from glasscap.core.document.model.region import Region, region_polygons
from glasscap.core.geometry.outline import Flags, Ints, bounds
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.cell_means import box_means
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.gaussian import SoftEdge, SoftPlane, soften_edge
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.resample import Quality
from glasscap.core.raster.scan import cover
from glasscap.core.render.offsets.edges import Edges
from glasscap.core.render.offsets.nested import NestedOutlines
from glasscap.core.render.paint.masks import mask_of
from glasscap.core.render.paint.strokes import StrokeTexture
from glasscap.core.render.plan.bands import OUTLINE, Band, OffsetKey, bands_of, turned_out
from glasscap.core.render.plan.part import FLATNESS, Part, flatness
from glasscap.core.render.shares.content_end import ContentEnd
from glasscap.core.render.shares.feather import Fading, Feather, least_unfaded

# On smaller cells (px) a body is as soon drawn anew.
SMALLEST_CELLS = 2


class Shares(Struct, frozen=True, eq=False):
    """The content's share of each pixel and the strokes' by number, float32, 0 to 1."""

    content: Plane
    strokes: dict[int, Plane]


def region_coverage(region: Region, box: PixelBox, cache: ValueCache) -> Coverage:
    """Return the coverage of a region in a window, kept in the cache."""
    return cache.get(
        ("coverage", region, box),
        lambda: cover(region_polygons(region, tolerance=FLATNESS), box),
        lambda c: c.nbytes,
    )


class Weights:
    """Shares of one part within a window."""

    def __init__(
        self, part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
    ) -> None:
        self._part, self.window, self.quality, self._cache = part, window, quality, cache
        edge, region = part.edge, part.region
        self.is_hole = region.is_hole
        self._end = ContentEnd(part, window, cache)
        self.edges = Edges(region, edge, window, cache, flatness(quality), self._end.ground())
        self.bands = bands_of(part.finishes.strokes, part.scale)
        if self.is_hole:
            self.bands = turned_out(self.bands)
        if self.are_for_screen:
            self.edges.cover(dict.fromkeys((self.innermost, *(band.outer for band in self.bands))))
        self.is_sharp = not self.bands and edge.feather == 0 and edge.inset == 0 and edge.rough is None
        self._fades_as_one = edge.feathers_strokes and bool(self.bands)
        self._frame = None if self.is_sharp else self._end.coverage()
        self._mask = mask_of(part, window, photos, quality, cache)
        self.shown_strokes = sorted({number for band in self.bands for number in band.strokes})
        self.textures = {
            n: StrokeTexture(part, s, self.edges)
            for n, s in enumerate(part.finishes.strokes)
            if StrokeTexture.is_needed(s)
        }
        self._feather = Feather(edge.strength, edge.feather_side, self.is_hole)
        self._fade = self.soft(*self.fade_outline()) if edge.feather > 0 else None

    @property
    def are_for_screen(self) -> bool:
        """Whether they may be off by less than a level."""
        return self.quality != "final"

    @property
    def outermost(self) -> OffsetKey:
        """The offset that holds all strokes and the outline."""
        return self.bands[-1].outer if self.bands else OUTLINE

    @property
    def innermost(self) -> OffsetKey:
        """The offset inside of which no stroke lies."""
        return self.bands[0].inner if self.bands else OUTLINE

    def fade_outline(self) -> tuple[OffsetKey, float]:
        """Return the outline that is blurred for the feather, and the Gaussian's sigma (output px)."""
        edge = self._part.edge
        radius = edge.feather * self._part.scale
        offset = self.outermost if self._fades_as_one else OUTLINE
        shift = {"centred": 0.0, "inside": -radius, "outside": radius}[edge.feather_side]
        if self.is_hole:
            shift = -shift
        if shift:
            offset = OffsetKey(offset.distance + shift)
        return offset, radius / 2

    def soft(self, offset: OffsetKey, sigma: float) -> SoftEdge:
        """Return a parallel outline's coverage, blurred."""
        key = ("soft", self.edges.key, offset, sigma, self.window, self.quality)
        make = partial(self._cells, offset)

        def made() -> SoftEdge:
            flat = self.edges.filling_polygons(offset)
            extent = bounds(flat).rounded_out() if flat else PixelBox(0, 0, 0, 0)
            return soften_edge(make, self.window, sigma, self.quality, extent=extent)

        return self._cache.get(key, made, lambda s: s.nbytes)

    def _cells(self, offset: OffsetKey, box: PixelBox, k: int) -> Plane:
        """Return an outline's mean coverage of cells of k px: for the screen from its pixels, if known anyway."""
        is_known = bool(self.bands) and offset in (self.innermost, self.outermost) and self.edges.is_endless
        if self.are_for_screen and is_known and k >= SMALLEST_CELLS and self.is_whole:
            kept = self.edges.on_cells(offset, box, k, (0.0, 0.0))
            return box_means(self.window, box, k) - kept if self.is_hole else kept
        if not self.are_for_screen:
            return self.edges.cells(offset, box, k)
        # Another blur of what was drawn is soon done.
        key = ("cells", self.edges.key, offset, box, k)
        return self._cache.get(key, lambda: self.edges.cells(offset, box, k), lambda p: p.nbytes)

    def hull(self, faintest: float) -> PixelBox:
        """Return a box outside which the body's alpha is fainter than `faintest`."""
        if self.is_sharp:
            return self._sharp().visible_box(faintest)
        box = self.edges.coverage(self.outermost).visible_box(faintest)
        return box if self._fade is None or self.is_hole else box.union(self._fade.hull(faintest))

    # columns

    def columns(self, box: PixelBox) -> tuple[Flags, Flags]:
        """Return which columns of a box the content fills alone, and in which nothing of the body lies."""
        if self.is_sharp:
            full, empty = self._sharp().columns(box)
        else:
            full, empty = self._banded_columns(box)
        if self._mask is not None:
            full = np.zeros_like(full)
        return full, empty

    def _banded_columns(self, box: PixelBox) -> tuple[Flags, Flags]:
        inner_full, _ = self.edges.coverage(self.innermost).columns(box)
        _, outer_none = self.edges.coverage(self.outermost).columns(box)
        full, empty = inner_full, outer_none
        if self._fade is not None:
            faded_out, whole = (
                self._fade.is_empty(box),
                self._fade.is_full(box, least_unfaded(self._part.edge.strength)),
            )
            if self.is_hole:
                faded_out, whole = whole, faded_out
            full, empty = full & whole, empty & faded_out
        if self._frame is not None:
            frame_full, frame_none = self._frame.columns(box)
            full = full & frame_full
            # Beyond the content's box only strokes are left.
            stroke_free = outer_none | inner_full
            empty = empty | (frame_none & stroke_free)
        return full, empty

    # shares

    def of(self, box: PixelBox) -> Shares:
        """Return the shares in a box."""
        if self.is_sharp:
            content: Plane = self._sharp().plane(box)
            strokes: dict[int, Plane] = {}
        else:
            is_faded = self._fade is not None and not self._fades_as_one
            shares = self.partition(
                lambda key: self._within(key, box), lambda n: self.textures[n].plane(box), is_faded=is_faded
            )
            content, strokes = shares.content, shares.strokes
        if self._fade is not None:
            content = self._faded(box, content, strokes)
        if self._frame is not None:
            content *= self._frame.plane(box)
        if self._mask is not None:
            content *= self._mask.plane(box)
        return Shares(content, strokes)

    def _within(self, offset: OffsetKey, box: PixelBox) -> Plane:
        """Return a parallel outline's coverage of a box; what fades as one goes on where it would end."""
        if self._fade is not None and self._fades_as_one and offset == self.outermost:
            return np.ones((box.height, box.width), np.float32)
        return self.edges.plane(offset, box)

    def fade_plane(self, box: PixelBox) -> Plane | None:
        """Return the feather alone, 0 to 1, or None where there is none."""
        return None if self._fade is None else self._fade_plane(box)

    @cached_property
    def fading(self) -> Fading | None:
        """The feather, where little but it, outlines and the content's end decides what each pixel shows."""
        if self._fades_as_one or not isinstance(self._fade, SoftPlane) or (self.is_hole and self._mask):
            return None
        outline = None if self._feather.side == "centred" else self.edges.coverage(OUTLINE)
        return Fading(self._fade, self._feather, self._frame, outline, self._mask)

    @property
    def is_crisp(self) -> bool:
        """Whether nothing but outlines decides what each pixel shows: no fade, no mask, no brush."""
        return self._fade is None and self._frame is None and self.is_plain

    @property
    def is_plain(self) -> bool:
        """Whether nothing but outlines, a fade and strokes decides what each pixel shows."""
        return self._mask is None

    @property
    def has_opaque_paints(self) -> bool:
        """Whether no stroke's paint lets anything through."""
        strokes = self._part.finishes.strokes
        return all(is_opaque_paint(strokes[number].paint) for number in self.shown_strokes)

    def is_broken(self, number: int) -> bool:
        """Whether anything may be seen of what a stroke lies on."""
        stroke = self._part.finishes.strokes[number]
        return stroke.opacity < 1 or number in self.textures or not is_opaque_paint(stroke.paint)

    @cached_property
    def mixed_bands(self) -> list[Band]:
        """The bands whose topmost stroke does not fill them."""
        return [band for band in self.bands if band.strokes and self.is_broken(band.strokes[0])]

    @cached_property
    def nested(self) -> NestedOutlines:
        """The coverages of all outlines, the innermost first."""
        keys = (self.innermost, *(band.outer for band in self.bands))
        return NestedOutlines({key: self._sharp() if self.is_sharp else self.edges.coverage(key) for key in keys})

    def _sharp(self) -> Coverage:
        return region_coverage(self._part.region, self.window, self._cache)

    def partition(
        self,
        plane_of: Callable[[OffsetKey], Plane],
        texture_of: Callable[[int], Plane] | None,
        *,
        is_faded: bool = False,
    ) -> Shares:
        """Return the shares of crisp bands from the coverages of their outlines and the textures of strokes.

        Without these strokes are as though unbroken. A photo that fades beneath crisp strokes (`is_faded`)
        takes nothing from the bands; its own share is then not known yet.
        """
        inner = plane_of(self.innermost)
        content = None if is_faded else inner.copy()
        strokes: dict[int, Plane] = {}
        for band in self.bands:
            outer = plane_of(band.outer)
            left: Plane | None = outer - inner
            inner = outer
            for number in band.strokes:
                if left is None:
                    break
                share, left = self._stroke_share(number, left, texture_of)
                strokes[number] = strokes[number] + share if number in strokes else share
            if left is not None and content is not None and band.is_inside:
                content += left
        return Shares(inner if content is None else content, strokes)

    def reckoned(self) -> tuple[Ints, dict[OffsetKey, Plane]]:
        """Return the numbers of the window's pixels that outlines and strokes do not fill alone, row by row.

        And each outline's coverage of them, shape (1, n).
        """
        return self.nested.reckoned(self.window, self.mixed_bands)

    @cached_property
    def is_whole(self) -> bool:
        """Whether all outlines lie in the window."""
        flat = self.edges.filling_polygons(self.innermost if self.is_hole else self.outermost)
        return bool(flat) and self.window.holds(bounds(flat).rounded_out())

    def at(self, values: Mapping[OffsetKey, Plane], y: Ints, x: Ints, box: PixelBox) -> Shares:
        """Return the shares of single pixels, shape (1, n), from their coverages by each outline.

        Pixels are counted from the corner of a box; the part is crisp, or fading.
        """
        if self.fading is None:
            return self.partition(values.__getitem__, self._texture_at(y, x, box))
        strokes = self.strokes_at(values, y, x, box)
        return Shares(_beneath(self.fading.at(y + box.y0, x + box.x0)[None], strokes), strokes)

    def strokes_at(self, values: Mapping[OffsetKey, Plane], y: Ints, x: Ints, box: PixelBox) -> dict[int, Plane]:
        """Return the shares of strokes alone, as `at` does."""
        return self.partition(values.__getitem__, self._texture_at(y, x, box), is_faded=True).strokes

    def _texture_at(self, y: Ints, x: Ints, box: PixelBox) -> Callable[[int], Plane]:
        return lambda number: self.textures[number].at(y + box.y0, x + box.x0)[None]

    def _stroke_share(
        self, number: int, left: Plane, texture_of: Callable[[int], Plane] | None
    ) -> tuple[Plane, Plane | None]:
        """Return what a stroke takes of what is left, and what is left after it; None: nothing."""
        if texture_of is None or not self.is_broken(number):
            return left, None
        share = left * np.float32(self._part.finishes.strokes[number].opacity)
        if number in self.textures and share.any():
            share *= texture_of(number)
        return share, left - share

    def _faded(self, box: PixelBox, content: Plane, strokes: dict[int, Plane]) -> Plane:
        fade = self._fade_plane(box)
        if self._fades_as_one:
            for number in strokes:
                strokes[number] = strokes[number] * fade
            return content * fade
        return _beneath(fade, strokes)

    def _fade_plane(self, box: PixelBox) -> Plane:
        assert self._fade is not None
        base = self.outermost if self._fades_as_one else OUTLINE
        return np.array(self._feather.share(self._fade.band(box), lambda: self.edges.plane(base, box)))


def _beneath(fade: Plane, strokes: Mapping[int, Plane]) -> Plane:
    """Return what is left of a fading content's share beneath strokes.

    Shares of strokes that lie over one another add up to what they hide of it.
    """
    hidden: Plane | None = None
    for share in strokes.values():
        hidden = share if hidden is None else hidden + share
    return fade if hidden is None else fade - fade * hidden
