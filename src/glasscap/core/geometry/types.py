"""Boxes and affine maps: small frozen values, plain floats, no arrays."""

import math
from collections.abc import Iterator
from typing import NamedTuple


class Box(NamedTuple):
    """An axis-aligned box in real coordinates, y down."""

    x0: float
    y0: float
    x1: float
    y1: float

    @property
    def width(self) -> float:
        """Width, same unit as the coordinates."""
        return self.x1 - self.x0

    @property
    def height(self) -> float:
        """Height, same unit as the coordinates."""
        return self.y1 - self.y0

    @property
    def centre(self) -> tuple[float, float]:
        """Centre (x, y)."""
        return (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2

    def union(self, other: "Box") -> "Box":
        """Return the smallest box that holds both."""
        return Box(min(self.x0, other.x0), min(self.y0, other.y0), max(self.x1, other.x1), max(self.y1, other.y1))

    def rounded_out(self, slack: float = 1e-9) -> "PixelBox":
        """Return the smallest whole-pixel box that holds this one but for `slack` px."""
        return PixelBox(
            math.floor(self.x0 + slack),
            math.floor(self.y0 + slack),
            math.ceil(self.x1 - slack),
            math.ceil(self.y1 - slack),
        )


class PixelBox(NamedTuple):
    """A box of whole pixels: columns x0..x1-1, rows y0..y1-1."""

    x0: int
    y0: int
    x1: int
    y1: int

    @property
    def width(self) -> int:
        """Columns, never negative."""
        return max(0, self.x1 - self.x0)

    @property
    def height(self) -> int:
        """Rows, never negative."""
        return max(0, self.y1 - self.y0)

    @property
    def is_empty(self) -> bool:
        """Whether it holds no pixel."""
        return self.x1 <= self.x0 or self.y1 <= self.y0

    def intersection(self, other: "PixelBox") -> "PixelBox":
        """Return the common pixels (possibly an empty box)."""
        return PixelBox(
            max(self.x0, other.x0), max(self.y0, other.y0), min(self.x1, other.x1), min(self.y1, other.y1)
        )

    def union(self, other: "PixelBox") -> "PixelBox":
        """Return the smallest box that holds both; an empty box adds nothing."""
        if self.is_empty:
            return other
        if other.is_empty:
            return self
        return PixelBox(
            min(self.x0, other.x0), min(self.y0, other.y0), max(self.x1, other.x1), max(self.y1, other.y1)
        )

    def grown(self, by: int) -> "PixelBox":
        """Return the box with so many px more on each side."""
        return PixelBox(self.x0 - by, self.y0 - by, self.x1 + by, self.y1 + by)

    def in_cells(self, k: int) -> "PixelBox":
        """Return the cells of k px on which the box lies, and one more on each side."""
        return PixelBox(self.x0 // k - 1, self.y0 // k - 1, -(-self.x1 // k) + 1, -(-self.y1 // k) + 1)

    def times(self, k: int) -> "PixelBox":
        """Return what a box of cells of k px spans."""
        return PixelBox(self.x0 * k, self.y0 * k, self.x1 * k, self.y1 * k)

    def moved(self, dx: int, dy: int) -> "PixelBox":
        """Return the box elsewhere."""
        return PixelBox(self.x0 + dx, self.y0 + dy, self.x1 + dx, self.y1 + dy)

    def holds(self, other: "PixelBox") -> bool:
        """Whether every pixel of `other` is in this box."""
        return other.is_empty or self.intersection(other) == other

    def less(self, hole: "PixelBox") -> Iterator["PixelBox"]:
        """Yield the boxes (four at most, none of them empty) of which this one is made beside `hole`."""
        if hole == self:
            return
        hole = self.intersection(hole)
        if hole.is_empty:
            hole = self._replace(y0=self.y1)
        above, below = self._replace(y1=hole.y0), self._replace(y0=hole.y1)
        beside = self._replace(y0=hole.y0, y1=hole.y1)
        for box in (above, beside._replace(x1=hole.x0), beside._replace(x0=hole.x1), below):
            if not box.is_empty:
                yield box


# No pixel at all.
NOTHING = PixelBox(0, 0, 0, 0)


class Affine(NamedTuple):
    """The map x' = a x + c y + e, y' = b x + d y + f (SVG's matrix order)."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    def apply(self, x: float, y: float) -> tuple[float, float]:
        """Map one point."""
        return self.a * x + self.c * y + self.e, self.b * x + self.d * y + self.f

    def after(self, first: "Affine") -> "Affine":
        """Return the map that does `first`, then this one."""
        ex, fy = self.apply(first.e, first.f)
        return Affine(
            self.a * first.a + self.c * first.b,
            self.b * first.a + self.d * first.b,
            self.a * first.c + self.c * first.d,
            self.b * first.c + self.d * first.d,
            ex,
            fy,
        )

    @property
    def determinant(self) -> float:
        """Signed area factor."""
        return self.a * self.d - self.b * self.c

    def inverse(self) -> "Affine":
        """Return the map back. Raises ZeroDivisionError for a flat map."""
        k = 1.0 / self.determinant
        a, b, c, d = self.d * k, -self.b * k, -self.c * k, self.a * k
        return Affine(a, b, c, d, -(a * self.e + c * self.f), -(b * self.e + d * self.f))

    @classmethod
    def scaling(cls, sx: float, sy: float | None = None) -> "Affine":
        """Return a scaling about the origin."""
        return cls(sx, 0.0, 0.0, sx if sy is None else sy)

    @classmethod
    def translation(cls, dx: float, dy: float) -> "Affine":
        """Return a shift."""
        return cls(e=dx, f=dy)

    @classmethod
    def rotation(cls, degrees: float) -> "Affine":
        """Return a turn about the origin, clockwise on screen (y down)."""
        c, s = cosine_sine(degrees)
        return cls(c, s, -s, c)


class Similarity(NamedTuple):
    """A scaling and a turn about a pivot, then a shift: what a grip does to placements."""

    pivot_x: float = 0.0
    pivot_y: float = 0.0
    scale: float = 1.0
    degrees: float = 0.0
    dx: float = 0.0
    dy: float = 0.0

    def apply(self, x: float, y: float) -> tuple[float, float]:
        """Map one point."""
        c, s = cosine_sine(self.degrees)
        u, v = (x - self.pivot_x) * self.scale, (y - self.pivot_y) * self.scale
        return self.pivot_x + c * u - s * v + self.dx, self.pivot_y + s * u + c * v + self.dy


def cosine_sine(degrees: float) -> tuple[float, float]:
    """Return (cos, sin), exact for whole quarter turns."""
    quarter, rest = divmod(degrees, 90.0)
    if rest == 0.0:
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarter) % 4]
    radians = math.radians(degrees)
    return math.cos(radians), math.sin(radians)


def normal_degrees(degrees: float) -> float:
    """Return the same direction in (-180, 180]."""
    turned = math.fmod(degrees, 360.0)
    if turned > 180.0:
        return turned - 360.0
    return turned + 360.0 if turned <= -180.0 else turned
