"""What shows through a group: the parts it holds, joined without a seam.

Where bodies are areas of opaque pixels (crisp outlines, nothing translucent) each gets its exact share of every
pixel: the area of what is left of its outline by those in front of it, within the group's own outline. Shares
of neighbours add up, so an edge that two outlines have in common is covered once. All else is laid over one
another (Porter-Duff over).
"""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
import shapely

from glasscap.core.geometry.offset import polygons_of, region_of
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.scan import cover
from glasscap.core.render.bounds import part_bounds
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.part import Part
from glasscap.core.render.planar import Planar, Plane

# Output px squared: an overlap smaller than this hides nothing.
_TOUCHING = 1e-9


@dataclass(frozen=True, eq=False)
class Silhouette:
    """An outline whose coverage is a body's alpha; `key` holds the values it depends on."""

    key: Hashable
    polygons: tuple[Points, ...]


class Layer(Protocol):
    """Premultiplied planes by themselves."""

    @property
    def planes(self) -> Planar:
        """Shape (4, h, w), 0 to 255."""


class Held(Protocol):
    """A part with its finishes, as a group composes it."""

    part: Part

    def planes(self, box: PixelBox) -> Planar:
        """Return all of it."""

    def body(self, box: PixelBox) -> Planar:
        """Return content and strokes."""

    def layers(self, box: PixelBox) -> "Sequence[Layer]":
        """Return what lies beneath the body, back to front."""

    def silhouette(self) -> Silhouette | None:
        """Return the body's outline, or None where its alpha is more than an area."""


class _Member:
    """One part of a group with what is left of it by those in front."""

    def __init__(self, held: Held, outline: Silhouette | None, window: PixelBox, cache: ValueCache) -> None:
        self.held, self.outline = held, outline
        self.bounds = part_bounds(held.part)
        self._window, self._cache = window, cache
        self.shown = None if outline is None else outline
        self.clipped = self.shown

    def own(self, box: PixelBox) -> Plane:
        """Return the coverage of its whole outline."""
        assert self.outline is not None
        return self._plane(self.outline, box)

    def share(self, box: PixelBox) -> Plane:
        """Return its share before the group's mask."""
        assert self.shown is not None
        return self._plane(self.shown, box)

    def clipped_share(self, box: PixelBox) -> Plane:
        """Return its share within the group's mask."""
        assert self.clipped is not None
        return self._plane(self.clipped, box)

    def _plane(self, outline: Silhouette, box: PixelBox) -> Plane:
        return self._coverage(outline).plane(box)

    def _coverage(self, outline: Silhouette) -> Coverage:
        key = ("share", outline.key, self._window)
        return self._cache.get(key, lambda: cover(outline.polygons, self._window), lambda c: c.nbytes)


class GroupPart:
    """The pixels of what a group holds.

    `mask` is the group's own outline where a crisp one cuts it, None where it is faded or there is none.
    """

    # What shows through is never taken for full: nothing is copied without being looked at.
    is_opaque = False

    def __init__(
        self, held: Sequence[Held], mask: Silhouette | None, window: PixelBox, cache: ValueCache
    ) -> None:
        self._mask, self._cache = mask, cache
        self._members = [_Member(h, h.silhouette(), window, cache) for h in held]
        self._find_shares()

    @property
    def is_clipped(self) -> bool:
        """Whether `clipped` gives what a crisp mask leaves."""
        return self._mask is not None

    def bytes(self, box: PixelBox) -> Bytes:
        """Return premultiplied pixels, uint8 RGBA of the box's shape."""
        planes = self.planes(box)
        return np.ascontiguousarray(np.moveaxis(np.floor(planes + np.float32(0.5)), 0, -1)).astype(np.uint8)

    def weighted(self, box: PixelBox, weight: Plane) -> Planar:
        """Return premultiplied planes times a weight, shape (4, h, w)."""
        return np.asarray(self.planes(box) * weight)

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes before the group's mask, shape (4, h, w)."""
        solid, soft = self._composed(box, is_clipped=False)
        return solid + soft

    def clipped(self, box: PixelBox, weight: Plane) -> Planar:
        """Return premultiplied planes within the mask, whose coverage is `weight`."""
        solid, soft = self._composed(box, is_clipped=True)
        return solid + soft * weight

    def solid_outline(self) -> Silhouette | None:
        """Return the outline of all that shows within the mask, or None where some of it is no mere area."""
        if any(m.clipped is None or m.held.part.mount or m.held.part.lights.shadows for m in self._members):
            return None
        parts = [m.clipped for m in self._members if m.clipped is not None]
        key = ("joined", tuple(p.key for p in parts))
        polygons = self._cache.get(
            key,
            lambda: polygons_of(shapely.union_all([region_of(p.polygons) for p in parts])),
            lambda found: sum(p.nbytes for p in found),
        )
        return Silhouette(key, polygons)

    # shares

    def _find_shares(self) -> None:
        """Tell each member what those in front, and the mask, leave of it."""
        in_front: list[_Member] = []
        for member in reversed(self._members):
            if member.outline is None:
                continue
            hiding = [m for m in in_front if not m.bounds.intersection(member.bounds).is_empty]
            member.shown = self._left(member.outline, hiding)
            member.clipped = member.shown if self._mask is None else self._within(member.shown, self._mask)
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

    def _within(self, outline: Silhouette, mask: Silhouette) -> Silhouette:
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
        # What of each pixel lets through what lies behind: past areas, and past what is translucent.
        free, through = np.ones(shape, np.float32), np.ones(shape, np.float32)
        for member in reversed(self._members):
            part_box = member.bounds.intersection(box)
            if part_box.is_empty:
                continue
            here = np.s_[part_box.y0 - box.y0 : part_box.y1 - box.y0, part_box.x0 - box.x0 : part_box.x1 - box.x0]
            if member.outline is None:
                _lay_behind(soft[:, *here], member.held.planes(part_box), free[here], through[here])
                continue
            self._add_area(solid[:, *here], member, part_box, through[here], is_clipped=is_clipped)
            free[here] -= member.share(part_box)
            np.maximum(free, 0, out=free)
            for layer in reversed(member.held.layers(part_box)):
                _lay_behind(soft[:, *here], layer.planes, free[here], through[here])
        return solid, soft

    def _add_area(
        self, solid: Planar, member: _Member, box: PixelBox, through: Plane, *, is_clipped: bool
    ) -> None:
        body = member.held.body(box)
        wanted = member.clipped if is_clipped else member.shown
        if wanted is not member.outline:
            share = member.clipped_share(box) if is_clipped else member.share(box)
            own = member.own(box)
            body = body * np.divide(share, own, out=np.zeros_like(own), where=own > 0)
        solid += body * through


def _lay_behind(soft: Planar, planes: Planar, free: Plane, through: Plane) -> None:
    """Add what shows of something translucent behind all so far, in place."""
    soft += planes * (free * through)
    through *= 1 - planes[3] * np.float32(1 / 255)


def _nbytes(outline: Silhouette) -> int:
    return sum(p.nbytes for p in outline.polygons)
