"""A fade over a colour against Porter and Duff's formula."""

import numpy as np
import pytest

from glasscap.core.raster.planar import MOVING, PREMULTIPLIED, STRAIGHT, Writing

RANDOM = np.random.default_rng(5)
PIXELS = RANDOM.integers(0, 256, (40, 30, 4), np.uint8)


@pytest.mark.parametrize("factor", [1.0, 0.35])
@pytest.mark.parametrize("colour", [(0, 0, 0), (90, 0, 200)], ids=["black", "coloured"])
def test_a_fade_is_the_content_over_the_colour(colour: tuple[int, int, int], factor: float) -> None:
    content = PIXELS.copy()
    content[..., 3] = 255
    share, below = (RANDOM.random((40, 30)).astype(np.float32) for _ in range(2))
    share[0], below[0] = 0, 0
    # Porter-Duff over (W3C Compositing and Blending Level 1), premultiplied.
    rest = (1 - share) * below * factor
    shown = content[..., :3] * share[..., None] + np.array(colour) * rest[..., None]
    alpha = share + rest
    found = np.zeros_like(content)
    PREMULTIPLIED.fade(found, content, share, below, factor, colour)
    assert np.abs(found[..., :3] - shown).max() <= 0.5001
    assert np.abs(found[..., 3] - alpha * 255).max() <= 0.5001
    # A share in bytes is half a level off.
    MOVING.fade(found, content, share, below, factor, colour)
    assert np.abs(found[..., :3] - shown).max() <= 1.01
    assert np.abs(found[..., 3] - alpha * 255).max() <= 0.51
    assert (found[..., :3] <= found[..., 3:]).all() and not found[0].any()
    STRAIGHT.fade(found, content, share, below, factor, colour)
    straight = shown / np.maximum(alpha, 1e-9)[..., None]
    assert np.abs(found[..., 3] - alpha * 255).max() <= 0.501
    assert np.abs(found[..., :3] - straight)[alpha > 0.002].max() <= 0.501
    assert not found[0].any()


@pytest.mark.parametrize(("writing", "most"), [(PREMULTIPLIED, 0.501), (MOVING, 1.01)], ids=["still", "moving"])
@pytest.mark.parametrize("is_lit", [False, True])
def test_pixels_are_multiplied_and_added_to(writing: Writing, most: float, is_lit: bool) -> None:
    factors, added = RANDOM.random((2, 40, 30, 4)).astype(np.float32)
    added = added * 120 if is_lit else None
    found = np.zeros((50, 90, 4), np.uint8)
    writing.multiply(found[5:45, 20:50], PIXELS, factors, added)
    expected = np.minimum(PIXELS * factors + (0 if added is None else added), 255)
    assert np.abs(found[5:45, 20:50] - expected).max() <= most
    found[5:45, 20:50] = 0
    assert not found.any()


@pytest.mark.parametrize("writing", [PREMULTIPLIED, MOVING], ids=["still", "moving"])
def test_one_factor_is_that_of_the_colours(writing: Writing) -> None:
    factor = RANDOM.random((40, 30)).astype(np.float32)
    whole = np.stack([factor, factor, factor, np.ones_like(factor)], axis=-1)
    one, other = np.zeros((2, 40, 30, 4), np.uint8)
    writing.multiply(one, PIXELS, factor, None)
    writing.multiply(other, PIXELS, whole, None)
    assert np.array_equal(one, other)
