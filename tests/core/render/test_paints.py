"""Gradients by formula, textures as endless tiles, photo adjustments."""

import numpy as np
import pytest

from glasscap.core.document.model.finishes import Adjustments
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint, Stop, TexturePaint
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.planar import straight_bytes
from glasscap.core.raster.srgb import srgb_encoded, srgb_linear
from glasscap.core.render.offsets.path_field import path_field
from glasscap.core.render.paint.adjust import adjusted, level_table
from glasscap.core.render.paint.paints import (
    PaintFrame,
    gradient_shades,
    paint_bytes,
    paint_pixels,
    paint_planes,
    tiled,
)
from glasscap.core.textures.tiles import texture_tile

BLACK_WHITE = (Stop(0, "#000000"), Stop(1, "#ffffff"))
FRAME = PaintFrame(Affine.translation(100, 50), 200, 100, Affine())
BOX = PixelBox(0, 0, 200, 100)


def grey(paint: GradientPaint) -> np.ndarray:
    return paint_planes(paint, BOX, FRAME, None)[0]


@pytest.mark.parametrize(
    ("paint", "want"),
    [
        (GradientPaint(BLACK_WHITE), lambda x, y: x / 200),
        (GradientPaint(BLACK_WHITE, angle=90), lambda x, y: y / 100),
        # CSS Images 3, 3.1.1: at 45 degrees the line is |w sin a| + |h cos a| long.
        (GradientPaint(BLACK_WHITE, angle=45), lambda x, y: ((x - 100) + (y - 50)) / 300 + 0.5),
        (GradientPaint(BLACK_WHITE, "radial"), lambda x, y: np.hypot(x - 100, y - 50) / np.hypot(100, 50)),
        (
            GradientPaint(BLACK_WHITE, "around"),
            lambda x, y: np.arctan2(y - 50, x - 100) / (2 * np.pi) % 1,
        ),
    ],
    ids=["right", "down", "slanting", "radial", "around"],
)
def test_gradients_follow_their_formula(paint: GradientPaint, want) -> None:
    y, x = np.mgrid[0:100, 0:200] + 0.5
    assert np.abs(grey(paint) - np.clip(want(x, y), 0, 1) * 255).max() < 0.2


@pytest.mark.parametrize(
    "paint",
    [GradientPaint(BLACK_WHITE, way, angle=30) for way in ("linear", "radial", "around", "along")]
    + [TexturePaint("clay", scale=1.3, rotation=20)],
    ids=["linear", "radial", "around", "along", "texture"],
)
@pytest.mark.parametrize("count", [1, 700, 3000])
def test_single_pixels_are_painted_as_in_a_box(paint: GradientPaint | TexturePaint, count: int) -> None:
    ys, xs = (np.random.default_rng(4).integers(0, most, count) for most in (BOX.height, BOX.width))
    found = paint_pixels(paint, ys, xs, FRAME, None)
    assert np.array_equal(found, paint_planes(paint, BOX, FRAME, None)[:, ys, xs])


@pytest.mark.parametrize(
    "paint",
    [GradientPaint(BLACK_WHITE, way, angle=30) for way in ("linear", "radial", "around")]
    + [TexturePaint("clay", scale=1.3, rotation=20), ColourPaint("#b4532c")],
    ids=["linear", "radial", "around", "texture", "colour"],
)
def test_bytes_of_an_opaque_paint_are_its_planes_rounded(paint: Paint) -> None:
    planes = np.asarray(paint_planes(paint, BOX, FRAME, None), np.float32)
    assert np.array_equal(paint_bytes(paint, BOX, FRAME), straight_bytes(planes))


def test_stops_at_one_place_make_a_sharp_border() -> None:
    stops = (Stop(0, "#000000"), Stop(0.5, "#000000"), Stop(0.5, "#ffffff"), Stop(1, "#ffffff"))
    row = grey(GradientPaint(stops))[50]
    assert set(np.round(row).astype(int)) == {0, 255} and (row[:100] == 0).all()


def test_translucent_stops_mix_premultiplied() -> None:
    shades = gradient_shades(GradientPaint((Stop(0, "#ff000000"), Stop(1, "#0000ff"))))
    assert shades[:, 0].max() == 0 and shades[2048, 2] == pytest.approx(127.5, abs=0.5)


def test_along_the_outline_places_run_with_its_length() -> None:
    angle = np.arange(720) * 2 * np.pi / 720
    circle = np.stack([100 + 40 * np.cos(angle), 50 + 40 * np.sin(angle)], axis=1)

    class Outline:
        def within(self, box: PixelBox) -> tuple[np.ndarray, np.ndarray]:
            return path_field((circle,), box, 14)

    frame = PaintFrame(FRAME.to_output, 200, 100, Affine(), Outline())
    found = paint_planes(GradientPaint(BLACK_WHITE, "along"), BOX, frame, None)[0]
    y, x = np.mgrid[0:100, 0:200] + 0.5
    turn = np.arctan2(y - 50, x - 100) / (2 * np.pi) % 1
    ring = (np.abs(np.hypot(x - 100, y - 50) - 40) < 8) & (turn > 0.02) & (turn < 0.98)
    assert np.abs(found / 255 - turn)[ring].max() < 0.02


def test_a_texture_at_its_own_size_is_its_tile() -> None:
    planes = paint_planes(TexturePaint("clay"), PixelBox(512, 1024, 612, 1100), FRAME, None)
    assert np.array_equal(np.moveaxis(planes, 0, -1)[..., :3], texture_tile("clay")[:76, :100, :3])


def test_tiles_meet_without_a_seam_at_any_turn() -> None:
    tile = texture_tile("glaze")
    out = tiled(tile, (512, 512), Affine.rotation(30), PixelBox(-300, -300, 300, 300)).astype(int)
    assert np.abs(np.diff(out[..., 0], axis=1)).max() < 40


def test_adjustments_use_linear_light_and_published_weights() -> None:
    assert srgb_encoded(srgb_linear(np.array([0.5])))[0] == pytest.approx(0.5)
    # IEC 61966-2-1: 0.735 encoded is 0.5 in linear light.
    assert srgb_linear(np.array([0.735]))[0] == pytest.approx(0.5, abs=1e-3)
    assert np.array_equal(level_table(Adjustments())[:, 1], np.arange(256))
    pixel = np.array([[[200, 100, 50, 255]]], np.uint8)
    grey_ = adjusted(pixel, Adjustments(saturation=-100))[0, 0]
    # Rec. 709 luma as CSS Filter Effects 1 has it.
    assert set(grey_[:3]) == {round(0.2126 * 200 + 0.7152 * 100 + 0.0722 * 50)}
    warm = adjusted(pixel, Adjustments(warmth=50))[0, 0]
    assert warm[0] > 200 and warm[2] < 50 and warm[1] == 100
    flat = adjusted(pixel, Adjustments(contrast=-100))[0, 0]
    assert set(flat[:3]) == {128}
