"""Letters-like signs, built of bars and arcs."""

import math

import numpy as np

from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.outline import Outline
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.spec import Values, any_proportions, count, own_proportions, share
from glasscap.core.shapes.library.straight import corners


def _bar(pen: Pen, length: float, width: float, degrees: float, *, from_middle: bool = False) -> None:
    """Add a bar through (or from) the middle."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    start = 0.0 if from_middle else -length
    points = [(start, -width), (length, -width), (length, width), (start, width)]
    pen.polygon(np.array([(c * x - s * y, s * x + c * y) for x, y in points]))


def _check(values: Values) -> Outline:
    """Return a stroke down and a longer one up, at right angles."""
    w = 14 + values["weight"] * 0.5
    short, far = 64.0, 150.0
    points = [(0, 0), (0, -short), (w, -short), (w, -w), (far, -w), (far, 0)]
    c, s = math.cos(math.radians(-45)), math.sin(math.radians(-45))
    return corners(*[(c * x - s * y, s * x + c * y) for x, y in points])


def _times(values: Values) -> Outline:
    w = 100 * values["weight"] / 200
    arm = [(100.0, -w), (100.0, w), (w, w)]
    # A cross turned by 45 degrees: three corners a quarter.
    turns = [(x, y) for quarter in range(4) for x, y in (_quarters(point, quarter) for point in arm)]
    c = math.sqrt(0.5)
    return corners(*((c * (x - y), c * (x + y)) for x, y in turns))


def _quarters(point: tuple[float, float], count: int) -> tuple[float, float]:
    for _ in range(count):
        point = (-point[1], point[0])
    return point


def _asterisk(values: Values) -> Outline:
    arms = int(values["arms"])
    pen = Pen()
    for n in range(arms):
        _bar(pen, 100, 100 * values["weight"] / 200, -90 + n * 360 / arms, from_middle=True)
    pen.circle(0, 0, 100 * values["weight"] / 200)
    return normalised(pen.outline())


def _bolt(values: Values) -> Outline:
    lean = values["lean"] * 0.5
    return corners(
        (42 + lean, -110), (8, -30), (60, -30), (-26 - lean * 0.6, 110), (-8, 18), (-58, 18), (10 + lean, -110)
    )


def _hash(values: Values) -> Outline:
    w = values["weight"] * 0.3
    pen = Pen()
    for x in (-34.0, 34.0):
        pen.polygon(np.array([(x - w + 12, -100), (x + w + 12, -100), (x + w - 12, 100), (x - w - 12, 100)]))
    for y in (-34.0, 34.0):
        pen.polygon(np.array([(-100, y - w), (100, y - w), (100, y + w), (-100, y + w)]))
    return normalised(pen.outline())


def _infinity(values: Values) -> Outline:
    """Return two rings that share their waist."""
    inner = 56 - values["weight"] * 0.5
    reach = 56 * 2 - (56 - inner)
    outer = Pen().circle(-reach / 2, 0, 56).circle(reach / 2, 0, 56).outline()
    holes = Pen().circle(-reach / 2, 0, inner, is_hole=True).circle(reach / 2, 0, inner, is_hole=True).outline()
    return Outline((*normalised(outer).contours, *holes.contours))


def _tee(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    bar = min(width, height) * values["bar"] / 100
    half = bar / 2
    return corners(
        (-x, -y),
        (x, -y),
        (x, -y + bar),
        (half, -y + bar),
        (half, y),
        (-half, y),
        (-half, -y + bar),
        (-x, -y + bar),
    )


def _horseshoe(width: float, height: float, values: Values) -> Outline:
    """Return a U of even thickness with a round foot."""
    x, y = width / 2, height / 2
    bar = x * values["bar"] / 100
    round_ry = min(x, height)
    bar = min(bar, round_ry * 0.9)
    foot = y - round_ry
    pen = (
        Pen()
        .move(-x, -y)
        .line((-x + bar, -y), (-x + bar, foot))
        .arc(0, foot, x - bar, 180, -180, ry=round_ry - bar)
    )
    return pen.line((x - bar, -y), (x, -y), (x, foot)).arc(0, foot, x, 0, 180, ry=round_ry).close().outline()


def _bracket(width: float, height: float, values: Values) -> Outline:
    """Return a square bracket that opens to the right."""
    x, y = width / 2, height / 2
    bar = min(width, height) * values["bar"] / 100
    return corners(
        (-x, -y), (x, -y), (x, -y + bar), (-x + bar, -y + bar), (-x + bar, y - bar), (x, y - bar), (x, y), (-x, y)
    )


def _quote(values: Values) -> Outline:
    """Return two opening quotation marks."""
    pen, r = Pen(), 20 + values["weight"] * 0.16
    for x in (-44.0, 44.0):
        pen.move(x - r, 10).curve(x - r, -34, x - 4, -62, x + 20, -72).line((x + 26, -58))
        pen.curve(x + 8, -48, x, -34, x - 2, 10 - r * 0.96).close()
        pen.circle(x, 10, r)
    return normalised(pen.outline())


SIGNS = (
    own_proportions("check", "Tick", "letters", "check yes done correct mark", _check,
                    share("weight", "Weight", 0, 60, 24)),
    own_proportions("times", "Times", "letters", "x cross close no wrong multiply", _times,
                    share("weight", "Weight", 5, 95, 40)),
    own_proportions("asterisk", "Asterisk", "letters", "star footnote splat snow", _asterisk,
                    count("arms", "Arms", 3, 16, 6), share("weight", "Weight", 5, 60, 30)),
    own_proportions("bolt", "Bolt", "letters", "lightning flash power electric energy", _bolt,
                    share("lean", "Lean", 0, 60, 20)),
    own_proportions("hash", "Hash", "letters", "number tag pound grid fence", _hash,
                    share("weight", "Weight", 10, 70, 40)),
    own_proportions("infinity", "Infinity", "letters", "endless loop eight forever", _infinity,
                    share("weight", "Weight", 10, 90, 52)),
    any_proportions("tee", "T piece", "letters", "t junction beam", _tee, share("bar", "Bar", 5, 80, 32)),
    any_proportions("horseshoe", "Horseshoe", "letters", "u magnet luck bend", _horseshoe,
                    share("bar", "Bar", 5, 90, 46)),
    any_proportions("bracket", "Bracket", "letters", "square c hook code", _bracket,
                    share("bar", "Bar", 5, 45, 26)),
    own_proportions("quote", "Quotation marks", "letters", "cite speech comma said", _quote,
                    share("weight", "Weight", 0, 100, 60)),
)  # fmt: skip
