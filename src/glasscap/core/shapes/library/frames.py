"""Frames, openings and rows of openings."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.spec import (
    Values,
    angle,
    any_proportions,
    count,
    length,
    own_proportions,
    share,
)


def _box(pen: Pen, x0: float, y0: float, x1: float, y1: float, *, is_hole: bool = False) -> Pen:
    points = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    return pen.polygon(np.array(points[::-1] if is_hole else points))


def _frame(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    bar = min(values["bar"], min(x, y) * 0.98)
    pen = _box(Pen(), -x, -y, x, y)
    return (_box(pen, -x + bar, -y + bar, x - bar, y - bar, is_hole=True) if bar > 0 else pen).outline()


def _oval_frame(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    bar = min(values["bar"], min(x, y) * 0.98)
    pen = Pen().circle(0, 0, x, y)
    return (pen.circle(0, 0, x - bar, y - bar, is_hole=True) if bar > 0 else pen).outline()


def _mat(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    bar = min(values["bar"], min(x, y) * 0.96)
    return _box(Pen(), -x, -y, x, y).circle(0, 0, x - bar, y - bar, is_hole=True).outline()


def _arch(width: float, height: float, values: Values) -> Outline:
    """Return a doorway: straight sides under half an ellipse."""
    x, y = width / 2, height / 2
    rise = min(x * values["rise"] / 100, height)
    return (
        Pen()
        .move(-x, y)
        .line((-x, -y + rise))
        .arc(0, -y + rise, x, 180, 180, ry=rise)
        .line((x, y))
        .close()
        .outline()
    )


def _pointed_arch(width: float, height: float, values: Values) -> Outline:
    """Return a pointed arch of two arcs, each centred on the springing line."""
    x, y = width / 2, height / 2
    rise = min(width * values["rise"] / 100, height * 0.98)
    rise = max(rise, x * 1.02)
    if rise > height:
        return _arch(width, height, {"rise": 100.0})
    radius = (rise * rise + x * x) / (2 * x)
    reach = math.degrees(math.asin(min(1.0, rise / radius)))
    spring = -y + rise
    pen = Pen().move(-x, y).line((-x, spring)).arc(-x + radius, spring, radius, 180, reach)
    return pen.arc(x - radius, spring, radius, -reach, reach).line((x, y)).close().outline()


def _window(width: float, height: float, values: Values) -> Outline:
    across, down = int(values["across"]), int(values["down"])
    gap = min(values["gap"], width / across * 0.9, height / down * 0.9)
    w, h = (width - gap * (across - 1)) / across, (height - gap * (down - 1)) / down
    pen = Pen()
    for row in range(down):
        for column in range(across):
            x0, y0 = -width / 2 + column * (w + gap), -height / 2 + row * (h + gap)
            _box(pen, x0, y0, x0 + w, y0 + h)
    return pen.outline()


def _strips(width: float, height: float, values: Values) -> Outline:
    number = int(values["strips"])
    lean = height * math.tan(math.radians(values["lean"]))
    lean = max(min(lean, width * 0.8), -width * 0.8)
    gap = min(values["gap"], (width - abs(lean)) / number * 0.9)
    w = (width - abs(lean) - gap * (number - 1)) / number
    pen = Pen()
    y = height / 2
    for n in range(number):
        x0 = -width / 2 + n * (w + gap)
        top, foot = x0 + max(lean, 0.0), x0 + max(-lean, 0.0)
        pen.polygon(np.array([(top, -y), (top + w, -y), (foot + w, y), (foot, y)]))
    return pen.outline()


def _corner_marks(width: float, height: float, values: Values) -> Outline:
    """Return four angle pieces at the corners."""
    x, y = width / 2, height / 2
    arm = min(width, height) * values["arm"] / 100
    bar = max(min(values["bar"], arm * 0.95), arm * 0.02)
    pen = Pen()
    for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
        points = [(x, y), (x - arm, y), (x - arm, y - bar), (x - bar, y - bar), (x - bar, y - arm), (x, y - arm)]
        placed = np.array([(sx * px, sy * py) for px, py in points])
        pen.polygon(placed if sx * sy > 0 else placed[::-1])
    return pen.outline()


def _keyhole(values: Values) -> Outline:
    neck = 20 + values["neck"] * 0.3
    reach = math.degrees(math.asin(neck / 62))
    foot = neck + 22
    return Pen().arc(0, 0, 62, 90 + reach, 360 - 2 * reach).line((foot, 130), (-foot, 130)).close().outline()


def _film(width: float, height: float, values: Values) -> Outline:
    """Return a strip with holes along both long sides."""
    x, y = width / 2, height / 2
    holes = int(values["holes"])
    pitch = width / holes
    w, h = pitch * 0.46, height * 0.075
    pen = _box(Pen(), -x, -y, x, y)
    for n in range(holes):
        cx = -x + (n + 0.5) * pitch
        for cy in (-y + height * 0.085, y - height * 0.085):
            _box(pen, cx - w / 2, cy - h / 2, cx + w / 2, cy + h / 2, is_hole=True)
    return pen.outline()


def _circles(width: float, height: float, values: Values) -> Outline:
    across, down = int(values["across"]), int(values["down"])
    gap = min(values["gap"], width / across * 0.9, height / down * 0.9)
    w, h = (width - gap * (across - 1)) / across, (height - gap * (down - 1)) / down
    pen = Pen()
    for row in range(down):
        for column in range(across):
            pen.circle(
                -width / 2 + column * (w + gap) + w / 2, -height / 2 + row * (h + gap) + h / 2, w / 2, h / 2
            )
    return pen.outline()


def _arcade(width: float, height: float, values: Values) -> Outline:
    number = int(values["arches"])
    gap = min(values["gap"], width / number * 0.9)
    w, y = (width - gap * (number - 1)) / number, height / 2
    rise = min(w / 2, height)
    pen = Pen()
    for n in range(number):
        x0 = -width / 2 + n * (w + gap)
        pen.move(x0, y).line((x0, -y + rise)).arc(x0 + w / 2, -y + rise, w / 2, 180, 180, ry=rise).line(
            (x0 + w, y)
        ).close()
    return pen.outline()


def _honeycomb(values: Values) -> Outline:
    """Return hexagons in rings about one."""
    rings, inner = int(values["rings"]), 1 - values["gap"] / 100
    unit = (
        np.array([(math.cos(math.radians(a)), math.sin(math.radians(a))) for a in range(30, 390, 60)])
        * 50
        * inner
    )
    pen, step = Pen(), 50 * math.sqrt(3)
    for q in range(-rings, rings + 1):
        for r in range(max(-rings, -q - rings), min(rings, -q + rings) + 1):
            pen.polygon(unit + np.array([step * (q + r / 2), 75.0 * r]))
    return pen.outline()


FRAMES = (
    any_proportions("frame", "Frame", "frames", "border picture outline hollow box", _frame,
                    length("bar", "Bar", 40)),
    any_proportions("oval-frame", "Oval frame", "frames", "border ring mirror hollow ellipse", _oval_frame,
                    length("bar", "Bar", 40)),
    any_proportions("mat", "Oval mat", "frames", "passepartout mount opening surround", _mat,
                    length("bar", "Bar", 30)),
    any_proportions("arch", "Arch", "frames", "door doorway window church kiln tombstone", _arch,
                    share("rise", "Rise", 5, 200, 100)),
    any_proportions("pointed-arch", "Pointed arch", "frames", "gothic church window cathedral door",
                    _pointed_arch,
                    share("rise", "Rise", 50, 150, 86)),
    any_proportions("arcade", "Arcade", "frames", "arches bridge row windows columns", _arcade,
                    count("arches", "Arches", 1, 20, 3), length("gap", "Gap", 24)),
    any_proportions("window", "Window", "frames", "panes grid tiles split collage", _window,
                    count("across", "Across", 1, 20, 2), count("down", "Down", 1, 20, 2),
                    length("gap", "Gap", 16)),
    any_proportions("strips", "Strips", "frames", "bars blinds columns stripes split slices", _strips,
                    count("strips", "Strips", 1, 40, 5), length("gap", "Gap", 16),
                    angle("lean", "Lean", -60, 60, 0)),
    any_proportions("circles", "Circles", "frames", "dots grid holes row peep", _circles,
                    count("across", "Across", 1, 20, 3), count("down", "Down", 1, 20, 2),
                    length("gap", "Gap", 14)),
    own_proportions("honeycomb", "Honeycomb", "frames", "hexagons cells tiles bee wall", _honeycomb,
                    count("rings", "Rings", 1, 4, 1), share("gap", "Gap", 0, 60, 8)),
    any_proportions("corner-marks", "Corner marks", "frames", "viewfinder focus crop brackets camera",
                    _corner_marks,
                    share("arm", "Arm", 5, 50, 30), length("bar", "Bar", 30)),
    own_proportions("keyhole", "Keyhole", "frames", "lock secret peep door", _keyhole,
                    share("neck", "Neck", 0, 100, 30)),
    any_proportions("film", "Film strip", "frames", "movie cinema perforated negative reel", _film,
                    count("holes", "Holes", 2, 40, 8)),
)  # fmt: skip
