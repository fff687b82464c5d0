"""A wide feather of content that nothing but its outline and its own end decides."""

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.finishes import FeatherSide
from glasscap.core.geometry.outline import Ints
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.gaussian import FAINTEST, SoftPlane
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.row_spans import RowSpans, no_spans
from glasscap.core.render.paint.masks import Masked

# The integral of a Gaussian up to two sigma before its middle: (1 + erf(-sqrt 2)) / 2.
TAIL = (1 + math.erf(-math.sqrt(2))) / 2


class Feather(Struct, frozen=True):
    """The share of each pixel that a blurred outline gives.

    It counts on one `side` of the outline or on both (centred), is strengthened, and is turned round for a hole.
    """

    strength: float = 1.0
    side: FeatherSide = "centred"
    is_hole: bool = False

    def share(self, soft: Plane, crisp: Callable[[], Plane]) -> Plane:
        """Return the shares from the blurred coverage of the outline and from its `crisp` one; any shape."""
        fade = 1 - soft if self.is_hole else soft
        if self.side != "centred":
            fade = joined(fade, crisp(), is_outside=self.side == "outside")
        return fade if self.strength == 1 else np.power(np.clip(fade, 0, 1), np.float32(self.strength))


class Fading(Struct, frozen=True, eq=False):
    """The share of each pixel that fading content fills, before strokes.

    It is the `feather` of `soft`, by an `outline` where it has but one side, within a `frame`, and
    what a `mask` lets through of it.
    """

    soft: SoftPlane
    feather: Feather
    frame: Coverage | None
    outline: Coverage | None = None
    mask: Masked | None = None

    @property
    def is_hole(self) -> bool:
        """Whether content is around."""
        return self.feather.is_hole

    @property
    def unfaded(self) -> float:
        """The least of `soft` that is as good as no fade."""
        return least_unfaded(self.feather.strength)

    def spans(self, box: PixelBox) -> RowSpans:
        """Return the columns of each row of a box in which anything of it may show; around a hole all does."""
        return self.soft.spans(box, FAINTEST / self.feather.strength if self.is_hole else FAINTEST)

    def core_spans(self, box: PixelBox) -> RowSpans:
        """Return the columns of each row of a box in which nothing fades, where side by side.

        Of a hole those in which there is nothing.
        """
        if self.mask is not None:
            return no_spans(box.height)
        if self.is_hole:
            return self.soft.full_spans(box, 1 - FAINTEST)
        if self.outline is not None and self.feather.side == "outside":
            unfaded = self.outline.full_spans(box)
        else:
            unfaded = self.soft.full_spans(box, self.unfaded)
        return unfaded if self.frame is None else unfaded.within(self.frame.full_spans(box))

    def plane(self, box: PixelBox) -> Plane:
        """Return the shares in a box; float32 of its shape, not to be written to."""
        share = self.feather.share(self.soft.band(box), lambda: self._crisp().plane(box))
        if self.mask is not None:
            share = share * self.mask.plane(box)
        return share if self.frame is None or self.has_content(box) else share * self.frame.plane(box)

    def _crisp(self) -> Coverage:
        assert self.outline is not None
        return self.outline

    def has_content(self, box: PixelBox) -> bool:
        """Whether there is content wherever a box is."""
        if self.frame is None:
            return True
        left, right = self.frame.full_columns(box)
        return left <= box.x0 and right >= box.x1

    def is_filled(self, box: PixelBox) -> bool:
        """Whether there certainly is content everywhere in a box."""
        return self.frame is None or self.frame.full_part.holds(box)

    def content_box(self, box: PixelBox) -> PixelBox:
        """Return the part of a box in which there may be content."""
        return box if self.frame is None else box.intersection(self.frame.bounds)

    def filled_box(self, box: PixelBox) -> PixelBox:
        """Return a part of a box in which there is content everywhere; it may be empty."""
        return box if self.frame is None or self.is_filled(box) else self.frame.full_box(box)

    def at(self, ys: Ints, xs: Ints) -> Plane:
        """Return the shares of single pixels, float32 of shape (n,)."""
        share = self.feather.share(self.soft.at(ys, xs), lambda: self._crisp().at(ys, xs).astype(np.float32))
        if self.mask is not None:
            share = share * self.mask.at(ys, xs)
        return share if self.frame is None else share * self.frame.at(ys, xs).astype(np.float32)


def joined(fade: Plane, crisp: Plane, *, is_outside: bool) -> Plane:
    """Return a feather on one side of an outline of the coverage `crisp`; any shape.

    One that lies inside ends there at nothing: its Gaussian, cut off twice its sigma from the middle where it has
    `TAIL` left, is stretched to go from 0 to 1.
    """
    if is_outside:
        return 1 - (1 - fade) * (1 - crisp)
    stretched = (fade - np.float32(TAIL)) * np.float32(1 / (1 - 2 * TAIL))
    return np.asarray(np.clip(stretched, 0, 1) * crisp)


def least_unfaded(strength: float) -> float:
    """Return the least share, before strength, that is as good as no fade."""
    return 1 - 1 / 1024 / strength
