"""Coverages on wider cells."""

import numpy as np
import pytest

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.cell_means import box_means, cell_means
from glasscap.core.raster.scan import cover
from tests.core.raster.test_coverage import circle


def means_over(plane: np.ndarray, cells: PixelBox, k: float, shift: tuple[float, float]) -> np.ndarray:
    """Return the means of a plane of pixels, moved, over cells: differences of its integral, linear within pixels."""
    height, width = plane.shape
    integral = np.zeros((height + 1, width + 1))
    integral[1:, 1:] = plane.cumsum(axis=0).cumsum(axis=1)

    def along(values: np.ndarray, places: np.ndarray) -> np.ndarray:
        whole = np.arange(values.shape[1])
        return np.array([np.interp(places, whole, row) for row in values])

    xs = np.arange(cells.x0, cells.x1 + 1) * k - shift[0]
    ys = np.arange(cells.y0, cells.y1 + 1) * k - shift[1]
    corners = along(along(integral, xs).T, ys).T
    return np.diff(np.diff(corners, axis=0), axis=1) / (k * k)


@pytest.mark.parametrize("shift", [(0.0, 0.0), (3.0, -7.0), (0.3, 11.85)], ids=["there", "whole px", "fractions"])
@pytest.mark.parametrize("k", [1, 2, 7, 4 / 3, 2.5])
@pytest.mark.parametrize(
    "cells",
    [PixelBox(-4, -3, 40, 30), PixelBox(5, 4, 9, 8), PixelBox(90, 90, 99, 99)],
    ids=["all", "part", "beyond"],
)
def test_means_over_cells_are_those_of_the_pixels(cells: PixelBox, k: float, shift: tuple[float, float]) -> None:
    ring = (*circle(19.3, 18.1, 33), *(p[::-1] for p in circle(19.3, 17.1, 14)))
    found = cover(ring, PixelBox(0, 0, 40, 38))
    made = cell_means(found, cells, k, shift)
    assert made.dtype == np.float32
    assert np.abs(made - means_over(found.dense(), cells, k, shift)).max() < 1e-6


@pytest.mark.parametrize("box", [PixelBox(3, -5, 41, 30), PixelBox(8, 8, 16, 24), PixelBox(100, 100, 120, 130)])
def test_a_box_covers_cells_as_its_pixels_do(box: PixelBox) -> None:
    quad = np.array([(box.x0, box.y0), (box.x1, box.y0), (box.x1, box.y1), (box.x0, box.y1)], float)
    cells = PixelBox(-1, -2, 12, 9)
    expected = cell_means(cover((quad,), PixelBox(-50, -50, 200, 200)), cells, 4)
    assert np.abs(box_means(box, cells, 4) - expected).max() < 1e-6
