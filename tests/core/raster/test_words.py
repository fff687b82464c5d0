"""Pixels as numbers in one long row."""

import numpy as np
import pytest

from glasscap.core.raster.words import one_long_row, picked, words

PIXELS = np.random.default_rng(5).integers(0, 256, (40, 30, 4), np.uint8)


@pytest.mark.parametrize("view", [np.s_[:], np.s_[3:20, 4:11], np.s_[5:5]], ids=str)
def test_one_long_row_runs_through_all_pixels(view: object) -> None:
    numbers = words(PIXELS)[view]
    row, step = one_long_row(numbers)
    for y in range(numbers.shape[0]):
        assert np.array_equal(row[y * step : y * step + numbers.shape[1]], numbers[y])


@pytest.mark.parametrize("view", [np.s_[::-1], np.s_[:, ::-1]], ids=str)
def test_no_row_runs_through_a_mirrored_view(view: object) -> None:
    # What is written to a copy would be lost.
    with pytest.raises(ValueError, match="run on"):
        one_long_row(words(PIXELS)[view])


def test_what_is_written_to_the_row_is_written_to_the_picture() -> None:
    picture = PIXELS.copy()
    row, step = one_long_row(words(picture[2:9, 5:12]))
    row[step + 3] = 0
    assert not picture[3, 8].any()


@pytest.mark.parametrize("view", [np.s_[:], np.s_[3:20, 4:11], np.s_[::-1], np.s_[:, ::-1]], ids=str)
@pytest.mark.parametrize("is_turned", [False, True])
def test_pixels_are_picked_from_mirrored_and_turned_views_too(view: object, is_turned: bool) -> None:
    numbers = words(PIXELS)[view]
    numbers = numbers.T if is_turned else numbers
    ys, xs = (np.random.default_rng(3).integers(0, size, 50) for size in numbers.shape)
    assert np.array_equal(picked(numbers, ys, xs), numbers[ys, xs])
