"""Mattes against known ones, and against the closed form written out as its paper has it."""

import cv2
import numpy as np
import pytest

from glasscap.core.raster.contour_matte import PaintedStroke, contour_matte
from glasscap.core.raster.matting import BACKGROUND, OBJECT, UNKNOWN, closed_form, linear_models
from glasscap.core.raster.rim_colours import object_colours
from tests.core.raster.known_mattes import KINDS, SIDE, known_matte

BAND = 0.12


@pytest.mark.parametrize("most_open", [24_000, 12_000, 2_500])
@pytest.mark.parametrize("kind", KINDS)
def test_alpha_is_near_the_truth_and_far_nearer_than_the_outline(kind: str, most_open: int) -> None:
    truth = known_matte(kind)
    found = contour_matte(truth.rgb, [truth.contour], BAND * SIDE, most_open=most_open)
    hard = np.zeros((SIDE, SIDE), np.uint8)
    cv2.fillPoly(hard, [truth.contour.round().astype(np.int32)], 1)
    band = found.is_open
    error = np.abs(found.alpha / 255 - truth.alpha)[band].mean()
    assert error < 0.03
    assert error < np.abs(hard - truth.alpha)[band].mean() / 2
    # Beyond the band all or nothing is the truth as well.
    assert set(np.unique(found.alpha[~band])) == {0, 255}
    assert np.abs(found.alpha / 255 - truth.alpha)[~band].mean() < 1e-3


@pytest.mark.parametrize("kind", ["hair", "net"])
def test_a_large_photo_is_as_exact_though_it_is_solved_small(kind: str) -> None:
    truth = known_matte(kind, 3 * SIDE)
    found = contour_matte(truth.rgb, [truth.contour], BAND * 3 * SIDE, most_open=6_000)
    assert np.abs(found.alpha / 255 - truth.alpha)[found.is_open].mean() < 0.03


@pytest.mark.parametrize("kind", KINDS)
def test_the_rim_s_colours_are_the_object_s_own(kind: str) -> None:
    truth = known_matte(kind)
    found = contour_matte(truth.rgb, [truth.contour], BAND * SIDE, wants_colours=True)
    mixed = (truth.alpha > 0.05) & (truth.alpha < 0.9) & found.is_open

    def seen_error(rgb: np.ndarray) -> float:
        return float((np.abs(rgb / 255 - truth.colours).mean(-1) * truth.alpha)[mixed].mean())

    assert seen_error(found.colours) < 0.55 * seen_error(truth.rgb)
    # What the object fills whole, and what lies beyond the band, is as shot.
    assert np.array_equal(found.colours[~found.is_open], truth.rgb[~found.is_open])


def test_it_is_the_closed_form_of_the_paper() -> None:
    # Equations 10 and 11 of Levin, Lischinski, Weiss (2008), window by window.
    rng = np.random.default_rng(3)
    rgb = rng.integers(60, 200, (9, 10, 3)).astype(np.uint8)
    trimap = np.full((9, 10), UNKNOWN, np.uint8)
    trimap[:, :3], trimap[:, 7:] = OBJECT, BACKGROUND
    picture, count, ridge = rgb / 255.0, 9, 1e-5
    laplacian = np.zeros((90, 90))
    for y in range(1, 8):
        for x in range(1, 9):
            window = [(y + dy) * 10 + x + dx for dy in (-1, 0, 1) for dx in (-1, 0, 1)]
            colours = picture.reshape(-1, 3)[window]
            mean = colours.mean(axis=0)
            inverse = np.linalg.inv(np.cov(colours.T, bias=True) + ridge / count * np.eye(3))
            for i, one in enumerate(window):
                for j, other in enumerate(window):
                    alike = (1 + (colours[i] - mean) @ inverse @ (colours[j] - mean)) / count
                    laplacian[one, other] += (i == j) - alike
    is_open = trimap.ravel() == UNKNOWN
    known = (trimap.ravel() == OBJECT)[~is_open].astype(float)
    expected = np.linalg.solve(laplacian[np.ix_(is_open, is_open)], -laplacian[np.ix_(is_open, ~is_open)] @ known)
    found = closed_form(rgb, trimap).ravel()[is_open]
    assert np.abs(found - np.clip(expected, 0, 1)).max() < 1e-4


def test_linear_models_are_a_regression_in_each_window() -> None:
    # A guide of random colours and an alpha that is linear in them: the filter gives it back.
    rng = np.random.default_rng(5)
    rgb = rng.integers(0, 256, (20, 20, 3)).astype(np.uint8)
    alpha = (0.2 * rgb[..., 0] / 255 + 0.5 * rgb[..., 1] / 255 + 0.1).astype(np.float32)
    slopes, offsets = linear_models(rgb, alpha, 2)
    assert slopes[10, 10] == pytest.approx([0.2, 0.5, 0.0], abs=2e-3)
    assert offsets[10, 10] == pytest.approx(0.1, abs=2e-3)


def test_colours_of_a_mixed_edge_are_told_apart() -> None:
    alpha = np.tile(np.clip((np.arange(64) - 24) / 16, 0, 1).astype(np.float32), (32, 1))
    red, blue = np.array([200, 30, 20.0]), np.array([20, 40, 220.0])
    rgb = np.round(alpha[..., None] * red + (1 - alpha[..., None]) * blue).astype(np.uint8)
    found = object_colours(rgb, alpha)
    assert np.abs(found[alpha > 0.1].astype(float) - red).max() < 6


def test_strokes_widen_and_narrow_the_band() -> None:
    truth = known_matte("hair")
    plain = contour_matte(truth.rgb, [truth.contour], 16.0).is_open
    middle, out = SIDE / 2, SIDE / 2 + 0.3 * SIDE
    beyond = PaintedStroke(np.array([[out + 16.0, middle - 5], [out + 16.0, middle + 5]]), 10.0, is_wider=True)
    wide = contour_matte(truth.rgb, [truth.contour], 16.0, [beyond], widest=4.0).is_open
    assert wide[200, int(out) + 20]
    assert not plain[200, int(out) + 20]
    assert (wide | plain == wide).all()
    over = PaintedStroke(np.array([[out, middle - 5], [out, middle + 5]]), 12.0, is_wider=False)
    narrow = contour_matte(truth.rgb, [truth.contour], 16.0, [over]).is_open
    assert plain[200, int(out)]
    assert not narrow[200, int(out)]


def test_no_band_and_no_picture_worth_solving_are_the_outline() -> None:
    rgb = np.full((30, 30, 3), 90, np.uint8)
    square = np.array([[5, 5], [25, 5], [25, 25], [5, 25.0]])
    found = contour_matte(rgb, [square], 4.0)
    assert found.alpha[15, 15] == 255
    assert found.alpha[1, 1] == 0
    nothing = contour_matte(rgb, [square + 500], 4.0)
    assert not nothing.alpha.any()
    tiny = contour_matte(rgb[:2, :2], [square], 4.0)
    assert tiny.alpha.shape == (2, 2)
