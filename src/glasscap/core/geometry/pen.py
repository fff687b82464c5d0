"""Building outlines from lines, arcs, curves and formulas; what a shape of the library is written with."""

import math
from collections.abc import Callable

import numpy as np

from glasscap.core.geometry.outline import FillRule, Outline, Points

# One cubic for at most this much of an arc: its radius is right to 7e-8.
_ARC_STEP = math.radians(22.5)
# Nearer than this is the same place.
_NEAR = 1e-10


class Pen:
    """Writes contours; every `close` ends one. Angles in degrees, clockwise on screen from the right."""

    def __init__(self) -> None:
        self._done: list[Points] = []
        self._points: list[tuple[float, float]] = []

    @property
    def at(self) -> tuple[float, float]:
        """The point the pen stands on."""
        return self._points[-1]

    @property
    def points(self) -> tuple[tuple[float, float], ...]:
        """The contour not yet closed, as written so far: point, control, control, point ..."""
        return tuple(self._points)

    def move(self, x: float, y: float) -> "Pen":
        """Start a contour."""
        self._points = [(x, y)]
        return self

    def line(self, *points: tuple[float, float]) -> "Pen":
        """Go straight to each point in turn."""
        for x, y in points:
            x0, y0 = self.at
            if abs(x - x0) > _NEAR or abs(y - y0) > _NEAR:
                dx, dy = (x - x0) / 3, (y - y0) / 3
                self._points += [(x0 + dx, y0 + dy), (x - dx, y - dy), (x, y)]
        return self

    def curve(self, x1: float, y1: float, x2: float, y2: float, x: float, y: float) -> "Pen":
        """Go along one cubic."""
        self._points += [(x1, y1), (x2, y2), (x, y)]
        return self

    def quadratic(self, x1: float, y1: float, x: float, y: float) -> "Pen":
        """Go along one quadratic, raised to a cubic."""
        x0, y0 = self.at
        return self.curve(
            x0 + (x1 - x0) * 2 / 3, y0 + (y1 - y0) * 2 / 3, x + (x1 - x) * 2 / 3, y + (y1 - y) * 2 / 3, x, y
        )

    def arc(
        self,
        cx: float,
        cy: float,
        rx: float,
        start: float,
        sweep: float,
        *,
        ry: float | None = None,
        turn: float = 0,
    ) -> "Pen":
        """Go along an elliptical arc, straight to its start if the pen is elsewhere."""
        ry = rx if ry is None else ry
        c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        pieces = max(1, math.ceil(abs(math.radians(sweep)) / _ARC_STEP - 1e-9))
        step = math.radians(sweep) / pieces
        reach = 4 / 3 * math.tan(step / 4)

        def place(u: float, v: float) -> tuple[float, float]:
            return cx + c * u * rx - s * v * ry, cy + s * u * rx + c * v * ry

        first = math.radians(start)
        here = place(math.cos(first), math.sin(first))
        if self._points:
            self.line(here)
        else:
            self._points = [here]
        for n in range(pieces):
            a, b = first + n * step, first + (n + 1) * step
            ca, sa, cb, sb = math.cos(a), math.sin(a), math.cos(b), math.sin(b)
            self._points += [
                place(ca - sa * reach, sa + ca * reach), place(cb + sb * reach, sb - cb * reach), place(cb, sb),
            ]  # fmt: skip
        return self

    def close(self) -> "Pen":
        """End the contour on its first point."""
        if len(self._points) > 1 or self._points:
            x, y = self._points[0]
            if max(abs(self.at[0] - x), abs(self.at[1] - y)) > _NEAR:
                self.line((x, y))
            else:
                self._points[-1] = (x, y)
            if len(self._points) >= 4:
                self._done.append(np.array(self._points, np.float64))
        self._points = []
        return self

    def formula(
        self, place: Callable[[Points], Points], pieces: int, *, start: float = 0, end: float = 1
    ) -> "Pen":
        """Go along a smooth curve.

        Parameters
        ----------
        place : callable
            From parameters, shape (n,), to points, shape (n, 2).
        pieces : int
            How many cubics stand for the curve, each with the curve's own tangents at its ends; where the
            curve has a corner, begin another formula.
        """
        at = np.linspace(start, end, pieces + 1)
        step = (end - start) / pieces
        points = place(at)
        # Five-point differences: their error is far below the cubics' own.
        h = step * 1e-2
        tangent = (8 * (place(at + h) - place(at - h)) - (place(at + 2 * h) - place(at - 2 * h))) / (12 * h)
        reach = tangent * (step / 3)
        if self._points:
            self.line((float(points[0, 0]), float(points[0, 1])))
        else:
            self._points = [(float(points[0, 0]), float(points[0, 1]))]
        rest = np.stack([points[:-1] + reach[:-1], points[1:] - reach[1:], points[1:]], axis=1).reshape(-1, 2)
        self._points += [(float(x), float(y)) for x, y in rest]
        return self

    def polygon(self, corners: Points) -> "Pen":
        """Add a whole contour of straight sides."""
        points = [(float(x), float(y)) for x, y in corners]
        return self.move(*points[0]).line(*points[1:]).close()

    def circle(self, cx: float, cy: float, rx: float, ry: float | None = None, *, is_hole: bool = False) -> "Pen":
        """Add a whole circle or ellipse as a contour, wound the other way for a hole."""
        self._points = []
        return self.arc(cx, cy, rx, -90, -360 if is_hole else 360, ry=ry).close()

    def outline(self, fill_rule: FillRule = "nonzero") -> Outline:
        """Return the contours written so far."""
        return Outline(tuple(self._done), fill_rule)
