"""Draw the eight places mock-ups are put into, as the data the program ships.

Each becomes a folder of ``src/glasscap/files/places``: place.json (label, aspect, corners, bend),
backdrop.webp, light.png (16-bit grey, 16384 = 1) and mask.png where there is one. Run from the checkout.
"""

import json
from dataclasses import dataclass, field
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from glasscap.core.geometry.homography import mapped, square_to_quad
from glasscap.core.geometry.polygon import oriented
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.scan import cover
from glasscap.core.textures.noise import octaves, smooth, white
from glasscap.core.textures.tiles import texture_tile

WIDTH, HEIGHT = 1600, 1200
TARGET = Path(__file__).parent.parent / "src/glasscap/files/places"
LIGHT_ONE = 16384
Colour = tuple[float, float, float]
Quad = list[tuple[float, float]]


@dataclass
class Drawn:
    """One place while it is drawn: colours 0 to 255 in float, light 1 where it changes nothing."""

    key: str
    label: str
    aspect: float
    surfaces: list[dict]
    rgb: np.ndarray
    light: np.ndarray = field(default_factory=lambda: np.ones((HEIGHT, WIDTH)))
    mask: np.ndarray | None = None
    bend: np.ndarray | None = None

    def save(self) -> None:
        """Write the place's files."""
        folder = TARGET / self.key
        folder.mkdir(parents=True, exist_ok=True)
        facts = {"label": self.label, "aspect": self.aspect, "surfaces": self.surfaces}
        if self.bend is not None:
            facts["bend"] = np.round(self.bend, 5).tolist()
        (folder / "place.json").write_text(json.dumps(facts, indent=1) + "\n")
        rgb = np.clip(self.rgb + 0.5, 0, 255).astype(np.uint8)
        Image.fromarray(rgb).save(folder / "backdrop.webp", quality=90, method=6)
        small = cv2.resize(self.light.astype(np.float32), (WIDTH // 4, HEIGHT // 4), interpolation=cv2.INTER_AREA)
        levels = np.clip(small * LIGHT_ONE + 0.5, 0, 65535).astype(np.uint16)
        cv2.imwrite(str(folder / "light.png"), levels, [cv2.IMWRITE_PNG_COMPRESSION, 9])
        if self.mask is not None:
            grey = np.clip(self.mask * 255 + 0.5, 0, 255).astype(np.uint8)
            Image.fromarray(grey).save(folder / "mask.png", optimize=True)
        print(self.key)


# what pictures are made of


def plain(colour: Colour) -> np.ndarray:
    """A field of one colour."""
    return np.tile(np.array(colour, float), (HEIGHT, WIDTH, 1))


def grid() -> tuple[np.ndarray, np.ndarray]:
    """X and y of every pixel's middle."""
    return np.meshgrid(np.arange(WIDTH) + 0.5, np.arange(HEIGHT) + 0.5)


def polygon(points: np.ndarray | Quad) -> np.ndarray:
    """The exact coverage of a polygon."""
    return cover((oriented(np.asarray(points, float)),), PixelBox(0, 0, WIDTH, HEIGHT)).dense()


def rounded(x0: float, y0: float, x1: float, y1: float, radius: float) -> np.ndarray:
    """The outline of a rectangle with round corners, shape (n, 2)."""
    turns = np.linspace(0, np.pi / 2, 24)
    found = []
    for cx, cy, start in ((x1 - radius, y1 - radius, 0), (x0 + radius, y1 - radius, 1),
                          (x0 + radius, y0 + radius, 2), (x1 - radius, y0 + radius, 3)):  # fmt: skip
        angles = turns + start * np.pi / 2
        found.append(np.column_stack([cx + radius * np.cos(angles), cy + radius * np.sin(angles)]))
    return np.concatenate(found)


def disc(x: float, y: float, radius: float) -> np.ndarray:
    """The outline of a circle."""
    turns = np.linspace(0, 2 * np.pi, 720, endpoint=False)
    return np.column_stack([x + radius * np.cos(turns), y + radius * np.sin(turns)])


def on(quad: Quad, points: np.ndarray) -> np.ndarray:
    """Points of the unit square as they lie on a quadrilateral."""
    return mapped(square_to_quad(quad), points)


def blur(plane: np.ndarray, sigma: float) -> np.ndarray:
    """A plane blurred."""
    return cv2.GaussianBlur(plane, (0, 0), sigma)


def paint(rgb: np.ndarray, share: np.ndarray, colour: Colour | np.ndarray) -> None:
    """Lay a colour over, `share` of each pixel, in place."""
    rgb += share[..., None] * (np.asarray(colour, float) - rgb)


def shade(rgb: np.ndarray, by: np.ndarray) -> None:
    """Multiply by light, in place."""
    rgb *= by[..., None]


def cloud(seed: int, widest: float, spread: float, *, count: int = 4) -> np.ndarray:
    """Soft uneven light about 1."""
    side = 512
    tile = octaves(side, seed, widest, count)
    return 1 + spread * cv2.resize(tile, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)


def fine(seed: int, spread: float) -> np.ndarray:
    """Grain of single pixels."""
    return spread * np.random.default_rng(seed).standard_normal((HEIGHT, WIDTH, 1))


def tiled(name: str, scale: float, degrees: float = 0.0) -> np.ndarray:
    """A shipped texture all over."""
    tile = texture_tile(name)[..., :3]
    x, y = grid()
    turn = np.deg2rad(degrees)
    u = (x * np.cos(turn) + y * np.sin(turn)) / scale
    v = (-x * np.sin(turn) + y * np.cos(turn)) / scale
    wrapped = cv2.remap(tile, (u % 512).astype(np.float32), (v % 512).astype(np.float32), cv2.INTER_LINEAR,
                        borderMode=cv2.BORDER_WRAP)  # fmt: skip
    return wrapped.astype(float)


def floor(name: str, horizon: float, scale: float) -> np.ndarray:
    """A texture lying on the ground, seen from above at a slant."""
    tile = texture_tile(name)[..., :3]
    x, y = grid()
    depth = 1 / np.maximum((y - horizon) / HEIGHT, 1e-3)
    u, v = (x - WIDTH / 2) * depth / scale, depth * 900 / scale
    lines = cv2.remap(tile, (u % 512).astype(np.float32), (v % 512).astype(np.float32), cv2.INTER_LINEAR,
                      borderMode=cv2.BORDER_WRAP)  # fmt: skip
    return lines.astype(float)


def vignette(depth: float, x: float = 0.5, y: float = 0.45) -> np.ndarray:
    """Light that falls off towards the corners."""
    gx, gy = grid()
    far = ((gx / WIDTH - x) / 0.75) ** 2 + ((gy / HEIGHT - y) / 0.75) ** 2
    return 1 - depth * np.clip(far, 0, 1.6)


def surface(quad: Quad, part: tuple[float, float, float, float] = (0, 0, 1, 1)) -> dict:
    """A surface as it is written."""
    return {"corners": [list(map(float, p)) for p in quad], "part": list(part)}


# the places


def card() -> Drawn:
    """A card lying on a plank table by a window."""
    rgb = floor("wood", -420, 2.1) * np.array([0.86, 0.8, 0.74])
    shade(rgb, vignette(0.42, 0.38, 0.32) * cloud(3, 150, 0.03))
    x, y = grid()
    # A window's light falls across in two panes.
    along = (x * 0.86 + y * 0.5) - 240
    panes = np.clip((along % 560 - 40) / 40, 0, 1) * np.clip((500 - along % 560) / 40, 0, 1)
    glow = 1 + 0.16 * blur(panes * (along > 0) * (along < 1120), 22)
    shade(rgb, glow)
    quad = [(395.0, 330.0), (1235.0, 262.0), (1372.0, 842.0), (300.0, 930.0)]
    edge = polygon([(x, y + 9) for x, y in quad])
    for dx, dy, sigma, depth in ((26, 44, 34, 0.5), (8, 15, 9, 0.42), (2, 6, 3, 0.3)):
        fallen = blur(np.roll(np.roll(edge, dy, axis=0), dx, axis=1), sigma)
        shade(rgb, 1 - depth * fallen)
    paint(rgb, edge, (226, 219, 206))
    paint(rgb, polygon(quad), (250, 247, 240))
    light = (0.97 + 0.06 * (glow - 1) / 0.16) * (1.02 - 0.10 * (y / HEIGHT))
    rgb += fine(1, 1.6)
    return Drawn("card", "Card on a table", 1.5, [surface(quad)], rgb, light)


def flyer() -> Drawn:
    """A flyer folded once, standing on a shelf."""
    rgb = plain((214, 205, 190))
    x, y = grid()
    shade(rgb, (1.04 - 0.22 * (x / WIDTH)) * cloud(8, 220, 0.02))
    board = np.clip((y - 905) / 3, 0, 1)
    paint(rgb, board, floor("wood", 300, 2.6) * 0.78)
    shade(rgb, 1 - 0.34 * np.exp(-np.abs(y - 905) / 26) * (y > 900))
    left = [(438.0, 232.0), (792.0, 176.0), (792.0, 1000.0), (438.0, 934.0)]
    right = [(792.0, 176.0), (1176.0, 246.0), (1176.0, 926.0), (792.0, 1000.0)]
    whole = polygon([left[0], left[1], right[1], right[2], left[2], left[3]])
    ground = polygon([(438, 930), (792, 998), (1176, 924), (1420, 958), (900, 1082), (500, 980)])
    shade(rgb, 1 - 0.5 * blur(ground, 20))
    shade(rgb, 1 - 0.22 * blur(np.roll(whole, 46, axis=1), 50) * (1 - whole))
    paint(rgb, polygon(left), (246, 242, 233))
    paint(rgb, polygon(right), (226, 220, 208))
    light = np.where(x < 792, 1.0 - 0.05 * np.clip((x - 438) / 354, 0, 1), 0.86 + 0.05 * (x - 792) / 384)
    crease = np.exp(-(((x - 792) / 7) ** 2))
    light = blur(light, 1.2) * (1 - 0.10 * crease)
    rgb += fine(2, 1.4)
    parts = [surface(left, (0, 0, 0.5, 1)), surface(right, (0.5, 0, 1, 1))]
    return Drawn("flyer", "Folded flyer", 0.94, parts, rgb, light)


def phone() -> Drawn:
    """A phone lying on linen, its screen a tall rectangle with round corners."""
    rgb = tiled("linen", 0.8, 8) * np.array([0.88, 0.9, 0.92])
    shade(rgb, vignette(0.36) * cloud(12, 160, 0.03))
    body_quad = [(585.0, 120.0), (1010.0, 92.0), (1062.0, 1090.0), (560.0, 1112.0)]
    unit = rounded(0, 0, 100, 208, 15) / (100, 208)
    body = polygon(on(body_quad, unit))
    for dx, dy, sigma, depth in ((34, 46, 40, 0.5), (10, 14, 10, 0.4)):
        shade(rgb, 1 - depth * blur(np.roll(np.roll(body, dy, axis=0), dx, axis=1), sigma))
    x, y = grid()
    rim = np.clip(0.55 + 0.3 * np.sin(x / 55 + y / 140), 0.3, 1)
    paint(rgb, body, np.dstack([74 * rim, 78 * rim, 84 * rim]))
    glass = rounded(1.6, 1.6, 98.4, 206.4, 13.8) / (100, 208)
    paint(rgb, polygon(on(body_quad, glass)), (14, 16, 19))
    screen = [
        tuple(p) for p in on(body_quad, np.array([(4, 4), (96, 4), (96, 204), (4, 204)]) / (100, 208)).tolist()
    ]
    seen = polygon(on(body_quad, rounded(4, 4, 96, 204, 11.5) / (100, 208)))
    paint(rgb, seen, (24, 28, 32))
    eye = polygon(on(body_quad, disc(50, 9.5, 2.1) / (100, 208)))
    paint(rgb, eye, (8, 9, 11))
    reflex = np.clip((x * 0.55 - y * 0.3 - 150) / 240, 0, 1) * 0.05
    light = 1 + blur(reflex, 6)
    rgb += fine(3, 1.5)
    return Drawn("phone", "Phone", 92 / 200, [surface(screen)], rgb, light, seen * (1 - eye))


def video() -> Drawn:
    """A frame of a video: hills at dusk, a bar for a caption before them."""
    x, y = grid()
    top, foot = np.array([70, 92, 128.0]), np.array([232, 176, 132.0])
    blend = np.clip((y - 190) / 640, 0, 1)[..., None]
    scene = top + (foot - top) * blend
    glow = np.exp(-(((x - 1080) / 260) ** 2 + ((y - 560) / 170) ** 2))
    paint(scene, 0.6 * glow, (255, 224, 178))
    rng = np.random.default_rng(5)
    for n, (base, high, colour) in enumerate(((600, 120, (126, 112, 124)), (690, 100, (92, 88, 98)),
                                              (790, 90, (58, 60, 66)))):  # fmt: skip
        waves = sum(np.sin(x / (90 + 70 * k + 31 * n) + rng.uniform(0, 6)) / (k + 1) for k in range(4))
        ridge = base - high * 0.45 * waves
        paint(scene, np.clip(y - ridge + 0.5, 0, 1), colour)
    screen = [(120.0, 172.0), (1480.0, 172.0), (1480.0, 937.0), (120.0, 937.0)]
    inside = polygon(screen)
    rgb = plain((27, 29, 32))
    shade(rgb, vignette(0.35))
    shade(rgb, 1 + 0.6 * blur(inside, 70))
    paint(rgb, inside, scene)
    bar = polygon(rounded(196, 770, 1050, 872, 14))
    paint(rgb, bar * 0.94, (20, 24, 27))
    paint(rgb, polygon(rounded(220, 794, 226, 848, 3)), (199, 105, 31))
    paint(rgb, polygon(rounded(250, 798, 690, 818, 10)), (232, 230, 224))
    paint(rgb, polygon(rounded(250, 832, 560, 846, 7)), (150, 152, 152))
    track = polygon(rounded(120, 962, 1480, 968, 3))
    paint(rgb, track, (92, 96, 100))
    paint(rgb, polygon(rounded(120, 962, 660, 968, 3)), (236, 234, 228))
    paint(rgb, polygon(disc(660, 965, 10)), (236, 234, 228))
    rgb += fine(4, 1.2)
    mask = inside * (1 - bar * 0.94)
    return Drawn("video", "Video frame", 1360 / 765, [surface(screen)], rgb, np.ones((HEIGHT, WIDTH)), mask)


def window() -> Drawn:
    """A sticker on the glass of a shop."""
    x, y = grid()
    rgb = plain((52, 58, 60))
    shade(rgb, 0.75 + 0.35 * (y / HEIGHT))
    rng = np.random.default_rng(9)
    # Shelves with pots in the dim room behind.
    for base in (430, 700, 980):
        paint(rgb, np.clip(1 - np.abs(y - base - 10) / 10, 0, 1) * 0.8, (86, 72, 58))
        for cx in np.arange(150, WIDTH, 170) + rng.uniform(-25, 25, 9)[: len(np.arange(150, WIDTH, 170))]:
            wide, tall = rng.uniform(42, 66), rng.uniform(90, 150)
            t = np.linspace(0, 1, 40)
            side = wide * (0.55 + 0.45 * np.sin(np.pi * (0.15 + 0.8 * t)) ** 0.8)
            outline = np.concatenate([np.column_stack([cx - side, base - tall * t]),
                                      np.column_stack([cx + side, base - tall * t])[::-1]])  # fmt: skip
            tone = rng.uniform(0.7, 1.15)
            paint(rgb, 0.85 * polygon(outline), np.array([128, 104, 84]) * tone)
    rgb = cv2.GaussianBlur(rgb, (0, 0), 7)
    shine = np.clip(1 - np.abs((x * 0.8 + y * 0.6 - 700) / 130), 0, 1) ** 1.4
    second = np.clip(1 - np.abs((x * 0.8 + y * 0.6 - 1010) / 46), 0, 1) ** 1.4
    glare = 0.16 * blur(shine, 24) + 0.12 * blur(second, 12)
    paint(rgb, glare, (214, 226, 232))
    wood = tiled("wood", 1.4, 90) * np.array([0.38, 0.5, 0.47])
    frame = np.maximum(polygon([(0, 0), (110, 0), (110, 1200), (0, 1200)]),
                       np.maximum(polygon([(0, 1080), (1600, 1080), (1600, 1200), (0, 1200)]),
                                  polygon([(1500, 0), (1600, 0), (1600, 1200), (1500, 1200)])))  # fmt: skip
    shade(rgb, 1 - 0.5 * blur(frame, 16) * (1 - frame))
    paint(rgb, frame, wood)
    quad = [(520.0, 250.0), (1106.0, 270.0), (1106.0, 848.0), (520.0, 868.0)]
    light = 1.0 + 0.5 * glare - 0.04
    rgb += fine(6, 1.6)
    return Drawn("window", "Shop window sticker", 1.0, [surface(quad)], rgb, light)


def tote() -> Drawn:
    """A cotton bag on a hook, its cloth in soft folds."""
    x, y = grid()
    rgb = plain((206, 200, 190))
    shade(rgb, (1.03 - 0.18 * (x / WIDTH)) * cloud(21, 240, 0.015))
    t = np.linspace(0, 1, 60)
    left = np.column_stack([476 - 9 * np.sin(2.2 * np.pi * t) * t - 18 * t, 400 + 690 * t])
    right = np.column_stack([1124 + 8 * np.sin(2.6 * np.pi * t) * t + 20 * t, 400 + 684 * t])
    foot = np.column_stack([np.linspace(458, 1144, 60), 1089 + 4 * np.sin(np.linspace(0, 7, 60))])
    bag = polygon(np.concatenate([left, foot, right[::-1]]))
    arc = np.linspace(np.pi, 2 * np.pi, 120)
    outer = np.column_stack([800 + 176 * np.cos(arc), 404 + 350 * np.abs(np.sin(arc)) ** 0.8 * -1])
    inner = np.column_stack([800 + 142 * np.cos(arc), 404 + 312 * np.abs(np.sin(arc)) ** 0.8 * -1])
    handles = polygon(np.concatenate([outer, inner[::-1]]))
    cloth = np.maximum(bag, handles)
    for dx, dy, sigma, depth in ((40, 34, 34, 0.34), (12, 10, 8, 0.2)):
        shade(rgb, 1 - depth * blur(np.roll(np.roll(cloth, dy, axis=0), dx, axis=1), sigma) * (1 - cloth))
    side = 512
    folds = smooth(white(side, 33), 26, 120, 9) + 0.5 * smooth(white(side, 34), 60, 40, -20)
    height = cv2.resize(folds, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)
    height = blur(height * (0.35 + 0.65 * np.clip((y - 420) / 640, 0, 1)), 9)
    slope_y, slope_x = np.gradient(height)
    lit = np.clip(1 + 19 * slope_x + 9 * slope_y, 0.7, 1.15)
    near = np.exp(-np.minimum(np.abs(x - 458), np.abs(x - 1142)) / 60)
    lit *= 1 - 0.16 * near
    weave = 0.72 + 0.28 * tiled("linen", 0.34) / 190
    paint(rgb, cloth, np.array([236, 228, 208]) * weave)
    shade(rgb, 1 + (lit - 1) * cloth)
    hem = np.exp(-(((y - 452) / 2.5) ** 2)) * bag
    shade(rgb, 1 - 0.16 * hem)
    shade(rgb, 1 - 0.3 * blur(np.roll(handles, 14, axis=0), 8) * bag * (1 - handles))
    paint(rgb, handles * (1 - bag * (y > 430)), np.array([226, 217, 196]) * weave * lit[..., None])
    quad = [(560.0, 528.0), (1046.0, 528.0), (1052.0, 1008.0), (552.0, 1008.0)]
    rows, columns = 19, 25
    slopes = np.dstack([slope_x, slope_y]).astype(np.float32)
    bend = 0.9 * cv2.resize(slopes, (columns, rows), interpolation=cv2.INTER_AREA)
    rgb += fine(7, 1.4)
    mask = bag * np.clip(0.955 - 0.05 * smooth_grain(), 0, 1)
    return Drawn("tote", "Tote bag", 1.0, [surface(quad)], rgb, lit * 0.985, mask, bend)


def smooth_grain() -> np.ndarray:
    """Threads that show through print."""
    return np.random.default_rng(40).standard_normal((HEIGHT, WIDTH))


def badge() -> Drawn:
    """A round enamel badge on felt, domed, with a metal rim."""
    rgb = plain((58, 84, 82))
    felt = np.random.default_rng(50).standard_normal((HEIGHT, WIDTH))
    shade(rgb, 1 + 0.07 * blur(felt, 1.2) * 3 + 0.05 * cv2.resize(
        smooth(white(512, 51), 3, 9, 30), (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC))  # fmt: skip
    shade(rgb, vignette(0.5, 0.4, 0.35))
    cx, cy, radius, rim = 800.0, 596.0, 372.0, 34.0
    x, y = grid()
    whole = polygon(disc(cx, cy, radius + rim))
    for dx, dy, sigma, depth in ((34, 44, 38, 0.62), (9, 12, 9, 0.5)):
        shade(rgb, 1 - depth * blur(np.roll(np.roll(whole, dy, axis=0), dx, axis=1), sigma))
    far = np.hypot(x - cx, y - cy)
    angle = np.arctan2(y - cy, x - cx)
    shine = 0.62 + 0.30 * np.cos(angle + 2.3) + 0.12 * np.cos(2 * (angle + 2.0))
    across = np.sin(np.pi * np.clip((far - radius) / rim, 0, 1))
    metal = np.array([214, 178, 112.0]) * (shine * (0.62 + 0.5 * across))[..., None] + 26
    paint(rgb, whole, metal)
    paint(rgb, polygon(disc(cx, cy, radius)), (236, 231, 220))
    dome = np.sqrt(np.clip(1 - (far / (radius * 1.12)) ** 2, 0, 1))
    light = 0.80 + 0.24 * dome
    spot = np.exp(-(((x - 668) / 120) ** 2 + ((y - 430) / 66) ** 2))
    light += 0.34 * spot + 0.10 * np.exp(-(((far - radius * 0.93) / 10) ** 2)) * (np.cos(angle - 0.8) > 0)
    light *= 1 - 0.34 * np.exp(-((radius - far) / 9).clip(0, 9)) * (far < radius)
    inner = polygon(disc(cx, cy, radius))
    shade(rgb, 1 + (np.clip(light, 0, 1.25) - 1) * inner)
    quad = [
        (cx - radius, cy - radius),
        (cx + radius, cy - radius),
        (cx + radius, cy + radius),
        (cx - radius, cy + radius),
    ]
    rows, columns = 31, 41
    gx, gy = np.meshgrid(np.linspace(0, WIDTH, columns), np.linspace(0, HEIGHT, rows))
    u, v = (gx - cx) / (2 * radius), (gy - cy) / (2 * radius)
    # A dome shows its middle a little larger than its rim.
    inwards = 0.07 * np.clip(4 * (u * u + v * v), 0, 1.3) - 0.07
    bend = np.dstack([u * inwards, v * inwards])
    rgb += fine(8, 1.4)
    return Drawn("badge", "Enamel badge", 1.0, [surface(quad)], rgb, light, inner, bend)


def avatar() -> Drawn:
    """A page on which a round picture heads a column of text."""
    rgb = plain((229, 226, 219))
    page = polygon(rounded(330, 70, 1270, 1300, 10))
    shade(rgb, 1 - 0.16 * blur(np.roll(page, 12, axis=0), 24) * (1 - page))
    paint(rgb, page, (252, 250, 245))
    paint(rgb, polygon(rounded(330, 70, 1270, 84, 4)), (180, 83, 44))
    paint(rgb, polygon(disc(800, 388, 214)), (221, 216, 206))
    for box, colour in (
        ((620, 650, 980, 692), (52, 58, 62)), ((690, 716, 910, 736), (154, 156, 156)),
        ((470, 812, 1130, 828), (206, 202, 193)), ((430, 852, 1170, 868), (216, 212, 204)),
        ((430, 892, 1170, 908), (216, 212, 204)), ((430, 932, 1170, 948), (216, 212, 204)),
        ((560, 972, 1040, 988), (216, 212, 204)), ((430, 1052, 786, 1300), (231, 226, 217)),
        ((814, 1052, 1170, 1300), (231, 226, 217)),
    ):  # fmt: skip
        paint(rgb, polygon(rounded(*box, min(10, (box[3] - box[1]) / 2))), colour)
    quad = [(600.0, 188.0), (1000.0, 188.0), (1000.0, 588.0), (600.0, 588.0)]
    rgb += fine(9, 0.6)
    return Drawn(
        "avatar", "Round picture on a page", 1.0, [surface(quad)], rgb, mask=polygon(disc(800, 388, 200))
    )


if __name__ == "__main__":
    for make in (card, flyer, phone, video, window, tote, badge, avatar):
        make().save()
