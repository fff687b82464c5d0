"""Parallels of one contour against general offsets of another library's own (GEOS), and where there is none."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from glasscap.core.geometry.parallel import parallel_contour
from glasscap.core.geometry.polygon import signed_area

TOLERANCE = 1 / 512
ARC_STEP = math.pi / 120


def blob(radius: float, waves: int, height: float, count: int = 400) -> np.ndarray:
    angle = np.linspace(0, 2 * math.pi, count, endpoint=False)
    r = radius + height * np.cos(waves * angle)
    return np.stack([r * np.cos(angle), r * np.sin(angle)], axis=1)


def beside(polygon: np.ndarray, distance: float, *, is_round: bool = True) -> np.ndarray | None:
    return parallel_contour(polygon, distance, tolerance=TOLERANCE, arc_step=ARC_STEP if is_round else None)


def away_from_geos(polygon: np.ndarray, distance: float, made: np.ndarray) -> float:
    there = shapely.buffer(shapely.Polygon(polygon), distance, quad_segs=400)
    return float(shapely.hausdorff_distance(shapely.LinearRing(made), there.boundary, densify=0.1))


# The other library takes half a second for each.
@settings(max_examples=20)
@given(
    st.floats(30, 200),
    st.integers(2, 9),
    st.floats(0, 0.3),
    st.floats(-60, 60).filter(lambda d: abs(d) > 0.1),
    st.booleans(),
)
def test_where_there_is_one_it_is_the_general_offset(
    radius: float, waves: int, share: float, distance: float, is_round: bool
) -> None:
    polygon = blob(radius, waves, radius * share)
    made = beside(polygon, distance, is_round=is_round)
    assume(made is not None)
    assert made is not None
    assert signed_area(made) > 0
    # Mitred turns of a polygon of 400 points, and the other library's own thinning (1 % of the distance).
    assert away_from_geos(polygon, distance, made) < 2 * TOLERANCE + 0.01 * abs(distance)


def test_wavy_and_round_outlines_have_one() -> None:
    for polygon, distance in ((blob(100, 7, 5), 4.0), (blob(100, 7, 5), -4.0), (blob(100, 1, 0), -99.0)):
        assert beside(polygon, distance) is not None


@pytest.mark.parametrize("distance", [0.5, 30.0, 400.0])
def test_corners_are_rounded(distance: float) -> None:
    # Steiner's formula for a convex body: A + P d + pi d^2.
    corners = np.array([(0.0, 0), (100, 0), (100, 60), (0, 60)])
    made = beside(corners, distance)
    assert made is not None
    assert signed_area(made) == pytest.approx(6000 + 320 * distance + math.pi * distance**2, rel=5e-4)


def test_inwards_corners_stay_sharp() -> None:
    made = beside(np.array([(0.0, 0), (100, 0), (100, 60), (0, 60)]), -10, is_round=False)
    assert made is not None
    assert made.tolist() == [[10, 10], [90, 10], [90, 50], [10, 50]]


C_SHAPE = np.array([(0.0, 0), (100, 0), (100, 30), (40, 30), (40, 70), (100, 70), (100, 100), (0, 100)])
HALF = [(0.0, 0), (60, 0), (60, 25), (140, 25), (140, 0), (200, 0)]
DUMBBELL = np.array([*HALF, *((x, 60 - y) for x, y in reversed(HALF))])


@pytest.mark.parametrize(
    ("polygon", "distance"),
    [
        (C_SHAPE, 21.0),
        (DUMBBELL, -6.0),
        (C_SHAPE, -16.0),
        (blob(100, 24, 20), 30.0),
        (blob(100, 1, 0), -101.0),
        (np.array([(0.0, 0), (50, 0), (50, 0), (50, 50)]), 3.0),
        (np.array([(0.0, 0), (50, 0)]), 3.0),
    ],
    ids=[
        "a mouth closes",
        "a neck parts",
        "nothing is left",
        "dents",
        "a circle",
        "points in one place",
        "a line",
    ],
)
def test_where_something_goes_under_there_is_none(polygon: np.ndarray, distance: float) -> None:
    assert beside(polygon, distance) is None


def test_corners_joined_otherwise_are_left_to_others() -> None:
    assert beside(C_SHAPE, 3.0, is_round=False) is None
    assert beside(C_SHAPE, 3.0) is not None


def test_a_mouth_that_closes_and_opens_again_is_found_out() -> None:
    # Far further than the mouth is wide: what met once crosses for good.
    for distance in (21.0, 60.0, 300.0):
        assert beside(C_SHAPE, distance) is None


def winding(polygon: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Return how often a closed polygon turns around each point, by the angles of its sides as seen from there."""
    seen = polygon[None] - points[:, None]
    ahead = np.roll(seen, -1, axis=1)
    cross = seen[..., 0] * ahead[..., 1] - seen[..., 1] * ahead[..., 0]
    return np.rint(np.arctan2(cross, (seen * ahead).sum(axis=-1)).sum(axis=1) / (2 * math.pi)).astype(int)


@settings(max_examples=60)
@given(st.integers(0, 10_000), st.integers(5, 60), st.floats(0.5, 80))
def test_one_that_may_cross_winds_around_what_is_near_and_nothing_else(
    seed: int, corners: int, distance: float
) -> None:
    rng = np.random.default_rng(seed)
    angle = np.sort(rng.uniform(0, 2 * math.pi, corners))
    assume(np.diff(angle, append=angle[0] + 2 * math.pi).min() > 1e-3)
    polygon = rng.uniform(20, 200, corners)[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    assume(shapely.is_valid(shapely.Polygon(polygon)) and signed_area(polygon) > 0)
    made = parallel_contour(polygon, distance, tolerance=TOLERANCE, arc_step=ARC_STEP, may_cross=True)
    assert made is not None
    points = rng.uniform(-300, 300, (400, 2))
    away = shapely.distance(shapely.Polygon(polygon), shapely.points(points))
    turns = winding(made, points)
    assert (turns[away < distance - 0.01] >= 1).all()
    assert (turns[away > distance + 0.01] == 0).all()


def test_one_that_may_cross_is_cut_where_that_is_all_there_is_to_do() -> None:
    made = parallel_contour(blob(100, 7, 5), 4.0, tolerance=TOLERANCE, arc_step=ARC_STEP, may_cross=True)
    plain = beside(blob(100, 7, 5), 4.0)
    assert made is not None and plain is not None and np.array_equal(made, plain)


def test_inwards_none_may_cross() -> None:
    polygon = blob(100, 7, 5)
    assert parallel_contour(polygon, -4.0, tolerance=TOLERANCE, arc_step=ARC_STEP, may_cross=True) is None
