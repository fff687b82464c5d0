"""The kinds of shape a cutout can have: frozen values; their outlines come from ``outlines``.

Every kind fills a frame of some width and height, given by its placement. What is kept as a path is SVG path
data in units of its own: the box of the path is mapped onto the frame.
"""

import math
from collections.abc import Iterable
from typing import Literal

from msgspec import Struct

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.boolean import Operation
from glasscap.core.geometry.outline import FillRule
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.library.table import complete_params

Keeps = Literal["inside", "outside"]
Align = Literal["left", "centre", "right"]
RimKind = Literal["circle", "ellipse"]
MOST_PARTS = 64
_FAR = 1e7
_LONGEST_PATH = 4_000_000


class _Shape(Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A base of all shapes: the side that is kept, and the radius of its corners in sheet px.

    `corners` are (number, radius) of corners with a radius of their own, in the order of the outline.
    """

    keeps: Keeps = "inside"
    round: float = 0.0
    corners: tuple[tuple[int, float], ...] = ()

    def __post_init__(self) -> None:
        for radius in (self.round, *(radius for _, radius in self.corners)):
            if not 0 <= radius <= _FAR:
                raise ShapeError("Corner radius", f"{radius:g} is out of range", f"use 0 to {_FAR:g}")
        if any(number < 0 for number, _ in self.corners):
            raise ShapeError("Corner radius", "a corner's number is negative")


class ParametricShape(_Shape, frozen=True, tag="parametric", forbid_unknown_fields=True):
    """A shape of the library with its numbers."""

    name: str
    params: tuple[tuple[str, float], ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if complete_params(self.name, self.params) != self.params:
            raise ShapeError(f"Shape {self.name!r}", "a parameter is missing or out of order")


class ObjectStroke(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A stroke over what belongs to an object or does not.

    `points` are in photo px, as SVG writes them ("x,y x,y"); the radius is in photo px.
    """

    points: str
    radius: float
    is_object: bool = True

    def __post_init__(self) -> None:
        pairs = [pair.split(",") for pair in self.points.split()]
        if not pairs or not all(len(pair) == 2 for pair in pairs) or len(self.points) > _LONGEST_PATH:
            raise ShapeError("Stroke around an object", "its points are not pairs of numbers")
        try:
            numbers = [float(number) for pair in pairs for number in pair]
        except ValueError:
            raise ShapeError("Stroke around an object", "its points are not numbers") from None
        _in_range("Stroke around an object", [self.radius, *numbers])


class ObjectDrawing(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """The drawing an object's outline was found by: a rough box (x0, y0, x1, y1 in photo px) and its strokes.

    `photo` is the SHA-256 of the photo it was drawn on.
    """

    photo: str
    box: tuple[float, float, float, float]
    strokes: tuple[ObjectStroke, ...] = ()

    def __post_init__(self) -> None:
        _in_range("Box around an object", self.box)


def _in_range(what: str, numbers: Iterable[float]) -> None:
    if any(not abs(number) <= _FAR for number in numbers):
        raise ShapeError(what, "a number is out of range", f"use -{_FAR:g} to {_FAR:g}")


class PointsShape(_Shape, frozen=True, tag="points", forbid_unknown_fields=True):
    """An outline of points: drawn, followed, imported, or a library shape turned into points.

    `path` is SVG path data; `kinds` has a letter for every point in turn: c corner, s smooth, y symmetric
    (empty: told from the path). `made_by` says how it came about, in words. `way` is the line that was followed,
    path data in the same units, and `smoothness` how far the curve may leave it; `drawn` is the drawing that
    found the object in a photo. These three until points are edited.
    """

    path: str
    fill: FillRule = "nonzero"
    kinds: str = ""
    made_by: str = "Drawn shape"
    way: str = ""
    smoothness: float = 0.0
    drawn: ObjectDrawing | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 <= self.smoothness <= _FAR:
            raise ShapeError("Smoothness", f"{self.smoothness:g} is out of range", "use 0 or more")
        if not self.path or max(len(self.path), len(self.way)) > _LONGEST_PATH:
            raise ShapeError(self.made_by, "it has no outline, or one too long to be true")
        if set(self.kinds) - set("csy"):
            raise ShapeError(self.made_by, "a point is of an unknown kind", "use c, s or y")


class RimShape(_Shape, frozen=True, tag="rim", forbid_unknown_fields=True):
    """A circle or an ellipse through points on the rim of something round, points as shares of the frame."""

    points: tuple[tuple[float, float], ...]
    kind: RimKind = "circle"

    def __post_init__(self) -> None:
        super().__post_init__()
        if any(not abs(v) <= _FAR for point in self.points for v in point):
            raise ShapeError("Rim", "a point is out of range")


class Letters(Struct, frozen=True, forbid_unknown_fields=True):
    """Text and its setting: `tracking` in thousandths of the size, `line` as a multiple of it.

    `circle` is the radius of the baseline in sizes (0: straight); negative, the letters stand inside.
    """

    text: str
    font: str
    weight: float = 400.0
    is_italic: bool = False
    tracking: float = 0.0
    line: float = 1.2
    align: Align = "centre"
    circle: float = 0.0

    def __post_init__(self) -> None:
        for name, value, low, high in (
            ("Weight", self.weight, 1, 1000), ("Tracking", self.tracking, -900, 10_000),
            ("Line spacing", self.line, 0.1, 20), ("Circle", self.circle, -1000, 1000),
        ):  # fmt: skip
            if not low <= value <= high:
                raise ShapeError(name, f"{value:g} is out of range", f"use {low:g} to {high:g}")
        if len(self.text) > MOST_LETTERS:
            raise ShapeError("Letters", f"{len(self.text)} are too many", f"use up to {MOST_LETTERS}")


MOST_LETTERS = 5000


class LettersShape(_Shape, frozen=True, tag="letters", forbid_unknown_fields=True):
    """Letters that stay editable text.

    `path` is their outline in sizes (1 = the type size), kept so that a job looks the same where the font is
    missing; it is set anew by every change of `letters`.
    """

    letters: Letters
    path: str

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.path or len(self.path) > _LONGEST_PATH:
            raise ShapeError("Letters", "there is nothing to see", "type at least one letter the font has")


class ShapePart(Struct, frozen=True, forbid_unknown_fields=True):
    """One shape of a combined one: what it does to those before it, and where it lies.

    Centre, size, turn and mirror are in the combined shape's own units, like a placement's.
    """

    shape: "Shape"
    x: float
    y: float
    width: float
    height: float
    rotation: float = 0.0
    is_mirrored: bool = False
    does: Operation = "add"
    is_off: bool = False

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) and abs(v) <= _FAR for v in (self.x, self.y, self.rotation)):
            raise ShapeError("ShapePart of a shape", "its place is out of range")
        if not (0 < self.width <= _FAR and 0 < self.height <= _FAR):
            raise ShapeError("ShapePart of a shape", "its size is out of range")

    @property
    def to_whole(self) -> Affine:
        """The map from the part's centred units to the combined shape's."""
        mirror = Affine.scaling(-1.0 if self.is_mirrored else 1.0, 1.0)
        return Affine.translation(self.x, self.y).after(Affine.rotation(self.rotation)).after(mirror)


class CombinedShape(_Shape, frozen=True, tag="combined", forbid_unknown_fields=True):
    """Shapes combined inside one cutout; the parts stay as they are."""

    parts: tuple[ShapePart, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.parts) <= MOST_PARTS:
            raise ShapeError("Combined shape", f"{len(self.parts)} parts", f"use 1 to {MOST_PARTS}")

    @property
    def count(self) -> int:
        """The number of shapes in its parts, those in combined ones counted."""
        return sum(p.shape.count if isinstance(p.shape, CombinedShape) else 1 for p in self.parts)


Shape = ParametricShape | PointsShape | RimShape | LettersShape | CombinedShape


def library_shape(name: str, keeps: Keeps = "inside", **params: float) -> ParametricShape:
    """Return a shape of the library, defaults filled in. Raises ShapeError."""
    return ParametricShape(name, complete_params(name, params.items()), keeps=keeps)
