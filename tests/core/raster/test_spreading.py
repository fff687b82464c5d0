"""Spreading by a disc against grey morphology of other libraries (Serra, Image Analysis and Mathematical Morphology)."""

import cv2
import numpy as np
import pytest
from scipy import ndimage

from glasscap.core.raster.spreading import spread_by


def plane(height: int = 90, width: int = 130) -> np.ndarray:
    noise = np.random.default_rng(5).random((height, width))
    return np.clip((ndimage.gaussian_filter(noise, 2) - 0.45) * 6, 0, 1).astype(np.float32)


def disc(radius: int) -> np.ndarray:
    return cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * radius + 1, 2 * radius + 1))


@pytest.mark.parametrize("radius", [1, 2, 3, 5, 8, 13, 31])
def test_a_whole_radius_is_grey_dilation_by_a_disc_and_erosion_by_it(radius: int) -> None:
    values, border = plane(), {"borderType": cv2.BORDER_CONSTANT, "borderValue": 0}
    assert np.abs(spread_by(values, radius) - cv2.dilate(values, disc(radius), **border)).max() < 1e-5
    assert np.abs(spread_by(values, -radius) - cv2.erode(values, disc(radius), **border)).max() < 1e-5
    grown = ndimage.grey_dilation(values, footprint=disc(radius), mode="constant", cval=0)
    assert np.abs(spread_by(values, radius) - grown).max() < 1e-5


@pytest.mark.parametrize("by", [4, -4, 2.5, -2.5])
def test_in_bytes_it_is_the_same_to_half_a_level(by: float) -> None:
    off = np.abs(spread_by(plane(), by, is_in_bytes=True) - spread_by(plane(), by)).max()
    assert 0 < off <= 0.5 / 255 + 1e-5


@pytest.mark.parametrize("by", [0.3, 2.5, 6.8, -0.4, -3.7])
def test_a_straight_edge_moves_by_just_that(by: float) -> None:
    half = np.zeros((40, 80), np.float32)
    half[:, :40] = 1
    row = spread_by(half, by)[20]
    assert row[10:].sum() == pytest.approx(30 + by, abs=1e-4)


def test_by_nothing_all_stays() -> None:
    values = plane()
    assert np.abs(spread_by(values, 0.0) - values).max() < 1e-5
