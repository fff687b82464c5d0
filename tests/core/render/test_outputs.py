"""Rows of the export list: exact sizes, crops, margins, backgrounds, colour carried on, 16 bits."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Shadow
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.proofs import VideoCorner
from glasscap.core.document.outputs.proofs import set_video
from glasscap.core.document.outputs.rows import add_video_pack
from glasscap.core.errors import ExportError
from glasscap.core.raster.carry import carried
from glasscap.core.render.outputs import plan_output, render_output
from glasscap.core.shapes.kinds import library_shape
from tests.core.formats.test_encodings import DISC
from tests.core.render.finished_samples import STORE, job_with
from tests.samples import cache

SHADOWED = Finishes(lights=Lights(shadows=(Shadow(6, 9, 20),)))
PLAIN, DROPPED = job_with(), job_with(SHADOWED)
SHEET, ITEM = PLAIN.sheets[0].id, PLAIN.sheets[0].items[0].id


def made(job, output: Output) -> np.ndarray:
    planned = plan_output(job, output, STORE, cache())
    pixels = render_output(planned, output, STORE, cache())
    assert pixels.shape[1::-1] == planned.size
    return pixels


def row(**changes: object) -> Output:
    return replace(Output("o1", ITEM), **changes)


@pytest.mark.parametrize("job", [PLAIN, DROPPED], ids=["plain", "shadow"])
@pytest.mark.parametrize("crop", ["visible", "shape", "square", "centred"])
@pytest.mark.parametrize(
    ("size", "wanted"),
    [
        (OutputSize("width", width=333), (333, None)),
        (OutputSize("height", height=77), (None, 77)),
        (OutputSize("box", width=168, height=168), (168, 168)),
        (OutputSize("box", width=300, height=90), (300, 90)),
        (OutputSize("box", width=16, height=16), (16, 16)),
    ],
    ids=lambda v: getattr(v, "label", ""),
)
def test_stated_px_are_what_is_written(job, crop: str, size: OutputSize, wanted) -> None:
    height, width = made(job, row(size=size, crop=crop)).shape[:2]
    assert wanted[0] in (None, width)
    assert wanted[1] in (None, height)


@pytest.mark.parametrize("side", [16, 100, 168, 511])
def test_the_longest_side_is_the_one_stated(side: int) -> None:
    oval = job_with(SHADOWED, shape=library_shape("ellipse"), shape_placement=ShapePlacement(120, 100, 150, 90))
    height, width = made(oval, row(size=OutputSize("longest", width=side))).shape[:2]
    assert max(width, height) == side
    assert width > height


def test_a_size_is_the_geometry_at_that_scale_not_a_resized_picture() -> None:
    sharp = made(PLAIN, row(size=OutputSize("width", width=480), crop="shape"))
    # A circle of radius 240: pi r^2 (by formula); a resized picture's soft rim would not add up to it.
    assert sharp[..., 3].sum() / 255 == pytest.approx(np.pi * 240**2, rel=1e-4)
    rim = (sharp[..., 3] > 0) & (sharp[..., 3] < 255)
    assert rim.sum() < 2 * 2 * np.pi * 240


def test_square_and_centred_boxes() -> None:
    square = made(DROPPED, row(crop="square"))
    assert square.shape[0] == square.shape[1]
    planned = plan_output(DROPPED, row(crop="centred"), STORE, cache())
    placement = DROPPED.sheets[0].items[0].shape_placement
    box = planned.plan.box
    # Placing puts the shape's box on pixel lines, so twice its centre is whole.
    assert (box.x0 + box.x1, box.y0 + box.y1) == (round(2 * placement.x), round(2 * placement.y))
    visible = plan_output(DROPPED, row(), STORE, cache()).plan.box
    assert box.holds(visible)


def test_margins_grow_with_the_scale() -> None:
    bare = plan_output(PLAIN, row(crop="shape"), STORE, cache()).size
    for scale in (1.0, 2.0):
        output = row(crop="shape", margin=5, size=OutputSize(scale=scale))
        assert plan_output(PLAIN, output, STORE, cache()).size == tuple(
            round(v * scale + 10 * scale) for v in bare
        )


def test_a_background_fills_the_box() -> None:
    pixels = made(DROPPED, row(background=ColourPaint("#102030"), margin=3))
    assert (pixels[..., 3] == 255).all()
    assert pixels[0, 0].tolist() == [16, 32, 48, 255]


def test_sheets_go_out_whole_or_as_far_as_is_seen() -> None:
    sheet = PLAIN.sheets[0]
    whole = made(PLAIN, Output("o1", SHEET, crop="sheet"))
    assert whole.shape[:2] == (sheet.height, sheet.width)
    seen = made(PLAIN, Output("o1", SHEET, crop="visible"))
    assert seen.shape[0] < sheet.height


def test_sixteen_bits_hold_what_eight_round() -> None:
    soft = job_with(Finishes(edge=Edge(feather=30), lights=Lights(shadows=(Shadow(6, 9, 20),))))
    deep = made(soft, row(file=FileOptions(bits=16)))
    flat = made(soft, row())
    assert deep.dtype == np.uint16
    # Half a level of rounding, and less than a fifth where eight bits show nothing.
    assert np.abs(deep[..., 3] / 257 - flat[..., 3]).max() <= 0.7
    # A long ramp has far more steps than 256.
    assert len(np.unique(deep[..., 3])) > 2000
    assert made(soft, row(file=FileOptions("webp", bits=16))).dtype == np.uint8


def test_carried_colour_is_the_nearest_rims_and_alpha_stays() -> None:
    found = carried(DISC, 6)
    assert np.array_equal(found[..., 3], DISC[..., 3])
    visible = DISC[..., 3] > 0
    assert np.array_equal(found[visible], DISC[visible])
    y, x = np.nonzero(~visible & found[..., :3].any(axis=2))
    seen = np.argwhere(visible)
    for py, px in list(zip(y, x, strict=True))[::37]:
        away = np.hypot(*(seen - (py, px)).T)
        assert away.min() <= 6.5
        near = DISC[tuple(seen[away <= away.min() + 0.6].T)][:, :3].astype(int)
        assert np.abs(near - found[py, px, :3]).max(axis=1).min() == 0
    far = np.argwhere(~visible & ~found[..., :3].any(axis=2))
    assert all(np.hypot(*(seen - p).T).min() > 5.5 for p in far[::101])
    assert carried(DISC, 0) is DISC


def test_what_cannot_go_out_says_why() -> None:
    for output, why in (
        (Output("o1", "gone"), "not in the job"),
        (row(size=OutputSize(scale=400.0)), "more than"),
    ):
        with pytest.raises(ExportError, match=why):
            plan_output(PLAIN, output, STORE, cache())
    for size in (
        {"kind": "box", "width": 0, "height": 5},
        {"kind": "width", "width": 40_001},
        {"scale": float("nan")},
    ):
        with pytest.raises(ExportError, match="out of range"):
            OutputSize(**size)


@pytest.mark.parametrize("corner", ["top left", "top right", "bottom left", "bottom right"])
def test_a_video_pack_is_corner_alone_and_behind(corner: str) -> None:
    job = set_video(DROPPED, VideoCorner(corner, height=0.25, margin=0.1))
    job = add_video_pack(job, ITEM, (640, 360))
    in_corner, alone, behind = (made(job, o) for o in job.outputs)
    assert in_corner.shape == behind.shape == (360, 640, 4)
    assert alone.shape[0] == 90
    assert (behind[..., 3] == 255).all()
    # The very picture that comes alone stands in the corner, a tenth of the frame's height from its sides.
    height, width = alone.shape[:2]
    y = 36 if corner.startswith("top") else 360 - 36 - height
    x = 36 if corner.endswith("left") else 640 - 36 - width
    assert np.abs(in_corner[y : y + height, x : x + width].astype(int) - alone).max() <= 1
    left = in_corner.copy()
    left[y : y + height, x : x + width] = 0
    assert left[..., 3].max() <= 1


def test_a_video_pack_may_be_premultiplied_and_needs_a_photo() -> None:
    job = add_video_pack(DROPPED, ITEM, is_premultiplied=True)
    assert [(o.file.format, o.file.is_premultiplied) for o in job.outputs] == [
        ("tiff", True),
        ("tiff", True),
        ("png", False),
    ]
    with pytest.raises(ExportError, match="no photo to lay behind"):
        plan_output(job, replace(job.outputs[2], item_id=SHEET), STORE, cache())
    with pytest.raises(ExportError, match="not stated"):
        replace(job.outputs[0], size=OutputSize())
