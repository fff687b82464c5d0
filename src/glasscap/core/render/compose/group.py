"""The content of a group: the parts it holds, joined without a seam.

Where bodies are areas of opaque pixels (crisp outlines, nothing translucent) each gets its exact share of every
pixel: the area of what is left of its outline by those in front of it, within the group's own outline. Shares
of neighbours add up, so an edge that two outlines have in common is covered once. All else is laid over one
another (Porter-Duff over).
"""

from collections.abc import Hashable, Sequence
from typing import Protocol

import numpy as np
import shapely
from msgspec import Struct

from glasscap.core.geometry.offset import polygons_of, region_of
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache, nbytes_of
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Planar, Plane
from glasscap.core.raster.scan import cover
from glasscap.core.render.compose.layer import Layer
from glasscap.core.render.paint.content import PlanesContent
from glasscap.core.render.plan.bounds import part_bounds
from glasscap.core.render.plan.part import Part

# Output px squared: an overlap smaller than this hides nothing.
_TOUCHING = 1e-9
# The largest window (px) for which what a group holds is kept whole.
_KEPT_PX = 4_000_000


class Silhouette(Struct, frozen=True, eq=False):
    """An outline whose coverage is a body's alpha; `key` holds the values it depends on."""

    key: Hashable
    polygons: tuple[Points, ...]


class Held(Protocol):
    """A part with its finishes, as a group composes it."""

    part: Part

    @property
    def stamp(self) -> Hashable:
        """The key of its pixels besides the part: which photos are drafts."""

    def planes(self, box: PixelBox) -> Planar:
        """Return all of it."""

    def body(self, box: PixelBox) -> Planar:
        """Return content and strokes."""

    def layers(self, box: PixelBox) -> Sequence[Layer]:
        """Return what lies beneath the body, back to front."""

    def silhouette(self) -> Silhouette | None:
        """Return the body's outline, or None where its alpha is more than an area."""


class _Member:
    """One part of a group: its outline, and what is left of that by those in front of it."""

    def __init__(self, held: Held) -> None:
        self.held, self.outline = held, held.silhouette()
        self.bounds = part_bounds(held.part)
        self.shown = self.outline


class Gathered:
    """The parts of a group, each with what those in front of it leave of its outline."""

    def __init__(self, held: Sequence[Held], cache: ValueCache) -> None:
        self._cache = cache
        self.members = [_Member(h) for h in held]
        self.stamp = tuple(h.part for h in held), tuple(h.stamp for h in held)
        self._find_shares()

    def _find_shares(self) -> None:
        """Tell each member what those in front leave of it."""
        in_front: list[_Member] = []
        for member in reversed(self.members):
            if member.outline is None:
                continue
            hiding = [m for m in in_front if not m.bounds.intersection(member.bounds).is_empty]
            member.shown = self._left(member.outline, hiding)
            in_front.append(member)

    def _left(self, outline: Silhouette, hiding: Sequence[_Member]) -> Silhouette:
        above = [m.outline for m in hiding if m.outline is not None]
        if not above:
            return outline
        key = ("left", outline.key, tuple(a.key for a in above))

        def made() -> Silhouette:
            own = region_of(outline.polygons)
            over = shapely.union_all([region_of(a.polygons) for a in above])
            if shapely.area(shapely.intersection(own, over)) < _TOUCHING:
                return outline
            return Silhouette(key, polygons_of(shapely.difference(own, over)))

        return self._cache.get(key, made, _nbytes)


class GroupPart(PlanesContent):
    """The pixels of what a group holds.

    `mask` is the group's own outline where a crisp one cuts it, None where it is faded or there is none. With a
    `slot` (for the screen) what it holds is composed once for the window and kept there, a mask that moves is
    laid over it.
    """

    # Never taken for full as a whole.
    is_opaque = False

    def __init__(
        self,
        gathered: Gathered,
        mask: Silhouette | None,
        window: PixelBox,
        cache: ValueCache,
        slot: Hashable | None = None,
    ) -> None:
        self._mask, self._window, self._cache, self._slot = mask, window, cache, slot
        self._stamp, self._members = gathered.stamp, gathered.members

    @property
    def is_clipped(self) -> bool:
        """Whether `clipped` gives what a crisp mask leaves."""
        return self._mask is not None

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes before the group's mask, shape (4, h, w)."""
        solid, soft = self._kept_planes(box)
        return solid + soft

    def clipped(self, box: PixelBox, weight: Plane) -> Planar:
        """Return premultiplied planes within the mask, whose coverage is `weight`."""
        if self._slot is not None:
            solid, soft = self._kept_planes(box)
            return (solid * self._joint(box, weight) + soft) * weight
        solid, soft = self._composed(box, is_clipped=True)
        return solid + soft * weight

    def _kept_planes(self, box: PixelBox) -> tuple[Planar, Planar]:
        """Return areas and all else in a box, from the window's where that is kept."""
        window = self._window
        if self._slot is None or window.width * window.height > _KEPT_PX:
            return self._composed(box, is_clipped=False)
        stamp = (self._stamp, window)
        kept: tuple[object, tuple[Planar, Planar]] | None = self._cache.peek(self._slot)
        if kept is None or kept[0] != stamp:
            self._cache.drop(self._slot)
            kept = stamp, self._composed(window, is_clipped=False)
            self._cache.put(self._slot, kept, nbytes_of(kept[1]))
        rows, columns = (
            slice(box.y0 - window.y0, box.y1 - window.y0),
            slice(box.x0 - window.x0, box.x1 - window.x0),
        )
        return kept[1][0][:, rows, columns], kept[1][1][:, rows, columns]

    def _joint(self, box: PixelBox, weight: Plane) -> Plane | np.float32:
        """Return by how much the product of areas and mask is to be raised where their edges are the same.

        The area they have in common over the product of both; it is 1 wherever one of them is full.
        """
        areas = self._areas()
        if self._mask is None or areas is None:
            return np.float32(1)
        key, mask = ("joint", areas.key, self._mask.key), self._mask

        def made() -> Silhouette | None:
            own, whole = region_of(areas.polygons), region_of(mask.polygons)
            if shapely.covers(own, whole) or not shapely.intersects(own, whole):
                return None
            return Silhouette(key, polygons_of(shapely.intersection(own, whole)))

        common = self._cache.get(key, made, lambda found: 64 if found is None else _nbytes(found))
        if common is None:
            return np.float32(1)
        product = self._plane(areas, box) * weight
        zeros = np.zeros_like(weight)
        return np.asarray(np.divide(self._plane(common, box), product, out=zeros, where=product > 0), np.float32)

    def _plane(self, outline: Silhouette, box: PixelBox) -> Plane:
        key = ("share", outline.key, self._window)
        found: Coverage = self._cache.get(key, lambda: cover(outline.polygons, self._window), lambda c: c.nbytes)
        return found.plane(box)

    def _areas(self) -> Silhouette | None:
        """Return the outline of all areas together, None where there are none."""
        return _united([m.shown for m in self._members if m.shown is not None], self._cache)

    def solid_outline(self) -> Silhouette | None:
        """Return the outline of all that shows within the mask, or None where some of it is no mere area."""
        shown = [m.shown for m in self._members if m.shown is not None]
        has_more = any(m.held.part.mount or m.held.part.lights.shadows for m in self._members)
        if has_more or len(shown) < len(self._members):
            return None
        return _united([self._within(outline) for outline in shown], self._cache)

    def held_in(self, box: PixelBox) -> list[Held]:
        """Return the parts of which anything may lie in a box."""
        return [m.held for m in self._members if not m.bounds.intersection(box).is_empty]

    # shares

    def _within(self, outline: Silhouette) -> Silhouette:
        """Return what the mask leaves of an outline."""
        mask = self._mask
        if mask is None:
            return outline
        key = ("within", outline.key, mask.key)

        def made() -> Silhouette:
            own, whole = region_of(outline.polygons), region_of(mask.polygons)
            if shapely.covers(whole, own):
                return outline
            return Silhouette(key, polygons_of(shapely.intersection(own, whole)))

        return self._cache.get(key, made, _nbytes)

    # composing

    def _composed(self, box: PixelBox, *, is_clipped: bool) -> tuple[Planar, Planar]:
        """Return areas of opaque pixels, and all else, both premultiplied; they are to be added."""
        shape = (box.height, box.width)
        solid, soft = np.zeros((4, *shape), np.float32), np.zeros((4, *shape), np.float32)
        # The share of each pixel that lets the background through: beside areas, and through translucent ones.
        free, through = np.ones(shape, np.float32), np.ones(shape, np.float32)
        for member in reversed(self._members):
            part_box = member.bounds.intersection(box)
            if part_box.is_empty:
                continue
            here = np.s_[part_box.y0 - box.y0 : part_box.y1 - box.y0, part_box.x0 - box.x0 : part_box.x1 - box.x0]
            if member.shown is None:
                _lay_behind(soft[:, *here], member.held.planes(part_box), free[here], through[here])
                continue
            self._add_area(solid[:, *here], member, part_box, through[here], is_clipped=is_clipped)
            free[here] -= self._plane(member.shown, part_box)
            np.maximum(free, 0, out=free)
            for layer in reversed(member.held.layers(part_box)):
                _lay_behind(soft[:, *here], layer.planes, free[here], through[here])
        return solid, soft

    def _add_area(
        self, solid: Planar, member: _Member, box: PixelBox, through: Plane, *, is_clipped: bool
    ) -> None:
        body, own_outline, shown = member.held.body(box), member.outline, member.shown
        assert own_outline is not None
        assert shown is not None
        wanted = self._within(shown) if is_clipped else shown
        if wanted is not own_outline:
            share, own = self._plane(wanted, box), self._plane(own_outline, box)
            body = body * np.divide(share, own, out=np.zeros_like(own), where=own > 0)
        solid += body * through


def _lay_behind(soft: Planar, planes: Planar, free: Plane, through: Plane) -> None:
    """Add what shows of something translucent behind all so far, in place."""
    soft += planes * (free * through)
    through *= 1 - planes[3] * np.float32(1 / 255)


def _united(outlines: Sequence[Silhouette], cache: ValueCache) -> Silhouette | None:
    if not outlines:
        return None
    key = ("joined", tuple(o.key for o in outlines))
    polygons = cache.get(
        key,
        lambda: polygons_of(shapely.union_all([region_of(o.polygons) for o in outlines])),
        nbytes_of,
    )
    return Silhouette(key, polygons)


def _nbytes(outline: Silhouette) -> int:
    return nbytes_of(outline.polygons)
