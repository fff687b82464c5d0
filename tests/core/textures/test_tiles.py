"""Shipped textures: seamless, steady, enough of them."""

import numpy as np
import pytest

from glasscap.core.errors import FinishError
from glasscap.core.textures.tiles import SIDE, TEXTURES, grain_tile, texture_tile


def test_there_are_at_least_ten() -> None:
    assert len(TEXTURES) >= 10


@pytest.mark.parametrize("name", TEXTURES)
def test_a_tile_has_no_seam(name: str) -> None:
    tile = texture_tile(name)[..., :3].astype(float)
    assert tile.shape == (SIDE, SIDE, 3) and tile.std() > 2
    for axis in (0, 1):
        steps = np.abs(np.diff(tile, axis=axis)).mean(axis=(1 - axis, 2))
        first, last = (tile[0], tile[-1]) if axis == 0 else (tile[:, 0], tile[:, -1])
        seam = np.abs(first - last).mean()
        assert seam <= steps.max() * 1.25 + 1


@pytest.mark.parametrize("name", ["brush", "chalk", "crayon"])
def test_a_brush_leaves_some_paint_and_some_gaps(name: str) -> None:
    tile = grain_tile(name)
    assert 0.35 < tile.mean() < 0.9 and (tile == 0).mean() > 0.03


def test_the_same_name_gives_the_same_tile_and_an_unknown_one_is_refused() -> None:
    first = texture_tile("clay").copy()
    texture_tile.cache_clear()
    assert np.array_equal(first, texture_tile("clay"))
    with pytest.raises(FinishError, match="no such texture"):
        texture_tile("velvet")
