"""What the table says of one parametric shape."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from glasscap.core.geometry.outline import Outline, Points

Values = Mapping[str, float]
PolygonMaker = Callable[[float, float, Values, float], tuple[Points, ...]]
OutlineMaker = Callable[[float, float, Values], Outline]


@dataclass(frozen=True)
class Parameter:
    """One number of a shape.

    `unit` is "px" for lengths, which follow the scale of the output, or "" for plain numbers.
    `sets` names the parameters a shorthand stands for; a shorthand is never stored.
    """

    name: str
    label: str
    low: float
    high: float
    default: float
    unit: str = "px"
    sets: tuple[str, ...] = ()


@dataclass(frozen=True)
class ShapeSpec:
    """One shape of the library.

    `polygon(width, height, values, tolerance)` and `outline(width, height, values)` are centred on the
    origin; `has_equal_sides` says that width and height are always the same (a circle, a square).
    """

    name: str
    label: str
    group: str
    words: tuple[str, ...]
    polygon: PolygonMaker
    outline: OutlineMaker
    parameters: tuple[Parameter, ...] = ()
    has_equal_sides: bool = False

    @property
    def stored(self) -> tuple[Parameter, ...]:
        """The parameters that are kept (no shorthands)."""
        return tuple(p for p in self.parameters if not p.sets)
