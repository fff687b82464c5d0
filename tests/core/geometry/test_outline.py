"""Outlines, flattening, polygons."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten, flatten_contour
from glasscap.core.geometry.outline import Outline, bounds, placed_together, straight_contour
from glasscap.core.geometry.polygon import clip_convex, oriented, signed_area, signed_areas, total_area
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.library.ellipse import ellipse_outline

square = np.array([(0.0, 0), (2, 0), (2, 2), (0, 2)])
coordinate = st.floats(-10, 10)
curve = st.lists(st.tuples(coordinate, coordinate), min_size=3, max_size=3)


@pytest.mark.parametrize(
    "contour",
    [
        np.zeros((3, 2)),
        np.zeros((5, 2)),
        np.array([(0.0, 0), (1, 0), (1, 1), (0, 1)]),
        np.array([(0.0, 0), (math.nan, 0), (1, 1), (0, 0)]),
    ],
    ids=["too short", "not whole segments", "open", "not a number"],
)
def test_bad_contours_are_refused(contour: np.ndarray) -> None:
    with pytest.raises(ShapeError):
        Outline((contour,))


def test_an_outline_cannot_be_written_to() -> None:
    outline = Outline((straight_contour(square),))
    with pytest.raises(ValueError, match="read-only"):
        outline.contours[0][0, 0] = 9


@given(curve)
def test_flattened_curves_stay_within_the_tolerance(points: list[tuple[float, float]]) -> None:
    contour = np.array([(0.0, 0), *points[:2], points[2], points[2], (0, 0), (0, 0)])
    flat = flatten_contour(contour, tolerance=0.01)
    t = np.linspace(0, 1, 200)[:, None]
    c = contour[:4]
    true = (1 - t) ** 3 * c[0] + 3 * (1 - t) ** 2 * t * c[1] + 3 * (1 - t) * t * t * c[2] + t**3 * c[3]
    ends = np.concatenate([flat, flat[:1]])
    assert max(_distance(p, ends) for p in true) <= 0.0101


def _distance(point: np.ndarray, chain: np.ndarray) -> float:
    start, way = chain[:-1], np.diff(chain, axis=0)
    length = np.maximum((way**2).sum(axis=1), 1e-30)
    t = np.clip(((point - start) * way).sum(axis=1) / length, 0, 1)[:, None]
    return float(np.sqrt(((start + t * way - point) ** 2).sum(axis=1)).min())


def test_the_cubic_circle_has_nearly_its_area() -> None:
    flat = flatten(ellipse_outline(100, 100, {}), tolerance=1e-4)
    assert total_area(flat) == pytest.approx(math.pi * 2500, rel=1e-5)


def test_clipping_keeps_the_common_area() -> None:
    shifted = square + 1
    assert signed_area(clip_convex(square, shifted)) == pytest.approx(1.0)
    assert len(clip_convex(square, square + 9)) == 0
    assert np.array_equal(clip_convex(square, square * 4 - 2), square)


def test_orientation_and_bounds() -> None:
    assert signed_area(oriented(square[::-1])) == 4.0
    assert bounds((square,)) == (0, 0, 2, 2)
    with pytest.raises(ShapeError):
        bounds(())


def test_areas_of_many_are_those_of_each() -> None:
    many = (square, square[::-1] * 3 + 7, square[:3], square[:2], square[:1], square * 1e6)
    assert signed_areas(many).tolist() == [signed_area(p) for p in many]


def test_many_outlines_placed_together() -> None:
    one, other = Outline((straight_contour(square),)), Outline((straight_contour(square + 5),) * 2)
    turn = Affine.rotation(30).after(Affine.translation(2, -3))
    whole = placed_together([(one, Affine.scaling(2, 3)), (other, turn)])
    each = [*one.transformed(Affine.scaling(2, 3)).contours, *other.transformed(turn).contours]
    assert all(np.allclose(a, b, rtol=0, atol=1e-12) for a, b in zip(whole.contours, each, strict=True))
    assert placed_together([]).contours == ()
    with pytest.raises(ShapeError, match="not finite"):
        placed_together([(one, Affine(math.nan))])


def test_transformed_and_drawn() -> None:
    class Recorder:
        def __init__(self) -> None:
            self.calls: list[str] = []

        def move_to(self, x: float, y: float) -> None:
            self.calls.append(f"M{x:g},{y:g}")

        def curve_to(self, *numbers: float) -> None:
            self.calls.append(f"C{numbers[4]:g},{numbers[5]:g}")

        def close(self) -> None:
            self.calls.append("Z")

    sink = Recorder()
    Outline((straight_contour(square),)).transformed(Affine.translation(1, 0)).draw(sink)
    assert sink.calls == ["M1,0", "C3,0", "C3,2", "C1,2", "C1,0", "Z"]
