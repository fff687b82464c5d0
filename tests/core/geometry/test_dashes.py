"""Dashes against true path lengths."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.dashes import dash_polygons, dash_spans, fitted_pattern, path_length
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.shapes.library.ellipse import ellipse_polygon

WIDTH = 8.0


def dashes_of(polygons, pattern, **options):
    chosen = {"offset": 0.0, "width": WIDTH, "cap": "butt", "is_even": True, "tolerance": 1 / 512} | options
    return dash_polygons(polygons, pattern, **chosen)


def test_dashes_of_a_circle_have_their_length_and_none_is_short() -> None:
    circle = ellipse_polygon(600, 600, {}, 1 / 4096)
    found = dashes_of(circle, (14.0, 7.0))
    count = round(2 * math.pi * 300 / 21)
    assert len(found) == count
    # Ends stand square to the chord they fall on: 0.003 px.
    # The regions reach 1 px past the band on both sides; on a curve a strip's area is length times width.
    lengths = [abs(signed_area(p)) / (WIDTH + 2) for p in found]
    assert lengths == pytest.approx([2 * math.pi * 300 / count * 2 / 3] * count, rel=3e-4)


def ramanujan(a: float, b: float) -> float:
    """Perimeter of an ellipse: S. Ramanujan, Modular equations and approximations to pi (1914), from memory."""
    h = ((a - b) / (a + b)) ** 2
    return math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))


@pytest.mark.parametrize(("a", "b"), [(300, 200), (250, 240), (120, 60)])
def test_the_path_length_of_an_ellipse_is_the_published_series(a: float, b: float) -> None:
    (polygon,) = ellipse_polygon(2 * a, 2 * b, {}, 1 / 4096)
    assert path_length(polygon) == pytest.approx(ramanujan(a, b), rel=1e-5)


def test_dashes_of_an_ellipse_fill_two_thirds_of_its_length() -> None:
    ellipse = ellipse_polygon(600, 400, {}, 1 / 4096)
    total = sum(abs(signed_area(p)) for p in dashes_of(ellipse, (14.0, 7.0))) / (WIDTH + 2)
    assert total == pytest.approx(ramanujan(300, 200) * 2 / 3, rel=1e-4)


def test_without_even_ends_lengths_are_as_typed_but_for_the_last() -> None:
    circle = ellipse_polygon(600, 600, {}, 1 / 4096)
    lengths = [abs(signed_area(p)) / (WIDTH + 2) for p in dashes_of(circle, (14.0, 7.0), is_even=False)]
    assert lengths[:-1] == pytest.approx([14.0] * (len(lengths) - 1), rel=3e-4)


def test_an_odd_pattern_is_repeated() -> None:
    # SVG 2, 13.5.6.
    assert fitted_pattern((5.0, 3.0, 2.0), 100, is_even=False) == (5, 3, 2, 5, 3, 2)


def test_the_offset_begins_within_the_pattern() -> None:
    # SVG 2, 13.5.6: with offset 3 of 5 2 the path begins with the last 2 px of a dash.
    # The one that begins at 18 runs on over the start.
    spans = sorted(dash_spans((5.0, 2.0), 3, 20))
    assert np.array(spans) == pytest.approx(np.array([(4, 9), (11, 16), (18, 22)]))


def test_a_dash_across_the_start_is_one_dash() -> None:
    spans = dash_spans((6.0, 4.0), 3, 20)
    assert len(spans) == 2
    assert sum(end - start for start, end in spans) == pytest.approx(12)


def test_no_dash_begins_at_the_end_by_rounding() -> None:
    for length in np.random.default_rng(3).uniform(100, 900, 200):
        pattern = fitted_pattern((14.0, 7.0), length, is_even=True)
        spans = dash_spans(pattern, 0.0, length)
        assert spans[0][0] == 0 and len(spans) == round(length / 21)
        assert spans[-1][1] < length - 1


def test_round_caps_add_discs_and_dots_are_discs() -> None:
    square = (np.array([[0, 0], [400, 0], [400, 400], [0, 400.0]]),)
    dots = dashes_of(square, (0.0, 20.0), cap="round")
    assert len(dots) == 80
    assert abs(signed_area(dots[3])) == pytest.approx(math.pi * 16, rel=1e-3)


def test_gaps_alone_leave_nothing() -> None:
    assert dashes_of((np.array([[0, 0], [40, 0], [40, 40.0]]),), (0.0, 5.0)) == ()


@given(st.floats(1, 50), st.floats(1, 50), st.floats(-200, 200), st.floats(30, 5000))
def test_dashes_cover_their_share(dash: float, gap: float, offset: float, length: float) -> None:
    pattern = fitted_pattern((dash, gap), length, is_even=True)
    total = sum(end - start for start, end in dash_spans(pattern, offset, length))
    assert total == pytest.approx(length * dash / (dash + gap), rel=1e-6)
