"""What the made-up photographs are made with: noise, light, vessels of revolution, a lens."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

Plane = np.ndarray


def grid(width: int, height: int) -> tuple[Plane, Plane]:
    """Pixel centres x, y as float32 planes."""
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    return x + 0.5, y + 0.5


def smooth(low: float, high: float, value: Plane) -> Plane:
    """Smooth step from 0 at `low` to 1 at `high`."""
    t = np.clip((value - low) / (high - low), 0, 1)
    return t * t * (3 - 2 * t)


def noise(rng: np.random.Generator, width: int, height: int, cell: float, stretch: float = 1.0) -> Plane:
    """Smooth noise of mean 0, deviation about 1; features of `cell` px, `stretch` times wider than high."""
    columns, rows = max(4, int(width / (cell * stretch)) + 3), max(4, int(height / cell) + 3)
    small = rng.standard_normal((rows, columns)).astype(np.float32)
    big = cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)
    return big / (big.std() + 1e-6)


def fractal(
    rng: np.random.Generator,
    width: int,
    height: int,
    cell: float,
    octaves: int = 5,
    fall: float = 0.55,
    stretch: float = 1.0,
) -> Plane:
    """Sum of noises, each half the size and `fall` of the strength of the one before."""
    total = np.zeros((height, width), np.float32)
    for octave in range(octaves):
        size = cell / 2**octave
        if size < 1.5:
            break
        total += noise(rng, width, height, size, stretch) * fall**octave
    return total / total.std()


def blur(plane: Plane, sigma: float) -> Plane:
    """Gaussian blur, by way of a reduction where it is wide."""
    k = max(1, int(sigma / 4))
    if k == 1:
        return cv2.GaussianBlur(plane, (0, 0), sigma)
    height, width = plane.shape[:2]
    small = cv2.resize(plane, (max(2, width // k), max(2, height // k)), interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (0, 0), sigma / k)
    return cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)


def colour(*rgb: int) -> Plane:
    """A colour (0 to 255) in linear light."""
    return (np.array(rgb, np.float32) / 255) ** 2.2


def mix(below: Plane, above: Plane, amount: Plane) -> Plane:
    """Lay `above` over `below` (colours or pictures) by a plane of amounts."""
    return below + (above - below) * amount[..., None]


def ramp(value: Plane, *stops: tuple[float, Plane]) -> Plane:
    """Colours along a value: stops of (value, linear colour)."""
    places = np.array([s[0] for s in stops], np.float32)
    channels = [np.interp(value, places, [s[1][c] for s in stops]) for c in range(3)]
    return np.stack(channels, axis=-1).astype(np.float32)


def developed(
    rng: np.random.Generator, light: Plane, *, grain: float = 0.012, vignette: float = 0.25, warmth: float = 0.0
) -> Plane:
    """Linear light to an 8-bit picture: vignette, filmic shoulder, grain that is finer in the lights."""
    height, width = light.shape[:2]
    x, y = grid(width, height)
    far = ((x / width - 0.5) ** 2 + (y / height - 0.5) ** 2) * 2
    light = light * (1 - vignette * far)[..., None]
    light = light * np.array([1 + warmth, 1, 1 - warmth], np.float32)
    light = np.maximum(light, 0)
    shown = (light * (2.51 * light + 0.03)) / (light * (2.43 * light + 0.59) + 0.14)
    shown = np.clip(shown, 0, 1) ** (1 / 2.2)
    # A filmic shoulder on each channel alone overdoes saturation; a little grey brings it back.
    shown = shown * 0.80 + shown.mean(axis=2, keepdims=True) * 0.20
    speck = rng.standard_normal((height, width, 1)).astype(np.float32)
    tint = rng.standard_normal((height // 2 + 1, width // 2 + 1, 3)).astype(np.float32)
    tint = cv2.resize(tint, (width, height), interpolation=cv2.INTER_LINEAR)
    speck = cv2.GaussianBlur(speck, (0, 0), 0.8)[..., None] * 1.9
    shown = shown + (speck + 0.5 * tint) * grain * (1.15 - shown)
    return np.clip(shown * 255 + 0.5, 0, 255).astype(np.uint8)


@dataclass
class Glaze:
    """Two glazes on clay: `upper` down to `line` (0 top, 1 foot), below it `lower`; `run` of the border."""

    upper: Plane
    lower: Plane
    line: float = 0.7
    run: float = 0.03
    speckle: float = 0.0
    shine: float = 0.5


@dataclass
class Vessel:
    """A surface of revolution seen from the front: radii (px) at heights 0 (top) to 1 (foot)."""

    x: float
    top: float
    height: float
    profile: tuple[tuple[float, float], ...]
    glaze: Glaze
    tilt: float = 0.16

    def radius(self, v: Plane) -> Plane:
        """Radius in px at v, by a smooth curve through the profile."""
        vs = np.array([p[0] for p in self.profile])
        rs = np.array([p[1] for p in self.profile])
        fine = np.linspace(0, 1, 400)
        curve = np.interp(fine, vs, rs)
        kernel = np.exp(-0.5 * (np.arange(-30, 31) / 11.0) ** 2)
        padded = np.pad(curve, 30, mode="reflect", reflect_type="odd")
        curve = np.convolve(padded, kernel / kernel.sum(), mode="valid")
        return np.interp(v, fine, curve).astype(np.float32)


def draw_vessel(
    rng: np.random.Generator, light: Plane, vessel: Vessel, sun: tuple[float, float, float], ambient: Plane
) -> Plane:
    """Draw a vessel into a picture in linear light, lit from `sun` (x right, y down, z to us); return its mask."""
    height, width = light.shape[:2]
    widest = max(r for _, r in vessel.profile)
    lip = vessel.profile[0][1]
    rise = lip * vessel.tilt
    x0, x1 = int(max(0, vessel.x - widest - 4)), int(min(width, vessel.x + widest + 5))
    y0, y1 = int(max(0, vessel.top - rise - 4)), int(min(height, vessel.top + vessel.height + rise + 60))
    x, y = grid(x1 - x0, y1 - y0)
    x, y = x + x0 - vessel.x, y + y0 - vessel.top
    # Seen a little from above, each ring is an ellipse: its front lies lower than its sides.
    v = y / vessel.height
    for _ in range(4):
        radius = vessel.radius(np.clip(v, 0, 1))
        u = np.clip(x / np.maximum(radius, 1), -1, 1)
        v = (y - radius * vessel.tilt * np.sqrt(np.maximum(0, 1 - u * u))) / vessel.height
    radius = vessel.radius(np.clip(v, 0, 1))
    u = x / np.maximum(radius, 1)
    body = smooth(1.2, -1.2, (np.abs(u) - 1) * radius) * smooth(-1.5, 1.5, v * vessel.height)
    body *= smooth(1.5, -1.5, (v - 1) * vessel.height)
    shade, base = _surface(rng, vessel, np.clip(u, -1, 1), np.clip(v, 0, 1), radius, sun, ambient)
    part = light[y0:y1, x0:x1]
    part[...] = mix(part, base * shade[..., None] + _gloss(vessel, u, v, radius, sun), body)
    mouth = smooth(1.5, -1.5, (np.hypot(x / lip, y / max(rise, 1)) - 1) * min(lip, rise))
    inner = np.hypot(x / lip * 1.06, y / max(rise, 1) * 1.13)
    hollow = smooth(1.0, 0.94, inner)
    depth = 0.16 + 0.5 * np.clip(0.5 + 0.5 * y / max(rise, 1) - 0.25 * x / lip * np.sign(sun[0]), 0, 1)
    part[...] = mix(part, vessel.glaze.upper * 1.0 * np.ones_like(part), mouth * 0.92)
    part[...] = mix(part, vessel.glaze.upper * depth[..., None] * 0.8, hollow)
    mask = np.zeros((height, width), np.float32)
    mask[y0:y1, x0:x1] = np.maximum(body, mouth)
    return mask


def _surface(
    rng: np.random.Generator,
    vessel: Vessel,
    u: Plane,
    v: Plane,
    radius: Plane,
    sun: tuple[float, float, float],
    ambient: Plane,
) -> tuple[Plane, Plane]:
    height, width = u.shape
    slope = (vessel.radius(np.clip(v + 0.004, 0, 1)) - vessel.radius(np.clip(v - 0.004, 0, 1))) / (
        0.008 * vessel.height
    )
    rings = noise(rng, 8, height, 14)[:, :1] * 0.05 + noise(rng, 8, height, 5)[:, :1] * 0.03
    normal = np.stack([u, -slope + rings, np.sqrt(np.maximum(0.0, 1 - u * u))], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    to_sun = np.array(sun, np.float32) / np.linalg.norm(sun)
    lit = np.maximum(0, normal @ to_sun)
    wrap = np.maximum(0, (normal @ to_sun + 0.35) / 1.35)
    bounce = np.maximum(0, normal[..., 1]) * 0.18
    shade = 0.55 * lit + 0.35 * wrap + 0.14 + bounce
    glaze = vessel.glaze
    angle = np.arcsin(np.clip(u, -1, 1))
    drip = noise(rng, width, 8, 46)[0] * glaze.run + noise(rng, width, 8, 15)[0] * glaze.run * 0.3
    border = np.interp(angle * width / np.pi + width / 2, np.arange(width), drip).astype(np.float32)
    below = smooth(-0.012, 0.012, v - glaze.line - border)
    pool = np.exp(-(((v - glaze.line - border) / 0.03) ** 2))
    upper = glaze.upper * (1 + 0.07 * fractal(rng, width, height, 90, 5, stretch=1.6))[..., None]
    lower = glaze.lower * (1 + 0.10 * fractal(rng, width, height, 40, 6, stretch=2.0))[..., None]
    base = mix(upper, lower, below) * (1 - 0.35 * pool * (1 - below))[..., None]
    if glaze.speckle:
        specks = smooth(2.05, 2.5, noise(rng, width, height, 4)) * (1 - below)
        base = mix(base, colour(70, 48, 34), specks * glaze.speckle)
    return shade, base * ambient


def _gloss(vessel: Vessel, u: Plane, v: Plane, radius: Plane, sun: tuple[float, float, float]) -> Plane:
    side = np.sign(sun[0]) * 0.46
    stripe = np.exp(-(((u - side) / 0.10) ** 2)) * smooth(0.05, 0.2, v) * smooth(0.8, 0.5, v)
    core = np.exp(-(((u - side) / 0.035) ** 2)) * smooth(0.12, 0.25, v) * smooth(0.55, 0.38, v)
    edge = np.clip(np.abs(u), 0, 1) ** 8 * 0.05
    return ((0.10 * stripe + 0.34 * core) * vessel.glaze.shine + edge)[..., None] * np.ones(3, np.float32)
