"""Areas of the parametric shapes against formulas; their parameters."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import total_area
from glasscap.core.shapes.library.rectangle import limited_radii, rectangle_outline, rectangle_polygon
from glasscap.core.shapes.library.table import SHAPES, complete_params, find_shape

side = st.floats(1, 4000)


@given(side, side)
def test_ellipse_area(width: float, height: float) -> None:
    # pi a b: Abramowitz & Stegun 17.3 gives the perimeter's integrals; the area is Archimedes'.
    flat = find_shape("ellipse").polygon(width, height, {}, 1 / 512)
    assert total_area(flat) == pytest.approx(math.pi * width * height / 4, rel=1e-9)


@given(side, side, st.lists(st.floats(0, 500), min_size=4, max_size=4))
def test_rounded_rectangle_area(width: float, height: float, radii: list[float]) -> None:
    values = dict(zip(("corner_tl", "corner_tr", "corner_br", "corner_bl"), radii, strict=True))
    used = limited_radii(width, height, values)
    expected = width * height - (1 - math.pi / 4) * sum(r * r for r in used)
    assert total_area(rectangle_polygon(width, height, values, 1 / 512)) == pytest.approx(expected, rel=1e-7)


def test_radii_that_meet_are_scaled_together() -> None:
    # CSS Backgrounds and Borders 3, 4.5: on a side of 100 with radii 80 and 120 both are halved.
    values = {"corner_tl": 80.0, "corner_tr": 120.0, "corner_br": 0.0, "corner_bl": 40.0}
    assert limited_radii(100, 400, values) == (40, 60, 0, 20)


@pytest.mark.parametrize("name", list(SHAPES))
def test_the_curves_agree_with_the_formula(name: str) -> None:
    spec = find_shape(name)
    values = dict(complete_params(name, [("corner", 30.0)] if spec.parameters else []))
    curved = total_area(flatten(spec.outline(400, 300, values), tolerance=1e-3))
    assert curved == pytest.approx(total_area(spec.polygon(400, 300, values, 1e-3)), rel=1e-4)


def test_square_corners_stay_corners() -> None:
    assert (
        len(
            rectangle_polygon(
                10, 20, dict.fromkeys(("corner_tl", "corner_tr", "corner_br", "corner_bl"), 0.0), 1
            )[0]
        )
        == 4
    )
    assert (
        len(
            rectangle_outline(
                10, 20, dict.fromkeys(("corner_tl", "corner_tr", "corner_br", "corner_bl"), 0.0)
            ).contours[0]
        )
        == 13
    )


def test_parameters() -> None:
    assert dict(complete_params("rectangle", [("corner", 5.0), ("corner_tr", 9.0)])) == {
        "corner_tl": 5.0,
        "corner_tr": 9.0,
        "corner_br": 5.0,
        "corner_bl": 5.0,
    }
    assert complete_params("circle") == ()


@pytest.mark.parametrize(
    ("name", "given_params", "word"),
    [
        ("blob", [], "no such shape"),
        ("circle", [("corner", 1.0)], "no parameters"),
        ("rectangle", [("corner", -1.0)], "out of range"),
        ("rectangle", [("corner", math.nan)], "out of range"),
    ],
)
def test_wrong_parameters_are_refused(name: str, given_params: list[tuple[str, float]], word: str) -> None:
    with pytest.raises(ShapeError, match=word):
        complete_params(name, given_params)
