"""The scenes of the made-up Pellowick Kiln Trail."""

from __future__ import annotations

import cv2
import numpy as np

from demo_photos.canvas import (
    Glaze,
    Plane,
    Vessel,
    blur,
    colour,
    developed,
    draw_vessel,
    fractal,
    grid,
    mix,
    noise,
    ramp,
    smooth,
)


def linen(rng: np.random.Generator, width: int, height: int, tone: Plane) -> Plane:
    """A woven cloth with folds and slubs, in linear light."""
    x, y = grid(width, height)
    wobble = noise(rng, width, height, 60) * 1.1
    warp = np.sin((x + wobble) * 2 * np.pi / 9.0) * (1 + 0.3 * noise(rng, width, height, 6, 0.2))
    weft = np.sin((y + wobble) * 2 * np.pi / 8.2) * (1 + 0.3 * noise(rng, width, height, 6, 6))
    weave = 0.045 * (warp + weft) + 0.03 * warp * weft
    slub = 0.03 * noise(rng, width, height, 5, 26) + 0.025 * noise(rng, width, height, 60, 0.12)
    folds = 0.06 * fractal(rng, width, height, 700, 4) + 0.03 * fractal(rng, width, height, 260, 3, stretch=2)
    return tone * (1 + weave + slub + folds)[..., None]


def planks(rng: np.random.Generator, width: int, height: int, *, board: int = 520) -> Plane:
    """Oiled boards running across, in linear light."""
    _x, y = grid(width, height)
    index = np.floor(y / board)
    total = np.zeros((height, width), np.float32)
    for n in range(int(height / board) + 1):
        rows = slice(n * board, min(height, (n + 1) * board))
        high = rows.stop - rows.start
        if high <= 0:
            continue
        bend = noise(rng, width, high, 300, 4) * 16
        line = np.arange(high, dtype=np.float32)[:, None] + bend
        rings = np.sin(line / (9 + 3 * rng.random()) + 2.4 * noise(rng, width, high, 120, 9))
        fine = noise(rng, width, high, 3, 60)
        total[rows] = 0.10 * rings + 0.10 * fine + 0.10 * rng.standard_normal()
    gap = np.exp(-((((y + 0.5) % board) - 2) ** 2) / 9)
    base = ramp(
        total + 0.04 * index % 2,
        (-0.5, colour(86, 54, 32)),
        (0.0, colour(139, 96, 62)),
        (0.5, colour(178, 134, 92)),
    )
    return base * (1 - 0.75 * gap)[..., None]


def plaster(rng: np.random.Generator, width: int, height: int, tone: Plane) -> Plane:
    """A limewashed wall."""
    cloud = 0.06 * fractal(rng, width, height, 900, 6) + 0.02 * fractal(rng, width, height, 40, 4)
    trowel = 0.02 * noise(rng, width, height, 90, 5)
    return tone * (1 + cloud + trowel)[..., None]


def window_light(width: int, height: int, *, slant: float = 0.35) -> Plane:
    """Soft panes of daylight falling from the upper left."""
    x, y = grid(width, height)
    u, v = x / width + slant * y / height, y / height
    panes = smooth(0.08, 0.16, u) * smooth(1.12, 0.98, u)
    bars = 1 - 0.55 * np.exp(-(((u - 0.55) / 0.022) ** 2)) - 0.45 * np.exp(-(((v - 0.52) / 0.02) ** 2))
    return 0.62 + 0.55 * blur((panes * bars).astype(np.float32), width / 110) - 0.18 * (x / width)


def plate(rng: np.random.Generator, light: Plane, x0: float, y0: float, radius: float, kind: str) -> None:
    """A thrown plate from above: rings, pooled glaze, bare rim, a window in the gloss, a soft shadow."""
    height, width = light.shape[:2]
    x, y = grid(width, height)
    np.hypot(x - x0, y - y0)
    for off, spread, depth in ((0.05, 0.035, 0.62), (0.12, 0.11, 0.42)):
        shadow = smooth(
            radius * 1.02, radius * 0.94, np.hypot(x - x0 - off * radius, y - y0 - off * 1.5 * radius)
        )
        light *= (1 - depth * blur(shadow, radius * spread))[..., None]
    box = np.s_[
        max(0, int(y0 - radius - 3)) : min(height, int(y0 + radius + 4)),
        max(0, int(x0 - radius - 3)) : min(width, int(x0 + radius + 4)),
    ]
    part = light[box]
    high, wide = part.shape[:2]
    dx, dy = (x[box] - x0) / radius, (y[box] - y0) / radius
    r, angle = np.hypot(dx, dy), np.arctan2(dy, dx)
    wander = 0.006 * noise(rng, wide, high, 200)
    rings = _rings(rng, r + wander)
    patch = fractal(rng, wide, high, radius * 0.34, 7, 0.6)
    streak = fractal(rng, wide, high, radius * 0.05, 4, 0.6, stretch=5)
    value = 0.52 * patch + 0.55 * rings + 0.26 * streak - 1.1 * smooth(0.46, 0.1, r)
    glaze = _GLAZES[kind](value)
    crackle = smooth(1.75, 2.3, fractal(rng, wide, high, 26, 3))
    glaze = mix(glaze, glaze * 0.45, crackle * 0.7)
    slope = np.gradient(blur(rings.astype(np.float32), 3), axis=1) * 9
    well = smooth(0.66, 0.72, r) * smooth(0.80, 0.74, r)
    facing = (dx * -0.55 + dy * -0.75) / np.maximum(r, 0.02)
    shade = 0.96 + slope * 0.5 + facing * (0.20 * well - 0.30 * smooth(0.9, 0.985, r)) + 0.10 * (-dx - dy)
    clay = colour(122, 74, 42) * (1 + 0.12 * fractal(rng, wide, high, 50, 5))[..., None]
    ragged = 0.006 * noise(rng, wide, high, 40) + 0.004 * np.sin(angle * 9)
    bare = smooth(0.945, 0.962, r + ragged)
    picture = mix(glaze, clay, bare) * shade[..., None]
    lip = np.exp(-(((r - 0.985) / 0.008) ** 2)) * np.clip(facing, 0, 1)
    picture += (0.16 * lip)[..., None]
    pane = smooth(0.70, 0.74, r) * smooth(0.90, 0.86, r) * smooth(0.36, 0.30, np.abs(angle - 0.35))
    bars = 1 - np.exp(-(((angle - 0.38) / 0.03) ** 2))
    sheen = np.exp(-(((r - 0.82) / 0.05) ** 2)) * np.clip(np.cos(angle + 2.3), 0, 1) ** 3
    picture += (0.42 * blur((pane * bars).astype(np.float32), radius / 90) + 0.16 * sheen)[..., None]
    part[...] = mix(part, picture, smooth(1.0, 1.0 - 2.2 / radius, r))


def _rings(rng: np.random.Generator, r: Plane) -> Plane:
    steps = np.linspace(0, 1.1, 900)
    wave = np.cumsum(rng.standard_normal(900)) * 0.05
    wave -= np.convolve(wave, np.ones(120) / 120, mode="same")
    wave += 0.35 * rng.standard_normal(900)
    wave = np.convolve(wave, np.ones(4) / 4, mode="same")
    return np.interp(r, steps, wave).astype(np.float32)


_GLAZES = {
    "blue": lambda v: ramp(
        v,
        (-2.4, colour(22, 40, 66)),
        (-1.2, colour(38, 74, 104)),
        (-0.3, colour(92, 136, 142)),
        (0.5, colour(134, 172, 168)),
        (1.3, colour(164, 188, 176)),
        (2.2, colour(168, 120, 88)),
    ),
    "cream": lambda v: ramp(
        v, (-2.0, colour(176, 150, 118)), (0.0, colour(226, 212, 188)), (2.0, colour(240, 232, 216))
    ),
    "rust": lambda v: ramp(
        v, (-2.0, colour(58, 26, 18)), (0.0, colour(142, 66, 34)), (2.0, colour(204, 138, 84))
    ),
}


def plates_above() -> Plane:
    """Three plates on linen by a window, 4000 x 3000."""
    rng = np.random.default_rng(4101)
    width, height = 4000, 3000
    light = linen(rng, width, height, colour(196, 190, 182)) * window_light(width, height)[..., None]
    plate(rng, light, 620, 560, 430, "cream")
    plate(rng, light, 2010, 1560, 1210, "blue")
    plate(rng, light, 3560, 2420, 470, "rust")
    return developed(rng, light * 1.02, warmth=0.02)


def jug() -> Plane:
    """A jug on a board against a wall, upright 3000 x 4000."""
    rng = np.random.default_rng(4102)
    width, height = 3000, 4000
    x, y = grid(width, height)
    table = 3060
    light = plaster(rng, width, height, colour(202, 190, 172))
    fall = 1.12 - 0.62 * smooth(0.0, 1.0, x / width * 0.8 + (y / height) * 0.25)
    light *= fall[..., None]
    boards = planks(rng, width, height - table, board=360)
    boards *= (1.15 - 0.5 * np.linspace(0, 1, width, dtype=np.float32))[None, :, None]
    light[table:] = boards
    light = mix(light, light * 0.5, np.exp(-(((y - table) / 26) ** 2)))
    light = np.dstack([blur(np.ascontiguousarray(light[..., c]), 7) for c in range(3)])
    light[table + 240 :] = boards[240:]
    shadow = np.exp(-((((x - 1930) / 760) ** 2) + ((y - 3330) / 120) ** 2))
    wall = np.exp(-((((x - 2120) / 430) ** 2) + ((y - 2100) / 900) ** 2)) * smooth(table + 30, table - 60, y)
    light *= (1 - 0.62 * blur(shadow, 60) - 0.32 * blur(wall, 120))[..., None]
    glaze = Glaze(colour(214, 206, 186), colour(116, 66, 40), 0.72, 0.02, 0.55, 0.8)
    profile = (
        (0.0, 330),
        (0.05, 318),
        (0.14, 268),
        (0.24, 262),
        (0.36, 380),
        (0.52, 585),
        (0.64, 640),
        (0.76, 600),
        (0.90, 470),
        (0.97, 420),
        (1.0, 425),
    )
    _handle(rng, light, glaze)
    draw_vessel(
        rng, light, Vessel(1440, 1010, 2290, profile, glaze, 0.17), (-0.75, -0.5, 0.62), colour(255, 248, 236)
    )
    _spout(light)
    return developed(rng, light * 1.12, warmth=0.025)


def _handle(rng: np.random.Generator, light: Plane, glaze: Glaze) -> None:
    height, width = light.shape[:2]
    t = np.linspace(0, 1, 60)
    path = np.stack(
        [1700 + 760 * np.sin(np.pi * t) ** 0.8 * (1 - 0.25 * t), 1130 + 1120 * t - 190 * np.sin(np.pi * t)],
        axis=1,
    )
    points = path.astype(np.int32).reshape(-1, 1, 2)
    for wide, tone in ((122, 0.30), (104, 0.46), (82, 0.62), (52, 0.78), (22, 0.98)):
        mask = np.zeros((height, width), np.uint8)
        cv2.polylines(
            mask,
            [points - np.array([[int((122 - wide) * 0.22), int((122 - wide) * 0.2)]])],
            False,
            255,
            wide,
            cv2.LINE_AA,
        )
        soft = cv2.GaussianBlur(mask, (0, 0), 9 if wide < 120 else 1.2).astype(np.float32) / 255
        light[...] = mix(light, glaze.upper * tone * np.ones_like(light), soft)


def _spout(light: Plane) -> None:
    height, width = light.shape[:2]
    x, y = grid(width, height)
    pull = np.exp(-((((x - 1120) / 95) ** 2) + ((y - 1012) / 44) ** 2))
    light += (0.10 * pull)[..., None] * colour(236, 228, 208)


def kiln_door() -> Plane:
    """The open door of a firing kiln, 3600 x 2700."""
    rng = np.random.default_rng(4103)
    width, height = 3600, 2700
    x, y = grid(width, height)
    brick, joint = _bricks(rng, x, y)
    tone = ramp(
        brick + 0.25 * fractal(rng, width, height, 60, 5),
        (-1.5, colour(64, 36, 28)),
        (0.0, colour(118, 68, 48)),
        (1.5, colour(158, 104, 76)),
    )
    wall = mix(tone, colour(148, 134, 118) * (0.7 + 0.12 * fractal(rng, width, height, 20, 4))[..., None], joint)
    cx, spring, half = 1800.0, 1180.0, 900.0
    arch = np.where(y < spring, np.hypot(x - cx, y - spring), np.abs(x - cx)) - half
    voussoir = smooth(-6, 6, arch) * smooth(236, 224, arch)
    angle = np.arctan2(y - spring, x - cx)
    cuts = np.where(y < spring, np.abs(np.sin(angle * 17)), np.abs(np.sin(np.pi * y / 118)))
    ring = mix(
        colour(150, 92, 62)
        * (0.85 + 0.18 * fractal(rng, width, height, 90, 5))[..., None]
        * np.ones(3, np.float32),
        colour(60, 44, 36),
        smooth(0.11, 0.04, cuts),
    )
    wall = mix(wall, ring, voussoir)
    glow = np.exp(-np.maximum(arch, 0) / 330)
    light = wall * (0.10 + 0.05 * (1 - y / height))[..., None]
    light += wall * (glow * 1.5)[..., None] * colour(255, 150, 62)
    inside = smooth(4, -4, arch) * smooth(2420, 2412, y)
    light = mix(light, _fire(rng, x, y, width, height), inside)
    rim = np.exp(-((arch + 10) ** 2) / 180) * smooth(2430, 2400, y)
    light += (rim * 0.9)[..., None] * colour(255, 170, 86)
    floor = smooth(2412, 2424, y)
    stone = colour(96, 74, 60) * (0.8 + 0.14 * fractal(rng, width, height, 70, 6, stretch=2.5))[..., None]
    spill = np.exp(-(((x - cx) / 1000) ** 2)) * np.exp(-(y - 2412) / 260)
    light = mix(light, stone * (0.12 + 1.7 * np.clip(spill, 0, 1))[..., None] * colour(255, 176, 100), floor)
    haze = blur(np.ascontiguousarray((light * inside[..., None]).mean(axis=2)), 110)
    light += haze[..., None] * colour(255, 120, 40) * 0.55
    return developed(rng, light, grain=0.02, vignette=0.35)


def _bricks(rng: np.random.Generator, x: Plane, y: Plane) -> tuple[Plane, Plane]:
    long, high = 372.0, 128.0
    row = np.floor(y / high)
    shift = np.where(row % 2 == 0, 0.0, long / 2)
    column = np.floor((x + shift) / long)
    key = (row * 57 + column * 131).astype(np.int64) % 997
    tones = rng.standard_normal(997).astype(np.float32)
    wobble = 3 * noise(rng, x.shape[1], x.shape[0], 60)
    u, v = (x + shift + wobble) % long, (y + wobble) % high
    edge = np.minimum(np.minimum(u, long - u), np.minimum(v, high - v))
    return tones[key] * 0.6, smooth(13, 7, edge)


def _fire(rng: np.random.Generator, x: Plane, y: Plane, width: int, height: int) -> Plane:
    heat = 0.62 + 0.30 * np.exp(-(((x - 1800) / 620) ** 2 + ((y - 1500) / 760) ** 2))
    heat += 0.05 * fractal(rng, width, height, 420, 5)
    fire = ramp(
        heat,
        (0.45, colour(120, 26, 6)),
        (0.68, colour(232, 88, 16)),
        (0.84, colour(255, 166, 52)),
        (1.05, colour(255, 232, 160)),
    )
    fire = fire * 1.7
    for shelf, pots in (
        (1330, ((1240, 150, 300), (1660, 230, 190), (2150, 170, 330))),
        (1900, ((1150, 200, 260), (1560, 130, 330), (1960, 240, 200), (2390, 140, 280))),
        (2412, ((1300, 230, 270), (1800, 190, 350), (2260, 250, 230))),
    ):
        mask = smooth(5, -5, np.abs(y - shelf - 20) - 24) * smooth(900, 880, np.abs(x - 1800))
        for px, wide, tall in pots:
            mask = np.maximum(mask, _pot(x, y, px, shelf, wide, tall))
        soft = blur(mask.astype(np.float32), 3.0)
        rim = np.clip(blur(mask.astype(np.float32), 26) * (1 - 0.0), 0, 1)
        body = ramp(rim, (0.0, colour(255, 170, 70)), (0.55, colour(214, 84, 22)), (1.0, colour(78, 22, 8)))
        fire = mix(fire, body * 0.75, soft)
    return fire


def _pot(x: Plane, y: Plane, px: float, shelf: float, wide: float, tall: float) -> Plane:
    v = np.clip((shelf - y) / tall, 0, 1)
    belly = (
        0.62
        + 0.38 * np.sin(np.pi * np.clip(v * 0.85 + 0.1, 0, 1))
        - 0.30 * smooth(0.66, 0.86, v)
        + 0.16 * smooth(0.9, 1.0, v)
    )
    inside = smooth(3, -3, np.abs(x - px) - wide * belly)
    return inside * smooth(shelf - tall - 3, shelf - tall + 3, y) * smooth(shelf + 3, shelf - 3, y)


def evening_sky() -> Plane:
    """Evening over the hills with a bottle kiln, 6000 x 4000 (24 million pixels)."""
    rng = np.random.default_rng(4104)
    width, height = 6000, 4000
    x, y = grid(width, height)
    v = y / height
    sky = ramp(
        v,
        (0.0, colour(44, 74, 128)),
        (0.3, colour(112, 136, 172)),
        (0.52, colour(226, 176, 150)),
        (0.68, colour(255, 196, 112)),
        (0.8, colour(255, 150, 70)),
    )
    sun = np.exp(-(((x - 4150) / 1500) ** 2 + ((y - 2900) / 900) ** 2))
    sky = sky + (0.9 * sun)[..., None] * colour(255, 190, 100)
    bank = fractal(rng, width, height, 900, 8, 0.52, stretch=3.4) + 1.5 * smooth(0.75, 0.3, v) - 1.1
    thick = smooth(0.15, 1.7, bank)
    lower = (
        fractal(rng, width, height, 420, 7, 0.5, stretch=5.0) - 0.35 + 0.9 * np.exp(-(((v - 0.56) / 0.09) ** 2))
    )
    streaks = smooth(0.5, 1.6, lower)
    under = np.clip(np.gradient(blur(bank.astype(np.float32), 14), axis=0) * 60, -1, 1)
    cloud = ramp(
        0.5 + 0.5 * under + 0.35 * sun,
        (0.0, colour(92, 92, 118)),
        (0.5, colour(196, 148, 142)),
        (1.0, colour(255, 206, 152)),
    )
    light = mix(sky, cloud, thick * 0.82)
    light = mix(light, colour(168, 96, 92) + (0.6 * sun)[..., None] * colour(255, 160, 80), streaks * 0.7)
    for base, tone, size, fog in (
        (3020, (96, 84, 104), 900, 0.55),
        (3260, (62, 58, 74), 620, 0.3),
        (3560, (30, 32, 40), 420, 0.1),
    ):
        ridge = base - 105 * noise(rng, width, 4, size, 1)[0] - 7 * noise(rng, width, 4, 130, 1)[0]
        ridge = ridge - 2.2 * noise(rng, width, 4, 12, 1)[0]
        land = smooth(-2.5, 2.5, y - ridge[None, :])
        hill = colour(*tone) * (0.9 + 0.1 * fractal(rng, width, height, 120, 4, stretch=3))[..., None]
        mist = np.exp(-np.maximum(0, y - ridge[None, :]) / 260) * fog
        hill = mix(hill, colour(255, 176, 120), mist * (0.35 + 0.65 * sun))
        light = mix(light, hill, land)
        if base == 3260:
            light = _bottle_kiln(rng, light, x, y)
    return developed(rng, light, grain=0.007, vignette=0.2)


def _bottle_kiln(rng: np.random.Generator, light: Plane, x: Plane, y: Plane) -> Plane:
    foot, top, cx = 3480.0, 2180.0, 1680.0
    v = np.clip((foot - y) / (foot - top), 0, 1)
    half = 430 * (1 - 0.10 * v) * (1 - smooth(0.25, 0.80, v) * 0.62) + 22 * smooth(0.94, 0.97, v)
    inside = smooth(2, -2, np.abs(x - cx) - half) * smooth(top - 2, top + 2, y)
    u = np.clip((x - cx) / np.maximum(half, 1), -1, 1)
    course = 0.06 * np.sin(y * 2 * np.pi / 26) + 0.05 * noise(rng, light.shape[1], light.shape[0], 22, 2)
    lit = 0.10 + 0.75 * np.clip(u, 0, 1) ** 1.6
    body = (colour(120, 76, 58) * np.ones_like(light)) * (lit + course * (0.3 + lit))[..., None]
    light = mix(light, body, inside)
    smoke = fractal(rng, light.shape[1], light.shape[0], 260, 6, 0.6)
    rise = np.clip((top - y) / 1500, 0, 1)
    plume = np.exp(-(((x - cx - 900 * rise**1.3 - 90 * smoke * rise) / (70 + 520 * rise)) ** 2))
    plume = plume * smooth(0, 0.02, rise) * (1 - rise) ** 1.5
    return mix(light, colour(206, 178, 168), plume * np.clip(0.5 + 0.35 * smoke, 0, 1) * 0.7)


def bowls() -> Plane:
    """A shelf of bowls and cups, 4200 x 2800."""
    rng = np.random.default_rng(4105)
    width, height = 4200, 2800
    x, y = grid(width, height)
    light = plaster(rng, width, height, colour(158, 166, 158))
    light *= (1.15 - 0.7 * (x / width) + 0.1 * (1 - y / height))[..., None]
    shelf_top, front = 2080, 2230
    board = planks(rng, width, height, board=1500)
    light[shelf_top:front] = board[shelf_top:front] * 0.9
    light[front:] = board[front:] * 0.42
    light = mix(light, colour(226, 196, 156), np.exp(-(((y - front) / 5) ** 2)) * 0.5)
    below = smooth(front + 120, front + 124, y)
    light = mix(light, plaster(rng, width, height, colour(110, 112, 104)) * 0.42, below)
    soft = np.dstack([blur(np.ascontiguousarray(light[..., c]), 5) for c in range(3)])
    light = mix(light, soft, smooth(front + 40, shelf_top - 60, y))
    pieces = (
        (
            620,
            560,
            ((0, 470), (0.3, 440), (0.7, 300), (0.9, 170), (1, 180)),
            Glaze(colour(66, 102, 122), colour(104, 60, 38), 0.66, 0.03, 0.2, 1.0),
        ),
        (
            1500,
            900,
            ((0, 250), (0.1, 240), (0.4, 268), (0.8, 250), (0.95, 205), (1, 210)),
            Glaze(colour(224, 214, 196), colour(150, 98, 62), 0.78, 0.02, 0.8, 0.6),
        ),
        (
            2360,
            640,
            ((0, 430), (0.25, 420), (0.6, 330), (0.88, 190), (1, 200)),
            Glaze(colour(150, 80, 48), colour(70, 40, 28), 0.6, 0.04, 0.0, 0.9),
        ),
        (
            3150,
            1120,
            ((0, 150), (0.08, 120), (0.2, 116), (0.4, 300), (0.6, 350), (0.85, 260), (1, 200)),
            Glaze(colour(112, 142, 124), colour(124, 78, 50), 0.74, 0.03, 0.35, 0.9),
        ),
        (
            3810,
            480,
            ((0, 300), (0.3, 290), (0.7, 220), (0.92, 130), (1, 140)),
            Glaze(colour(206, 188, 158), colour(120, 74, 46), 0.6, 0.03, 0.5, 0.6),
        ),
    )
    for cx, tall, profile, glaze in pieces:
        foot = profile[-1][1]
        widest = max(r for _, r in profile)
        contact = np.exp(-((((x - cx - 60) / (foot * 1.5)) ** 2) + ((y - 2140) / 36) ** 2))
        cast = np.exp(-((((x - cx - widest * 0.8) / (widest * 0.9)) ** 2) + ((y - 2128) / 46) ** 2))
        wall = np.exp(
            -((((x - cx - widest * 0.55) / (widest * 0.9)) ** 2) + ((y - 2060 + tall / 2) / (tall * 0.55)) ** 2)
        )
        light *= (
            1
            - 0.75 * contact
            - 0.35 * blur(cast, 20)
            - 0.28 * blur(wall * smooth(shelf_top + 6, shelf_top - 20, y), 60)
        )[..., None]
        draw_vessel(
            rng,
            light,
            Vessel(cx, 2118 - tall, tall, profile, glaze, 0.15),
            (-0.8, -0.5, 0.55),
            colour(255, 248, 238),
        )
    return developed(rng, light * 1.15, warmth=0.015)


def test_tiles() -> Plane:
    """Rows of glaze test tiles on a grey cloth, 3840 x 2560."""
    rng = np.random.default_rng(4106)
    width, height = 3840, 2560
    light = (
        linen(rng, width, height, colour(112, 116, 118))
        * (window_light(width, height, slant=0.2) * 0.95)[..., None]
    )
    x, y = grid(width, height)
    tones = [
        (58, 96, 118),
        (196, 176, 140),
        (148, 70, 40),
        (96, 128, 104),
        (224, 214, 196),
        (70, 58, 66),
        (182, 120, 70),
        (120, 156, 160),
    ]
    for row in range(3):
        for column in range(5):
            cx, cy = 460 + column * 730 + rng.normal(0, 14), 470 + row * 810 + rng.normal(0, 14)
            turn = np.radians(rng.normal(0, 2.5))
            tone = tones[int(rng.integers(len(tones)))]
            _tile(rng, light, x, y, (cx, cy, turn), tone)
    return developed(rng, light * 1.1)


def _tile(
    rng: np.random.Generator,
    light: Plane,
    x: Plane,
    y: Plane,
    spot: tuple[float, float, float],
    tone: tuple[int, int, int],
) -> None:
    cx, cy, turn = spot
    reach = 400
    box = np.s_[max(0, int(cy - reach)) : int(cy + reach), max(0, int(cx - reach)) : int(cx + reach)]
    part = light[box]
    high, wide = part.shape[:2]
    dx, dy = x[box] - cx, y[box] - cy
    u, v = np.cos(turn) * dx + np.sin(turn) * dy, -np.sin(turn) * dx + np.cos(turn) * dy
    corner, half_w, half_h = 46.0, 262.0, 322.0

    def edge(u: Plane, v: Plane) -> Plane:
        qx, qy = np.abs(u) - half_w + corner, np.abs(v) - half_h + corner
        return np.hypot(np.maximum(qx, 0), np.maximum(qy, 0)) + np.minimum(np.maximum(qx, qy), 0) - corner

    shadow = blur(smooth(14, -14, edge(u - 20, v - 30)).astype(np.float32), 16)
    part *= (1 - 0.66 * shadow)[..., None]
    distance = edge(u, v) + 2.5 * noise(rng, wide, high, 80)
    run = 40 * noise(rng, wide, 4, 90)[0][None, :] + 26 * noise(rng, wide, 4, 30)[0][None, :]
    dip = smooth(-8, 8, v - 150 - run)
    flow = fractal(rng, wide, high, 150, 6, 0.6) * 0.6 + fractal(rng, wide, high, 40, 4, stretch=0.3) * 0.4
    base = colour(*tone) * np.clip(1 + 0.26 * flow, 0.3, 2)[..., None]
    base = mix(base, base * 1.35 + 0.02, np.exp(-(((distance + 26) / 18) ** 2)))
    pool = np.exp(-(((v - 120 - run) / 40) ** 2)) * (1 - dip)
    base = base * (1 - 0.4 * pool)[..., None]
    clay = colour(196, 160, 124) * (1 + 0.06 * fractal(rng, wide, high, 20, 4))[..., None]
    face = mix(base, clay, dip)
    bevel = smooth(-26, -2, distance)
    facing = (-u - 1.3 * v) / (np.hypot(u, v) + 1)
    face = face * (1 + 0.35 * bevel * facing)[..., None]
    sheen = np.exp(-(((u + v * 0.5 + 150) / 50) ** 2)) * (1 - dip) * smooth(0, -60, distance)
    face = face + (0.09 * sheen)[..., None]
    hole = np.hypot(u, v + 262) - 24
    face = mix(face, colour(26, 24, 24), smooth(3, -3, hole))
    part[...] = mix(part, face, smooth(1.5, -1.5, distance))


def makers_mark() -> Plane:
    """A brushed mark with its own alpha, 1400 x 1400 RGBA, straight."""
    rng = np.random.default_rng(4107)
    side = 1400
    x, y = grid(side, side)
    r = np.hypot(x - 700, y - 700)
    angle = np.arctan2(y - 700, x - 700)
    ring = 505 + 16 * noise(rng, side, side, 240)
    bristle = np.interp(r, np.arange(1000), rng.standard_normal(1000)).astype(np.float32)
    dry = smooth(-2.4, 1.2, angle + 0.25 * bristle + 0.3 * fractal(rng, side, side, 160, 5))
    stroke = smooth(78, 60, np.abs(r - ring) + 10 * fractal(rng, side, side, 30, 4)) * (
        1 - 0.75 * dry * smooth(0.1, 1.1, bristle)
    )
    flame = np.zeros((side, side), np.float32)
    for dx, tall, lean in ((-120, 330, -0.2), (20, 470, 0.06), (150, 300, 0.26)):
        v = np.clip((960 - y) / tall, 0, 1)
        mid = 700 + dx + lean * tall * v + 40 * np.sin(v * 4)
        half = 74 * np.sin(np.pi * np.clip(v, 0, 1) ** 0.7) + 2
        petal = smooth(4, -4, np.abs(x - mid) - half) * (y < 960) * (y > 960 - tall)
        flame = np.maximum(flame, petal * (1 - 0.25 * smooth(0.4, 1.4, bristle)))
    alpha = np.clip(np.maximum(stroke, flame), 0, 1)
    ink = np.array([38, 58, 84], np.float32) + 10 * fractal(rng, side, side, 120, 4)[..., None]
    rgba = np.dstack([np.clip(ink, 0, 255), alpha * 255])
    rgba[alpha < 0.002] = 0
    return np.clip(rgba + 0.5, 0, 255).astype(np.uint8)


def slip_bowl() -> Plane:
    """A bowl in soft light without grain, 1200 x 900, 16 bit RGB."""
    rng = np.random.default_rng(4108)
    width, height = 1200, 900
    x, y = grid(width, height)
    light = ramp(
        y / height,
        (0.0, colour(72, 86, 96)),
        (0.62, colour(150, 158, 156)),
        (0.64, colour(196, 186, 172)),
        (1.0, colour(142, 130, 116)),
    )
    light *= (1.1 - 0.5 * x / width)[..., None]
    shade = np.exp(-((((x - 700) / 330) ** 2) + ((y - 728) / 46) ** 2))
    light *= (1 - 0.55 * shade)[..., None]
    glaze = Glaze(colour(228, 222, 208), colour(176, 112, 74), 0.62, 0.03, 0.0, 0.7)
    profile = ((0, 300), (0.3, 284), (0.7, 190), (0.92, 108), (1, 116))
    draw_vessel(rng, light, Vessel(600, 360, 360, profile, glaze, 0.2), (-0.7, -0.55, 0.6), colour(255, 250, 240))
    shown = np.clip(light * 0.95, 0, 1) ** (1 / 2.2)
    return np.clip(shown * 65535 + 0.5, 0, 65535).astype(np.uint16)
