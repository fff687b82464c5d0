"""SVG path data against the grammar's cases and the arc notes of SVG 2."""

import math

import numpy as np
import pytest
from fontTools.pens.areaPen import AreaPen
from fontTools.svgLib import parse_path
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Outline, straight_contour
from glasscap.core.geometry.path_data import read_path_data, write_path_data
from glasscap.core.geometry.pen import Pen
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.shapes.kinds import library_shape
from glasscap.core.shapes.library.table import SHAPES
from glasscap.core.shapes.outlines import outline_of


def _ends(data: str) -> list[list[tuple[float, float]]]:
    return [[tuple(p) for p in c[:-1:3].round(9).tolist()] for c in read_path_data(data).contours]


# SVG 2, 9.3.9: the grammar, one case a rule.
GRAMMAR = {
    "separators are optional": ("M0,0L10,0 10 10", [[(0, 0), (10, 0), (10, 10)]]),
    "no space before a sign": ("M0 0L10-5L10+5", [[(0, 0), (10, -5), (10, 5)]]),
    "a second point without a space": ("M0 0L.5.5 1.5.25", [[(0, 0), (0.5, 0.5), (1.5, 0.25)]]),
    "exponents": ("M0 0L1e1 0L1E+1 1e-1", [[(0, 0), (10, 0), (10, 0.1)]]),
    "pairs after a move are lines": ("M0 0 10 0 10 10", [[(0, 0), (10, 0), (10, 10)]]),
    "relative pairs after a relative move": ("m5 5 10 0 0 10", [[(5, 5), (15, 5), (15, 15)]]),
    "level and upright": ("M0 0h10v10H0", [[(0, 0), (10, 0), (10, 10), (0, 10)]]),
    "repeated commands": ("M0 0h5 5v10h-10", [[(0, 0), (5, 0), (10, 0), (10, 10), (0, 10)]]),
    "after a close the point is the start": ("m10 10h5v5zl-5 0 0-5z", [[(10, 10), (15, 10), (15, 15)], [(10, 10), (5, 10), (5, 5)]]),
    "arc flags need no separator": ("M0 0a5 5 0 0110 0v5h-10z", None),
    "an error ends the data": ("M0 0L10 0L10 10L5 x", [[(0, 0), (10, 0), (10, 10)]]),
    "an unknown letter ends the data": ("M0 0L10 0L10 10B5 5", [[(0, 0), (10, 0), (10, 10)]]),
}  # fmt: skip


@pytest.mark.parametrize("name", list(GRAMMAR))
def test_grammar(name: str) -> None:
    data, expected = GRAMMAR[name]
    found = _ends(data)
    assert found == expected if expected is not None else len(found) == 1


@pytest.mark.parametrize("data", ["", "L10 10", "10 10", "z", "M", "M5", "M0 0", "M0 0 5 5"])
def test_data_without_a_shape_is_refused(data: str) -> None:
    if data == "M0 0 5 5":
        assert signed_area(flatten(read_path_data(data), tolerance=1)[0]) == 0
        return
    with pytest.raises(ShapeError, match="no shape"):
        read_path_data(data)


def test_smooth_curves_reflect_the_last_control_point() -> None:
    (contour,) = read_path_data("M0 0C0 10 10 10 10 0S20-10 20 0Z").contours
    assert contour[4].tolist() == [10, -10]
    (contour,) = read_path_data("M0 0Q5 10 10 0T20 0Z").contours
    assert contour[4] == pytest.approx([10 + 2 / 3 * 5, -20 / 3])
    # After another command the control point is the current point.
    (contour,) = read_path_data("M0 0L10 0S20-10 20 0Z").contours
    assert contour[4].tolist() == [10, 0]


@given(
    st.floats(1, 200), st.floats(1, 200), st.floats(-180, 180), st.booleans(), st.booleans(),
    st.floats(-300, 300), st.floats(-300, 300),
)  # fmt: skip
def test_arcs_lie_on_their_ellipse(
    rx: float, ry: float, turn: float, is_large: bool, is_sweep: bool, x: float, y: float
) -> None:
    # SVG 2, B.2.5: radii too small for the ends are scaled up until they just reach.
    if math.hypot(x, y) < 1:
        return
    data = f"M0 0A{rx!r} {ry!r} {turn!r} {int(is_large)} {int(is_sweep)} {x!r} {y!r}Z"
    (contour,) = read_path_data(data).contours
    points = contour[:-1:3]
    assert np.abs(points - [x, y]).sum(axis=1).min() < 1e-6
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    u, v = (x * c + y * s) / 2, (-x * s + y * c) / 2
    grown = max(1.0, math.sqrt((u / rx) ** 2 + (v / ry) ** 2))
    unit = np.stack([(points @ [c, s]) / (rx * grown), (points @ [-s, c]) / (ry * grown)], axis=1)
    if len(unit) >= 3:
        from glasscap.core.geometry.conic_fit import fit_circle

        rim = fit_circle(unit)
        assert not rim or rim.rx == pytest.approx(1, rel=1e-4)


@pytest.mark.parametrize(
    ("flags", "expected"), [("0 0", 1), ("0 1", 1), ("1 0", 3), ("1 1", 3)], ids=["00", "01", "10", "11"]
)
def test_arc_flags_choose_among_four(flags: str, expected: int) -> None:
    # SVG 2, 9.3.8: two quarter or three-quarter arcs of a circle of radius 100.
    area = abs(signed_area(flatten(read_path_data(f"M0 100A100 100 0 {flags} 100 0Z"), tolerance=1e-4)[0]))
    quarter = math.pi * 10000 / 4
    assert area == pytest.approx(quarter - 5000 if expected == 1 else 3 * quarter + 5000, rel=1e-5)


@pytest.mark.parametrize("name", list(SHAPES))
def test_written_data_reads_the_same_here_and_elsewhere(name: str) -> None:
    outline = outline_of(library_shape(name), 300, 300)
    data = write_path_data(outline)
    again = read_path_data(data)
    assert [len(c) for c in again.contours] == [len(c) for c in outline.contours]
    assert all(np.abs(a - b).max() < 1e-5 for a, b in zip(again.contours, outline.contours, strict=True))
    pen = AreaPen()
    parse_path(data, pen)
    ours = sum(signed_area(p) for p in flatten(outline, tolerance=1e-4))
    assert abs(pen.value) == pytest.approx(abs(ours), rel=1e-4)


def parsed_anew(data: str) -> Outline:
    """Read data that was written so long ago that nothing of it is remembered."""
    for side in range(1, 40):
        write_path_data(Outline((straight_contour(np.array([[0.0, 0], [side, 0], [0, 1]])),)))
    return read_path_data(data)


coordinates = st.floats(-9e6, 9e6).map(lambda value: value / 3)


@given(
    st.lists(st.lists(st.tuples(coordinates, coordinates), min_size=2, max_size=5), min_size=1, max_size=4),
    st.sampled_from([3, 6]),
)
def test_what_was_just_written_reads_as_it_is_parsed(
    contours: list[list[tuple[float, float]]], decimals: int
) -> None:
    curved = np.array([*contours[0], *contours[0], *contours[0], contours[0][0]])
    straight = [straight_contour(np.array(corners)) for corners in contours]
    drop = np.array([(0.0, 0), (1, 5), (5, 1), (0, 0)])
    data = write_path_data(Outline((curved, *straight, drop)), decimals)
    at_once, parsed = read_path_data(data, "evenodd"), parsed_anew(data)
    assert (at_once.fill_rule, parsed.fill_rule) == ("evenodd", "nonzero")
    assert len(at_once.contours) == len(parsed.contours)
    assert all(a.tobytes() == b.tobytes() for a, b in zip(at_once.contours, parsed.contours, strict=True))


def test_numbers_are_written_as_short_as_they_can_be() -> None:
    triangle = straight_contour(np.array([[-0.0, 100], [0.125, -2.0000001], [1e-6, 1 / 3]]))
    assert write_path_data(Outline((triangle, triangle + 1))) == (
        "M0 100L0.125 -2L1e-6 0.333333ZM1 101L1.125 -1L1.000001 1.333333Z"
    )


@given(st.text(alphabet="MLHVCSQTAZmlhvcsqtaz0123456789.,-+eE \n", max_size=60))
def test_any_text_is_read_or_refused(data: str) -> None:
    try:
        outline = read_path_data(data)
    except ShapeError:
        return
    assert all(np.isfinite(c).all() for c in outline.contours)


def test_far_coordinates_are_refused() -> None:
    with pytest.raises(ShapeError, match="beyond"):
        read_path_data("M0 0L1e9 0L0 5Z")


def test_the_quick_reader_agrees_with_the_grammar_s() -> None:
    data = write_path_data(Pen().circle(0, 0, 50).circle(0, 0, 20, is_hole=True).outline())
    slow = read_path_data(data.replace("M", " M ").replace("C", ",\nC").replace(",\nC", " C "))
    quick = read_path_data(data)
    assert all(np.array_equal(a, b) for a, b in zip(slow.contours, quick.contours, strict=True))
