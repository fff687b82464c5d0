"""Placed photos: exact copies stay exact, warps are filtered."""

import cv2
import numpy as np
import pytest

from glasscap.core.document.model.placement import ContentPlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.exact_copy import exact_view
from glasscap.core.raster.pixels import PhotoPixels
from glasscap.core.raster.resample import Pyramid, sample
from tests.samples import noise_rgba


def pyramid(rgba: np.ndarray) -> Pyramid:
    photo = PhotoPixels(rgba, bool((rgba[..., 3] == 255).all()))
    return Pyramid(photo, photo.size)


@pytest.mark.parametrize("quarters", [0, 1, 2, 3], ids=lambda n: f"{90 * n} degrees")
@pytest.mark.parametrize("is_mirrored", [False, True], ids=["plain", "mirrored"])
def test_quarter_turns_and_mirrors_copy_the_bytes(quarters: int, is_mirrored: bool) -> None:
    rgba = noise_rgba(20, 14)
    turned = np.rot90(rgba[:, ::-1] if is_mirrored else rgba, -quarters)
    height, width = turned.shape[:2]
    placement = ContentPlacement(width / 2, height / 2, rotation=90.0 * quarters, is_mirrored=is_mirrored)
    found = exact_view(rgba, placement.to_sheet(20, 14), PixelBox(-5, -5, 50, 50))
    assert found is not None
    assert found[1] == (0, 0, width, height)
    assert np.array_equal(found[0], turned)


@pytest.mark.parametrize(
    "m",
    [Affine(e=0.5), Affine.scaling(1.01), Affine.rotation(1), Affine.scaling(2)],
    ids=["half a pixel", "scaled", "turned", "doubled"],
)
def test_anything_else_is_not_a_copy(m: Affine) -> None:
    assert exact_view(noise_rgba(20, 14), m, PixelBox(0, 0, 20, 14)) is None


def test_reducing_averages_what_would_alias() -> None:
    """One-pixel stripes, far above the sampling limit, become nearly grey; an unfiltered warp shows bands."""
    rgba = np.full((256, 256, 4), 255, np.uint8)
    rgba[:, ::2, :3] = 0
    found, _ = sample(pyramid(rgba), Affine.scaling(0.31), PixelBox(4, 4, 70, 70))
    bare = cv2.warpAffine(rgba, np.array([[0.31, 0, 0], [0, 0.31, 0]]), (70, 70), flags=cv2.INTER_LINEAR)
    assert _ripple(found) < _ripple(bare[4:, 4:]) / 3
    assert _ripple(bare[4:, 4:]) > 60
    assert (found[..., 3] == 255).all()


def _ripple(rgba: np.ndarray) -> float:
    return float(np.sqrt(((rgba[..., :3].astype(float) - 127.5) ** 2).mean()))


def test_reducing_by_whole_numbers_is_near_the_mean_of_blocks() -> None:
    rgba = noise_rgba(240, 160)
    found, _ = sample(pyramid(rgba), Affine.scaling(0.25), PixelBox(0, 0, 60, 40))
    blocks = rgba.reshape(40, 4, 60, 4, 4).mean(axis=(1, 3))
    assert np.abs(found - blocks)[2:-2, 2:-2].mean() < 2.5


def test_enlarging_keeps_a_smooth_ramp() -> None:
    rgba = np.full((40, 60, 4), 255, np.uint8)
    rgba[..., :3] = (np.arange(60) * 4)[None, :, None]
    found, _ = sample(pyramid(rgba), Affine.scaling(3), PixelBox(30, 30, 150, 90))
    expected = ((np.arange(30, 150) + 0.5) / 3 - 0.5) * 4
    assert np.abs(found[30, :, 0] - expected).max() <= 1


def test_own_alpha_does_not_bleed_hidden_colour() -> None:
    """A red square on transparent green: no green shows at the edge, since colours are mixed premultiplied."""
    rgba = np.zeros((64, 64, 4), np.uint8)
    rgba[..., 1] = 255
    rgba[16:48, 16:48] = (255, 0, 0, 255)
    found, _ = sample(pyramid(rgba), Affine.scaling(0.37), PixelBox(0, 0, 24, 24))
    seen = found[found[..., 3] > 8]
    assert seen[:, 1].max() <= 2
    assert seen[:, 0].min() >= 250


def test_a_draft_stands_in_for_the_whole() -> None:
    whole = noise_rgba(320, 240)
    small = whole.reshape(60, 4, 80, 4, 4).mean(axis=(1, 3)).astype(np.uint8)
    draft = Pyramid(PhotoPixels(small, is_opaque=True), (320, 240))
    assert draft.is_draft
    one, _ = sample(draft, Affine.scaling(0.2), PixelBox(0, 0, 64, 48), "preview")
    two, _ = sample(pyramid(whole), Affine.scaling(0.2), PixelBox(0, 0, 64, 48), "preview")
    assert np.abs(one.astype(int) - two).mean() < 3
