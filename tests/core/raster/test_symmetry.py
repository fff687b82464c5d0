"""The scanned part of an outline that is its own image, completed, against the outline scanned whole."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.coverage import Coverage
from glasscap.core.raster.scan import cover
from glasscap.core.raster.symmetry import symmetry_of
from glasscap.core.shapes.kinds import library_shape

BOX = PixelBox(-3, -5, 330, 340)
# A speck of its own that nothing mirrors: with it outlines are scanned whole.
SPECK = np.array([[-2.5, -4.5], [-1.5, -4.5], [-2.5, -3.75]])


def placed(kind: str, width: float, height: float, x: float, y: float, **turned: float) -> tuple[Points, ...]:
    placement = ShapePlacement(x, y, width, height, **turned)
    return shape_polygons(library_shape(kind), placement, Affine(), tolerance=1 / 4096)


def polar(radii: list[float], x: float, y: float) -> Points:
    """Return a contour around a point, long enough to be looked at, its radii between those given."""
    angle = np.arange(320) * (2 * math.pi / 320)
    radius = np.interp(angle, np.linspace(0, 2 * math.pi, len(radii) + 1), [*radii, radii[0]])
    return np.stack([x + radius * np.sin(angle), y - radius * np.cos(angle)], axis=1)


def assert_same_as_whole(polygons: tuple[Points, ...]) -> None:
    found, whole = cover(polygons, BOX), cover((*polygons, SPECK), BOX)
    speck = cover((SPECK,), BOX)
    assert np.abs(found.dense() + speck.dense() - whole.dense()).max() < 1e-7
    assert_in_order(found)


def assert_in_order(found: Coverage) -> None:
    cells = (found.cell_y - BOX.y0) * BOX.width + found.cell_x - BOX.x0
    starts = (found.run_y - BOX.y0) * BOX.width + found.run_x0 - BOX.x0
    ends = starts + found.run_x1 - found.run_x0
    assert (np.diff(cells) > 0).all()
    assert (starts < ends).all() and (starts[1:] >= ends[:-1]).all()
    joined = (starts[1:] == ends[:-1]) & (found.run_y[1:] == found.run_y[:-1])
    assert not joined.any()


@pytest.mark.parametrize(("x", "y"), [(160, 150), (160.5, 150), (160, 150.5), (160.5, 149.5)], ids=str)
@pytest.mark.parametrize("side", [240, 241, 240.37])
def test_circles_on_whole_and_half_pixels(x: float, y: float, side: float) -> None:
    flat = placed("circle", side, side, x, y)
    assert symmetry_of(flat, BOX) == (True, True, round(2 * x), round(2 * y))
    assert_same_as_whole(flat)
    # Archimedes, Measurement of a Circle.
    assert cover(flat, BOX).area == pytest.approx(math.pi * side**2 / 4, rel=1e-9)


@pytest.mark.parametrize("kind", ["heart", "star", "ring", "ellipse"])
def test_shapes_of_the_library(kind: str) -> None:
    flat = placed(kind, 250, 180.5, 150.5, 160)
    assert symmetry_of(flat, BOX).is_mirrored == (len(flat[0]) >= 256)
    assert_same_as_whole(flat)


def test_an_ellipse_at_an_angle_is_turned_and_not_mirrored() -> None:
    flat = placed("ellipse", 250, 120, 150, 160.5, rotation=33)
    assert symmetry_of(flat, BOX) == (False, True, 300, 321)
    assert_same_as_whole(flat)


radii = st.lists(st.floats(20, 140), min_size=2, max_size=7)
middles = st.integers(300, 320).map(lambda twice: twice / 2)


@given(radii, middles, st.floats(140, 170))
def test_mirrored_contours(right: list[float], x: float, y: float) -> None:
    contour = polar([*right, *right[-2:0:-1]], x, y)
    # To the last bit, as outlines of shapes are to a few: the left half is written from the right one.
    contour[161:] = contour[159:0:-1] * [-1, 1] + [2 * x, 0]
    contour[[0, 160], 0] = x
    assert symmetry_of((contour,), BOX).is_mirrored
    assert_same_as_whole((contour,))


@given(radii, middles, middles)
def test_turned_contours(half: list[float], x: float, y: float) -> None:
    contour = polar([*half, *half], x, y)
    contour[160:] = [2 * x, 2 * y] - contour[:160]
    assert symmetry_of((contour,), BOX).is_turned
    assert_same_as_whole((contour,))


@pytest.mark.parametrize("begin", [0, 1, 77, 319])
def test_it_does_not_matter_where_a_contour_begins(begin: int) -> None:
    circle = placed("circle", 200, 200, 150, 150)[0]
    assert symmetry_of((np.roll(circle, begin, axis=0),), BOX)[:2] == (True, True)


@pytest.mark.parametrize(
    "polygons",
    [
        placed("circle", 240, 240, 160.3, 150.2),
        placed("circle", 340, 340, 160, 160),
        (polar([100, 101, 100, 100, 100, 100], 150, 150),),
        (polar([100], 150, 150), polar([100], 151, 150)),
        (),
    ],
    ids=["between pixels", "beyond the window", "uneven", "of two centres", "none"],
)
def test_what_is_not_its_own_image(polygons: tuple[Points, ...]) -> None:
    assert symmetry_of(polygons, BOX)[:2] == (False, False)


def test_a_point_moved_by_a_hundredth_is_seen() -> None:
    circle = placed("circle", 240, 240, 160, 150)[0].copy()
    circle[40, 0] += 0.01
    assert symmetry_of((circle,), BOX)[:2] == (False, False)
    assert_same_as_whole((circle,))
