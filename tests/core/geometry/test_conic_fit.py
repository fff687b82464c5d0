"""Rims against published worked examples."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.conic_fit import fit_circle, fit_ellipse


def test_circle_of_gander_golub_and_strebel() -> None:
    # "Least-squares fitting of circles and ellipses", BIT 34 (1994), section 3: best geometric circle of six
    # points (values from memory): centre (4.7398, 2.9835), radius 4.7142, residual norm 1.1080.
    rim = fit_circle(np.array([[1, 7], [2, 6], [5, 8], [7, 7], [9, 5], [3, 7]], float))
    assert (rim.x, rim.y, rim.rx) == pytest.approx((4.7398, 2.9835, 4.7142), abs=1e-4)
    assert rim.misfit * math.sqrt(6) == pytest.approx(1.1080, abs=1e-4)


def test_ellipse_of_gander_golub_and_strebel() -> None:
    # The same paper, section 5: best geometric ellipse of eight points (values from memory):
    # centre (2.6996, 3.8160), axes 6.5187 and 3.0319, angle 0.3596, residual norm 1.1719.
    rim = fit_ellipse(np.array([[1, 7], [2, 6], [5, 8], [7, 7], [9, 5], [3, 7], [6, 2], [8, 4]], float))
    assert (rim.x, rim.y, rim.rx, rim.ry) == pytest.approx((2.6996, 3.8160, 6.5187, 3.0319), abs=1e-4)
    assert math.radians(rim.degrees) == pytest.approx(0.3596, abs=1e-4)
    assert rim.misfit * math.sqrt(8) == pytest.approx(1.1719, abs=1e-4)


@given(st.floats(20, 900), st.floats(0.1, 1), st.floats(-89, 89), st.integers(5, 12))
def test_points_of_an_ellipse_give_it_back(rx: float, share: float, degrees: float, count: int) -> None:
    t = np.linspace(0.3, 5.5, count)
    turn = math.radians(degrees)
    u, v = rx * np.cos(t), rx * share * np.sin(t)
    points = np.stack([u * math.cos(turn) - v * math.sin(turn), u * math.sin(turn) + v * math.cos(turn)], axis=1)
    rim = fit_ellipse(points + np.array([500, 400]))
    assert rim
    assert (rim.x, rim.y, rim.rx, rim.ry) == pytest.approx((500, 400, rx, rx * share), abs=1e-3 * rx)


@pytest.mark.parametrize(
    ("points", "why"),
    [([[0, 0], [1, 1]], "three"), ([[0, 0], [1, 1], [2, 2]], "line"), ([[3, 3]] * 4, "one place")],
)
def test_a_circle_that_is_none_says_why(points: list[list[float]], why: str) -> None:
    rim = fit_circle(np.array(points, float))
    assert not rim
    assert why in rim.why
