"""Blurred coverage against the error function, and against a float64 Gaussian by another library."""

import numpy as np
import pytest
from scipy import ndimage, special

from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.blur import blurred, gaussian_kernel, reach
from glasscap.core.raster.gaussian import cell_size, soften, soften_edge
from glasscap.core.raster.resample import Quality
from glasscap.core.raster.scan import cover
from glasscap.core.shapes.library.ellipse import ellipse_polygon

# Abramowitz & Stegun, Handbook of Mathematical Functions, table 7.1: x, erf x (from memory, held against scipy below).
ERF_TABLE = [(0.0, 0.0), (0.1, 0.1124629), (0.5, 0.5204999), (1.0, 0.8427008), (1.5, 0.9661051), (2.0, 0.9953223)]


def half_plane(edge: float):
    polygon = np.array([[-9000, -9000], [edge, -9000], [edge, 9000], [-9000, 9000.0]])
    return lambda cells, k: cover((polygon / k,), cells).plane(cells)


def test_the_table_is_the_error_function() -> None:
    assert [special.erf(x) for x, _ in ERF_TABLE] == pytest.approx([v for _, v in ERF_TABLE], abs=5e-8)


@pytest.mark.parametrize("radius", [1, 3, 6, 19, 20, 40, 100, 150, 600])
@pytest.mark.parametrize("edge", [512.0, 512.37])
def test_a_straight_edge_follows_the_error_function(radius: int, edge: float) -> None:
    sigma = radius / 2
    far = reach(sigma)
    box = PixelBox(512 - far, 0, 512 + far, 3)
    found = soften_edge(half_plane(edge), box, sigma, "final").band(box)[1]
    centres = np.arange(box.x0, box.x1) + 0.5
    truth = (1 + special.erf((edge - centres) / (sigma * np.sqrt(2)))) / 2
    assert np.abs(found - truth).max() < 1 / 512


@pytest.mark.parametrize(("x", "value"), ERF_TABLE)
def test_tabled_values_stand_at_their_distances(x: float, value: float) -> None:
    sigma = 50.0
    box = PixelBox(0, 0, 400, 1)
    found = soften(half_plane(200.5), box, sigma, "final").band(box)[0]
    place = 200.5 - x * sigma * np.sqrt(2)
    at = np.interp(place, np.arange(400) + 0.5, found)
    assert at == pytest.approx((1 + value) / 2, abs=1 / 512)


@pytest.mark.parametrize("blur", [2, 7, 18, 40, 80])
def test_a_disc_is_blurred_as_by_a_float64_gaussian(blur: int) -> None:
    sigma, side = blur / 2, 340
    flat = ellipse_polygon(180, 180, {}, 1 / 512)
    moved = tuple(p + np.array([170.3, 169.8]) for p in flat)
    box = PixelBox(0, 0, side, side)

    def make(cells, k):
        return cover(tuple(p / k for p in moved), cells).plane(cells)

    found = soften_edge(make, box, sigma, "final", is_of_pixels=True).band(box)
    truth = ndimage.gaussian_filter(cover(moved, box).dense(), sigma, mode="constant", truncate=6)
    assert np.abs(found - truth).max() < 0.5 / 255


@pytest.mark.parametrize(("quality", "most"), [("preview", 1), ("moving", 2)])
@pytest.mark.parametrize("sigma", [6.0, 7.5, 10.0, 15.0, 20.0, 40.0])
@pytest.mark.parametrize("edge", [512.0, 513.7])
def test_what_the_screen_shows_stays_within_levels(
    quality: Quality, most: int, sigma: float, edge: float
) -> None:
    box = PixelBox(300, 0, 700, 3)
    found = soften(half_plane(edge), box, sigma, quality).band(box)[1]
    truth = (1 - special.erf((np.arange(300, 700) + 0.5 - edge) / (sigma * np.sqrt(2)))) / 2
    assert np.abs(found - truth).max() < most / 255


def test_the_screen_has_larger_cells() -> None:
    assert cell_size(40, "moving") > cell_size(40, "preview") > cell_size(40, "final")


def test_bands_of_one_plane_meet_without_a_step() -> None:
    box = PixelBox(-37, -11, 300, 200)
    plane = soften(half_plane(100.0), box, 30.0, "final")
    whole = plane.band(box)
    low = plane.band(PixelBox(-37, 53, 300, 117))
    assert np.array_equal(whole[64:128], low)


@pytest.mark.parametrize("sigma", [2.0, 12.0])
def test_columns_tell_what_is_full_and_empty(sigma: float) -> None:
    box = PixelBox(0, 0, 400, 8)
    plane = soften_edge(half_plane(200.0), box, sigma, "final")
    full, empty, band = plane.is_full(box), plane.is_empty(box), plane.band(box)
    assert full[:100].all() and empty[300:].all() and not (full & empty).any()
    assert band[:, full].min() > 1 - 1 / 512 and band[:, empty].max() < 1 / 512


def disc(cells: PixelBox, k: float) -> np.ndarray:
    """Draw a disc of 180 px about (200, 200)."""
    return cover(tuple((p + 200) / k for p in ellipse_polygon(360, 360, {}, 1 / 512)), cells).plane(cells)


@pytest.mark.parametrize("sigma", [2.0, 9.0, 31.0])
def test_extents_and_full_columns_are_those_of_the_pixels(sigma: float) -> None:
    plane = soften(disc, PixelBox(-60, -60, 460, 460), sigma, "final")
    for box in (PixelBox(-60, 190, 460, 205), PixelBox(-60, 30, 460, 62), PixelBox(150, -90, 300, -38)):
        rows, (seen, full) = plane.band(box), (plane.spans(box), plane.full_spans(box, 0.999))
        x = np.arange(box.x0, box.x1)
        for row, start, end in zip(rows, seen.starts, seen.ends, strict=True):
            assert row[(x < start) | (x >= end)].max(initial=0.0) < 1 / 2048
        for row, start, end in zip(rows, full.starts, full.ends, strict=True):
            assert (row[(x >= start) & (x < end)] > 0.999).all()
            # Nearly as many as there are: cells on either side are not told apart, nor above and below.
            assert np.count_nonzero(row > 0.999) - max(end - start, 0) <= 12 * plane.k


def test_far_above_and_below_a_plane_has_no_spans() -> None:
    plane = soften(disc, PixelBox(0, 0, 400, 400), 12.0, "final")
    for y in (plane.box.y0 - 900, plane.box.y1 + 700):
        for spans in (plane.spans(PixelBox(0, y, 9, y + 200)), plane.full_spans(PixelBox(0, y, 9, y + 200), 0.9)):
            assert spans.starts.shape == (200,)
            assert (spans.starts > spans.ends).all()


def test_single_pixels_are_those_of_the_plane() -> None:
    plane = soften(disc, PixelBox(0, 0, 400, 400), 12.0, "final")
    box = PixelBox(-90, -90, 500, 500)
    ys, xs = (np.random.default_rng(2).integers(-90, 500, 300) for _ in range(2))
    assert np.abs(plane.at(ys, xs) - plane.band(box)[ys + 90, xs + 90]).max() < 1e-5


CELLS = PixelBox(-9, -8, 41, 40)


@pytest.mark.parametrize("shift", [(0.0, 0.0), (8.0, -3.0), (2.6, 5.3)], ids=["there", "whole px", "fractions"])
@pytest.mark.parametrize("k", [6.0, 12.0, 16.0, 28.0])
def test_a_plane_on_other_cells_is_nearly_the_mean_of_its_pixels(k: float, shift: tuple[float, float]) -> None:
    plane = soften(disc, PixelBox(0, 0, 400, 400), 62.0, "preview")
    wide = PixelBox(-400, -400, 1200, 1200)
    means = ndimage.uniform_filter(plane.band(wide).astype(np.float64), round(k))
    # The mean of an even number of pixels that is told at place n is that of pixels n - k / 2 to n + k / 2 - 1.
    xs = np.arange(CELLS.x0, CELLS.x1) * k + k / 2 - shift[0] + 400
    ys = np.arange(CELLS.y0, CELLS.y1) * k + k / 2 - shift[1] + 400
    expected = ndimage.map_coordinates(means, np.meshgrid(ys, xs, indexing="ij"), order=1)
    made = plane.on_cells(CELLS, k, shift)
    assert np.abs(made - expected).max() < 1 / 255


def test_on_its_own_cells_a_plane_is_as_it_is() -> None:
    plane = soften(disc, PixelBox(0, 0, 400, 400), 31.0, "preview")
    k = plane.k
    inside = PixelBox(0, 1, 30, 33)
    rows, columns = inside.y0 - plane.box.y0 // k, inside.x0 - plane.box.x0 // k
    assert np.array_equal(plane.on_cells(inside, k), plane.cells[rows : rows + 32, columns : columns + 30])
    beyond = plane.on_cells(PixelBox(-500, 0, -480, 5), k)
    assert beyond.shape == (5, 20) and not beyond.any()


def test_moved_by_whole_cells_it_is_as_it_is_and_on_wider_ones_their_mean() -> None:
    plane = soften(disc, PixelBox(0, 0, 400, 400), 31.0, "preview")
    k, box = plane.k, PixelBox(-3, 2, 30, 33)
    moved = plane.on_cells(box, k, (3.0 * k, -2.0 * k))
    assert np.array_equal(moved, plane.on_cells(PixelBox(-6, 4, 27, 35), k))
    for times in (2, 3):
        fine = plane.on_cells(PixelBox(*(times * edge for edge in box)), k)
        means = fine.reshape(box.height, times, box.width, times).astype(np.float64).mean(axis=(1, 3))
        assert np.abs(plane.on_cells(box, times * k) - means).max() < 1e-6


@pytest.mark.parametrize("shape", [(400, 900), (2001, 130), (90, 4000)], ids=str)
@pytest.mark.parametrize("sigma", [0.5, 5.0, 9.7])
def test_a_plane_blurred_by_halves_is_that_blurred_whole(shape: tuple[int, int], sigma: float) -> None:
    plane = np.random.default_rng(5).random(shape).astype(np.float32)
    kernel = gaussian_kernel(sigma)
    found = blurred(plane, sigma)
    truth = ndimage.convolve1d(plane.astype(float), kernel, axis=0, mode="constant")
    truth = ndimage.convolve1d(truth, kernel, axis=1, mode="constant")
    assert np.abs(found - truth).max() < 1e-5
