"""The shipped textures: one table, each a seamless 512 px tile made by a formula and a seed."""

from collections.abc import Callable, Mapping
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from glasscap.core.errors import FinishError
from glasscap.core.textures.noise import Field, octaves, ranked, smooth, white

SIDE = 512
Bytes = NDArray[np.uint8]
Colour = tuple[float, float, float]


class TextureSpec(Struct, frozen=True):
    """One texture: its name in files and on the command line, its label, and the maker of its tile."""

    name: str
    label: str
    make: Callable[[], Field]


def _ramp(field: Field, *colours: Colour) -> Field:
    """Return colours by a field of 0 to 1, shape (side, side, 3)."""
    places = np.linspace(0, 1, len(colours))
    return np.stack([np.interp(field, places, [c[i] for c in colours]) for i in range(3)], axis=-1)


def _level(field: Field, middle: float, spread: float) -> Field:
    return np.clip(middle + field * spread, 0, 1)


def _grid() -> tuple[Field, Field]:
    y, x = np.mgrid[0:SIDE, 0:SIDE]
    return x.astype(float), y.astype(float)


def _linen() -> Field:
    x, y = _grid()
    warp = 0.5 + 0.5 * np.cos(2 * np.pi * x / 4 + 0.5 * smooth(white(SIDE, 11), 3, 60))
    weft = 0.5 + 0.5 * np.cos(2 * np.pi * y / 4 + 0.5 * smooth(white(SIDE, 12), 60, 3))
    slubs = 0.16 * smooth(white(SIDE, 13), 40, 1.2) + 0.16 * smooth(white(SIDE, 14), 1.2, 40)
    return _ramp(np.clip(0.25 + 0.35 * warp * weft + 0.25 * np.maximum(warp, weft) + slubs * 0.6, 0, 1),
                 (150, 134, 108), (203, 188, 160), (236, 226, 204))  # fmt: skip


def _paper() -> Field:
    fibres = (
        smooth(white(SIDE, 21), 9, 1, 25) + smooth(white(SIDE, 22), 9, 1, -40) + smooth(white(SIDE, 23), 9, 1, 85)
    )
    grain = octaves(SIDE, 24, 6, 3)
    return _ramp(
        _level(fibres * 0.35 + grain * 0.65, 0.55, 0.17), (222, 214, 198), (247, 243, 233), (255, 253, 247)
    )


def _kraft() -> Field:
    fibres = smooth(white(SIDE, 31), 14, 1, 8) + smooth(white(SIDE, 32), 14, 1, -12)
    field = _level(fibres * 0.5 + octaves(SIDE, 33, 40, 4) * 0.6, 0.5, 0.18)
    return _ramp(field, (136, 98, 60), (184, 142, 96), (214, 178, 132))


def _clay() -> Field:
    field = _level(octaves(SIDE, 41, 60, 6, 0.7), 0.5, 0.2)
    specks = ranked(smooth(white(SIDE, 42), 1.3, 1.3)) > 0.985
    return _ramp(np.where(specks, field * 0.45, field), (112, 56, 36), (176, 92, 58), (206, 128, 88))


def _glaze() -> Field:
    flow = octaves(SIDE, 51, 70, 5, 0.55)
    pools = ranked(smooth(white(SIDE, 52), 26, 44))
    return _ramp(
        np.clip(0.25 + 0.5 * pools + 0.11 * flow, 0, 1),
        (24, 52, 70),
        (52, 110, 122),
        (132, 182, 176),
        (214, 222, 204),
    )


def _slate() -> Field:
    layers = smooth(white(SIDE, 61), 50, 2.2, 12) + 0.6 * smooth(white(SIDE, 62), 20, 1, 12)
    return _ramp(
        _level(layers + 0.5 * octaves(SIDE, 63, 30, 4), 0.45, 0.13), (36, 41, 46), (74, 82, 88), (118, 126, 130)
    )


def _wood() -> Field:
    _, y = _grid()
    bend = smooth(white(SIDE, 71), 110, 36) * 16
    rings = 0.5 + 0.5 * np.cos(2 * np.pi * (y + bend) / (SIDE / 18))
    pores = smooth(white(SIDE, 72), 26, 0.8)
    return _ramp(
        np.clip(0.2 + 0.5 * rings**1.6 + 0.09 * pores, 0, 1), (112, 72, 42), (160, 112, 68), (202, 158, 108)
    )


def _sand() -> Field:
    grains = smooth(white(SIDE, 81), 0.7, 0.7)
    return _ramp(
        _level(grains * 0.8 + octaves(SIDE, 82, 40, 3) * 0.5, 0.5, 0.2),
        (164, 140, 104),
        (214, 194, 156),
        (244, 230, 202),
    )


def _ash() -> Field:
    clouds = octaves(SIDE, 91, 80, 6, 0.66)
    return _ramp(_level(clouds, 0.5, 0.22), (96, 98, 98), (164, 164, 160), (222, 220, 214))


def _brass() -> Field:
    brushed = smooth(white(SIDE, 101), 90, 0.7)
    return _ramp(
        _level(brushed + 0.5 * smooth(white(SIDE, 102), 60, 14), 0.5, 0.16),
        (132, 98, 40),
        (198, 160, 82),
        (244, 220, 152),
    )


def _scattered(count: int, apart: float, seed: int) -> Field:
    """Return points of a tile no two of which are nearer than `apart`, shape (count, 2)."""
    rng = np.random.default_rng(seed)
    points: list[Field] = []
    while len(points) < count:
        point = rng.uniform(0, SIDE, 2)
        away = [np.abs(point - other) for other in points]
        if all(np.hypot(*np.minimum(d, SIDE - d)) >= apart for d in away):
            points.append(point)
    return np.array(points)


def _crackle() -> Field:
    """Borders between the cells of scattered points: the crazing of an old glaze."""
    x, y = (v.astype(np.float32) for v in _grid())
    x += (3 * smooth(white(SIDE, 112), 12, 12)).astype(np.float32)
    y += (3 * smooth(white(SIDE, 113), 12, 12)).astype(np.float32)
    first = np.full((SIDE, SIDE), 1e9, np.float32)
    second = first.copy()
    for px, py in _scattered(90, 30, 111).astype(np.float32):
        dx, dy = (x - px + SIDE * 1.5) % SIDE - SIDE / 2, (y - py + SIDE * 1.5) % SIDE - SIDE / 2
        away = np.sqrt(dx * dx + dy * dy)
        second = np.minimum(second, np.maximum(first, away))
        first = np.minimum(first, away)
    line = np.exp(-(((second - first) / 1.6) ** 2))[..., None]
    base = _ramp(_level(octaves(SIDE, 114, 50, 4), 0.5, 0.14), (206, 214, 204), (228, 232, 222), (242, 242, 234))
    return np.asarray(base * (1 - 0.6 * line) + np.array([104, 92, 72]) * 0.6 * line)


def _hatch() -> Field:
    x, y = _grid()
    wobble = smooth(white(SIDE, 121), 18, 18) * 0.8
    pitch = SIDE / 64
    marks = np.cos(2 * np.pi * (x + y + wobble) / pitch)
    pressure = 0.3 * smooth(white(SIDE, 122), 5, 5)
    return _ramp(np.clip(0.5 + 2.2 * (marks + 0.2 + pressure), 0, 1), (44, 48, 54), (246, 242, 232))


def _stripes() -> Field:
    x, _ = _grid()
    edge = np.clip(0.5 + 8 * np.cos(2 * np.pi * x / (SIDE / 8)), 0, 1)
    grain = 0.05 * smooth(white(SIDE, 131), 1, 6)
    return _ramp(np.clip(edge + grain * (0.5 - edge), 0, 1), (180, 83, 44), (244, 233, 216))


TEXTURES: Mapping[str, TextureSpec] = {
    spec.name: spec
    for spec in (
        TextureSpec("linen", "Linen", _linen),
        TextureSpec("paper", "Rag paper", _paper),
        TextureSpec("kraft", "Brown paper", _kraft),
        TextureSpec("clay", "Red clay", _clay),
        TextureSpec("glaze", "Sea glaze", _glaze),
        TextureSpec("crackle", "Crackle", _crackle),
        TextureSpec("slate", "Slate", _slate),
        TextureSpec("wood", "Wood", _wood),
        TextureSpec("sand", "Sand", _sand),
        TextureSpec("ash", "Ash", _ash),
        TextureSpec("brass", "Brushed brass", _brass),
        TextureSpec("hatch", "Hatching", _hatch),
        TextureSpec("stripes", "Stripes", _stripes),
    )
}


@lru_cache(maxsize=8)
def texture_tile(name: str) -> Bytes:
    """Return a shipped texture, uint8 of shape (512, 512, 4), opaque, read-only. Raises FinishError."""
    if name not in TEXTURES:
        choices = ", ".join(TEXTURES)
        raise FinishError(f"Texture {name!r}", "there is no such texture", f"choose from {choices}")
    tile = np.full((SIDE, SIDE, 4), 255, np.uint8)
    tile[..., :3] = np.floor(np.clip(TEXTURES[name].make(), 0, 255) + 0.5)
    tile.flags.writeable = False
    return tile


@lru_cache(maxsize=4)
def grain_tile(name: str) -> NDArray[np.float32]:
    """Return what a rough stroke leaves of its paint, float32 of shape (512, 512), 0 to 1, seamless.

    For "brush" rows run along the stroke, for "chalk" and "crayon" the tile lies on the sheet.
    """
    if name == "brush":
        bristles = smooth(white(SIDE, 201), 70, 1.0) + 0.6 * smooth(white(SIDE, 202), 26, 2.0)
        grain = ranked(bristles)
        left = np.clip((grain - 0.14) * 3.4, 0, 1) * (0.78 + 0.22 * grain)
    elif name == "chalk":
        grain = ranked(smooth(white(SIDE, 211), 0.9, 0.9) + 0.5 * octaves(SIDE, 212, 14, 3))
        left = np.clip((grain - 0.3) * 4.0, 0, 1) * 0.94
    else:
        tooth = smooth(white(SIDE, 221), 1.5, 1.5, 35) + 0.7 * smooth(white(SIDE, 222), 5, 1.2, 35)
        left = np.clip((ranked(tooth) - 0.2) * 2.6, 0, 1)
    out = left.astype(np.float32)
    out.flags.writeable = False
    return out
