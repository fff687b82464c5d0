"""A part with its finishes, as premultiplied planes of any box.

The body is a partition: photo and strokes share each pixel by the areas of nested offsets of one outline, so
alpha is exactly full at every joint. Light falls on it, shadows lie beneath it, a mount beneath those.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from glasscap.core.document.model.region import region_polygons
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource, which_are_drafts
from glasscap.core.raster.pixels import Planar, Plane
from glasscap.core.raster.planar import lay_under
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.group import Gathered, GroupPart, Silhouette
from glasscap.core.render.compose.layer import Layer
from glasscap.core.render.light.bevel import BevelPlanes
from glasscap.core.render.light.casts import casts_of
from glasscap.core.render.paint.content import PaintPart, PhotoPart, content_of
from glasscap.core.render.paint.strokes import StrokePaint
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.plan.part import FLATNESS, Part
from glasscap.core.render.shares.shares import Weights

# About what a part ready to be drawn holds beside what the cache knows of.
_GATHERED_BYTES = 16_384


class FinishedPart:
    """One part, ready to give its pixels box by box within a window."""

    def __init__(
        self, part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
    ) -> None:
        self.part = part
        self.stamp = which_are_drafts(part.photos, photos)
        self.weights = Weights(part, window, photos, quality, cache)
        self.strokes = [StrokePaint(part, s, self.weights.edges, photos) for s in part.finishes.strokes]
        self.content: PhotoPart | PaintPart | GroupPart
        if part.inside:
            slot = ("group", part.cutout_id) if quality != "final" and part.cutout_id else None
            gathered = _gathered(part, window, photos, quality, cache)
            self.content = GroupPart(gathered, self._mask_outline(), window, cache, slot)
        else:
            self.content = content_of(part, photos, window, quality, cache)

        silhouette: Quality = "moving" if quality == "moving" else "preview"

        def alpha(body: Part, box: PixelBox) -> Plane:
            return FinishedPart(body, box, photos, silhouette, cache).alpha(box)

        self.casts = casts_of(part, self.weights, window, quality, cache, alpha, is_opaque=self.content.is_opaque)
        bevel, weights = part.lights.bevel, self.weights
        self.bevel = None
        if bevel is not None:
            self.bevel = BevelPlanes(part, bevel, weights.edges, weights.outermost, window, cache)
        self.mount = None
        if part.mount is not None:
            self.mount = FinishedPart(part.mount, window, photos, quality, cache)
        # Notes of quicker ways; they alone read them.
        self.memo: object | None = None

    def _mask_outline(self) -> Silhouette | None:
        """Return the outline within which the content shows, where a crisp one decides that alone."""
        weights = self.weights
        if self.part.region.shape is None or not weights.is_crisp or not self._has_solid_strokes():
            return None
        if any(band.is_inside and not band.strokes for band in weights.bands):
            # It shows beyond a stroke, too.
            return None
        return self._within(weights.innermost)

    def _within(self, offset: OffsetKey) -> Silhouette:
        """Return what is kept of a parallel outline, or the region itself where nothing is done to its edge."""
        weights, region = self.weights, self.part.region
        if weights.is_sharp:
            return Silhouette(("region", region), region_polygons(region, tolerance=FLATNESS))
        # Others are cut out of it.
        return Silhouette(weights.edges.kept_key(offset), weights.edges.kept_polygons(offset, may_cross=False))

    def _has_solid_strokes(self) -> bool:
        """Whether strokes are opaque, and fill all between the content and the outermost."""
        weights = self.weights
        is_solid = not any(map(weights.is_broken, weights.shown_strokes))
        return is_solid and all(band.strokes or band.is_inside for band in weights.bands)

    def silhouette(self) -> Silhouette | None:
        """Return the outline whose coverage is the body's alpha, or None where there is more to it."""
        weights, part = self.weights, self.part
        if part.opacity < 1 or not weights.is_crisp or not self._has_solid_strokes():
            return None
        if isinstance(self.content, GroupPart):
            return None if weights.bands or not self.content.is_clipped else self.content.solid_outline()
        if not self.content.is_opaque:
            return None
        return self._within(weights.outermost)

    def hull(self) -> PixelBox:
        """Return a box outside which alpha rounds to 0, nearly the smallest, without composing a pixel."""
        # Several faint things may add up to a visible one.
        faintest = 0.5 / 255 / (1 + len(self.casts) + (self.bevel is not None))
        box = self.weights.hull(faintest)
        for cast in self.casts:
            if not cast.is_inner:
                box = box.union(cast.hull(faintest))
        if self.bevel is not None and not self.bevel.is_inner:
            box = box.union(self.bevel.hull(faintest))
        return box if self.mount is None else box.union(self.mount.hull())

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""
        out = self.body(box)
        if self.bevel is not None and not self.bevel.is_inner:
            lay_under(out, self.bevel.beneath(box))
        beneath = [cast for cast in self.casts if not cast.is_inner]
        body_alpha = out[3].copy() if beneath else out[3]
        for cast in beneath:
            cast.lay_beneath(out, cast.plane(box), body_alpha)
        if self.mount is not None:
            lay_under(out, self.mount.planes(box))
        if self.part.opacity != 1.0:
            out *= np.float32(self.part.opacity)
        return out

    def layers(self, box: PixelBox) -> list[Layer]:
        """Return what is beneath the body, each by itself, back to front."""
        found = [] if self.mount is None else [Layer("Mount", self.mount.planes(box))]
        body_alpha = self.body(box)[3]
        for cast in reversed([c for c in self.casts if not c.is_inner]):
            alone = np.zeros((4, box.height, box.width), np.float32)
            cast.lay_beneath(alone, cast.plane(box), body_alpha)
            found.append(Layer("Shadow", alone))
        if self.bevel is not None and not self.bevel.is_inner:
            found.append(Layer("Bevel", self.bevel.beneath(box)))
        return found

    def body_layers(self, box: PixelBox) -> list[Layer]:
        """Return content and strokes, premultiplied planes that add up to the body."""
        if self.bevel is not None and self.bevel.is_inner:
            # Light falls on both alike.
            return [Layer("Photo and strokes", self.body(box))]
        weights = self.weights.of(box)
        found = [Layer("Photo", np.array(self.lit(box, weights.content)))]
        for index, weight in weights.strokes.items():
            alone = np.zeros((4, box.height, box.width), np.float32)
            self.strokes[index].add(alone, weight, box)
            found.append(Layer(f"Stroke {index + 1}", alone))
        return found

    def alpha(self, box: PixelBox) -> NDArray[np.float32]:
        """Return the body's alpha (content and strokes alone), 0 to 1."""
        if self.content.is_opaque and all(stroke.is_opaque for stroke in self.strokes):
            shares = self.weights.of(box)
            return np.asarray(sum(shares.strokes.values(), start=shares.content), np.float32)
        return np.asarray(self.body(box)[3] / np.float32(255), np.float32)

    def body(self, box: PixelBox) -> Planar:
        """Return content and strokes, premultiplied planes."""
        weights = self.weights.of(box)
        out = self.lit(box, weights.content)
        for index, weight in weights.strokes.items():
            self.strokes[index].add(out, weight, box)
        if self.bevel is not None and self.bevel.is_inner:
            self.bevel.light(out, box)
        return out

    def lit(self, box: PixelBox, weight: Plane, *, is_clipped: bool = True) -> Planar:
        """Return the content under its inner shadows and glows, as much of each pixel as it has.

        Unless `is_clipped`, what a group holds is not cut by the group's own outline.
        """
        inner = [cast for cast in self.casts if cast.is_inner]
        content = self.content
        if isinstance(content, GroupPart) and content.is_clipped and is_clipped:
            lit = content.clipped(box, weight)
            for cast in inner:
                cast.tint(lit, box)
            return lit
        if not inner:
            return content.weighted(box, weight)
        lit = np.array(content.planes(box), np.float32)
        for cast in inner:
            cast.tint(lit, box)
        return np.asarray(lit * weight)


def composed(parts: Sequence[FinishedPart], box: PixelBox) -> Planar:
    """Return parts, back to front, over one another: premultiplied planes, shape (4, h, w)."""
    total = parts[-1].planes(box)
    for part in reversed(parts[:-1]):
        lay_under(total, part.planes(box))
    return total


def _gathered(part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache) -> Gathered:
    """Return what a group holds, ready; kept for the screen while the group's own numbers change."""
    # A frame kept here serves once nothing moves any more.
    inner: Quality = "final" if quality == "final" else "preview"

    def made() -> Gathered:
        return Gathered([FinishedPart(p, window, photos, inner, cache) for p in part.inside], cache)

    if quality == "final" or not part.cutout_id:
        return made()
    slot = ("gathered", part.cutout_id)
    stamp = part.inside, window, which_are_drafts(part.photos, photos)
    kept: tuple[object, Gathered] | None = cache.peek(slot)
    if kept is None or kept[0] != stamp:
        kept = stamp, made()
        cache.put(slot, kept, _GATHERED_BYTES * len(part.inside))
    return kept[1]
