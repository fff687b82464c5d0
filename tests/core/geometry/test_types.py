"""Maps and boxes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.types import Affine, Box, PixelBox, Similarity, cosine_sine, normal_degrees

small = st.floats(-100, 100)
affines = st.builds(Affine, small, small, small, small, small, small).filter(lambda m: abs(m.determinant) > 1e-2)


@given(affines, small, small)
def test_inverse_maps_back(m: Affine, x: float, y: float) -> None:
    assert m.inverse().apply(*m.apply(x, y)) == pytest.approx((x, y), abs=1e-4)


@given(affines, affines, small, small)
def test_after_is_one_map_then_the_other(m: Affine, n: Affine, x: float, y: float) -> None:
    assert m.after(n).apply(x, y) == pytest.approx(m.apply(*n.apply(x, y)), rel=1e-6, abs=1e-4)


@pytest.mark.parametrize(("degrees", "expected"), [(0, (1, 0)), (90, (0, 1)), (180, (-1, 0)), (-90, (0, -1))])
def test_quarter_turns_are_exact(degrees: float, expected: tuple[float, float]) -> None:
    assert cosine_sine(degrees) == expected


@given(st.floats(-2000, 2000))
def test_normal_degrees_is_the_same_direction(degrees: float) -> None:
    turned = normal_degrees(degrees)
    assert -180 < turned <= 180
    assert cosine_sine(turned) == pytest.approx(cosine_sine(degrees), abs=1e-9)


def test_similarity_turns_about_its_pivot() -> None:
    assert Similarity(1, 1, 2, 90, 5, 0).apply(2, 1) == pytest.approx((6, 3))


def test_boxes() -> None:
    assert Box(0.2, 0.5, 2.0000000001, 3).rounded_out() == PixelBox(0, 0, 2, 3)
    assert PixelBox(0, 0, 4, 4).intersection(PixelBox(3, 3, 9, 9)) == PixelBox(3, 3, 4, 4)
    assert PixelBox(5, 5, 5, 9).union(PixelBox(1, 1, 2, 2)) == PixelBox(1, 1, 2, 2)
    assert PixelBox(0, 0, 4, 4).holds(PixelBox(1, 1, 4, 4))
    assert not PixelBox(0, 0, 4, 4).holds(PixelBox(1, 1, 5, 4))


@given(st.tuples(*[st.integers(-6, 12)] * 4), st.tuples(*[st.integers(-6, 12)] * 4))
def test_a_box_less_a_hole_is_each_pixel_beside_it_once(
    box: tuple[int, int, int, int], hole: tuple[int, int, int, int]
) -> None:
    def pixels(part: PixelBox) -> list[tuple[int, int]]:
        return [(x, y) for y in range(part.y0, part.y1) for x in range(part.x0, part.x1)]

    parts = list(PixelBox(*box).less(PixelBox(*hole)))
    assert len(parts) <= 4
    assert not any(part.is_empty for part in parts)
    found = [pixel for part in parts for pixel in pixels(part)]
    assert sorted(found) == sorted(set(pixels(PixelBox(*box))) - set(pixels(PixelBox(*hole))))
