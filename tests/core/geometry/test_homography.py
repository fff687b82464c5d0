"""Perspective: against OpenCV, and what any perspective leaves as it is."""

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.homography import mapped, square_to_quad

SQUARE = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])
shares = st.tuples(st.floats(-0.24, 0.24), st.floats(-0.24, 0.24))


@settings(max_examples=200, deadline=None)
@given(st.floats(20, 900), st.floats(20, 900), st.tuples(shares, shares, shares, shares))
def test_it_is_the_matrix_opencv_solves_for(
    width: float, height: float, moved: tuple[tuple[float, float], ...]
) -> None:
    quad = (SQUARE + np.array(moved)) * (width, height) + (30, -70)
    ours = square_to_quad([(x, y) for x, y in quad.tolist()])
    theirs = cv2.getPerspectiveTransform(SQUARE.astype(np.float32), quad.astype(np.float32))
    grid = np.random.default_rng(1).uniform(0, 1, (50, 2))
    assert mapped(ours, SQUARE) == pytest.approx(quad, abs=1e-9 * max(width, height))
    # The library takes the corners in single precision.
    assert mapped(ours, grid) == pytest.approx(mapped(theirs, grid), abs=1e-5 * max(width, height))


def test_a_parallelogram_needs_no_perspective() -> None:
    matrix = square_to_quad([(10, 10), (110, 30), (150, 130), (50, 110)])
    assert matrix[2] == pytest.approx([0, 0, 1])
    assert mapped(matrix, np.array([(0.5, 0.5)])) == pytest.approx(np.array([(80, 70)]))


def test_the_cross_ratio_stays() -> None:
    """Four points of a line keep (AC BD) / (BC AD) (Hartley & Zisserman, Multiple View Geometry, 2.5)."""
    on_line = np.array([(0.1, 0.2), (0.3, 0.4), (0.6, 0.7), (0.7, 0.8)])
    there = mapped(square_to_quad([(3, 5), (200, 40), (170, 160), (20, 120)]), on_line)

    def ratio(p: np.ndarray) -> float:
        def far(a: int, b: int) -> float:
            return float(np.hypot(*(p[a] - p[b])))

        return far(0, 2) * far(1, 3) / (far(1, 2) * far(0, 3))

    assert ratio(there) == pytest.approx(ratio(on_line))


@pytest.mark.parametrize(
    "corners",
    [
        [(0, 0), (10, 0), (0, 10), (10, 10)],
        [(0, 0), (10, 0), (3, 3), (0, 10)],
        [(0, 0), (10, 0), (20, 0), (0, 10)],
        [(0, 0), (0, 0), (0, 0), (0, 0)],
        [(0, 0), (float("nan"), 0), (10, 10), (0, 10)],
    ],
    ids=["crossed", "dented", "flat", "point", "no number"],
)
def test_what_is_no_convex_quadrilateral_is_refused(corners: list[tuple[float, float]]) -> None:
    with pytest.raises(ShapeError, match="no convex quadrilateral"):
        square_to_quad(corners)
