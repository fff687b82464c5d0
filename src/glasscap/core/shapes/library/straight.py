"""Shapes of straight sides."""

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.rectangle import rectangle_outline
from glasscap.core.shapes.library.spec import (
    ShapeSpec,
    Values,
    any_proportions,
    count,
    length,
    own_proportions,
    share,
)


def on_circle(number: int, radius: float = 100.0, first: float = -90.0) -> Points:
    """Return points spread evenly on a circle, from the top unless `first` (degrees) says otherwise."""
    angle = np.radians(first + np.arange(number) * 360 / number)
    return np.stack([np.cos(angle), np.sin(angle)], axis=1) * radius


def corners(*points: tuple[float, float]) -> Outline:
    """Return one contour of straight sides."""
    return Pen().polygon(np.array(points, float)).outline()


def regular(number: int) -> Outline:
    """Return a regular polygon with a side at its foot."""
    return Pen().polygon(on_circle(number, first=-90.0 + (180 / number if number % 2 == 0 else 0))).outline()


def _square(width: float, height: float, values: Values) -> Outline:
    return rectangle_outline(width, height, {"corner_tl": 0, "corner_tr": 0, "corner_br": 0, "corner_bl": 0})


def _triangle(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    return corners((-x + width * values["lean"] / 100, -y), (x, y), (-x, y))


def _right_triangle(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    return corners((-x, -y), (x, y), (-x, y))


def _diamond(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    return corners((0, -y), (x, 0), (0, y), (-x, 0))


def _kite(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    waist = -y + height * values["waist"] / 100
    return corners((0, -y), (x, waist), (0, y), (-x, waist))


def _slanted(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    slant = width * values["slant"] / 100
    left, right = max(slant, 0.0), max(-slant, 0.0)
    return corners((-x + left, -y), (x - right, -y), (x - left, y), (-x + right, y))


def _trapezoid(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    top = x * values["top"] / 100
    return corners((-top, -y), (top, -y), (x, y), (-x, y))


def _cross(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    arm = min(width, height) * values["arm"] / 200
    return corners(
        (-arm, -y), (arm, -y), (arm, -arm), (x, -arm), (x, arm), (arm, arm), (arm, y), (-arm, y), (-arm, arm),
        (-x, arm), (-x, -arm), (-arm, -arm),
    )  # fmt: skip


def _chevron(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    depth = width * values["depth"] / 100
    return corners((-x, -y), (x - depth, -y), (x, 0), (x - depth, y), (-x, y), (-x + depth, 0))


def _angle_piece(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    bar = min(width, height) * values["bar"] / 100
    return corners((-x, -y), (-x + bar, -y), (-x + bar, y - bar), (x, y - bar), (x, y), (-x, y))


def _stairs(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    steps = int(values["steps"])
    rise, run = height / steps, width / steps
    points = [(-x, y)]
    for n in range(steps):
        points += [(-x + n * run, y - (n + 1) * rise), (-x + (n + 1) * run, y - (n + 1) * rise)]
    return corners(*points, (x, y))


def _hourglass(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    waist = x * values["waist"] / 100
    return corners((-x, -y), (x, -y), (waist, 0), (x, y), (-x, y), (-waist, 0))


def _cut_corners(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    cut = min(values["cut"], x, y)
    return corners(
        (-x + cut, -y), (x - cut, -y), (x, -y + cut), (x, y - cut), (x - cut, y), (-x + cut, y), (-x, y - cut),
        (-x, -y + cut),
    )  # fmt: skip


def _house(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    eaves = -y + height * values["roof"] / 100
    return corners((0, -y), (x, eaves), (x, y), (-x, y), (-x, eaves))


def _zigzag(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    teeth, band = int(values["teeth"]), height * values["band"] / 100
    across = np.linspace(-x, x, 2 * teeth + 1)
    rise = np.where(np.arange(2 * teeth + 1) % 2 == 0, y - band, -y)
    top = np.stack([across, rise], axis=1)
    foot = np.stack([across, rise + band], axis=1)[::-1]
    return Pen().polygon(np.concatenate([top, foot])).outline()


def _polygon(values: Values) -> Outline:
    return regular(int(values["sides"]))


def _sides(name: str, label: str, words: str, sides: int) -> ShapeSpec:
    return own_proportions(name, label, "straight", words, _polygon, count("sides", "Sides", 3, 40, sides))


STRAIGHT = (
    ShapeSpec("square", "Square", "straight", ("box", "tile", "avatar", "quad", "even"), _square,
              has_equal_sides=True),
    any_proportions("triangle", "Triangle", "straight", "three peak pyramid delta wedge roof", _triangle,
                    share("lean", "Lean", 0, 100, 50)),
    any_proportions("right-triangle", "Right triangle", "straight", "corner wedge ramp half square",
                    _right_triangle),
    any_proportions("diamond", "Diamond", "straight", "rhombus lozenge card tilted square", _diamond),
    any_proportions("kite", "Kite", "straight", "dart gem diamond", _kite, share("waist", "Waist", 5, 95, 36)),
    any_proportions("slanted", "Slanted", "straight", "parallelogram leaning sloped stripe fast", _slanted,
                    share("slant", "Slant", -90, 90, 25)),
    any_proportions("trapezoid", "Trapezoid", "straight", "bucket lampshade trapezium pot", _trapezoid,
                    share("top", "Top", 0, 100, 62)),
    _sides("pentagon", "Pentagon", "five sides home", 5),
    _sides("hexagon", "Hexagon", "six sides honeycomb nut cell bee tile", 6),
    _sides("octagon", "Octagon", "eight sides stop sign tile", 8),
    _sides("polygon", "Polygon", "regular sides seven nine many", 7),
    any_proportions("cross", "Cross", "straight", "plus add medical more health", _cross,
                    share("arm", "Arm", 5, 100, 36)),
    any_proportions("chevron", "Chevron", "straight", "next step arrow process tab", _chevron,
                    share("depth", "Depth", 2, 95, 30)),
    any_proportions("angle-piece", "Angle piece", "straight", "corner bracket bend elbow l", _angle_piece,
                    share("bar", "Bar", 5, 95, 36)),
    any_proportions("stairs", "Stairs", "straight", "steps climb levels growth", _stairs,
                    count("steps", "Steps", 2, 40, 4)),
    any_proportions("hourglass", "Hourglass", "straight", "bow tie time waist", _hourglass,
                    share("waist", "Waist", 2, 95, 16)),
    any_proportions("cut-corners", "Cut corners", "straight", "chamfer bevelled plaque label octagon",
                    _cut_corners,
                    length("cut", "Cut", 40)),
    any_proportions("house", "House", "straight", "home roof barn shed studio", _house,
                    share("roof", "Roof", 2, 98, 38)),
    any_proportions("zigzag", "Zigzag", "straight", "saw lightning teeth band", _zigzag,
                    count("teeth", "Teeth", 1, 60, 4), share("band", "Band", 5, 95, 55)),
)  # fmt: skip
