"""Shapes that talk and point."""

import math

import numpy as np

from glasscap.core.geometry.boolean import combined, normalised
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.badges import star_corners
from glasscap.core.shapes.library.rectangle import rectangle_outline
from glasscap.core.shapes.library.spec import (
    Values,
    angle,
    any_proportions,
    count,
    length,
    own_proportions,
    share,
)
from glasscap.core.shapes.library.straight import corners

_CORNERS = ("corner_tl", "corner_tr", "corner_br", "corner_bl")


def _bubble(width: float, height: float, values: Values) -> Outline:
    """Return an ellipse with a bent tail; both fill the frame together."""
    x, y = width / 2, height / 2
    drop = height * values["tail"] / 100
    ry = (height - drop) / 2
    cy = -y + ry
    at = -x + width * values["place"] / 100
    foot = at * 0.55
    half = width * 0.085
    body = Pen().circle(0, cy, x, ry).outline()
    if drop <= 0:
        return body
    tail = (
        Pen().move(foot - half, cy).line((foot + half, cy))
        .curve(foot + half, cy + ry, (foot + at) / 2 + half, y - drop * 0.4, at, y)
        .curve((foot + at) / 2 - half * 0.4, y - drop * 0.5, foot - half, cy + ry, foot - half, cy)
        .close().outline()
    )  # fmt: skip
    return combined(body, tail, "add")


def _box_bubble(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    drop = height * values["tail"] / 100
    r = min(values["corner"], x, (height - drop) / 2)
    body = rectangle_outline(width, height - drop, dict.fromkeys(_CORNERS, r))
    body = Outline(tuple(c - np.array([0, drop / 2]) for c in body.contours))
    if drop <= 0:
        return body
    at = -x + width * values["place"] / 100
    half = min(width * 0.07, drop, (height - drop) * 0.8)
    foot = min(max(at * 0.7, -x + r + half), x - r - half)
    foot_y = y - drop
    left, right = foot - half, foot + half
    tail = corners((left, foot_y - half), (right, foot_y - half), (right, foot_y), (at, y), (left, foot_y))
    return combined(body, tail, "add")


def _thought(values: Values) -> Outline:
    pen = Pen()
    bumps = int(values["bumps"])
    for n in range(bumps):
        a = math.radians(-90 + n * 360 / bumps)
        pen.circle(78 * math.cos(a), 48 * math.sin(a), 150 / bumps + 14)
    pen.circle(0, 0, 80, 50)
    cloud = normalised(pen.outline())
    dots = Pen().circle(-74, 108, 16, 13).circle(-102, 136, 9, 8).outline()
    return Outline((*cloud.contours, *dots.contours))


def _shout(values: Values) -> Outline:
    """Return a burst with one long tip."""
    number = int(values["points"])
    points = star_corners(number, 100 - values["depth"]) * np.array([1.25, 0.9])
    lowest = int(np.argmax(points[::2] @ np.array([-0.45, 1.0]))) * 2
    points[lowest] = (-96, 132)
    return Pen().polygon(points).outline()


def _arrow(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    head, shaft = min(width * values["head"] / 100, width), y * values["shaft"] / 100
    neck = x - head
    return corners((-x, -shaft), (neck, -shaft), (neck, -y), (x, 0), (neck, y), (neck, shaft), (-x, shaft))


def _double_arrow(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    head, shaft = width * values["head"] / 100, y * values["shaft"] / 100
    neck = x - head
    right = [(neck, -shaft), (neck, -y), (x, 0), (neck, y), (neck, shaft)]
    return corners(*right, *((-px, -py) for px, py in right))


def _bent_arrow(width: float, height: float, values: Values) -> Outline:
    """Return an arrow that turns up from the left and points right."""
    x, y = width / 2, height / 2
    bar = min(width, height) * values["shaft"] / 100
    head = min(bar * 1.1, y * 0.9)
    middle = -y + head
    outer = bar * 1.3
    bend_y = middle - bar / 2
    neck = x - head
    pen = Pen().move(-x, y).line((-x, bend_y + outer)).arc(-x + outer, bend_y + outer, outer, 180, 90)
    pen.line((neck, bend_y), (neck, -y), (x, middle), (neck, middle + head), (neck, bend_y + bar))
    inner = outer - bar
    return pen.arc(-x + outer, bend_y + outer, inner, -90, -90).line((-x + bar, y)).close().outline()


def _round_arrow(values: Values) -> Outline:
    """Return most of a ring that ends in a head."""
    sweep, bar = values["sweep"], values["width"]
    inner, middle, half = 100 - bar, 100 - bar / 2, bar * 0.95
    start = -90.0
    end = start + sweep
    reach = min(math.degrees(half * 1.3 / middle), 350 - sweep)

    def on(radius: float, degrees: float) -> tuple[float, float]:
        return radius * math.cos(math.radians(degrees)), radius * math.sin(math.radians(degrees))

    pen = Pen().arc(0, 0, 100, start, sweep)
    pen.line(on(middle + half, end), on(middle, end + reach), on(middle - half, end))
    return pen.arc(0, 0, inner, end, -sweep).close().outline()


def _pin(values: Values) -> Outline:
    """Return a place marker: a disc whose sides run to a tip below, with an eye if asked."""
    tip, eye = 70 + values["tip"] * 1.1, values["eye"] * 0.7
    reach = math.degrees(math.acos(min(1.0, 70 / tip)))
    pen = Pen().arc(0, 0, 70, 90 + reach, 360 - 2 * reach).line((0, tip)).close()
    if eye > 0:
        pen.circle(0, 0, eye, is_hole=True)
    return pen.outline()


def _flag(width: float, height: float, values: Values) -> Outline:
    """Return a cloth that waves in the wind."""
    x, y = width / 2, height / 2
    wave = height * values["wave"] / 200

    def edge(side: float, t: Points) -> Points:
        return np.stack([-x + width * t, side * (y - wave) + wave * np.sin(2 * math.pi * t)], axis=1)

    pen = Pen().formula(lambda t: edge(-1, t), 16).formula(lambda t: edge(1, 1 - t), 16)
    return pen.close().outline()


def _pointer(values: Values) -> Outline:
    notch = values["notch"]
    return corners((0, -100), (76, 100), (0, 100 - notch * 1.2), (-76, 100))


def _play(values: Values) -> Outline:
    return corners((-62, -90), (94, 0), (-62, 90))


TALK = (
    any_proportions("bubble", "Speech bubble", "talk", "talk say chat comment quote comic balloon", _bubble,
                    share("tail", "Tail", 0, 60, 26), share("place", "Tail's place", 0, 100, 22)),
    any_proportions("box-bubble", "Box bubble", "talk", "speech chat message comment caption quote", _box_bubble,
                    share("tail", "Tail", 0, 60, 20), share("place", "Tail's place", 0, 100, 24),
                    length("corner", "Corners", 40)),
    own_proportions("thought", "Thought bubble", "talk", "think dream idea cloud comic", _thought,
                    count("bumps", "Bumps", 6, 16, 9)),
    own_proportions("shout", "Shout", "talk", "bang comic loud burst speech", _shout,
                    count("points", "Points", 8, 40, 14), share("depth", "Depth", 5, 70, 30)),
    any_proportions("arrow", "Arrow", "talk", "direction right next way go", _arrow,
                    share("head", "Head", 5, 100, 42), share("shaft", "Shaft", 5, 100, 46)),
    any_proportions("double-arrow", "Double arrow", "talk", "both ways exchange width swap", _double_arrow,
                    share("head", "Head", 5, 50, 28), share("shaft", "Shaft", 5, 100, 42)),
    any_proportions("bent-arrow", "Bent arrow", "talk", "turn corner up right reply", _bent_arrow,
                    share("shaft", "Shaft", 6, 40, 24)),
    own_proportions("round-arrow", "Round arrow", "talk", "circle refresh again turn cycle recycle", _round_arrow,
                    angle("sweep", "Sweep", 60, 320, 270), share("width", "Width", 8, 60, 30)),
    own_proportions("pin", "Map pin", "talk", "place location marker here where trail", _pin,
                    share("tip", "Tip", 10, 100, 66), share("eye", "Eye", 0, 80, 0)),
    any_proportions("flag", "Flag", "talk", "wave banner nation cloth pole", _flag,
                    share("wave", "Wave", 0, 80, 26)),
    own_proportions("pointer", "Pointer", "talk", "compass needle navigation north up", _pointer,
                    share("notch", "Notch", 0, 100, 40)),
    own_proportions("play", "Play", "talk", "video start triangle go media", _play),
)  # fmt: skip
