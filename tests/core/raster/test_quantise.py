"""Palettes: error, graded alpha, dithering."""

import numpy as np
import pytest
from PIL import Image

from glasscap.core.raster.quantise import premultiplied_floats, quantised, thresholds
from tests.core.formats.test_encodings import DISC
from tests.samples import noise_rgba


def error(found: np.ndarray, wanted: np.ndarray) -> float:
    """Root mean square over premultiplied channels, levels."""
    one, other = (premultiplied_floats(p.reshape(-1, 4)) for p in (found, wanted))
    return float(np.sqrt(((one - other) ** 2).mean()))


def test_few_colours_stay_as_they_are() -> None:
    rgba = np.zeros((9, 12, 4), np.uint8)
    rgba[:4, :5] = (200, 10, 30, 255)
    rgba[4:, 5:] = (200, 10, 30, 128)
    found = quantised(rgba, 4)
    assert np.array_equal(found.rgba, rgba)
    assert len(found.palette) == 3


@pytest.mark.parametrize("count", [8, 64, 256])
def test_error_is_no_worse_than_another_librarys(count: int) -> None:
    rgba = noise_rgba(150, 130, seed=4)
    rgba[..., 3] = np.linspace(0, 255, 150).astype(np.uint8)
    theirs = np.asarray(Image.fromarray(rgba).quantize(count, Image.Quantize.FASTOCTREE).convert("RGBA"))
    assert error(quantised(rgba, count).rgba, rgba) <= error(theirs, rgba)


def test_more_colours_err_less_and_a_shadow_keeps_its_steps() -> None:
    errors = [error(quantised(DISC, count).rgba, DISC) for count in (4, 16, 64, 256)]
    assert errors == sorted(errors, reverse=True)
    assert len(np.unique(quantised(DISC, 256).rgba[..., 3])) >= 32


def test_dithering_keeps_the_mean_where_flat_colours_would_step() -> None:
    ramp = np.full((64, 256, 4), 255, np.uint8)
    ramp[..., :3] = np.arange(256, dtype=np.uint8)[None, :, None]
    flat, nudged = (quantised(ramp, 6, dither).rgba.astype(float) for dither in (0.0, 1.0))

    def local(found: np.ndarray) -> np.ndarray:
        return np.abs(
            found[..., 0].reshape(8, 8, 32, 8).mean(axis=(1, 3))
            - ramp[..., 0].reshape(8, 8, 32, 8).mean(axis=(1, 3))
        )

    assert local(nudged).mean() < local(flat).mean() / 2


def test_clear_pixels_stay_clear_when_dithered() -> None:
    found = quantised(DISC, 32, 1.0).rgba
    assert not found[DISC[..., 3] == 0].any()


def test_the_threshold_matrix_is_bayers() -> None:
    # B. E. Bayer, "An optimum method for two-level rendition of continuous-tone pictures" (1973): ranks 0..63.
    ranks = ((thresholds((8, 8)) + 1) / 2 * 64 - 0.5).round().astype(int)
    assert sorted(ranks.ravel()) == list(range(64))
    assert ranks[:2, :2].tolist() == [[0, 32], [48, 16]]
