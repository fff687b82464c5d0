"""Parallels of ragged contours as a ball rolls around them, against Steiner's formula and another library's (GEOS)."""

import math
from typing import cast

import numpy as np
import pytest
import shapely

from glasscap.core.geometry.offset import ragged_parallel
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.rolled import rolled_contour
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.core.shapes.rough import RoughKind, displaced, ripples

TOLERANCE, ARC_STEP = 1 / 32, math.pi / 100


def rolled(polygon: np.ndarray, distance: float) -> np.ndarray | None:
    return rolled_contour(polygon, distance, tolerance=TOLERANCE, arc_step=ARC_STEP)


def ragged(kind: str, amount: float) -> np.ndarray:
    flat = ellipse_polygon(400, 300, {}, 1 / 64)
    return displaced(ripples(flat, cast("RoughKind", kind), scale=20, seed=3), amount)[0]


def ring(radius: float, count: int = 600) -> np.ndarray:
    angle = np.linspace(0, 2 * math.pi, count, endpoint=False)
    return radius * np.stack([np.cos(angle), np.sin(angle)], axis=1)


@pytest.mark.parametrize("kind", ["torn", "brushed", "deckled", "stamped"])
@pytest.mark.parametrize("amount", [1, 4, 12])
@pytest.mark.parametrize("distance", [4, 10, 40, -4, -12])
def test_it_is_the_general_offset(kind: str, amount: float, distance: float) -> None:
    polygon = ragged(kind, amount)
    made = rolled(polygon, distance)
    if made is None:
        # Where its way would cross itself.
        assert distance < 0
        return
    there = shapely.buffer(shapely.buffer(shapely.Polygon(polygon), 0), distance, quad_segs=24)
    found = shapely.buffer(shapely.Polygon(made), 0)
    # Area that is in one alone, by length: half the tolerance on average.
    assert shapely.symmetric_difference(found, there).area < TOLERANCE * there.length
    if amount > 4:
        # Here and there a pocket lies behind a strait.
        return
    # Where two arcs meet at a small angle their crossing lies farther off than they do.
    assert shapely.hausdorff_distance(found.boundary, there.boundary) < 4 * TOLERANCE + 0.01 * abs(distance)


def test_few_points_are_left_of_many() -> None:
    polygon = ragged("torn", 12)
    made = rolled_contour(polygon, 40, tolerance=TOLERANCE, arc_step=math.pi / 16)
    assert made is not None and len(made) * 5 < len(polygon)


@pytest.mark.parametrize("distance", [0.5, 10.0, 90.0])
def test_around_a_convex_body_it_has_the_area_that_steiner_tells(distance: float) -> None:
    # Steiner's formula for a convex body: A + P d + pi d^2. Long sides have points set on them.
    corners = np.array([(0.0, 0), (100, 0), (100, 60), (0, 60)])
    made = rolled(corners, distance)
    assert made is not None
    told = 6000 + 320 * distance + math.pi * distance**2
    assert told - TOLERANCE * (320 + 2 * math.pi * distance) < signed_area(made) <= told + 1e-6


def test_a_ball_has_no_room_in_a_small_hole() -> None:
    hole = ring(8)[::-1]
    smaller, none = rolled(hole, 3), rolled(hole, 9)
    assert smaller is not None and none is not None
    assert signed_area(smaller) == pytest.approx(-math.pi * 25, rel=0.01)
    assert len(none) == 0
    ground = ring(50)
    assert len(ragged_parallel((ground, hole), 3, tolerance=TOLERANCE)) == 2
    (alone,) = ragged_parallel((ground, hole), 9, tolerance=TOLERANCE)
    assert signed_area(alone) == pytest.approx(math.pi * 59**2, rel=0.001)


def test_points_may_stand_on_one_another() -> None:
    plain, twice = ring(20), np.repeat(ring(20), 2, axis=0)
    one, other = rolled(plain, 5), rolled(twice, 5)
    assert one is not None and other is not None
    assert signed_area(one) == pytest.approx(signed_area(other), rel=1e-3)


def test_of_hardly_any_distance_it_is_the_contour_and_of_no_contour_nothing() -> None:
    square = np.array([(0.0, 0), (100, 0), (100, 60), (0, 60)])
    assert rolled(square, 1e-6) is square
    for none in (np.zeros((0, 2)), np.ones((5, 2)), np.array([(0.0, 0), (1, 1)])):
        found = rolled(none, 3.0)
        assert found is not None and len(found) == 0


def test_nothing_is_left_inside_of_what_is_thinner_than_twice_the_distance() -> None:
    assert ragged_parallel((ring(10),), -11, tolerance=TOLERANCE) == ()


def test_inwards_through_a_narrow_neck_the_general_offset_parts_it() -> None:
    half = [(0.0, 0), (60, 0), (60, 25), (140, 25), (140, 0), (200, 0)]
    dumbbell = np.array([*half, *((x, 60 - y) for x, y in reversed(half))])
    assert rolled(dumbbell, -8) is None
    assert len(ragged_parallel((dumbbell,), -8, tolerance=TOLERANCE)) == 2
