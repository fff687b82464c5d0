"""The table's entry for one parametric shape."""

from collections.abc import Callable, Mapping

from msgspec import Struct

from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.types import Affine

Values = Mapping[str, float]
PolygonMaker = Callable[[float, float, Values, float], tuple[Points, ...]]
OutlineMaker = Callable[[float, float, Values], Outline]
NaturalMaker = Callable[[Values], Outline]


class Parameter(Struct, frozen=True):
    """One number of a shape.

    `unit` is "px" for lengths, which follow the scale of the output, "%" for shares, "°" for angles, or "" for
    plain numbers; `is_whole` for counts. `sets` names the parameters a shorthand stands for; a shorthand is
    never stored.
    """

    name: str
    label: str
    low: float
    high: float
    default: float
    unit: str = "px"
    sets: tuple[str, ...] = ()
    is_whole: bool = False


class ShapeSpec(Struct, frozen=True):
    """One shape of the library.

    `outline(width, height, values)` fills a frame centred on the origin; so does
    `polygon(width, height, values, tolerance)` where a formula gives polygons of exact area. `natural(values)`
    draws a shape that has proportions of its own, in units of its own. `has_equal_sides` says that width and
    height are always the same (a circle, a square). `words` are everyday words it is found by.
    """

    name: str
    label: str
    group: str
    words: tuple[str, ...]
    outline: OutlineMaker
    parameters: tuple[Parameter, ...] = ()
    polygon: PolygonMaker | None = None
    natural: NaturalMaker | None = None
    has_equal_sides: bool = False

    @property
    def stored(self) -> tuple[Parameter, ...]:
        """The parameters that are kept (no shorthands)."""
        return tuple(p for p in self.parameters if not p.sets)


def own_proportions(
    name: str, label: str, group: str, words: str, draw: NaturalMaker, *parameters: Parameter
) -> ShapeSpec:
    """Return a shape drawn once in its own units and fitted to its frame; `words` are parted by spaces."""

    def outline(width: float, height: float, values: Values) -> Outline:
        return fitted(draw(values), width, height)

    return ShapeSpec(name, label, group, tuple(words.split()), outline, parameters, natural=draw)


def any_proportions(
    name: str, label: str, group: str, words: str, draw: OutlineMaker, *parameters: Parameter
) -> ShapeSpec:
    """Return a shape drawn for the very frame it fills; `words` are parted by spaces."""
    return ShapeSpec(name, label, group, tuple(words.split()), draw, parameters)


def fitted(outline: Outline, width: float, height: float) -> Outline:
    """Return an outline whose box is a frame centred on the origin."""
    box = outline_box(outline)
    x, y = box.centre
    return outline.transformed(
        Affine.scaling(width / box.width, height / box.height).after(Affine.translation(-x, -y))
    )


def count(name: str, label: str, low: int, high: int, default: int) -> Parameter:
    """Return a whole number."""
    return Parameter(name, label, low, high, default, "", is_whole=True)


def share(name: str, label: str, low: float, high: float, default: float) -> Parameter:
    """Return a percentage."""
    return Parameter(name, label, low, high, default, "%")


def angle(name: str, label: str, low: float, high: float, default: float) -> Parameter:
    """Return degrees."""
    return Parameter(name, label, low, high, default, "°")


def length(name: str, label: str, default: float) -> Parameter:
    """Return px."""
    return Parameter(name, label, 0.0, 100_000.0, default)
