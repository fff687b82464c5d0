"""Finishes: what turns an outline into an edge, and what is added to it. Lengths in sheet px.

A finish that is off keeps its numbers. See docs/rendering for what each means in pixels.
"""

from typing import Literal

from msgspec import Struct

from glasscap.core.document.model.paint import ColourPaint, Paint, check_colour, check_number
from glasscap.core.errors import FinishError

Side = Literal["inside", "centre", "outside"]
FeatherSide = Literal["centred", "inside", "outside"]
Join = Literal["mitre", "round", "bevel"]
Cap = Literal["butt", "round", "square"]
RoughKind = Literal["brushed", "torn", "deckled", "stamped"]
StrokeTexture = Literal["smooth", "brush", "chalk", "crayon"]
MaskKind = Literal["luminance", "alpha"]
BevelSide = Literal["inner", "outer"]

LONGEST = 100_000.0
_OPAQUE = 1.0


class Rough(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A seeded displacement of the outline: `amount` px deep, features `scale` px long."""

    kind: RoughKind = "torn"
    amount: float = 6.0
    scale: float = 24.0
    seed: int = 1
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Rough edge, amount", self.amount, 0.0, LONGEST)
        check_number("Rough edge, scale", self.scale, 0.5, LONGEST)
        check_number("Rough edge, seed", self.seed, 0, 2**31)


# A mask's size, and its offset in shares of the frame.
SMALLEST_MASK, LARGEST_MASK, FARTHEST_MASK = 0.01, 100.0, 100.0


class PictureMask(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A listed photo as a mask over the shape: its luminance or its alpha (CSS `mask-type`).

    It is placed within the shape's frame and goes with it: the offset of its centre (x, y) in shares of the
    frame, its size, its turn in degrees clockwise. At size 1 it just covers the frame, or is stretched to it.
    """

    sha256: str
    kind: MaskKind = "luminance"
    is_inverted: bool = False
    is_on: bool = True
    x: float = 0.0
    y: float = 0.0
    size: float = 1.0
    rotation: float = 0.0
    is_stretched: bool = False

    def __post_init__(self) -> None:
        check_number("Mask across", self.x, -FARTHEST_MASK, FARTHEST_MASK)
        check_number("Mask down", self.y, -FARTHEST_MASK, FARTHEST_MASK)
        check_number("Mask size", self.size, SMALLEST_MASK, LARGEST_MASK)
        check_number("Mask turn", self.rotation, -360.0, 360.0)


# How far a band that is painted wider goes, in halves of the band's width.
WIDEST_BAND = 4.0


class BandStroke(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A stroke of the brush that widens a soft contour's band, or narrows it.

    Points (x, y) and radius are in shares of the shape's frame, from its centre; the radius in shares of its
    shorter side.
    """

    points: tuple[tuple[float, float], ...]
    radius: float = 0.02
    is_wider: bool = True

    def __post_init__(self) -> None:
        check_number("Brush", self.radius, 0.0, 10.0)
        for point in self.points:
            for share in point:
                check_number("Brush stroke", share, -100.0, 100.0)


class SoftContour(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """An alpha matte computed from the photo in a band along the outline: for hair, fur, glass, motion.

    `width` is the band's, half of it to each side. `cleans_rim` writes the object's own colours there, without
    those that shine through.
    """

    width: float = 24.0
    strokes: tuple[BandStroke, ...] = ()
    cleans_rim: bool = False
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Soft contour", self.width, 0.0, LONGEST)

    @property
    def reach(self) -> float:
        """How far beyond the outline anything of the object may be, sheet px."""
        return self.width / 2 * (WIDEST_BAND if any(s.is_wider for s in self.strokes) else 1.0)


class Edge(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """The edge: it turns the outline into coverage.

    `inset` moves the outline inwards (negative: outwards); `feather` is a radius r, a Gaussian of sigma r/2;
    `strength` n raises alpha to the power n. `feathers_strokes` lets strokes fade as well. A `soft` contour
    moves the outline out by its reach and lets through what its matte does.
    """

    inset: float = 0.0
    join: Join = "round"
    feather: float = 0.0
    feather_side: FeatherSide = "centred"
    strength: float = 1.0
    feathers_strokes: bool = False
    rough: Rough | None = None
    mask: PictureMask | None = None
    soft: SoftContour | None = None
    is_on: bool = True

    @property
    def is_masked(self) -> bool:
        """Whether more than outlines decides what shows: a picture, or the photo's own matte."""
        return self.mask is not None or self.soft is not None

    def __post_init__(self) -> None:
        check_number("Inset", self.inset, -LONGEST, LONGEST)
        check_number("Feather", self.feather, 0.0, LONGEST)
        check_number("Strength", self.strength, 1.0, 8.0)


class Stroke(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A band along the outline.

    `gap` is its distance from the outline, outwards for *outside* and *centre*, inwards for *inside*.
    `dashes` are lengths of dash and gap in turn along the stroke's middle, as SVG `stroke-dasharray`;
    `has_even_ends` stretches them a little so that the pattern closes. Along a rough edge joins are round, and
    dashes are measured as before it was made rough; those with round ends follow its teeth.
    """

    width: float = 8.0
    paint: Paint = ColourPaint()
    side: Side = "outside"
    gap: float = 0.0
    opacity: float = 1.0
    join: Join = "round"
    mitre_limit: float = 4.0
    dashes: tuple[float, ...] = ()
    dash_offset: float = 0.0
    cap: Cap = "butt"
    has_even_ends: bool = True
    texture: StrokeTexture = "smooth"
    seed: int = 1
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Stroke width", self.width, 0.0, LONGEST)
        check_number("Stroke gap", self.gap, -LONGEST, LONGEST)
        check_number("Stroke opacity", self.opacity, 0.0, _OPAQUE)
        check_number("Mitre limit", self.mitre_limit, 1.0, 100.0)
        check_number("Dash offset", self.dash_offset, -LONGEST, LONGEST)
        check_number("Stroke seed", self.seed, 0, 2**31)
        for length in self.dashes:
            check_number("Dashes", length, 0.0, LONGEST)
        if self.dashes and sum(self.dashes) <= 0:
            raise FinishError("Dashes", "all lengths are 0", "type a dash and a gap, for example 14 7")
        if len(self.dashes) > 64:
            raise FinishError("Dashes", "there are more than 64 lengths", "type fewer")

    @property
    def band(self) -> tuple[float, float]:
        """The offsets from the outline (outwards positive) between which it lies."""
        if self.side == "inside":
            return -self.gap - self.width, -self.gap
        if self.side == "outside":
            return self.gap, self.gap + self.width
        return self.gap - self.width / 2, self.gap + self.width / 2


class Shadow(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A drop shadow or an inner shadow: shifted by (dx, dy), blurred by a Gaussian of sigma blur/2.

    `spread` grows the silhouette (for an inner shadow: the shade). `is_clear_beneath` takes a drop shadow
    away where the cutout itself lies.
    """

    dx: float = 0.0
    dy: float = 6.0
    blur: float = 18.0
    spread: float = 0.0
    colour: str = "#000000"
    opacity: float = 0.35
    is_clear_beneath: bool = False
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Shadow x", self.dx, -LONGEST, LONGEST)
        check_number("Shadow y", self.dy, -LONGEST, LONGEST)
        check_number("Shadow blur", self.blur, 0.0, LONGEST)
        check_number("Shadow spread", self.spread, -LONGEST, LONGEST)
        check_number("Shadow opacity", self.opacity, 0.0, _OPAQUE)
        check_colour(self.colour)


class Glow(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Light around the cutout, or inside its edge: a shadow that is not shifted."""

    blur: float = 24.0
    spread: float = 0.0
    colour: str = "#fff3d6"
    opacity: float = 0.7
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Glow blur", self.blur, 0.0, LONGEST)
        check_number("Glow spread", self.spread, -LONGEST, LONGEST)
        check_number("Glow opacity", self.opacity, 0.0, _OPAQUE)
        check_colour(self.colour)

    @property
    def as_shadow(self) -> Shadow:
        """The same as a shadow."""
        return Shadow(0.0, 0.0, self.blur, self.spread, self.colour, self.opacity, is_on=self.is_on)


class Bevel(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A slope of `width` px along the edge, lit from `direction` (degrees; 0 = right, 90 = below)."""

    width: float = 10.0
    softness: float = 4.0
    direction: float = -135.0
    elevation: float = 35.0
    highlight: str = "#ffffffb3"
    shade: str = "#00000080"
    side: BevelSide = "inner"
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Bevel width", self.width, 0.0, LONGEST)
        check_number("Bevel softness", self.softness, 0.0, LONGEST)
        check_number("Bevel direction", self.direction, -1e6, 1e6)
        check_number("Bevel elevation", self.elevation, 1.0, 89.0)
        check_colour(self.highlight)
        check_colour(self.shade)


class Lights(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Shadow and light. `shadows` fall one on another, the first on top."""

    shadows: tuple[Shadow, ...] = ()
    inner_shadow: Shadow | None = None
    outer_glow: Glow | None = None
    inner_glow: Glow | None = None
    bevel: Bevel | None = None


class Mount(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A plate behind the cutout, its margins measured from the shape's frame."""

    top: float = 24.0
    right: float = 24.0
    bottom: float = 24.0
    left: float = 24.0
    corner: float = 0.0
    paint: Paint = ColourPaint("#fbfaf7")
    stroke: Stroke | None = None
    shadow: Shadow | None = None
    opacity: float = 1.0
    is_on: bool = True

    def __post_init__(self) -> None:
        for name in ("top", "right", "bottom", "left"):
            check_number(f"Mount, {name}", getattr(self, name), -LONGEST, LONGEST)
        check_number("Mount corner", self.corner, 0.0, LONGEST)
        check_number("Mount opacity", self.opacity, 0.0, _OPAQUE)


class Finishes(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """All finishes of one cutout; the first stroke lies on top."""

    edge: Edge = Edge()
    strokes: tuple[Stroke, ...] = ()
    lights: Lights = Lights()
    mount: Mount | None = None


NO_FINISHES = Finishes()


class Adjustments(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Adjustments of a photo's pixels under the mask; the photo itself never changes.

    `exposure_ev` doubles linear light per step; `contrast`, `saturation` and `warmth` are -100 to 100;
    `blur` is a radius r in sheet px, a Gaussian of sigma r/2.
    """

    exposure_ev: float = 0.0
    contrast: float = 0.0
    saturation: float = 0.0
    warmth: float = 0.0
    blur: float = 0.0
    is_on: bool = True

    def __post_init__(self) -> None:
        check_number("Exposure", self.exposure_ev, -10.0, 10.0)
        for name in ("contrast", "saturation", "warmth"):
            check_number(name.capitalize(), getattr(self, name), -100.0, 100.0)
        check_number("Photo blur", self.blur, 0.0, LONGEST)


AS_SHOT = Adjustments()
