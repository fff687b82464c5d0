"""Nature and clay."""

import math

import numpy as np

from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.round import turned
from glasscap.core.shapes.library.spec import Values, any_proportions, count, own_proportions, share


def mirrored(
    *half: tuple[float, float, float, float, float, float], top: float, is_open: bool = False
) -> Outline:
    """Return a contour symmetric about the y axis from the cubics of its right half, from (0, top) down."""
    pen = Pen().move(0, top)
    starts = [(0.0, top)]
    for cubic in half:
        pen.curve(*cubic)
        starts.append(cubic[4:])
    for n in range(len(half) - 1, -1, -1):
        x1, y1, x2, y2, _, _ = half[n]
        x, y = starts[n]
        pen.curve(-x2, y2, -x1, y1, -x, y)
    return pen.close().outline()


def _heart(values: Values) -> Outline:
    dip, belly = -84 + values["dip"] * 0.9, values["belly"] / 100
    return mirrored(
        (14, -84 - dip * 0.06, 40, -104, 62, -92), (86, -80, 104, -54, 100, -22),
        (94, 20 + 30 * belly, 40, 56 + 10 * belly, 0, 100), top=dip - 8,
    )  # fmt: skip


def _drop(values: Values) -> Outline:
    """Return a circle with a tip, its sides tangent to the circle."""
    tip = -62.0 - values["tip"] * 1.4
    reach = math.degrees(math.acos(62 / -tip)) if -tip > 62 else 0.0
    start = -90 + reach
    x, y = 62 * math.cos(math.radians(start)), 62 * math.sin(math.radians(start))
    slack = (y - tip) * 0.42
    along = math.radians(start - 90)
    pen = Pen().move(0, tip)
    pen.curve(4, tip + slack * 0.5, x + math.cos(along) * slack, y + math.sin(along) * slack, x, y)
    pen.arc(0, 0, 62, start, 360 - 2 * reach)
    return (
        pen.curve(-x - math.cos(along) * slack, y + math.sin(along) * slack, -4, tip + slack * 0.5, 0, tip)
        .close()
        .outline()
    )


def _leaf(values: Values) -> Outline:
    wide = 20 + values["width"] * 0.7
    return mirrored(
        (wide * 0.9, -70, wide * 1.25, -10, wide * 0.7, 44), (wide * 0.4, 76, 10, 92, 0, 110), top=-110
    )


def _flower(values: Values) -> Outline:
    number, depth = int(values["petals"]), values["depth"] / 100
    power = 0.62

    def radius(a: Points) -> Points:
        wave = np.abs(np.cos(number * (a + math.pi / 2) / 2))
        return np.asarray(1 - depth + depth * wave**power)

    pen = Pen()
    for n in range(number):
        start = (-math.pi / 2 + (n - 0.5) * 2 * math.pi / number, 2 * math.pi / number)

        def place(t: Points, start: tuple[float, float] = start) -> Points:
            # Slow at the ends, where the petals meet in a dent.
            eased = t * t * (3 - 2 * t)
            a = start[0] + start[1] * eased
            r = radius(a)
            return np.stack([r * np.cos(a), r * np.sin(a)], axis=1)

        pen.formula(place, 24, start=0.004, end=0.996)
    return pen.close().outline()


def _clover(values: Values) -> Outline:
    number = int(values["leaves"])
    reach, size = 56.0, 56 * math.sin(math.pi / number) * (1 + values["fullness"] / 100)
    pen = Pen()
    for n in range(number):
        a = math.radians(-90 + n * 360 / number)
        pen.circle(reach * math.cos(a), reach * math.sin(a), size)
    pen.circle(0, 0, reach * 0.7)
    return normalised(pen.outline())


def _cloud(values: Values) -> Outline:
    puff = values["puff"] / 100
    pen = Pen()
    for x, y, r in ((-62, 22, 38), (-26, -14, 46), (28, -22, 56), (72, 20, 40)):
        pen.circle(x, y, r * (0.86 + 0.28 * puff))
    foot = 22 + 38 * (0.86 + 0.28 * puff)
    pen.move(-62, 0).line((72, 0), (72, foot), (-62, foot)).close()
    return normalised(pen.outline())


def _flame(values: Values) -> Outline:
    sway = values["sway"] / 100 * 46
    return (
        Pen().move(sway * 0.5, -120).curve(sway * 0.6 + 8, -74, 72, -44, 72, 28).curve(72, 84, 36, 112, 0, 112)
        .curve(-40, 112, -72, 84, -72, 34).curve(-72, 2, -52, -16, -40, -44)
        .curve(-36, -28, -30, -20, -20, -14).curve(-26, -58, -14 + sway * 0.2, -92, sway * 0.5, -120)
        .close().outline()
    )  # fmt: skip


def _mountain(values: Values) -> Outline:
    left, right = -110 + values["summit"] * 2.2, values["second"]
    x = left + (110 - left) * 0.52
    return Pen().polygon(np.array([
        (-110, 70), (left, -90), (left + (x - left) * 0.5, -10 - right * 0.1), (x, -10 - right * 0.55), (110, 70),
    ], float)).outline()  # fmt: skip


def _tree(values: Values) -> Outline:
    tiers = int(values["tiers"])
    height = 190 / tiers
    right: list[tuple[float, float]] = [(0, -110)]
    for n in range(tiers):
        foot = -110 + height * (n + 1)
        reach = 34 + 56 * (n + 1) / tiers
        right += [(reach, foot), (reach * 0.52, foot)]
    right = [*right[:-1], (15, 80), (15, 112)]
    left = [(-x, y) for x, y in reversed(right[1:])]
    return Pen().polygon(np.array([*right, *left], float)).outline()


def _fish(values: Values) -> Outline:
    tail = 18 + values["tail"] * 0.5
    return (
        Pen().move(-110, 0).curve(-78, -56, 4, -72, 62, -12).curve(76, -24, 94, -34, 112, -tail)
        .curve(102, -14, 102, 14, 112, tail).curve(94, 34, 76, 24, 62, 12).curve(4, 72, -78, 56, -110, 0)
        .close().outline()
    )  # fmt: skip


def _paw(values: Values) -> Outline:
    toe = 17 + values["toes"] * 0.09
    pen = Pen()
    pen.move(0, 4).curve(34, 4, 40, 34, 58, 52).curve(78, 74, 60, 102, 32, 98).curve(16, 96, 10, 92, 0, 92)
    pen.curve(-10, 92, -16, 96, -32, 98).curve(-60, 102, -78, 74, -58, 52).curve(-40, 34, -34, 4, 0, 4).close()
    for x, y, turn in ((-72, 6, -24.0), (-28, -44, -8.0), (28, -44, 8.0), (72, 6, 24.0)):
        pen.arc(x, y, toe, -90, 360, ry=toe * 1.35, turn=turn).close()
    return pen.outline()


def _shell(values: Values) -> Outline:
    """Return ribs in a fan over a small hinge."""
    ribs = int(values["ribs"])
    step = 200 / ribs
    pen = Pen()
    for n in range(ribs):
        middle = -190 + step * (n + 0.5)
        a = math.radians(middle)
        size = 96 * math.sin(math.radians(step / 2))
        pen.arc(
            96 * math.cos(a) * math.cos(math.radians(step / 2)),
            96 * math.sin(a) * math.cos(math.radians(step / 2)),
            size,
            middle - 90,
            180,
        )
    return pen.line((20, 66), (34, 96), (-34, 96), (-20, 66)).close().outline()


def _butterfly(values: Values) -> Outline:
    wing = 70 + values["wings"] * 0.4
    return mirrored(
        (wing * 0.3, -96, wing, -112, wing + 4, -64), (wing + 6, -24, wing * 0.7, -4, wing * 0.36, 2),
        (wing * 0.86, 14, wing * 0.92, 66, wing * 0.5, 84), (wing * 0.24, 94, 10, 64, 0, 44), top=-38,
    )  # fmt: skip


def _vase(values: Values) -> Outline:
    neck, belly = 14 + values["neck"] * 0.4, 40 + values["belly"] * 0.5
    pen = Pen().move(-neck - 14, -120).line((neck + 14, -120)).curve(neck + 14, -104, neck, -100, neck, -84)
    pen.curve(neck, -40, belly, -36, belly, 14).curve(belly, 66, 44, 84, 40, 120).line((-40, 120))
    pen.curve(-44, 84, -belly, 66, -belly, 14).curve(-belly, -36, -neck, -40, -neck, -84)
    return pen.curve(-neck, -100, -neck - 14, -104, -neck - 14, -120).close().outline()


def _bowl(values: Values) -> Outline:
    deep, foot = 50 + values["depth"] * 0.7, 26.0
    return (
        Pen().move(-110, -50).line((110, -50)).curve(106, deep * 0.4 - 20, 70, deep - 30, 40, deep - 30)
        .line((foot + 8, deep - 8), (-foot - 8, deep - 8), (-40, deep - 30))
        .curve(-70, deep - 30, -106, deep * 0.4 - 20, -110, -50).close().outline()
    )  # fmt: skip


def _mug(values: Values) -> Outline:
    """Return a beaker with an open handle."""
    out = 30 + values["handle"] * 0.4
    body = Pen().move(-80, -86).line((60, -86), (54, 74)).curve(53, 86, 46, 92, 36, 92).line((-56, 92))
    body.curve(-66, 92, -73, 86, -74, 74).close()
    pen = body
    pen.move(56, -52).curve(60 + out * 1.5, -56, 60 + out * 1.5, 46, 52, 42).close()
    outer = normalised(pen.outline())
    hole = (
        Pen()
        .move(58, -28)
        .curve(56, -8, 56, 4, 55, 18)
        .curve(44 + out, 20, 44 + out, -30, 58, -28)
        .close()
        .outline()
    )
    return Outline((*outer.contours, *hole.contours))


def _kiln(width: float, height: float, values: Values) -> Outline:
    """Return a bottle kiln: wide foot, swelling shoulder, narrow stack."""
    x, y = width / 2, height / 2
    stack = x * (0.16 + values["stack"] / 100 * 0.5)
    rim = stack * 1.12
    pen = (
        Pen()
        .move(-rim, -y)
        .line((rim, -y), (rim, -y * 0.9))
        .curve(stack, -y * 0.88, stack, -y * 0.8, stack, -y * 0.7)
    )
    pen.curve(stack, -y * 0.2, x, -y * 0.05, x, y * 0.5).line((x, y), (-x, y), (-x, y * 0.5))
    pen.curve(-x, -y * 0.05, -stack, -y * 0.2, -stack, -y * 0.7).curve(
        -stack, -y * 0.8, -stack, -y * 0.88, -rim, -y * 0.9
    )
    return pen.close().outline()


def _splash(values: Values) -> Outline:
    """Return lobes of seeded length around a disc."""
    rng = np.random.default_rng(int(values["variant"]))
    lobes = 9
    sizes = rng.uniform(0.25, 1, lobes) * values["reach"] / 100
    spots = (np.arange(lobes) + rng.uniform(-0.3, 0.3, lobes)) * 2 * math.pi / lobes

    def radius(a: Points) -> Points:
        total = np.full_like(a, 0.5)
        for spot, size in zip(spots, sizes, strict=True):
            total = total + size * 0.6 * np.exp(9 * (np.cos(a - spot) - 1) * 1.6)
        return total

    return turned(radius, 96)


NATURE = (
    own_proportions("heart", "Heart", "nature", "love valentine like favourite", _heart,
                    share("dip", "Dip", 0, 60, 24), share("belly", "Belly", 0, 100, 50)),
    own_proportions("drop", "Drop", "nature", "water tear rain oil glaze", _drop,
                    share("tip", "Tip", 5, 100, 50)),
    own_proportions("leaf", "Leaf", "nature", "plant green petal feather", _leaf,
                    share("width", "Width", 5, 100, 62)),
    own_proportions("flower", "Flower", "nature", "petals bloom daisy blossom", _flower,
                    count("petals", "Petals", 3, 40, 6), share("depth", "Depth", 5, 85, 52)),
    own_proportions("clover", "Clover", "nature", "luck shamrock three four leaves club", _clover,
                    count("leaves", "Leaves", 3, 12, 4), share("fullness", "Fullness", 0, 60, 6)),
    own_proportions("cloud", "Cloud", "nature", "sky weather soft puffy online", _cloud,
                    share("puff", "Puff", 0, 100, 50)),
    own_proportions("flame", "Flame", "nature", "fire hot kiln burn torch", _flame,
                    share("sway", "Sway", -100, 100, 30)),
    own_proportions("mountain", "Mountain", "nature", "hill peak summit landscape outdoors", _mountain,
                    share("summit", "Summit", 15, 70, 38), share("second", "Second peak", 0, 100, 60)),
    own_proportions("tree", "Tree", "nature", "fir pine forest winter wood", _tree,
                    count("tiers", "Tiers", 1, 8, 3)),
    own_proportions("fish", "Fish", "nature", "sea river swim animal", _fish, share("tail", "Tail", 0, 100, 56)),
    own_proportions("paw", "Paw", "nature", "dog cat pet animal track foot", _paw,
                    share("toes", "Toes", 0, 100, 66)),
    own_proportions("shell", "Shell", "nature", "scallop sea fan beach", _shell, count("ribs", "Ribs", 3, 24, 7)),
    own_proportions("butterfly", "Butterfly", "nature", "wings moth insect summer", _butterfly,
                    share("wings", "Wings", 0, 100, 60)),
    own_proportions("splash", "Splash", "nature", "splat ink glaze blot paint spill", _splash,
                    count("variant", "Variant", 1, 999, 3), share("reach", "Reach", 10, 100, 70)),
    own_proportions("vase", "Vase", "nature", "pot jar urn pottery ceramic clay", _vase,
                    share("neck", "Neck", 0, 100, 40), share("belly", "Belly", 0, 100, 66)),
    own_proportions("bowl", "Bowl", "nature", "dish cup pottery ceramic food", _bowl,
                    share("depth", "Depth", 0, 100, 60)),
    own_proportions("mug", "Mug", "nature", "cup coffee tea handle drink pottery", _mug,
                    share("handle", "Handle", 0, 100, 50)),
    any_proportions("kiln", "Bottle kiln", "nature", "bottle chimney oven pottery tower", _kiln,
                    share("stack", "Stack", 0, 100, 22)),
)  # fmt: skip
