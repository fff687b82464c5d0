"""The outline of a part after inset and roughness, its parallel outlines and their coverage, kept by value."""

from collections.abc import Callable, Hashable, Iterable

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge
from glasscap.core.document.model.region import Region, photo_quad
from glasscap.core.geometry.offset import offset_polygons, united
from glasscap.core.geometry.outline import Points, bounds, transform
from glasscap.core.geometry.polygon import oriented
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache, nbytes_of
from glasscap.core.raster.cell_means import cell_means
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Plane, view_of
from glasscap.core.raster.scan import cover, cover_each
from glasscap.core.render.offsets.outlines import outline_polygons, rough_outline
from glasscap.core.render.plan.bands import OUTLINE, OffsetKey
from glasscap.core.render.plan.part import FLATNESS

# Windows up to this size keep whole planes: a frame of the screen is cut from them many times.
_SMALL_WINDOW_PX = 2_000_000
# Output px: farther out nothing is drawn.
_FAR = 1 << 24


class EdgeKey(Struct, frozen=True):
    """The values an outline depends on; moving a photo under its shape changes none of them."""

    region: Region
    edge: Edge
    flatness: float = FLATNESS

    @classmethod
    def of(cls, region: Region, edge: Edge, flatness: float = FLATNESS) -> "EdgeKey":
        """Leave out what does not shape the outline."""
        edge = Edge() if not edge.is_on else edge
        shaping = Edge(inset=edge.inset, join=edge.join, rough=edge.rough)
        if region.shape is not None:
            region = replace(region, photo_to_output=Affine(), photo_size=(1, 1))
        return cls(region, shaping, flatness)


class Surround(Struct, frozen=True):
    """The content around a hole: its box of a `size` under a map to output px."""

    to_output: Affine
    size: tuple[int, int]

    @property
    def polygon(self) -> Points:
        """Its contour, shape (4, 2)."""
        return oriented(photo_quad(self.to_output, self.size))


# Surround that has no end.
EVERYWHERE = Surround(Affine.translation(-_FAR, -_FAR), (2 * _FAR, 2 * _FAR))


class Edges:
    """Parallel outlines of one part in output px, and the coverage of a window by what is kept of them.

    That is what lies within an outline, or, of a hole, between it and the `ground` around.
    """

    def __init__(
        self,
        region: Region,
        edge: Edge,
        window: PixelBox,
        cache: ValueCache,
        flatness: float = FLATNESS,
        ground: Surround | None = None,
    ) -> None:
        self.key, self._window, self._cache = EdgeKey.of(region, edge, flatness), window, cache
        self._ground = ground
        self._known: dict[OffsetKey, Coverage] = {}
        self._dense: dict[OffsetKey, Plane] = {}
        self._fresh: set[OffsetKey] = set()

    def polygons(self, offset: OffsetKey = OUTLINE) -> tuple[Points, ...]:
        """Return a parallel outline; empty when nothing is left inside."""
        return self._cache.get(("outline", self.key, offset), lambda: self._made(offset), nbytes_of)

    def filling_polygons(self, offset: OffsetKey) -> tuple[Points, ...]:
        """Return the contours of an offset curve, to be filled by the non-zero rule.

        While something moves, contours may overlap: such curves are made in a part of the time. Around a hole
        they never overlap, because each is taken away from what surrounds it.
        """
        is_at_rest = self.key.flatness == FLATNESS
        if is_at_rest or offset == OUTLINE or offset.holds is not None or self._ground is not None:
            return self.polygons(offset)
        return self._cache.get(
            ("filling", self.key, offset), lambda: self._made(offset, may_cross=True), nbytes_of
        )

    def even_polygons(self, offset: OffsetKey = OUTLINE) -> tuple[Points, ...]:
        """Return a parallel outline as it is before it is made rough."""
        edge = self.key.edge
        if edge.rough is None:
            return self.polygons(offset)
        even = Edges(self.key.region, replace(edge, rough=None), self._window, self._cache, self.key.flatness)
        return even.polygons(offset)

    def kept_polygons(self, offset: OffsetKey, *, may_cross: bool = True) -> tuple[Points, ...]:
        """Return what is kept of a parallel outline, holes wound the other way; see `filling_polygons`."""
        outline = self.filling_polygons(offset) if may_cross else self.polygons(offset)
        if self._ground is None:
            return outline
        return (self._ground.polygon, *(polygon[::-1] for polygon in outline))

    @property
    def is_endless(self) -> bool:
        """Whether what is kept ends at outlines alone."""
        return self._ground in (None, EVERYWHERE)

    def kept_key(self, offset: OffsetKey) -> Hashable:
        """Return the values on which `kept_polygons` depend."""
        return (self.key, offset, self._ground)

    def is_whole(self, offset: OffsetKey) -> bool:
        """Whether all that is kept of a parallel outline lies in the window, if anything is."""
        kept = self.kept_polygons(offset)
        return bool(kept) and self._window.holds(bounds(kept).rounded_out())

    def _made(self, offset: OffsetKey, *, may_cross: bool = False) -> tuple[Points, ...]:
        region, edge, flatness = self.key.region, self.key.edge, self.key.flatness
        if edge.rough is not None:
            return rough_outline(region, edge, offset.distance, flatness, self._cache, may_cross=may_cross)
        if offset == OUTLINE:
            return outline_polygons(region, edge, flatness)
        moved = offset_polygons(
            self.polygons(),
            offset.distance,
            tolerance=flatness,
            join=offset.join,
            mitre_limit=offset.mitre_limit,
            may_cross=may_cross,
        )
        return moved if offset.holds is None else united(moved, self.polygons(offset.holds))

    def coverage(self, offset: OffsetKey = OUTLINE) -> Coverage:
        """Return the coverage of the window by what is kept of a parallel outline."""
        if offset not in self._known:
            key = self._coverage_key(offset)
            if self._cache.peek(key) is None:
                self._fresh.add(offset)
            self._known[offset] = self._cache.get(
                key, lambda: cover(self.kept_polygons(offset), self._window), lambda c: c.nbytes
            )
        return self._known[offset]

    def _coverage_key(self, offset: OffsetKey) -> Hashable:
        return ("edge", self.kept_key(offset), self._window)

    def cover(self, offsets: Iterable[OffsetKey]) -> None:
        """Have parallel outlines' coverages ready: what is new of them in one go, where the window is small."""
        window = self._window
        fresh = [offset for offset in offsets if self._cache.peek(self._coverage_key(offset)) is None]
        if len(fresh) < 2 or window.width * window.height > _SMALL_WINDOW_PX:
            return
        self._fresh.update(fresh)
        found = cover_each([self.kept_polygons(offset) for offset in fresh], window)
        for offset, coverage in zip(fresh, found, strict=True):
            self._known[offset] = coverage
            self._cache.put(self._coverage_key(offset), coverage, coverage.nbytes)

    def plane(self, offset: OffsetKey, box: PixelBox) -> Plane:
        """Return the `coverage` of a box within the window; float32, not to be written to."""
        window, coverage = self._window, self.coverage(offset)
        # An outline that moves from frame to frame is not worth a whole plane.
        if window.width * window.height > _SMALL_WINDOW_PX or offset in self._fresh:
            return coverage.plane(box)
        if offset not in self._dense:
            self._dense[offset] = self._cache.get(
                ("dense", self.kept_key(offset), window),
                lambda: coverage.plane(window),
                lambda p: p.nbytes,
            )
        return view_of(self._dense[offset], window, box)

    def on_cells(self, offset: OffsetKey, cells: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
        """Return the `coverage`, moved by some px, on cells of k px; see `cell_means`.

        What lies beyond the window counts as not covered.
        """
        key = ("on cells", self.kept_key(offset), self._window, cells, k, shift)
        coverage = self.coverage(offset)
        if k == 1 and shift == (0.0, 0.0):
            return coverage.plane(cells)
        return self._cache.get(key, lambda: cell_means(coverage, cells, k, shift), lambda p: p.nbytes)

    def kept(self, name: Hashable, make: Callable[[PixelBox], Coverage]) -> Coverage:
        """Return another coverage of the window that depends on this outline and `name` alone."""
        key = ("along", self.key, name, self._window)
        return self._cache.get(key, lambda: make(self._window), lambda c: c.nbytes)

    def kept_near(
        self, name: Hashable, reach: int, make: Callable[[PixelBox], tuple[Plane, Plane]]
    ) -> tuple[PixelBox, tuple[Plane, Plane]] | None:
        """Return planes of what is within some px of the outline, and where they lie; kept, by a name.

        They depend on the outline and the name alone. None in large windows, where they are not worth keeping.
        """
        window, outline = self._window, self.polygons()
        if window.width * window.height > _SMALL_WINDOW_PX or not outline:
            return None
        box = bounds(outline).rounded_out().grown(reach).intersection(window)
        if box.is_empty:
            return None
        key = ("near", self.key, name, box)
        return box, self._cache.get(key, lambda: make(box), nbytes_of)

    def cells(self, offset: OffsetKey, box: PixelBox, k: float, shift: tuple[float, float] = (0.0, 0.0)) -> Plane:
        """Return a parallel outline's mean coverage, moved by some px, of cells of k px; of the box's shape.

        The box is in cells; float32. The outline itself is scanned, which is quicker than `on_cells` where its
        coverage of the pixels is not there yet.
        """
        return _on_cells(self.filling_polygons(offset), box, k, shift)


def _on_cells(polygons: tuple[Points, ...], box: PixelBox, k: float, shift: tuple[float, float]) -> Plane:
    to_cells = Affine.scaling(1 / k).after(Affine.translation(*shift))
    return cover(tuple(transform(p, to_cells) for p in polygons), box).plane(box)
