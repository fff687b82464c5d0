"""Paper, cut and torn."""

import math

import numpy as np

from glasscap.core.geometry.outline import Outline, Points
from glasscap.core.geometry.pen import Pen
from glasscap.core.shapes.library.spec import Values, any_proportions, count, length, share
from glasscap.core.shapes.library.straight import corners


def _ticket(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    r = max(min(values["notch"], x * 0.9, y * 0.95), 1e-3)
    return (
        Pen().move(-x, -y).line((x, -y)).arc(x, 0, r, -90, -180).line((x, y), (-x, y)).arc(-x, 0, r, 90, -180)
        .close().outline()
    )  # fmt: skip


def _tag(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    point = min(width * values["point"] / 100, width * 0.8)
    hole = min(values["hole"], y * 0.6, point * 0.5) if point > 0 else min(values["hole"], y * 0.6)
    pen = Pen().move(-x + point, -y).line((x, -y), (x, y), (-x + point, y))
    pen.line((-x, y * 0.3), (-x, -y * 0.3)).close()
    if hole > 0:
        pen.circle(-x + max(point * 0.7, hole * 1.8), 0, hole, is_hole=True)
    return pen.outline()


def _stamp(width: float, height: float, values: Values) -> Outline:
    """Return a box bitten by a whole number of half circles on every side."""
    x, y = width / 2, height / 2
    pitch = max(values["pitch"], min(width, height) / 60, 1e-3)
    pen = Pen()
    for start, end, across in (
        ((-x, -y), (x, -y), 0.0),
        ((x, -y), (x, y), 90.0),
        ((x, y), (-x, y), 180.0),
        ((-x, y), (-x, -y), 270.0),
    ):
        size = math.hypot(end[0] - start[0], end[1] - start[1])
        bites = max(1, round(size / pitch))
        step, r = 1 / bites, min(size / bites * 0.3, min(width, height) * 0.2)
        if not pen.points:
            pen.move(*start)
        for n in range(bites):
            share_along = (n + 0.5) * step
            cx, cy = start[0] + (end[0] - start[0]) * share_along, start[1] + (end[1] - start[1]) * share_along
            pen.arc(cx, cy, r, across + 180, -180)
        pen.line(end)
    return pen.close().outline()


def _folded(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    fold = min(values["fold"], x, y)
    return corners((-x, -y), (x - fold, -y), (x, -y + fold), (x, y), (-x, y))


def torn_line(length_px: float, depth: float, seed: int, grain: float) -> Points:
    """Return (way, depth) along a torn line: seeded noise in three octaves, even at its ends."""
    rng = np.random.default_rng(seed)
    steps = max(8, min(600, math.ceil(length_px / max(grain, length_px / 600, 1e-6))))
    at = np.linspace(0, 1, steps + 1)
    total = np.zeros(steps + 1)
    for octave, size in ((6, 0.5), (19, 0.3), (61, 0.2)):
        total += np.interp(at, np.linspace(0, 1, octave + 1), rng.uniform(0, 1, octave + 1)) * size
    return np.stack([at * length_px, total * depth], axis=1)


def _torn_sides(width: float, height: float, values: Values, sides: str) -> Outline:
    """Return a box with some sides torn (t, r, b, l); the box is kept by the longest fibres."""
    x, y = width / 2, height / 2
    depth = min(values["depth"], width / 3, height / 3)
    seed = int(values["variant"])
    points: list[Points] = []
    frame = (("t", (-x, -y), (1, 0), width, (0, 1)), ("r", (x, -y), (0, 1), height, (-1, 0)),
             ("b", (x, y), (-1, 0), width, (0, -1)), ("l", (-x, y), (0, -1), height, (1, 0)))  # fmt: skip
    is_all = len(sides) == len(frame)
    for number, (name, start, along, size, inwards) in enumerate(frame):
        if name in sides:
            line = torn_line(size, depth, seed * 7 + number, max(2.0, size / 220))
            # Where two torn sides meet, both stop short of the corner, so that they never cross.
            line = line[(line[:, 0] >= depth) & (line[:, 0] <= size - depth)] if is_all else line
            line[:, 1] -= line[:, 1].min()
            points.append(np.array(start) + line[:, :1] * np.array(along) + line[:, 1:] * np.array(inwards))
        elif frame[number - 1][0] not in sides:
            points.append(np.array([start], float))
    return Pen().polygon(np.concatenate(points)).outline()


def _torn_strip(width: float, height: float, values: Values) -> Outline:
    return _torn_sides(width, height, values, "tb")


def _torn_page(width: float, height: float, values: Values) -> Outline:
    return _torn_sides(width, height, values, "b")


def _torn_all(width: float, height: float, values: Values) -> Outline:
    return _torn_sides(width, height, values, "trbl")


def _tape(width: float, height: float, values: Values) -> Outline:
    """Return a strip cut off by a toothed blade at both ends."""
    x, y = width / 2, height / 2
    teeth = int(values["teeth"])
    depth = min(height / teeth * 0.5, x * 0.4)
    rows = np.linspace(-y, y, 2 * teeth + 1)
    bite = np.where(np.arange(2 * teeth + 1) % 2 == 0, 0.0, depth)
    right = np.stack([x - bite, rows], axis=1)
    left = np.stack([-x + bite, rows], axis=1)[::-1]
    return Pen().polygon(np.concatenate([right, left])).outline()


def _envelope(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    flap = -y + height * values["flap"] / 100
    return corners((-x, flap), (0, -y), (x, flap), (x, y), (-x, y))


def _folder(width: float, height: float, values: Values) -> Outline:
    x, y = width / 2, height / 2
    tab = width * values["tab"] / 100
    lip = height * 0.13
    slope = min(lip * 0.7, (width - tab) * 0.9)
    return corners((-x, -y), (-x + tab, -y), (-x + tab + slope, -y + lip), (x, -y + lip), (x, y), (-x, y))


def _receipt(width: float, height: float, values: Values) -> Outline:
    """Return a slip with a toothed foot."""
    x, y = width / 2, height / 2
    teeth = int(values["teeth"])
    depth = min(width / teeth * 0.5, height / 3)
    across = np.linspace(x, -x, 2 * teeth + 1)
    foot = np.stack([across, np.where(np.arange(2 * teeth + 1) % 2 == 0, y - depth, y)], axis=1)
    return Pen().polygon(np.concatenate([[(-x, -y), (x, -y)], foot])).outline()


def _notebook(width: float, height: float, values: Values) -> Outline:
    """Return a page with a row of holes along its top."""
    x, y = width / 2, height / 2
    holes = int(values["holes"])
    pitch = width / holes
    r = min(pitch * 0.24, height * 0.06)
    pen = Pen().polygon(np.array([(-x, -y), (x, -y), (x, y), (-x, y)]))
    for n in range(holes):
        pen.circle(-x + (n + 0.5) * pitch, -y + 2.2 * r, r, is_hole=True)
    return pen.outline()


def _puzzle(width: float, height: float, values: Values) -> Outline:
    """Return a piece with knobs on two sides and sockets in the others."""
    x, y = width / 2, height / 2
    r = min(width, height) * values["knob"] / 200
    reach = r * 1.75
    right, top = x - reach, -y + reach
    cx, cy = (-x + right) / 2, (top + y) / 2
    neck = math.degrees(math.acos(0.75))
    pen = Pen().move(-x, top)
    pen.arc(cx, top - r * 0.75, r, 90 + neck, 360 - 2 * neck).line((right, top))
    pen.arc(right + r * 0.75, cy, r, 180 + neck, 360 - 2 * neck).line((right, y))
    pen.arc(cx, y - r * 0.75, r, 90 - neck, -(360 - 2 * neck)).line((-x, y))
    pen.arc(-x + r * 0.75, cy, r, 180 - neck, -(360 - 2 * neck))
    return pen.close().outline()


PAPER = (
    any_proportions("ticket", "Ticket", "paper", "admission cinema coupon voucher pass", _ticket,
                    length("notch", "Notch", 36)),
    any_proportions("tag", "Tag", "paper", "price label luggage sale hole string", _tag,
                    share("point", "Point", 0, 60, 24), length("hole", "Hole", 14)),
    any_proportions("stamp", "Stamp", "paper", "postage perforated letter mail", _stamp,
                    length("pitch", "Pitch", 34)),
    any_proportions("folded-page", "Folded page", "paper", "dog ear document corner file", _folded,
                    length("fold", "Fold", 60)),
    any_proportions("torn-strip", "Torn strip", "paper", "ripped headline scrap collage", _torn_strip,
                    length("depth", "Depth", 26), count("variant", "Variant", 1, 999, 4)),
    any_proportions("torn-page", "Torn page", "paper", "ripped sheet note scrap foot", _torn_page,
                    length("depth", "Depth", 34), count("variant", "Variant", 1, 999, 2)),
    any_proportions("torn-scrap", "Torn scrap", "paper", "ripped piece all sides collage newspaper", _torn_all,
                    length("depth", "Depth", 22), count("variant", "Variant", 1, 999, 9)),
    any_proportions("tape", "Tape", "paper", "sticky washi masking strip adhesive", _tape,
                    count("teeth", "Teeth", 2, 40, 6)),
    any_proportions("envelope", "Envelope", "paper", "letter mail post open flap", _envelope,
                    share("flap", "Flap", 5, 60, 34)),
    any_proportions("folder", "Folder", "paper", "file tab index card divider", _folder,
                    share("tab", "Tab", 10, 80, 36)),
    any_proportions("receipt", "Receipt", "paper", "slip bill coupon zigzag teeth", _receipt,
                    count("teeth", "Teeth", 2, 60, 9)),
    any_proportions("notebook", "Notebook page", "paper", "spiral holes pad sheet ring", _notebook,
                    count("holes", "Holes", 1, 40, 9)),
    any_proportions("puzzle", "Puzzle piece", "paper", "jigsaw game fit part", _puzzle,
                    share("knob", "Knob", 6, 26, 20)),
)  # fmt: skip
