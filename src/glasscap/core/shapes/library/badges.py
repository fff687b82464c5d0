"""Stars and badges."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.round import turned
from glasscap.core.shapes.library.spec import (
    Values,
    any_proportions,
    count,
    length,
    own_proportions,
    share,
)
from glasscap.core.shapes.library.straight import corners, on_circle


def star_corners(number: int, inner: float, outer: float = 100.0) -> Points:
    """Return a star's tips and dents in turn, a tip at the top."""
    points = on_circle(2 * number, outer)
    points[1::2] *= inner / outer
    return points


def _star(values: Values) -> Outline:
    return Pen().polygon(star_corners(int(values["points"]), 100 - values["depth"])).outline()


def _sun(values: Values) -> Outline:
    """Return a disc's rim broken by short rays, gaps as wide as rays."""
    number, inner = int(values["points"]), 100 - values["depth"]
    half = 90 / number
    pen = Pen()
    for n in range(number):
        middle = -90 + n * 360 / number
        tip = math.radians(middle)
        pen.arc(0, 0, inner, middle - 3 * half, 2 * half)
        pen.line((100 * math.cos(tip), 100 * math.sin(tip)))
    return pen.close().outline()


def _spark(values: Values) -> Outline:
    """Return tips joined by arcs that sink towards the middle."""
    number, pinch = int(values["points"]), values["pinch"] / 100
    tips = on_circle(number)
    pen = Pen().move(*tips[0].tolist())
    for one, other in zip(tips, np.roll(tips, -1, axis=0), strict=True):
        near, far = one * (1 - pinch), other * (1 - pinch)
        pen.curve(*near.tolist(), *far.tolist(), *other.tolist())
    return pen.close().outline()


def scalloped(number: int, depth: float, *, is_inward: bool = False) -> Outline:
    """Return arcs in a row around a circle, swelling out of it or biting into it by `depth` (share)."""
    rim = 100 / (1 + depth) if not is_inward else 100.0
    step = 360 / number
    half_chord = rim * math.sin(math.radians(step / 2))
    # Deeper, and neighbouring bites would cross inside the rim.
    slope = math.tan(math.radians(step / 2))
    deepest = half_chord * (math.hypot(1, slope) - slope) * 0.999 if is_inward else half_chord
    rise = min(rim * depth, deepest)
    radius = (half_chord**2 + rise**2) / (2 * rise)
    reach = math.degrees(math.asin(min(1.0, half_chord / radius)))
    mid = rim * math.cos(math.radians(step / 2)) + (rise - radius if not is_inward else radius - rise)
    pen = Pen()
    for n in range(number):
        middle = -90 + n * step
        a = math.radians(middle)
        if is_inward:
            pen.arc(mid * math.cos(a), mid * math.sin(a), radius, middle + 180 + reach, -2 * reach)
        else:
            pen.arc(mid * math.cos(a), mid * math.sin(a), radius, middle - reach, 2 * reach)
    return pen.close().outline()


def _scallop(values: Values) -> Outline:
    return scalloped(int(values["scallops"]), values["depth"] / 100)


def _bites(values: Values) -> Outline:
    return scalloped(int(values["bites"]), values["depth"] / 100, is_inward=True)


def _seal(values: Values) -> Outline:
    number, depth = int(values["waves"]), values["depth"] / 200
    return turned(lambda a: 1 - depth + depth * np.cos(number * (a + math.pi / 2)), max(48, number * 8))


def _gear(values: Values) -> Outline:
    number, inner, tooth = int(values["teeth"]), 100 - values["depth"], values["tooth"] / 100
    step = 360 / number
    pen = Pen()
    for n in range(number):
        middle = -90 + n * step
        foot, tip = step * tooth * 0.6, step * tooth * 0.42
        pen.arc(0, 0, inner, middle - step + foot, step - 2 * foot)
        pen.arc(0, 0, 100, middle - tip, 2 * tip)
    return pen.close().outline()


def _shield(values: Values) -> Outline:
    shoulder = 100 - values["point"] * 1.3
    return (
        Pen().move(-100, -110).line((100, -110), (100, shoulder - 60))
        .curve(100, shoulder + 10, 52, 104, 0, 130).curve(-52, 104, -100, shoulder + 10, -100, shoulder - 60)
        .close().outline()
    )  # fmt: skip


def _crest(values: Values) -> Outline:
    dip = values["dip"]
    return (
        Pen().move(0, -110 + dip * 0.3).curve(18, -110 + dip, 56, -104 + dip, 92, -104)
        .curve(84, -60, 100, -40, 100, 0).curve(100, 66, 50, 104, 0, 130)
        .curve(-50, 104, -100, 66, -100, 0).curve(-100, -40, -84, -60, -92, -104)
        .curve(-56, -104 + dip, -18, -110 + dip, 0, -110 + dip * 0.3).close().outline()
    )  # fmt: skip


def _banner(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    tail = min(height * values["tail"] / 100, x * 0.95)
    return corners((-x, -y), (x, -y), (x - tail, 0), (x, y), (-x, y), (-x + tail, 0))


def _medal(values: Values) -> Outline:
    """Return a disc on two ribbon tails, as one contour."""
    reach, spread = 30.0, values["tails"] / 100
    left, right = math.radians(90 + reach), math.radians(90 - reach)
    x, y = 100 * math.cos(right), 100 * math.sin(right)
    foot = y + 40 + 110 * spread
    lean = 34.0
    return (
        Pen().arc(0, 0, 100, 90 + reach + 26, 360 - 2 * (reach + 26))
        .line((x + lean, foot), (x * 0.62 + lean * 0.2, foot - 24), (x * 0.3, foot), (0, 108))
        .line((-x * 0.3, foot), (-x * 0.62 - lean * 0.2, foot - 24), (100 * math.cos(left) - lean, foot))
        .close().outline()
    )  # fmt: skip


def _plaque(width: float, height: float, values: Values) -> Outline:
    """Return a box whose corners are bitten out by quarter circles."""
    x, y = width / 2, height / 2
    r = min(values["bite"], x * 0.98, y * 0.98)
    if r <= 0:
        return corners((-x, -y), (x, -y), (x, y), (-x, y))
    pen = Pen()
    for cx, cy, start in ((-x, -y, 90), (x, -y, 180), (x, y, 270), (-x, y, 0)):
        pen.arc(cx, cy, r, start, -90)
    return pen.close().outline()


def _pennant(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    notch = height * values["notch"] / 100
    foot = y + min(notch, 0.0)
    return corners((-x, -y), (x, -y), (x, foot), (0, foot - notch), (-x, foot))


BADGES = (
    own_proportions("star", "Star", "stars", "favourite rating five points award sheriff", _star,
                    count("points", "Points", 3, 60, 5), share("depth", "Depth", 3, 95, 61.8)),
    own_proportions("eight-star", "Star, 8", "stars", "eight points compass tile", _star,
                    count("points", "Points", 3, 60, 8), share("depth", "Depth", 3, 95, 56)),
    own_proportions("burst", "Burst", "stars", "sale price sticker bang flash offer", _star,
                    count("points", "Points", 3, 120, 24), share("depth", "Depth", 3, 95, 16)),
    own_proportions("sun", "Sun", "stars", "rays shine day summer light", _sun,
                    count("points", "Rays", 5, 60, 14), share("depth", "Rays' length", 5, 70, 30)),
    own_proportions("spark", "Spark", "stars", "twinkle sparkle glint four gleam clean magic", _spark,
                    count("points", "Points", 3, 24, 4), share("pinch", "Pinch", 5, 98, 68)),
    own_proportions("scallop", "Scallop", "stars", "cookie biscuit flower lace rosette edge badge", _scallop,
                    count("scallops", "Scallops", 3, 80, 12), share("depth", "Depth", 1, 60, 12)),
    own_proportions("bites", "Bottle cap", "stars", "crown cap bitten notched coaster badge", _bites,
                    count("bites", "Bites", 3, 80, 16), share("depth", "Depth", 1, 40, 7)),
    own_proportions("seal", "Seal", "stars", "wavy wax stamp guarantee certificate badge", _seal,
                    count("waves", "Waves", 3, 80, 18), share("depth", "Depth", 1, 60, 12)),
    own_proportions("gear", "Gear", "stars", "cog wheel machine settings teeth", _gear,
                    count("teeth", "Teeth", 4, 80, 12), share("depth", "Depth", 3, 60, 18),
                    share("tooth", "Tooth", 15, 80, 50)),
    own_proportions("shield", "Shield", "stars", "guard safe coat arms school club", _shield,
                    share("point", "Point", 0, 100, 50)),
    own_proportions("crest", "Crest", "stars", "shield arms heraldry club badge", _crest,
                    share("dip", "Dip", 0, 60, 26)),
    any_proportions("banner", "Banner", "stars", "ribbon swallowtail title strip", _banner,
                    share("tail", "Tail", 0, 100, 28)),
    own_proportions("medal", "Medal", "stars", "award prize winner first rosette ribbon", _medal,
                    share("tails", "Tails", 0, 100, 45)),
    any_proportions("plaque", "Plaque", "stars", "sign ticket label nameplate concave corners", _plaque,
                    length("bite", "Bite", 48)),
    any_proportions("pennant", "Pennant", "stars", "bookmark flag ribbon saved hanging", _pennant,
                    share("notch", "Notch", -60, 60, 18)),
)  # fmt: skip
