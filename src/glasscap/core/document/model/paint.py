"""Paint: a flat colour, a gradient or a tiled texture; colours are "#rrggbb" or "#rrggbbaa", sRGB."""

import math
import re
from itertools import pairwise
from typing import Literal

from msgspec import Struct
from PIL import ImageColor

from glasscap.core.errors import FinishError

_COLOUR = re.compile(r"#[0-9a-f]{6}([0-9a-f]{2})?")
GradientWay = Literal["linear", "radial", "around", "along"]
Rgba = tuple[float, float, float, float]


def check_number(name: str, value: float, low: float, high: float) -> None:
    """Refuse what is no finite number, or out of range. Raises FinishError."""
    if not math.isfinite(value):
        raise FinishError(name, f"{value} is not a number", "type a number")
    if not low <= value <= high:
        raise FinishError(name, f"{value:g} is out of range", f"use {low:g} to {high:g}")


def check_colour(colour: str) -> None:
    """Refuse what is no colour. Raises FinishError."""
    if not _COLOUR.fullmatch(colour):
        raise FinishError(
            f"Colour {colour!r}", "it is not of the form #rrggbb or #rrggbbaa", "type for example #b4532c"
        )


def read_colour(text: str) -> str:
    """Return a colour as it is typed as "#rrggbb" or "#rrggbbaa": digits with or without a #, or a name of CSS.

    Names are those of CSS Color Module Level 4, section 6.1, as Pillow lists them. Raises FinishError.

    Examples
    --------
    >>> read_colour("B4532C"), read_colour("#fa0"), read_colour("Teal")
    ('#b4532c', '#ffaa00', '#008080')
    """
    word = text.strip().lower().replace(" ", "")
    if word in ImageColor.colormap:
        return colour_of(*ImageColor.getrgb(word)[:3])
    digits = word.removeprefix("#")
    if len(digits) in (3, 4):
        digits = "".join(2 * digit for digit in digits)
    if not _COLOUR.fullmatch(f"#{digits}"):
        raise FinishError(
            f"Colour {text.strip()!r}", "it is no colour", "type digits such as #b4532c, or a name such as teal"
        )
    return f"#{digits}"


def rgba_of(colour: str) -> Rgba:
    """Return (red, green, blue, alpha), each 0 to 255.

    Examples
    --------
    >>> rgba_of("#ff800080")
    (255.0, 128.0, 0.0, 128.0)
    """
    digits = colour[1:] + "ff"
    red, green, blue, alpha = (float(int(digits[i : i + 2], 16)) for i in (0, 2, 4, 6))
    return red, green, blue, alpha


def colour_of(red: float, green: float, blue: float, alpha: float = 255.0) -> str:
    """Return "#rrggbb", or "#rrggbbaa" for one that is not opaque."""
    levels = [min(max(math.floor(v + 0.5), 0), 255) for v in (red, green, blue, alpha)]
    text = "#" + "".join(f"{v:02x}" for v in levels)
    return text[:7] if levels[3] == 255 else text


class ColourPaint(Struct, frozen=True, tag="colour", tag_field="paint", forbid_unknown_fields=True):
    """One colour all over."""

    colour: str = "#22262a"

    def __post_init__(self) -> None:
        check_colour(self.colour)


class Stop(Struct, frozen=True, forbid_unknown_fields=True):
    """A colour at a place of a gradient, 0 to 1."""

    at: float
    colour: str

    def __post_init__(self) -> None:
        check_number("Gradient stop", self.at, 0.0, 1.0)
        check_colour(self.colour)


class GradientPaint(Struct, frozen=True, tag="gradient", tag_field="paint", forbid_unknown_fields=True):
    """Colours that run into each other, interpolated premultiplied on sRGB-encoded values.

    *linear* runs in direction `angle` (0 = right, 90 = down) across the painted box, *radial* from its
    centre to its corners, *around* clockwise about its centre from `angle`, *along* the outline's length.
    """

    stops: tuple[Stop, ...] = (Stop(0.0, "#f4e9d8"), Stop(1.0, "#b4532c"))
    way: GradientWay = "linear"
    angle: float = 0.0

    def __post_init__(self) -> None:
        if not self.stops:
            raise FinishError("Gradient", "it has no stops", "give it at least one colour")
        if any(a.at > b.at for a, b in pairwise(self.stops)):
            raise FinishError("Gradient", "its stops are out of order", "sort them by place")
        check_number("Gradient angle", self.angle, -1e6, 1e6)


class TexturePaint(Struct, frozen=True, tag="texture", tag_field="paint", forbid_unknown_fields=True):
    """A picture laid as tiles from the sheet's corner: a shipped one by name, or a listed photo by SHA-256."""

    texture: str = "linen"
    scale: float = 1.0
    rotation: float = 0.0

    def __post_init__(self) -> None:
        check_number("Texture scale", self.scale, 0.01, 100.0)
        check_number("Texture turn", self.rotation, -1e6, 1e6)

    @property
    def is_own(self) -> bool:
        """Whether it is a picture of the designer's own."""
        return len(self.texture) == 64


Paint = ColourPaint | GradientPaint | TexturePaint


def is_opaque_paint(paint: Paint) -> bool:
    """Whether a paint certainly lets nothing through."""
    if isinstance(paint, ColourPaint):
        return rgba_of(paint.colour)[3] == 255
    if isinstance(paint, GradientPaint):
        return all(rgba_of(s.colour)[3] == 255 for s in paint.stops)
    return not paint.is_own
