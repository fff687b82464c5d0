"""Parallel outlines against Steiner's formula and closed forms."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.geometry.offset import offset_polygons, region_of
from glasscap.core.geometry.polygon import total_area
from glasscap.core.shapes.library.ellipse import ellipse_polygon

TOLERANCE = 1 / 4096
SQUARE = np.array([[0, 0], [100, 0], [100, 100], [0, 100.0]])


def regular(count: int, radius: float) -> np.ndarray:
    angle = np.arange(count) * 2 * np.pi / count
    return np.stack([np.cos(angle), np.sin(angle)], axis=1) * radius


def perimeter(polygon: np.ndarray) -> float:
    return float(np.hypot(*(np.roll(polygon, -1, axis=0) - polygon).T).sum())


@pytest.mark.parametrize("count", [3, 4, 5, 8, 31])
@pytest.mark.parametrize("distance", [0.5, 7.0, 60.0])
def test_convex_polygons_grow_by_steiners_formula(count: int, distance: float) -> None:
    # Area of the parallel body A + P d + pi d^2 (J. Steiner 1840; any text on convex geometry).
    polygon = regular(count, 50)
    expected = total_area((polygon,)) + perimeter(polygon) * distance + math.pi * distance**2
    found = total_area(offset_polygons((polygon,), distance, tolerance=TOLERANCE))
    assert found == pytest.approx(expected, rel=2e-5)


@pytest.mark.parametrize("distance", [-40.0, -3.0, 3.0, 60.0])
def test_a_circle_stays_a_circle(distance: float) -> None:
    found = total_area(offset_polygons(ellipse_polygon(200, 200, {}, TOLERANCE), distance, tolerance=TOLERANCE))
    # Chords may lie off the circle by the tolerance, all along it.
    radius = 100 + distance
    assert found == pytest.approx(math.pi * radius**2, abs=2 * math.pi * radius * TOLERANCE)


def star(outer: float, inner: float, points: int) -> np.ndarray:
    angle = np.arange(2 * points) * np.pi / points
    radius = np.where(np.arange(2 * points) % 2 == 0, outer, inner)
    return np.stack([np.cos(angle), np.sin(angle)], axis=1) * radius[:, None]


@pytest.mark.parametrize("join", ["round", "mitre", "bevel"])
def test_a_star_grows_by_its_closed_form(join: str) -> None:
    # Each edge adds l d; each tip its join; each notch takes the kite both strips share, d^2 tan(notch / 2).
    outer, inner, points, d = 100.0, 60.0, 5, 4.0
    polygon = star(outer, inner, points)
    edge = polygon[1] - polygon[0]
    along, back = edge / np.hypot(*edge), np.array([edge[0], -edge[1]]) / np.hypot(*edge)
    tip_turn = math.acos(np.clip(np.dot(-back, along), -1, 1))
    notch_turn = tip_turn - 2 * math.pi / points
    joins = {
        "round": tip_turn / 2 * d * d,
        "bevel": math.sin(tip_turn) / 2 * d * d,
        "mitre": math.tan(tip_turn / 2) * d * d,
    }
    expected = total_area((polygon,)) + perimeter(polygon) * d
    expected += points * (joins[join] - math.tan(notch_turn / 2) * d * d)
    found = offset_polygons((polygon,), d, tolerance=TOLERANCE, join=join, mitre_limit=10)
    assert total_area(found) == pytest.approx(expected, rel=1e-6)


def test_a_mitre_past_its_limit_is_bevelled() -> None:
    # SVG 2, 13.5.4: the ratio at a right angle is sqrt 2.
    areas = [
        total_area(offset_polygons((SQUARE,), 10, tolerance=TOLERANCE, join="mitre", mitre_limit=limit))
        for limit in (1.42, 1.41)
    ]
    assert areas == pytest.approx([14_400, 14_200])


def test_inwards_a_notch_is_joined_too() -> None:
    notched = np.array([[0, 0], [100, 0], [100, 100], [50, 100], [50, 50], [0, 50.0]])
    areas = [
        total_area(offset_polygons((notched,), -10, tolerance=TOLERANCE, join=j)) for j in ("mitre", "bevel")
    ]
    assert areas == pytest.approx([80 * 30 + 30 * 50, 80 * 30 + 30 * 50 + 50])


def test_nothing_is_left_of_a_shape_moved_in_too_far() -> None:
    assert offset_polygons((SQUARE,), -51, tolerance=TOLERANCE) == ()


def test_a_hole_shrinks_while_its_border_grows() -> None:
    hole = (SQUARE * 0.4 + 30)[::-1]
    found = offset_polygons((SQUARE, hole), 5, tolerance=TOLERANCE, join="mitre")
    assert total_area(found) == pytest.approx(110**2 - 30**2)


@given(st.floats(-30, 30), st.floats(-30, 30))
def test_offsets_are_nested(one: float, other: float) -> None:
    low, high = sorted((one, other))
    polygon = star(100, 60, 5)
    inner, outer = (total_area(offset_polygons((polygon,), d, tolerance=1 / 512)) for d in (low, high))
    assert inner <= outer + 1e-6


@pytest.mark.parametrize("distance", [12.0, -12.0, 3.0])
def test_an_outline_of_very_many_points_is_moved_as_exactly(distance: float) -> None:
    angle = np.linspace(0, 2 * math.pi, 6000, endpoint=False)
    radius = 200 + 3 * np.sin(90 * angle) + np.random.default_rng(4).normal(0, 0.4, len(angle))
    ragged = np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1)
    tolerance = 1 / 32
    moved = region_of(offset_polygons((ragged,), distance, tolerance=tolerance))
    along = shapely.points(shapely.get_coordinates(shapely.segmentize(moved.boundary, 0.1)))
    away = shapely.distance(along, shapely.LinearRing(ragged))
    # By the definition of a parallel: every point of it lies at the distance from the outline itself.
    assert np.abs(away - abs(distance)).max() < 2.5 * tolerance
