"""A part with its finishes, as premultiplied planes of any box.

The body is a partition: photo and strokes share each pixel by the areas of nested offsets of one outline, so
alpha is exactly full at every joint. Light falls on it, shadows lie beneath it, a mount beneath those.
"""

import numpy as np
from numpy.typing import NDArray

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.resample import Quality
from glasscap.core.render.bevel import BevelPlanes
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.content import content_of
from glasscap.core.render.crisp import crisp_body
from glasscap.core.render.lights import casts_of
from glasscap.core.render.paints import is_opaque_paint
from glasscap.core.render.part import Part
from glasscap.core.render.photos import PhotoSource
from glasscap.core.render.planar import Planar, Plane, lay_under
from glasscap.core.render.stroke_paint import StrokePaint
from glasscap.core.render.weights import Weights

EMPTY, COPIED, COMPUTED, TINTED = 0, 1, 2, 3
Columns = NDArray[np.uint8]


class FinishedPart:
    """One part, ready to give its pixels box by box within a window."""

    def __init__(
        self, part: Part, window: PixelBox, photos: PhotoSource, quality: Quality, cache: ValueCache
    ) -> None:
        self._part = part
        self.content = content_of(part, photos, window, quality, cache)
        self._weights = Weights(part, window, photos, quality, cache)
        self._strokes = [StrokePaint(part, s, self._weights.edges, photos) for s in part.finishes.strokes]

        def alpha(body: Part, box: PixelBox) -> Plane:
            return FinishedPart(body, box, photos, "preview", cache).alpha(box)

        self._casts = casts_of(part, window, quality, cache, alpha, is_opaque=self.content.is_opaque)
        bevel, weights = part.lights.bevel, self._weights
        self._bevel = None
        if bevel is not None:
            self._bevel = BevelPlanes(part, bevel, weights.edges, weights.outermost, window, cache)
        self._mount = None
        if part.mount is not None:
            self._mount = FinishedPart(part.mount, window, photos, quality, cache)
        self.crisp = crisp_body(part, weights, self.content, self._casts)

    def columns(self, box: PixelBox) -> Columns:
        """Return for each column of a box whether it is empty, the content's bytes, or must be computed.

        A tinted column is that of one shadow or glow alone.
        """
        full, empty = self._weights.columns(box)
        if not self.content.is_opaque or self._part.opacity < 1:
            full = np.zeros_like(full)
        beneath, tinted = [], empty
        for cast in self._casts:
            none = cast.is_empty(box)
            if cast.is_inner:
                full = full & none
            else:
                beneath.append(none)
                empty = empty & none
        if self._bevel is not None:
            none = self._bevel.is_empty(box)
            full, empty, tinted = full & none, empty & none, tinted & none
        if self._mount is not None:
            none = self._mount.columns(box) == EMPTY
            empty, tinted = empty & none, tinted & none
        out = np.full(box.width, COMPUTED, np.uint8)
        if len(beneath) == 1:
            out[tinted] = TINTED
        out[empty] = EMPTY
        out[full] = COPIED
        return out

    def hull(self) -> PixelBox:
        """Return a box outside which alpha rounds to 0, nearly the smallest, without composing a pixel."""
        # What is faint in several things may add up to something seen.
        faintest = 0.5 / 255 / (1 + len(self._casts) + (self._bevel is not None))
        box = self._weights.hull(faintest)
        for cast in self._casts:
            if not cast.is_inner:
                box = box.union(cast.hull(faintest))
        if self._bevel is not None and not self._bevel.is_inner:
            box = box.union(self._bevel.hull(faintest))
        return box if self._mount is None else box.union(self._mount.hull())

    def tint(self, box: PixelBox) -> tuple[Plane, tuple[float, float, float]]:
        """Return alpha (0 to 255) and colour in tinted columns."""
        cast = next(cast for cast in self._casts if not cast.is_inner)
        return cast.alpha(box, self._part.opacity), cast.colour

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""
        out = self._body(box)
        if self._bevel is not None and not self._bevel.is_inner:
            lay_under(out, self._bevel.beneath(box))
        beneath = [cast for cast in self._casts if not cast.is_inner]
        body_alpha = out[3].copy() if beneath else out[3]
        for cast in beneath:
            cast.lay_beneath(out, cast.plane(box), body_alpha)
        if self._mount is not None:
            lay_under(out, self._mount.planes(box))
        if self._part.opacity != 1.0:
            out *= np.float32(self._part.opacity)
        return out

    def alpha(self, box: PixelBox) -> NDArray[np.float32]:
        """Return the body's alpha (content and strokes alone), 0 to 1."""
        if self.content.is_opaque and all(is_opaque_paint(s.paint) for s in self._part.finishes.strokes):
            shares = self._weights.of(box)
            return np.asarray(sum(shares.strokes.values(), start=shares.content), np.float32)
        return np.asarray(self._body(box)[3] / np.float32(255), np.float32)

    def _body(self, box: PixelBox) -> Planar:
        weights = self._weights.of(box)
        inner = [cast for cast in self._casts if cast.is_inner]
        if inner:
            lit = np.array(self.content.planes(box), np.float32)
            for cast in inner:
                cast.tint(lit, box)
            out = np.asarray(lit * weights.content)
        else:
            out = self.content.weighted(box, weights.content)
        for index, weight in weights.strokes.items():
            self._strokes[index].add(out, weight, box)
        if self._bevel is not None and self._bevel.is_inner:
            self._bevel.light(out, box)
        return out
