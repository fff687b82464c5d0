"""Areas of the parametric shapes against formulas; their parameters."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import signed_area, total_area
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.scan import cover
from glasscap.core.shapes.kinds import library_shape
from glasscap.core.shapes.library.rectangle import limited_radii, rectangle_outline, rectangle_polygon
from glasscap.core.shapes.library.table import GROUPS, SHAPES, complete_params, find_shape
from glasscap.core.shapes.outlines import own_box, polygons_of_shape

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


@pytest.mark.parametrize("name", [s.name for s in SHAPES.values() if s.polygon is not None])
def test_the_curves_agree_with_the_formula(name: str) -> None:
    spec = find_shape(name)
    values = dict(complete_params(name, [("corner", 30.0)] if name == "rectangle" else []))
    curved = total_area(flatten(spec.outline(400, 300, values), tolerance=1e-3))
    assert curved == pytest.approx(total_area(spec.polygon(400, 300, values, 1e-3)), rel=1e-4)


def _values(name: str, draw: st.DataObject | None = None) -> dict[str, float]:
    given_params = []
    if draw is not None:
        for p in find_shape(name).stored:
            high = min(p.high, 400.0)
            value = draw.draw(st.integers(int(p.low), int(high)) if p.is_whole else st.floats(p.low, high))
            given_params.append((p.name, float(value)))
    return dict(complete_params(name, given_params))


@pytest.mark.parametrize("name", list(SHAPES))
@settings(max_examples=12, deadline=None)
@given(data=st.data(), width=st.floats(20, 900), height=st.floats(20, 900))
def test_every_shape_fills_its_frame_with_contours_that_do_not_overlap(
    name: str, data: st.DataObject, width: float, height: float
) -> None:
    spec = find_shape(name)
    height = width if spec.has_equal_sides else height
    outline = spec.outline(width, height, _values(name, data))
    box = outline_box(outline)
    assert (box.width, box.height) == pytest.approx((width, height), rel=1e-6)
    assert box.centre == pytest.approx((0, 0), abs=1e-6 * max(width, height))
    flat = flatten(outline, tolerance=0.02)
    areas = [signed_area(p) for p in flat]
    rings = [shapely.buffer(shapely.Polygon(p), 0) for p in flat]
    solid = shapely.union_all([r for r, a in zip(rings, areas, strict=True) if a > 0]).area
    holes = sum(r.area for r, a in zip(rings, areas, strict=True) if a < 0)
    # Where two parts overlapped, or a contour crossed itself, the signed sum would differ.
    assert sum(areas) == pytest.approx(solid - holes, rel=1e-5, abs=1e-5 * width * height)


def _area(name: str, w: float, h: float, **values: float) -> float:
    shape = library_shape(name, **values)
    return sum(signed_area(p) for p in polygons_of_shape(shape, w, h, tolerance=1e-5))


@pytest.mark.parametrize("exponent", [2.0, 2.5, 4.0, 8.0])
def test_superellipse_area(exponent: float) -> None:
    # A = 4 a b Gamma(1 + 1/n)^2 / Gamma(1 + 2/n): DLMF 5.12 (Dirichlet's integral).
    expected = 4 * 200 * 150 * math.gamma(1 + 1 / exponent) ** 2 / math.gamma(1 + 2 / exponent)
    assert _area("squircle", 400, 300, fullness=exponent) == pytest.approx(expected, rel=1e-6)


@pytest.mark.parametrize("sides", [3, 5, 6, 7, 12])
def test_regular_polygon_area(sides: int) -> None:
    # n R^2 sin(2 pi / n) / 2: handbook formula (Abramowitz & Stegun 4.3 for the half sine rule).
    radius = 100.0
    shape = library_shape("polygon", sides=float(sides))
    box = own_box(shape)
    assert box is not None
    found = _area("polygon", box.width, box.height, sides=float(sides))
    assert found == pytest.approx(sides * radius**2 * math.sin(2 * math.pi / sides) / 2, rel=1e-9)


@pytest.mark.parametrize(("points", "depth"), [(5, 61.8), (8, 40.0), (24, 16.0)])
def test_star_area(points: int, depth: float) -> None:
    # 2 n triangles with sides R and r about the angle pi / n: n R r sin(pi / n).
    box = own_box(library_shape("star", points=float(points), depth=depth))
    assert box is not None
    expected = points * 100 * (100 - depth) * math.sin(math.pi / points)
    found = _area("star", box.width, box.height, points=float(points), depth=depth)
    assert found == pytest.approx(expected, rel=1e-9)


def test_ring_segment_and_lens_areas() -> None:
    assert _area("ring", 200, 200, width=36.0) == pytest.approx(math.pi * (100**2 - 64**2), rel=1e-6)
    assert _area("half-round", 200, 100, cut=50.0) == pytest.approx(math.pi * 100**2 / 2, rel=1e-6)
    # Two circular segments r^2 (theta - sin theta) / 2 (Abramowitz & Stegun 4.3 for the sine).
    x, y = 60.0, 100.0
    radius = (y * y + x * x) / (2 * x)
    theta = 2 * math.asin(y / radius)
    assert _area("lens", 120, 200) == pytest.approx(radius**2 * (theta - math.sin(theta)), rel=1e-6)


def test_constant_width() -> None:
    # Barbier's theorem: every curve of constant width w has the perimeter pi w.
    box = own_box(library_shape("rolling"))
    assert box is not None
    (flat,) = polygons_of_shape(library_shape("rolling"), box.width, box.height, tolerance=1e-6)
    around = np.hypot(*(np.roll(flat, -1, axis=0) - flat).T).sum()
    assert around == pytest.approx(math.pi * 200 * math.cos(math.pi / 6), rel=1e-6)


def test_the_library_is_large_grouped_and_found_by_everyday_words() -> None:
    assert len(SHAPES) >= 60
    assert {s.group for s in SHAPES.values()} == set(GROUPS)
    assert all(len(s.words) >= 3 for s in SHAPES.values())
    assert len({s.label for s in SHAPES.values()} - {"Star"}) >= len(SHAPES) - 2


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
        ("brush", [], "no such shape"),
        ("circle", [("corner", 1.0)], "no parameters"),
        ("rectangle", [("corner", -1.0)], "out of range"),
        ("rectangle", [("corner", math.nan)], "out of range"),
    ],
)
def test_wrong_parameters_are_refused(name: str, given_params: list[tuple[str, float]], word: str) -> None:
    with pytest.raises(ShapeError, match=word):
        complete_params(name, given_params)


@pytest.mark.parametrize(
    ("name", "size"),
    [("star", (190, 181)), ("squircle", (300, 200)), ("ring", (240, 240)), ("hexagon", (260, 225))],
)
def test_coverage_sums_to_the_outline_s_area(name: str, size: tuple[int, int]) -> None:
    flat = polygons_of_shape(library_shape(name), *size, tolerance=1 / 512)
    placed = tuple(p + np.array([200.3, 170.7]) for p in flat)
    total = cover(placed, PixelBox(0, 0, 420, 360)).area
    assert total == pytest.approx(_area(name, *size), rel=1e-4)
