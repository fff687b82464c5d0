"""Layers into straight RGBA, against Porter-Duff over computed in float64."""

import numpy as np
import pytest

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.composite import CoveredPixels, composite, unpremultiplied
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.raster.scan import cover
from tests.core.raster.test_coverage import circle
from tests.samples import noise_rgba

BOX = PixelBox(0, 0, 60, 50)


def layer(
    x: float, diameter: float, *, seed: int = 1, alpha: bool = False, opacity: float = 1.0
) -> CoveredPixels:
    pixels = noise_rgba(60, 50, seed=seed, alpha=alpha)
    return CoveredPixels(cover(circle(x, 25, diameter), BOX), pixels, BOX, opacity, not alpha)


def reference(layers: list[CoveredPixels]) -> np.ndarray:
    """W3C Compositing and Blending Level 1, section 5.1: co = cs as + cb ab (1 - as), simple and dense."""
    total = np.zeros((50, 60, 4))
    for one in layers:
        alpha = (one.coverage.dense() * one.opacity * one.pixels[..., 3] / 255)[..., None]
        top = np.concatenate([one.pixels[..., :3] * alpha, alpha * 255], axis=-1)
        total = top + total * (1 - alpha)
    return total


@pytest.mark.parametrize(
    "layers",
    [
        [layer(30, 40.3)],
        [layer(30, 40.3, alpha=True)],
        [layer(30, 40.3, opacity=0.4)],
        [layer(22, 30), layer(36, 31.7, seed=2)],
        [layer(22, 30), layer(36, 31.7, seed=2), layer(30, 12.5, seed=3)],
        [layer(22, 30), layer(36, 31.7, seed=2, alpha=True)],
        [layer(22, 30, opacity=0.5), layer(36, 31.7, seed=2)],
    ],
    ids=["one", "own alpha", "opacity", "two", "three", "alpha above", "opacity below"],
)
def test_against_over_in_float(layers: list[CoveredPixels]) -> None:
    out = np.zeros((50, 60, 4), np.uint8)
    composite(out, BOX, layers)
    wanted = reference(layers)
    assert np.abs(out[..., 3] - wanted[..., 3]).max() <= 0.51
    # Alpha, straight colour and this product are each rounded by half a level at most.
    assert np.abs(premultiplied(out).astype(float) - wanted).max() <= 1.5
    assert (out[out[..., 3] == 0] == 0).all()


def test_no_layers_leave_an_empty_picture() -> None:
    out = np.zeros((50, 60, 4), np.uint8)
    composite(out, BOX, [])
    assert not out.any()


def test_full_pixels_are_the_photo_s_bytes() -> None:
    one = layer(30, 40.3)
    out = np.zeros((50, 60, 4), np.uint8)
    composite(out, BOX, [one])
    full = one.coverage.dense() == 1
    assert full.sum() > 1000
    assert np.array_equal(out[full], one.pixels[full])


def test_un_premultiplying_once_rounds_half_up() -> None:
    assert unpremultiplied(np.array([[63.75, 0, 0, 127.5]]))[0].tolist() == [128, 0, 0, 128]
    assert unpremultiplied(np.zeros((1, 4)))[0].tolist() == [0, 0, 0, 0]
