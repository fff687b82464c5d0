"""Rough outlines: a polygon displaced along its normals by seeded noise of its own length.

Lengths in the polygon's unit; the same seed gives the same edge whatever it is drawn at.
"""

import math
from collections.abc import Callable
from typing import Literal

import numpy as np
import shapely
from msgspec import Struct

from glasscap.core.geometry.offset import polygons_of, region_of
from glasscap.core.geometry.outline import Points

RoughKind = Literal["brushed", "torn", "deckled", "stamped"]
_MOST_POINTS = 60_000
Wave = Callable[[Points, float, float, "np.random.Generator"], Points]


class Ripple(Struct, frozen=True, eq=False):
    """A contour about to be made rough: points along it, and where each goes for an amount of 1."""

    points: Points
    away: Points

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return self.points.nbytes + self.away.nbytes


def ripples(
    polygons: tuple[Points, ...], kind: RoughKind, *, scale: float, seed: int, finest: float = 0.0
) -> tuple[Ripple, ...]:
    """Return polygons ready to be made rough by any amount.

    Parameters
    ----------
    polygons : tuple of float64 arrays, shape (n, 2)
        Closed, outer contours clockwise on screen.
    kind : "brushed", "torn", "deckled" or "stamped"
        Ragged bristle marks; torn paper; the soft wave of handmade paper; a row of half-round bites.
    scale : float
        Length of its features.
    seed : int
    finest : float
        Points are set no closer than this; their number changes nothing of the noise.
    """
    rng = np.random.default_rng(seed)
    step = max(scale * _STEPS[kind], finest)
    return tuple(_rippled(p, _WAVES[kind], step, scale, rng) for p in polygons if len(p) >= 3)


def displaced(rippled: tuple[Ripple, ...], amount: float) -> tuple[Points, ...]:
    """Return contours with a rough edge as deep as `amount`; they may cross themselves and one another."""
    return tuple(ripple.points + ripple.away * amount for ripple in rippled)


def roughened(rippled: tuple[Ripple, ...], amount: float) -> tuple[Points, ...]:
    """Return contours with a rough edge as deep as `amount` that do not overlap."""
    moved = displaced(rippled, amount)
    if len(moved) == 1 and shapely.is_valid(shapely.Polygon(moved[0])):
        return moved
    return polygons_of(region_of(moved))


def _rippled(polygon: Points, wave: Wave, step: float, scale: float, rng: "np.random.Generator") -> Ripple:
    points, length = _evenly_spaced(polygon, step)
    count = len(points)
    along = np.roll(points, -1, axis=0) - np.roll(points, 1, axis=0)
    size = np.maximum(np.hypot(along[:, 0], along[:, 1]), 1e-12)
    outwards: Points = np.stack([along[:, 1], -along[:, 0]], axis=1) / size[:, None]
    at: Points = np.arange(count, dtype=np.float64) * (length / count)
    return Ripple(points, outwards * wave(at, length, scale, rng)[:, None])


def _evenly_spaced(polygon: Points, step: float) -> tuple[Points, float]:
    closed = np.concatenate([polygon, polygon[:1]])
    at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    length = float(at[-1])
    count = min(max(math.ceil(length / max(step, 1e-9)), 16), _MOST_POINTS)
    places = np.arange(count) * (length / count)
    points = np.stack([np.interp(places, at, closed[:, 0]), np.interp(places, at, closed[:, 1])], axis=1)
    return points, length


def _noise(at: Points, length: float, wave: float, rng: "np.random.Generator") -> Points:
    """Return smooth periodic noise of wavelength about `wave`, -1 to 1."""
    count = max(4, round(length / wave))
    values = rng.uniform(-1, 1, count)
    place = at / length * count
    low = np.floor(place).astype(np.int64)
    share = place - low
    smooth = share * share * (3 - 2 * share)
    return np.asarray(values[low % count] * (1 - smooth) + values[(low + 1) % count] * smooth)


def _torn(at: Points, length: float, scale: float, rng: "np.random.Generator") -> Points:
    total = np.zeros(len(at))
    for wave, weight in ((1.0, 0.55), (0.37, 0.3), (0.13, 0.22), (0.05, 0.12)):
        total += _noise(at, length, scale * wave, rng) * weight
    return total


def _deckled(at: Points, length: float, scale: float, rng: "np.random.Generator") -> Points:
    soft: Points = _noise(at, length, scale * 1.4, rng) * 0.7 + _noise(at, length, scale * 0.5, rng) * 0.3
    return np.asarray(soft)


def _brushed(at: Points, length: float, scale: float, rng: "np.random.Generator") -> Points:
    bristle = _noise(at, length, scale * 0.12, rng) ** 3 * 1.2
    return np.asarray(
        _noise(at, length, scale * 2.2, rng) * 0.45 + bristle * (0.6 + 0.4 * _noise(at, length, scale, rng))
    )


def _stamped(at: Points, length: float, scale: float, rng: "np.random.Generator") -> Points:
    """Return half-round bites, a whole number of them, their gaps two fifths of the pitch."""
    count = max(3, round(length / scale))
    place = at / length * count % 1.0
    bite = np.clip((place - 0.2) / 0.6, 0.0, 1.0) * 2 - 1
    return np.asarray(-np.sqrt(np.maximum(1 - bite * bite, 0.0)))


_WAVES: dict[RoughKind, Wave] = {
    "brushed": _brushed, "torn": _torn, "deckled": _deckled, "stamped": _stamped,
}  # fmt: skip
# Points are set this share of the scale apart.
_STEPS: dict[RoughKind, float] = {"brushed": 1 / 24, "torn": 1 / 40, "deckled": 1 / 16, "stamped": 1 / 40}
