"""Premultiplied bytes over one another: Porter and Duff, Compositing Digital Images (1984), the operator over."""

import numpy as np
import pytest

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.over import lay_over, stacked
from glasscap.core.raster.pixels import Bytes

BOX = PixelBox(-3, 5, 37, 35)


def pixels(box: PixelBox, translucent: float, seed: int) -> Bytes:
    """Return premultiplied noise of which a share is translucent."""
    made = np.random.default_rng(seed)
    shape = (box.height, box.width)
    alpha = np.where(made.random(shape) < translucent, made.integers(0, 256, shape), made.choice([0, 255], shape))
    colour = made.integers(0, 256, (*shape, 3)) * alpha[..., None] // 255
    return np.concatenate([colour, alpha[..., None]], axis=-1).astype(np.uint8)


@pytest.mark.parametrize("translucent", [0.0, 0.005, 0.3, 1.0], ids=["none", "few", "many", "all"])
def test_the_sum_is_rounded_to_the_nearest_level(translucent: float) -> None:
    below, top = pixels(BOX, 0.6, 1), pixels(BOX, translucent, 2)
    exact = top + below * (1 - top[..., 3:] / 255.0)
    wide = np.zeros((BOX.height + 4, BOX.width + 6, 4), np.uint8)
    # A part of a larger picture, whose rows do not run on.
    here = wide[2:-2, 3:-3]
    here[:] = below
    lay_over(here, top)
    assert np.abs(here - exact).max() <= 0.5 + 1e-9
    assert not wide[:2].any() and not wide[:, :3].any() and not wide[:, -3:].any()


def test_a_large_picture_is_laid_over_in_two_halves() -> None:
    box = PixelBox(0, 0, 640, 471)
    below, top = pixels(box, 0.6, 1), pixels(box, 0.3, 2)
    exact = top + below * (1 - top[..., 3:] / 255.0)
    lay_over(below, top)
    assert np.abs(below - exact).max() <= 0.5 + 1e-9


def test_pictures_are_stacked_back_to_front_where_they_lie() -> None:
    places = (PixelBox(0, 6, 20, 30), PixelBox(-3, 5, 11, 20), PixelBox(8, 9, 37, 35))
    tops = [(pixels(place, 0.4, seed), place) for seed, place in enumerate(places)]
    exact = np.zeros((BOX.height, BOX.width, 4))
    for top, place in tops:
        here = exact[place.y0 - 5 : place.y1 - 5, place.x0 + 3 : place.x1 + 3]
        here[:] = top + here * (1 - top[..., 3:] / 255.0)
    assert np.abs(stacked(tops, BOX) - exact).max() <= 1.5
    assert not stacked([], BOX).any()


def test_one_that_fills_the_box_is_itself() -> None:
    top = pixels(BOX, 0.4, 7)
    assert stacked([(top, BOX)], BOX) is top
