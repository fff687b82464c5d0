"""Where two pictures differ, and how much, is seen."""

import numpy as np

from glasscap.editor.difference import difference_picture

GREY = np.full((4, 6, 4), 128, np.uint8)


def changed(by: int, channel: int = 0) -> np.ndarray:
    other = GREY.copy()
    other[1, 2, channel] += by
    return other


def test_equal_pixels_are_grey_and_opaque() -> None:
    shown = difference_picture(GREY, GREY)
    assert shown.shape == GREY.shape
    assert (shown[..., 3] == 255).all()
    assert (shown[..., 0] == shown[..., 1]).all()


def test_one_level_in_any_channel_is_seen() -> None:
    for channel in range(4):
        shown = difference_picture(GREY, changed(1, channel)).astype(int)
        assert np.ptp(shown[1, 2, :3]) > 80
        assert np.ptp(shown[..., :3], axis=2).sum() == np.ptp(shown[1, 2, :3])


def test_more_is_redder() -> None:
    reds = [int(difference_picture(GREY, changed(by))[1, 2, 0]) for by in (1, 4, 12, 60)]
    greens = [int(difference_picture(GREY, changed(by))[1, 2, 1]) for by in (16, 60, 127)]
    assert reds == sorted(reds)
    assert greens == sorted(greens, reverse=True)
