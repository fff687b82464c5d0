"""Outlines of very many contours, normalised."""

import numpy as np
import pytest

from glasscap.core.geometry.boolean import normalised
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import FillRule, Outline, straight_contour
from glasscap.core.geometry.polygon import signed_areas

# More than are looked at at once.
COUNT = 600


def square(x: float, y: float, side: float) -> np.ndarray:
    return straight_contour(np.array([(x, y), (x + side, y), (x + side, y + side), (x, y + side)]))


def areas(outline: Outline) -> np.ndarray:
    return signed_areas(flatten(outline, tolerance=1e-6))


@pytest.mark.parametrize(("fill_rule", "kept"), [("evenodd", COUNT), ("nonzero", 1)])
def test_nested_squares(fill_rule: FillRule, kept: int) -> None:
    nested = Outline(tuple(square(n, n, 2.0 * (COUNT - n)) for n in range(COUNT)), fill_rule)
    made = normalised(nested)
    assert len(made.contours) == kept
    sides = 2.0 * (COUNT - np.arange(kept))
    assert areas(made) == pytest.approx(sides * sides * np.where(np.arange(kept) % 2, -1, 1))


def test_rows_of_squares_stay_as_they_are() -> None:
    rows = Outline(tuple(square(3.0 * n, 0, 2) for n in range(COUNT)))
    assert normalised(rows) is rows


@pytest.mark.parametrize("other", [3, 200, COUNT - 1])
def test_one_square_over_another_is_found_wherever_it_stands(other: int) -> None:
    squares = [square(3.0 * n, 0, 2) for n in range(COUNT)]
    squares[other] = square(3.0 * other - 2.5, 1, 2)
    assert areas(normalised(Outline(tuple(squares)))).sum() == pytest.approx(4 * COUNT - 1.5, abs=0.01)


def test_lines_and_single_points_are_left_out() -> None:
    line, point = straight_contour(np.array([(0.0, 9), (5, 9)])), np.full((4, 2), 3.0)
    made = normalised(Outline((line, square(0, 0, 2), point)))
    assert areas(made).tolist() == [4.0]
    assert normalised(Outline((line, point), "evenodd")).contours == ()
