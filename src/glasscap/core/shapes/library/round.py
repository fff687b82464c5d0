"""Round shapes."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.ellipse import ellipse_outline, ellipse_polygon
from glasscap.core.shapes.library.rectangle import rectangle_outline
from glasscap.core.shapes.library.spec import (
    ShapeSpec,
    Values,
    angle,
    any_proportions,
    count,
    own_proportions,
    share,
)

# Cubics for one turn of a smooth closed formula; more where its curvature changes fast.
_SMOOTH, _TIGHT = 48, 160


def turned(radius: "np.ufunc | object", pieces: int = _SMOOTH) -> Outline:
    """Return a closed curve from its radius as a function of the angle (radians, clockwise from the right)."""

    def place(t: Points) -> Points:
        theta = t * (2 * math.pi)
        r = radius(theta)  # type: ignore[operator]
        return np.stack([r * np.cos(theta), r * np.sin(theta)], axis=1)

    return Pen().formula(place, pieces).close().outline()


def _squircle(width: float, height: float, values: Values) -> Outline:
    """Return Lamé's superellipse |x/a|^n + |y/b|^n = 1."""
    n = values["fullness"]
    unit = turned(lambda a: (np.abs(np.cos(a)) ** n + np.abs(np.sin(a)) ** n) ** (-1 / n), _TIGHT)
    return Outline(tuple(c * (np.array([width, height]) / 2) for c in unit.contours))


def _egg(values: Values) -> Outline:
    tip = values["tip"] / 100

    def place(t: Points) -> Points:
        a = t * (2 * math.pi)
        return np.stack([76 * np.cos(a) * (1 + tip * np.sin(a)), 100 * np.sin(a)], axis=1)

    return Pen().formula(place, _SMOOTH).close().outline()


def _half_round(values: Values) -> Outline:
    # The chord at this share of the diameter from the top.
    reach = math.degrees(math.acos(1 - 2 * values["cut"] / 100))
    return Pen().arc(0, 0, 100, -90 - reach, 2 * reach).close().outline()


def _quarter(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    return Pen().move(-x, y).line((-x, -y)).arc(-x, y, width, -90, 90, ry=height).close().outline()


def _slice(values: Values) -> Outline:
    sweep = values["sweep"]
    return Pen().move(0, 0).arc(0, 0, 100, -90 - sweep / 2, sweep).close().outline()


def _ring(values: Values) -> Outline:
    return Pen().circle(0, 0, 100).circle(0, 0, 100 - values["width"], is_hole=True).outline()


def _band(values: Values) -> Outline:
    sweep, inner = values["sweep"], 100 - values["width"]
    start = -90 - sweep / 2
    return Pen().arc(0, 0, 100, start, sweep).arc(0, 0, inner, start + sweep, -sweep).close().outline()


def _crescent(values: Values) -> Outline:
    """Return what a circle of four fifths the size leaves of another where it covers one side."""
    inner = 84.0
    shift = 18 + values["phase"] * 0.8
    x = (shift * shift + 100 * 100 - inner * inner) / (2 * shift)
    outer_reach = math.degrees(math.acos(x / 100))
    inner_reach = math.degrees(math.acos((x - shift) / inner))
    return (
        Pen().arc(0, 0, 100, outer_reach, 360 - 2 * outer_reach)
        .arc(shift, 0, inner, -inner_reach, -(360 - 2 * inner_reach)).close().outline()
    )  # fmt: skip


def _lens(width: float, height: float, values: Values) -> Outline:
    """Return two arcs over the width's ends."""
    x, y = width / 2, height / 2
    if y >= x:
        radius = (y * y + x * x) / (2 * x)
        reach = math.degrees(math.asin(min(1.0, y / radius)))
        return (
            Pen()
            .arc(x - radius, 0, radius, -reach, 2 * reach)
            .arc(radius - x, 0, radius, 180 - reach, 2 * reach)
            .close()
            .outline()
        )
    radius = (x * x + y * y) / (2 * y)
    reach = math.degrees(math.asin(min(1.0, x / radius)))
    return (
        Pen().arc(0, radius - y, radius, -90 - reach, 2 * reach)
        .arc(0, y - radius, radius, 90 - reach, 2 * reach).close().outline()
    )  # fmt: skip


def _capsule(width: float, height: float, values: Values) -> Outline:
    radius = min(width, height) / 2
    return rectangle_outline(
        width, height, dict.fromkeys(("corner_tl", "corner_tr", "corner_br", "corner_bl"), radius)
    )


def _pebble(values: Values) -> Outline:
    """Return a circle with seeded waves of two to five around."""
    rng = np.random.default_rng(int(values["variant"]))
    waves = [(k, rng.uniform(0, 2 * math.pi), rng.uniform(0.4, 1) / k**1.2) for k in (2, 3, 4, 5)]
    depth = values["unevenness"] / 100
    return turned(lambda a: 1 + depth * sum(size * np.cos(k * a + phase) for k, phase, size in waves))


def _cushion(width: float, height: float, values: Values) -> Outline:
    """Return a box whose sides swell or sink as arcs of a quadratic."""
    x, y = width / 2, height / 2
    swell = values["bulge"] / 100
    if swell >= 0:
        u, v = x * (1 - swell), y * (1 - swell)
        sides = ((0, -2 * y + v), (2 * x - u, 0), (0, 2 * y - v), (-2 * x + u, 0))
    else:
        u, v = x, y
        sides = ((0, -y - 2 * y * swell), (x + 2 * x * swell, 0), (0, y + 2 * y * swell), (-x - 2 * x * swell, 0))
    pen, around = Pen().move(-u, -v), ((u, -v), (u, v), (-u, v), (-u, -v))
    for control, end in zip(sides, around, strict=True):
        pen.quadratic(*control, *end)
    return pen.close().outline()


def _gem(values: Values) -> Outline:
    """Return a rounded triangle of constant width, after Reuleaux, with any odd number of corners."""
    number = int(values["corners"]) // 2 * 2 + 1
    span = 180 / number
    pen = Pen()
    for n in range(number):
        centre = math.radians(90 + n * 360 / number)
        radius = 200 * math.cos(math.radians(span / 2))
        pen.arc(
            100 * math.cos(centre), 100 * math.sin(centre), radius, math.degrees(centre) + 180 - span / 2, span
        )
    return pen.close().outline()


ROUND = (
    ShapeSpec("circle", "Circle", "round", ("round", "disc", "coin", "avatar", "dot", "plate"), ellipse_outline,
              polygon=ellipse_polygon, has_equal_sides=True),
    ShapeSpec("ellipse", "Ellipse", "round", ("oval", "round", "locket", "cameo"), ellipse_outline,
              polygon=ellipse_polygon),
    any_proportions("squircle", "Squircle", "round", "soft square superellipse app icon tile avatar", _squircle,
                    share("fullness", "Fullness", 2, 16, 4)),
    own_proportions("egg", "Egg", "round", "oval easter hen", _egg, share("tip", "Tip", 0, 45, 18)),
    own_proportions("half-round", "Half round", "round", "semicircle dome sunset hill cap segment", _half_round,
                    share("cut", "Cut", 5, 95, 50)),
    any_proportions("quarter", "Quarter round", "round", "corner fan pie leaf quadrant", _quarter),
    own_proportions("slice", "Slice", "round", "pie wedge pizza cake sector fan", _slice,
                    angle("sweep", "Sweep", 5, 355, 70)),
    own_proportions("ring", "Ring", "round", "donut hoop wreath annulus o rim", _ring,
                    share("width", "Width", 2, 98, 36)),
    own_proportions("band", "Band", "round", "arc rainbow gauge horseshoe bow", _band,
                    angle("sweep", "Sweep", 5, 355, 180), share("width", "Width", 2, 98, 40)),
    own_proportions("crescent", "Crescent", "round", "moon night horn croissant", _crescent,
                    share("phase", "Phase", 0, 100, 30)),
    any_proportions("lens", "Lens", "round", "almond eye vesica seed", _lens),
    any_proportions("capsule", "Capsule", "round", "pill stadium lozenge button tablet", _capsule),
    own_proportions("pebble", "Pebble", "round", "blob stone organic soft splash", _pebble,
                    count("variant", "Variant", 1, 999, 7), share("unevenness", "Unevenness", 0, 60, 24)),
    any_proportions("cushion", "Cushion", "round", "pillow bulging screen tile", _cushion,
                    share("bulge", "Bulge", -45, 45, 12)),
    own_proportions("rolling", "Constant width", "round", "coin triangle guitar pick plectrum reuleaux", _gem,
                    count("corners", "Corners", 3, 15, 3)),
)  # fmt: skip
