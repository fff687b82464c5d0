"""A closed path begins on top of its frame, whatever its points are and however it is turned."""

import math

import numpy as np
import pytest

from glasscap.core.geometry.beginning import begun_on_top
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.library.ellipse import ellipse_polygon


@pytest.mark.parametrize("tolerance", [1 / 4, 1 / 64, 1 / 2048])
@pytest.mark.parametrize("first", [0, 7])
def test_a_circle_begins_on_top_however_finely_it_is_drawn(tolerance: float, first: int) -> None:
    (circle,) = ellipse_polygon(200, 200, {}, tolerance)
    begun = begun_on_top(np.roll(circle, first, axis=0), Affine())
    assert begun[0] == pytest.approx((0, -100), abs=tolerance)
    # It goes on clockwise, and is the same circle.
    assert begun[1, 0] > 0 and signed_area(begun) == pytest.approx(signed_area(circle))


def test_what_is_turned_keeps_its_beginning() -> None:
    square = np.array([[-1.0, -1], [1, -1], [1, 1], [-1, 1]])
    turn = Affine.translation(50, 20).after(Affine.rotation(90)).after(Affine.scaling(10))
    points = np.array([turn.apply(*p) for p in square])
    begun = begun_on_top(points, turn.inverse())
    # Up is to the right now.
    assert begun[0] == pytest.approx((60, 20))
    assert len(begun) == 5


def test_of_several_crossings_the_topmost_counts() -> None:
    angle = np.linspace(0, 2 * math.pi, 721)[:-1]
    radius = 60 + 30 * np.cos(4 * angle)
    flower = np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1)
    assert begun_on_top(flower, Affine())[0] == pytest.approx((0, -90), abs=0.01)


def test_at_a_corner_it_begins_with_the_corner() -> None:
    for slip in (0.0, 1e-13, -1e-13):
        notched = np.array([[0.0 + slip, 2], [5, 0], [5, 9], [-5, 9], [-5, 0]])
        begun = begun_on_top(notched, Affine())
        assert len(begun) == 5
        assert np.abs(begun - notched).max() < 1e-9


def test_what_has_no_width_begins_as_it_did() -> None:
    line = np.array([[3.0, 0], [3, 5], [3, 9]])
    assert begun_on_top(line, Affine()) is line
