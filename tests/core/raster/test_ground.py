"""Memory made ready ahead: all of it is zero, and what is drawn on it stays."""

import numpy as np
import pytest

from glasscap.core.raster.ground import Ground


@pytest.mark.parametrize("size", [(0, 0), (3, 5), (1500, 1200)])
def test_rows_are_zero_until_they_are_drawn_on(size: tuple[int, int]) -> None:
    height, width = size
    ground = Ground(height, width)
    for y in range(0, height, 100):
        rows = ground.rows(y, min(y + 100, height))
        assert not rows.any()
        rows[:] = 7
    assert ground.whole().shape == (height, width, 4)
    assert (ground.whole() == 7).all()


def test_rows_are_views_of_one_picture() -> None:
    ground = Ground(1100, 1000)
    ground.rows(1090, 1100)[...] = 9
    assert int(ground.whole().sum()) == 9 * 10 * 1000 * 4
    assert np.shares_memory(ground.rows(0, 1), ground.whole())
