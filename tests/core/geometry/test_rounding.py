"""Rounded corners against formulas, on straight and on bent sides."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Outline, straight_contour
from glasscap.core.geometry.pen import Pen
from glasscap.core.geometry.polygon import total_area
from glasscap.core.geometry.rounding import corner_frames, rounded
from glasscap.core.shapes.library.straight import regular


def _area(outline: Outline) -> float:
    return total_area(flatten(outline, tolerance=1e-7))


def _box(width: float, height: float) -> Outline:
    return Outline((straight_contour(np.array([[0, 0], [width, 0], [width, height], [0, height]], float)),))


@pytest.mark.parametrize("radius", [1.0, 12.5, 30.0, 90.0])
def test_a_box_loses_the_corners_of_its_arcs(radius: float) -> None:
    used = min(radius, 30.0)
    assert _area(rounded(_box(100, 60), radius)) == pytest.approx(6000 - (4 - math.pi) * used**2, rel=1e-7)


@given(st.integers(3, 12), st.floats(0.5, 400))
@settings(deadline=None)
def test_a_polygon_s_rounding_ends_in_its_inscribed_circle(sides: int, radius: float) -> None:
    # n corners lose r^2 (tan(pi/n) - pi/n) each; beyond the apothem the whole is a circle.
    apothem = 100 * math.cos(math.pi / sides)
    used = min(radius, apothem)
    expected = sides * 100**2 * math.sin(2 * math.pi / sides) / 2
    expected -= sides * used**2 * (math.tan(math.pi / sides) - math.pi / sides)
    assert _area(rounded(regular(sides), radius)) == pytest.approx(expected, rel=1e-6)


def test_single_corners_have_their_own_radius() -> None:
    made = rounded(_box(100, 60), 0, {2: 20.0})
    assert _area(made) == pytest.approx(6000 - (1 - math.pi / 4) * 400, rel=1e-8)
    made = rounded(_box(100, 60), 10, {0: 0.0})
    assert _area(made) == pytest.approx(6000 - 3 * (1 - math.pi / 4) * 100, rel=1e-8)


def test_an_arc_between_bent_sides_touches_both() -> None:
    # A lens of two arcs of radius 100: the rounding circle lies on the axis, 100 - r from both centres.
    half = math.degrees(math.acos(0.6))
    lens = Pen().arc(-60, 0, 100, -half, 2 * half).arc(60, 0, 100, 180 - half, 2 * half).close()
    (flat,) = flatten(rounded(lens.outline(), 12), tolerance=1e-5)
    top = flat[flat[:, 1].argmin()]
    centre_y = -math.sqrt((100 - 12) ** 2 - 60**2)
    assert top == pytest.approx((0, centre_y - 12), abs=1e-3)
    near = flat[flat[:, 1] < centre_y - 9]
    assert np.hypot(near[:, 0], near[:, 1] - centre_y) == pytest.approx(12, abs=1e-3)


@given(st.integers(3, 9), st.floats(10, 90), st.floats(0.5, 200))
@settings(max_examples=40, deadline=None)
def test_rounded_stars_do_not_cross_themselves(points: int, depth: float, radius: float) -> None:
    from glasscap.core.shapes.library.badges import star_corners

    star = Pen().polygon(star_corners(points, 100 - depth)).outline()
    (flat,) = flatten(rounded(star, radius), tolerance=1e-3)
    assert shapely.Polygon(flat).is_valid


def test_smooth_outlines_have_no_corners() -> None:
    circle = Pen().circle(0, 0, 50).outline()
    assert len(corner_frames(circle)[0]) == 0
    assert rounded(circle, 10).contours[0] is circle.contours[0]
