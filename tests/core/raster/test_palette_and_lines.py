"""Proposed colours, and the width of a line in a photo."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.raster.line_width import colours_along, width_across
from glasscap.core.raster.palette import proposed_colours


def test_the_colours_of_a_flag_are_proposed_most_frequent_first() -> None:
    rgba = np.full((60, 100, 4), 255, np.uint8)
    rgba[:, :60, :3] = (180, 83, 44)
    rgba[:, 60:90, :3] = (11, 122, 117)
    rgba[:, 90:, :3] = (250, 240, 220)
    found = proposed_colours(rgba, 3)
    assert [max(abs(a - b) for a, b in zip(c, t, strict=True)) <= 12 for c, t in zip(
        found, [(180, 83, 44), (11, 122, 117), (250, 240, 220)], strict=True)] == [True] * 3  # fmt: skip


def test_one_colour_is_proposed_once_and_an_empty_picture_proposes_none() -> None:
    rgba = np.full((9, 9, 4), 77, np.uint8)
    rgba[..., 3] = 255
    assert proposed_colours(rgba, 5) == ((77, 77, 77),)
    assert proposed_colours(np.zeros((9, 9, 4), np.uint8), 5) == ()


def line_photo(width: float, angle: float) -> np.ndarray:
    """A dark line of a width through the middle of a light picture, anti-aliased."""
    y, x = np.mgrid[0:200, 0:200] + 0.5
    away = np.abs((x - 100) * np.cos(angle) + (y - 100) * np.sin(angle))
    cover = np.clip(width / 2 - away + 0.5, 0, 1)[..., None]
    rgba = np.full((200, 200, 4), 255, np.uint8)
    rgba[..., :3] = (1 - cover) * (230, 210, 180) + cover * (30, 60, 50)
    return rgba


@given(st.floats(4, 40), st.floats(0, 3.1))
def test_a_line_is_as_wide_as_it_was_drawn(width: float, angle: float) -> None:
    rgba = line_photo(width, angle)
    reach = 45.0
    start = (100 - reach * np.cos(angle), 100 - reach * np.sin(angle))
    end = (100 + reach * np.cos(angle), 100 + reach * np.sin(angle))
    found = width_across(colours_along(rgba, start, end, 360), 2 * reach, 2 * reach)
    assert found == pytest.approx(width, abs=0.35)


def test_where_there_is_no_line_there_is_no_width() -> None:
    flat = np.full((20, 20, 4), 200, np.uint8)
    assert width_across(colours_along(flat, (1, 1), (18, 18), 60), 24, 24) is None
    half = flat.copy()
    half[:, 10:, :3] = 10
    assert width_across(colours_along(half, (1, 5), (18, 5), 60), 17, 17) is None
    assert not colours_along(flat, (50, 50), (60, 60), 9).any()
