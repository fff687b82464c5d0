"""Exact area, against formulas and exact polygon areas."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.geometry.polygon import clip_convex, signed_area
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.scan import cover, cover_each
from glasscap.core.shapes.kinds import library_shape

coordinate = st.floats(-6, 26, allow_nan=False).map(lambda v: round(v, 3))
points = st.lists(st.tuples(coordinate, coordinate), min_size=3, max_size=3, unique=True)


def circle(x: float, y: float, diameter: float) -> tuple[np.ndarray, ...]:
    placement = ShapePlacement(x, y, diameter, diameter)
    return shape_polygons(library_shape("circle"), placement, Affine(), tolerance=1 / 512)


# Area of a circle, pi r^2: Archimedes, Measurement of a Circle; Abramowitz & Stegun 4.1.
@pytest.mark.parametrize("radius", [0.4, 1.0, 5.3, 84.0, 540.0, 1900.0], ids=str)
def test_circle_area(radius: float) -> None:
    size = int(2 * radius) + 9
    found = cover(circle(radius + 3.3, radius + 2.7, 2 * radius), PixelBox(0, 0, size, size))
    assert found.area == pytest.approx(math.pi * radius**2, rel=1e-8)


def test_largest_circle_of_full_hd_covers_the_handbook_area() -> None:
    found = cover(circle(960, 540, 1080), PixelBox(0, 0, 1920, 1080))
    assert found.area == pytest.approx(916_088.4, abs=0.05)
    assert found.visible_box() == (420, 0, 1500, 1080)


def test_rounded_rectangle_area() -> None:
    shape, placement = library_shape("rectangle", corner=30), ShapePlacement(210.25, 160.75, 400, 300)
    flat = shape_polygons(shape, placement, Affine(), tolerance=1 / 512)
    # w h - (4 - pi) r^2
    assert cover(flat, PixelBox(0, 0, 430, 330)).area == pytest.approx(119_227.43, abs=0.005)


@given(points)
def test_area_of_coverage_is_area_of_outline(corners: list[tuple[float, float]]) -> None:
    polygon = np.array(corners)
    assert cover((polygon,), PixelBox(-7, -7, 27, 27)).area == pytest.approx(abs(signed_area(polygon)), abs=1e-7)


@given(points)
def test_a_window_sees_what_the_whole_sees(corners: list[tuple[float, float]]) -> None:
    polygon = np.array(corners)
    whole = cover((polygon,), PixelBox(-7, -7, 27, 27)).dense()
    part = cover((polygon,), PixelBox(2, 3, 14, 11)).dense()
    assert np.abs(whole[10:18, 9:21] - part).max() < 1e-8


@given(st.floats(0, 2 * math.pi), st.floats(2, 14))
def test_half_planes_against_exact_polygon_areas(angle: float, distance: float) -> None:
    """Each pixel's share of a half-plane is the area of the clipped unit square (shoelace formula)."""
    normal = np.array([math.cos(angle), math.sin(angle)])
    along = np.array([-normal[1], normal[0]])
    base = np.array([8.0, 8.0]) + normal * (distance - 8)
    plane = np.array([base + 99 * along, base - 99 * along, base - 99 * along - 99 * normal])
    plane = np.concatenate([plane, [base + 99 * along - 99 * normal]])
    found = cover((plane,), PixelBox(0, 0, 16, 16)).dense()
    for y, x in ((0, 0), (7, 8), (3, 12), (15, 15), (8, 8)):
        square = np.array([(x, y), (x + 1, y), (x + 1, y + 1), (x, y + 1)], float)
        assert found[y, x] == pytest.approx(abs(signed_area(clip_convex(square, plane))), abs=1e-6)


@given(st.lists(st.floats(-3, 20), min_size=4, max_size=4))
def test_level_rectangles_are_products_of_overlaps(sides: list[float]) -> None:
    (x0, x1), (y0, y1) = sorted(sides[:2]), sorted(sides[2:])
    found = cover((np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)]),), PixelBox(0, 0, 16, 15)).dense()
    across = np.clip(np.minimum(np.arange(16) + 1, x1) - np.maximum(np.arange(16), x0), 0, 1)
    down = np.clip(np.minimum(np.arange(15) + 1, y1) - np.maximum(np.arange(15), y0), 0, 1)
    assert np.abs(found - np.outer(down, across)).max() < 1e-8


def test_single_pixels_are_those_of_the_plane() -> None:
    found = cover(circle(9.3, 8.1, 13), PixelBox(0, 0, 20, 18))
    ys, xs = np.mgrid[0:18, 0:20]
    assert np.array_equal(found.at(ys.ravel(), xs.ravel()).reshape(18, 20), found.dense())


@pytest.mark.parametrize("count", [150, 5000, 20000])
def test_any_number_of_edges_has_its_area(count: int) -> None:
    side = math.ceil(count**0.5)
    place = np.stack(np.divmod(np.arange(count), side)[::-1], axis=1) * 3.0
    diamond = np.array([(1.5, 0.2), (2.8, 1.5), (1.5, 2.8), (0.2, 1.5)])
    found = cover(tuple(diamond + p for p in place), PixelBox(0, 0, 3 * side, 3 * side))
    assert found.area == pytest.approx(count * 2 * 1.3**2, rel=1e-9)


def test_nothing_covers_nothing() -> None:
    assert cover((), PixelBox(0, 0, 5, 5)).area == 0
    assert cover((np.array([(1.0, 1), (3, 1), (2, 1)]),), PixelBox(0, 0, 5, 5)).area == 0
    assert cover(circle(50, 50, 4), PixelBox(0, 0, 5, 5)).visible_box().is_empty


def test_a_long_edge_among_thousands_leaves_what_it_encloses_full() -> None:
    turns = np.linspace(0, np.pi, 8001)
    half = np.stack([40 + 37.3 * np.cos(turns), 40 - 37.3 * np.sin(turns)], axis=1)
    stem = np.array([(2.7, 3970.4), (77.3, 3970.4)])
    found = cover((np.concatenate([half, stem]),), PixelBox(0, 0, 80, 4000))
    # The outline passes through about two pixels of each row and three of each column of the arch.
    assert len(found.cell_y) < 3 * 4000
    assert len(found.run_y) == 3970 - 3
    assert found.area == pytest.approx(np.pi / 2 * 37.3**2 + 74.6 * 3930.4, rel=1e-6)
    assert np.array_equal(found.filled(found.box), found.dense() >= 1)


def test_cells_of_a_box_are_counted_from_its_corner() -> None:
    found, box = cover(circle(9.3, 8.1, 7), PixelBox(0, 0, 20, 18)), PixelBox(4, 3, 15, 11)
    y, x, value = found.cells_in(box)
    part = found.dense()[3:11, 4:15]
    assert np.array_equal(part[y, x], value)
    assert len(value) == np.count_nonzero((part > 0) & (part < 1))
    assert np.array_equal(found.filled(box), part == 1)


def test_outlines_covered_in_one_go_are_covered_as_each_by_itself() -> None:
    box = PixelBox(3, 2, 40, 37)
    star = shape_polygons(library_shape("star"), ShapePlacement(20.3, 18.1, 33, 33), Affine(), tolerance=1 / 64)
    # Holes, contours cut by each side of the window, and one that lies nowhere in it.
    ring = (*circle(19.3, 18.1, 30), *(p[::-1] for p in circle(19.3, 17.1, 14)))
    outlines = [star, ring, circle(3, 20, 25), circle(22, 36.5, 31), (), circle(21, 1, 28), circle(90, 90, 9)]
    together = cover_each(outlines, box)
    assert len(together) == len(outlines)
    for found, outline in zip(together, outlines, strict=True):
        alone = cover(outline, box)
        assert found.box == box
        assert np.array_equal(found.filled(box), alone.filled(box))
        assert np.abs(found.dense() - alone.dense()).max() < 1e-11
        assert all((rows[1:] >= rows[:-1]).all() for rows in (found.cell_y, found.run_y))


def test_nothing_together_is_nothing() -> None:
    assert [c.area for c in cover_each([(), ()], PixelBox(0, 0, 9, 9))] == [0, 0]
    assert [c.area for c in cover_each([circle(4, 4, 5)] * 2, PixelBox(0, 0, 9, 0))] == [0, 0]


@pytest.mark.parametrize("box", [PixelBox(8, 0, 12, 20), PixelBox(2, 3, 30, 12), PixelBox(25, 0, 30, 20)])
def test_a_full_and_a_touched_box_are_as_the_plane_has_them(box: PixelBox) -> None:
    found = cover(circle(10.2, 9.9, 15), PixelBox(0, 0, 30, 20))
    plane = found.dense()

    def within(part: PixelBox) -> np.ndarray:
        return plane[part.y0 : part.y1, part.x0 : part.x1]

    across = np.flatnonzero((within(box) == 1).all(axis=1)) + box.y0
    full = found.full_box(box)
    assert (within(full) == 1).all()
    assert box.holds(full)
    if len(across):
        assert full == (box.x0, across[0], box.x1, across[-1] + 1)
    touched = found.touched_box(box)
    assert box.holds(touched)
    assert all(not within(beyond).any() for beyond in box.less(touched))


def test_bounds_hold_all_there_is_and_no_more() -> None:
    found = cover(circle(10.2, 9.9, 15), PixelBox(-5, -5, 30, 20))
    rows, columns = (np.flatnonzero(found.dense().any(axis=axis)) - 5 for axis in (1, 0))
    assert found.bounds == (columns[0], rows[0], columns[-1] + 1, rows[-1] + 1)
    sharp = cover((np.array([(3.0, 2), (17, 2), (17, 9), (3, 9)]),), PixelBox(0, 0, 30, 20))
    assert sharp.bounds == (3, 2, 17, 9)
    assert cover((), PixelBox(0, 0, 30, 20)).bounds.is_empty


def test_a_full_box_narrower_than_what_it_is_looked_for_in_has_the_columns_all_rows_have() -> None:
    quad = np.array([(3.5, 2.5), (17.5, 2.5), (17.5, 9.0), (3.5, 9.0)])
    found = cover((quad,), PixelBox(0, 0, 30, 20))
    assert found.full_box(PixelBox(1, 0, 20, 20)) == (4, 3, 17, 9)
    assert found.touched_box(PixelBox(1, 0, 20, 20)) == (3, 2, 18, 9)


def test_a_box_beyond_all_has_neither_a_full_nor_a_touched_part() -> None:
    found, beyond = cover(circle(10.2, 9.9, 15), PixelBox(0, 0, 30, 40)), PixelBox(0, 25, 30, 40)
    assert found.touched_box(beyond).is_empty
    assert found.full_box(beyond).is_empty
