"""Finishes: partition at the joints, feather, fading strokes, opacity, mount, paints, exposure."""

import cv2
import numpy as np
import pytest
from msgspec.structs import replace
from scipy import special

from glasscap.core.document.model.finishes import (
    Adjustments,
    Edge,
    Finishes,
    Lights,
    Mount,
    PictureMask,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.job import PaintContent, PhotoContent
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import (
    ANY_FINISH,
    GREEN,
    JOB,
    PHOTO,
    RED,
    STORE,
    flat_photo,
    job_with,
    radius_field,
    rendered,
)
from tests.samples import cache, photo_job, png_photo

SIDES = ("inside", "centre", "outside")


SCALES = (0.5, 1.0, 2.0, 3.7)


def on_segment(colours: np.ndarray, a, b) -> np.ndarray:
    """How far colours lie from the segment between two others, in levels."""
    a, b = np.array(a, float), np.array(b, float)
    t = np.clip(((colours - a) @ (b - a)) / np.dot(b - a, b - a), 0, 1)
    return np.abs(a + t[:, None] * (b - a) - colours).max(axis=1)


@pytest.mark.parametrize("scale", SCALES)
@pytest.mark.parametrize("side", SIDES)
@pytest.mark.parametrize("shape", ["circle", "rectangle"])
def test_no_hairline_between_photo_and_stroke(side: str, scale: float, shape: str) -> None:
    strokes = (Stroke(7, RED, side),)
    picture = rendered(job_with(Finishes(strokes=strokes), shape=library_shape(shape)), scale)
    outer = 60 + {"inside": 0, "centre": 3.5, "outside": 7}[side]
    field = radius_field(picture, (120.3 * scale, 99.6 * scale))
    inner = picture.rgba[field < outer * scale - 1]
    assert (inner[:, 3] == 255).all()
    assert on_segment(inner[:, :3].astype(float), PHOTO, (0xE0, 0x10, 0x20)).max() <= 1


@pytest.mark.parametrize("scale", SCALES)
def test_no_hairline_between_two_strokes(scale: float) -> None:
    picture = rendered(job_with(Finishes(strokes=(Stroke(5, RED), Stroke(6, GREEN, gap=5)))), scale)
    field = radius_field(picture, (120.3 * scale, 99.6 * scale))
    ring = picture.rgba[(field > 62.5 * scale) & (field < 71 * scale - 1)]
    assert (ring[:, 3] == 255).all()
    assert on_segment(ring[:, :3].astype(float), (0xE0, 0x10, 0x20), (0x10, 0xC0, 0x40)).max() <= 1


def test_the_photo_runs_on_beneath_a_translucent_inner_stroke_only() -> None:
    picture = rendered(job_with(Finishes(strokes=(Stroke(12, RED, "centre", opacity=0.5),))))
    field = radius_field(picture, (120.3, 99.6))
    inside, outside = picture.rgba[(field > 55.5) & (field < 58.5)], picture.rgba[(field > 61.5) & (field < 64.5)]
    assert (inside[:, 3] == 255).all()
    assert np.abs(inside[:, :3] - np.add(PHOTO, (0xE0, 0x10, 0x20)) / 2).max() <= 1
    assert set(outside[:, 3]) == {128} and (outside[:, :3] == (0xE0, 0x10, 0x20)).all()


def test_a_gap_shows_nothing() -> None:
    picture = rendered(job_with(Finishes(strokes=(Stroke(4, RED, gap=6),))))
    field = radius_field(picture, (120.3, 99.6))
    assert (picture.rgba[(field > 61.5) & (field < 64.5)] == 0).all()


def test_inset_moves_the_edge_and_not_the_photo() -> None:
    job = job_with(Finishes(edge=Edge(inset=10)))
    picture = rendered(job, crop="visible")
    assert (picture.width, picture.height) == (100, 100)
    whole = rendered(job_with(Finishes(edge=Edge(inset=-10))))
    assert whole.rgba[..., 3].sum() / 255 == pytest.approx(np.pi * 70**2, rel=1e-4)


@pytest.mark.parametrize("radius", [6, 20, 60])
@pytest.mark.parametrize("strength", [1.0, 2.5, 3.0])
def test_feather_is_the_error_function_to_its_strength(radius: int, strength: float) -> None:
    # Abramowitz & Stegun 7.1; strength: common practice, no source.
    box = library_shape("rectangle")
    job = job_with(Finishes(edge=Edge(feather=radius, strength=strength)), shape=box)
    item = job.sheets[0].items[0]
    wide = replace(
        item,
        shape_placement=ShapePlacement(120, 100, 120, 4000),
        content_placement=ContentPlacement(120, 100, 40, 40),
    )
    picture = rendered(replace(job, sheets=(replace(job.sheets[0], items=(wide,)),)), crop="sheet")
    row = picture.rgba[100, :, 3].astype(float)
    d = 60 - np.abs(np.arange(240) + 0.5 - 120)
    other = 120 - d
    sigma = radius / 2 * np.sqrt(2)
    truth = ((special.erf(d / sigma) + special.erf(other / sigma)) / 2) ** strength
    assert np.abs(row - truth * 255).max() < 0.5 + 255 / 512 * strength


def test_strength_three_leaves_an_eighth_on_the_line() -> None:
    wide = Finishes(edge=Edge(feather=40, strength=3))
    job = job_with(wide, shape=library_shape("rectangle"))
    item = job.sheets[0].items[0]
    placed = replace(
        item,
        shape_placement=ShapePlacement(120.5, 100, 121, 4000),
        content_placement=ContentPlacement(120, 100, 40, 40),
    )
    picture = rendered(replace(job, sheets=(replace(job.sheets[0], items=(placed,)),)), crop="sheet")
    at_line = picture.rgba[100, 59:61, 3].astype(float)
    assert at_line.mean() / 255 == pytest.approx(0.125, abs=0.004)


def test_a_feather_inside_spills_nothing_and_outside_keeps_all() -> None:
    inside = rendered(job_with(Finishes(edge=Edge(feather=30, feather_side="inside"))))
    outside = rendered(job_with(Finishes(edge=Edge(feather=30, feather_side="outside"))))
    assert radius_field(inside, (120.3, 99.6))[inside.rgba[..., 3] > 0].max() < 61
    assert (outside.rgba[..., 3][radius_field(outside, (120.3, 99.6)) < 59] == 255).all()


def test_a_feather_of_nothing_or_out_of_sight_shows_nothing() -> None:
    gone = Finishes(edge=Edge(inset=80, feather=30))
    for look, window in (
        (gone, PixelBox(0, 0, 240, 200)),
        (Finishes(edge=Edge(feather=8)), PixelBox(900, 0, 960, 50)),
    ):
        job = job_with(look)
        for quality in ("preview", "final"):
            plan = plan_view(job, job.sheets[0], Affine(), window, quality)
            assert not render(plan, STORE, cache()).rgba.any()
            frame = screen_frame(plan, STORE, cache())
            assert frame is None or not frame.rgba.any()


def test_the_stroke_stays_crisp_over_a_feather() -> None:
    picture = rendered(job_with(Finishes(edge=Edge(feather=30), strokes=(Stroke(6, RED, "centre"),))))
    field = radius_field(picture, (120.3, 99.6))
    assert (picture.rgba[(field > 58.2) & (field < 61.8)] == (0xE0, 0x10, 0x20, 255)).all()


def test_stacked_translucent_strokes_hide_their_sum_of_a_feathered_photo() -> None:
    strokes = (Stroke(10, RED, "inside", opacity=0.7), Stroke(10, GREEN, "inside", opacity=0.8))
    sharp = rendered(job_with(Finishes(strokes=strokes)))
    soft = rendered(job_with(Finishes(edge=Edge(feather=2), strokes=strokes)))
    ring = slice(50, 54)
    middle = (100 - sharp.y, slice(120 + ring.start - sharp.x, 120 + ring.stop - sharp.x))
    there = (100 - soft.y, slice(120 + ring.start - soft.x, 120 + ring.stop - soft.x))
    assert np.abs(soft.rgba[there].astype(int) - sharp.rgba[middle]).max() <= 1


def test_a_mitre_inside_a_wider_bevelled_stroke_keeps_corners_full() -> None:
    strokes = (Stroke(9, RED, join="mitre", opacity=0.5), Stroke(3, GREEN, gap=9, join="bevel"))
    corner = ShapePlacement(120, 100, 120, 120)
    picture = rendered(
        job_with(Finishes(strokes=strokes), shape=library_shape("rectangle"), shape_placement=corner)
    )
    # The tip's last pixel, 8.5 px out on both axes, lies just beyond the bevel: 17 > sqrt(2) (9 + 3).
    tip = picture.rgba[160 + 8 - picture.y, 180 + 8 - picture.x]
    assert np.abs(tip - np.array([(0xE0 + 0x10) / 2, (0x10 + 0xC0) / 2, (0x20 + 0x40) / 2, 255])).max() <= 1


def faded_with_strokes(*strokes: Stroke, side: str = "centred") -> np.ndarray:
    """Return the middle row of a straight edge at 120 px, at whose left the photo lies; its feather is 20 px."""
    edge = Edge(feather=20, feather_side=side, feathers_strokes=True)
    placement, photo = ShapePlacement(0, 100, 240, 800), ContentPlacement(120, 100, 8, 8)
    job = job_with(
        Finishes(edge=edge, strokes=strokes),
        shape=library_shape("rectangle"),
        shape_placement=placement,
        content_placement=photo,
    )
    return rendered(job).rgba[100]


@pytest.mark.parametrize("side", ["centred", "inside", "outside"])
def test_strokes_may_fade_as_well_and_then_do_so_beyond_their_own_end(side: str) -> None:
    row = faded_with_strokes(Stroke(14, RED), side=side)
    # Abramowitz & Stegun, 26.2; the edge of all is the stroke's, 14 px further out. Sigma is half the radius.
    away = 134 - (np.arange(240) + 0.5)
    shift = {"centred": 0.0, "inside": -20.0, "outside": 20.0}[side]
    share = special.ndtr((away + shift) / 10)
    # Within whose end it is cut off, or only beyond which it begins.
    # Inside it ends at nothing: (a - a0) / (1 - 2 a0), a0 what the Gaussian has left two sigma before its middle.
    tail = special.ndtr(-2)
    stretched = np.clip((share - tail) / (1 - 2 * tail), 0, 1)
    share = {"centred": share, "inside": stretched, "outside": np.where(away > 0, 1, share)}[side]
    assert np.abs(row[:, 3] / 255 - share).max() < 1.5 / 255
    assert (row[:120, :3] == PHOTO).all()
    seen = row[121:, 3] > 20
    assert np.abs(row[121:][seen, :3].astype(int) - (0xE0, 0x10, 0x20)).max() <= 6


def test_dashes_that_fade_do_so_beyond_their_own_end() -> None:
    dashed, whole = (faded_with_strokes(Stroke(14, RED, dashes=d, has_even_ends=False)) for d in ((2000, 1), ()))
    assert np.abs(dashed.astype(int) - whole).max() <= 1


def test_without_strokes_nothing_is_to_fade_with_them() -> None:
    alone, together = (Finishes(edge=Edge(feather=30, feathers_strokes=on)) for on in (False, True))
    assert np.array_equal(rendered(job_with(alone)).rgba, rendered(job_with(together)).rgba)


def test_a_hole_shows_its_shadow_inside_and_its_stroke_around() -> None:
    shape = library_shape("circle", "outside")
    shadow = Shadow(10, 10, 8, 0, "#000000", 1.0)
    finishes = Finishes(strokes=(Stroke(6, RED, "outside"),), lights=Lights(shadows=(shadow,)))
    picture = rendered(job_with(finishes, shape=shape), crop="sheet")
    field = radius_field(picture, (120.3, 99.6))
    assert (picture.rgba[(field > 61.2) & (field < 64.8)] == (0xE0, 0x10, 0x20, 255)).all()
    assert picture.rgba[62, 82, 3] > 200 and (picture.rgba[62, 82, :3] == 0).all()
    assert picture.rgba[110, 128, 3] == 0


def test_opacity_multiplies_the_isolated_picture() -> None:
    finishes = replace(ANY_FINISH["stroke"], mount=Mount())
    whole, half = (rendered(job_with(finishes, opacity=o)) for o in (1.0, 0.5))
    assert whole.box == half.box
    assert np.abs(half.rgba[..., 3] - whole.rgba[..., 3] / 2).max() <= 1


def test_a_mount_has_its_margins() -> None:
    picture = rendered(
        job_with(Finishes(mount=Mount(10, 20, 50, 30, paint=ColourPaint("#ffeecc")))), crop="visible"
    )
    assert (picture.width, picture.height) == (170, 180)
    assert tuple(picture.rgba[90, 5]) == (0xFF, 0xEE, 0xCC, 255)


def test_paints_fill_a_shape_without_a_photo() -> None:
    gradient = GradientPaint((Stop(0, "#000000"), Stop(1, "#ffffff")))
    job = job_with(content=PaintContent(gradient), content_placement=None, shape=library_shape("rectangle"))
    picture = rendered(job, crop="shape")
    row = picture.rgba[60, 1:-1, 0].astype(float)
    ideal = (np.arange(1, picture.width - 1) + 0.5 - 0.3) / 120 * 255
    assert np.abs(row - ideal).max() < 1.5


@pytest.mark.parametrize(("kind", "level"), [("luminance", 54), ("alpha", 128)])
def test_a_picture_masks_by_luminance_or_alpha(kind: str, level: int) -> None:
    # CSS Masking 1: luminance of pure red is 0.2126.
    mask = (
        np.full((50, 50, 4), (255, 0, 0, 255), np.uint8)
        if kind == "luminance"
        else np.full((50, 50, 4), (9, 9, 9, 128), np.uint8)
    )
    base, _ = photo_job(flat_photo())
    job, store = photo_job(flat_photo(), write_png(mask))
    record = job.photos[1]
    finishes = Finishes(edge=Edge(mask=PictureMask(record.sha256, kind)))
    item = replace(job_with().sheets[0].items[0], finishes=finishes)
    whole = replace(job, sheets=(replace(job.sheets[0], items=(item,)),))
    assert rendered(whole, store=store).rgba[100, 120, 3] == level
    assert base.photos[0] == job.photos[0]


def test_a_mask_is_placed_and_goes_with_its_shape() -> None:
    left_half = np.full((20, 40, 4), 255, np.uint8)
    left_half[:, 20:, :3] = 0
    job, store = photo_job(flat_photo(), write_png(left_half))
    mask = PictureMask(job.photos[1].sha256, is_stretched=True)

    def alpha(mask: PictureMask, shape: ShapePlacement) -> np.ndarray:
        look = Finishes(edge=Edge(mask=mask))
        plain = job_with(shape=library_shape("rectangle"), shape_placement=shape).sheets[0]
        item = replace(plain.items[0], finishes=look)
        placed = replace(job, sheets=(replace(plain, items=(item,)),))
        picture = rendered(placed, store=store, crop="shape")
        return picture.rgba[..., 3]

    upright = ShapePlacement(120, 100, 120, 80)
    # An enlarged picture rings a little beside its own edge.
    wide = alpha(mask, upright)
    assert wide[:, :55].min() > 235 and wide[:, 65:].max() < 20
    moved = alpha(replace(mask, x=0.25), upright)
    assert moved[:, 35:85].min() > 235 and moved[:, 95:].max() < 20 and moved[:, :25].max() < 20
    # Not stretched, 40 x 20 covers 120 x 80 at four times its size: 160 x 80.
    kept = alpha(PictureMask(job.photos[1].sha256, x=1 / 12), upright)
    assert kept[:, :65].min() > 235 and kept[:, 75:].max() < 20
    turned = alpha(replace(mask, rotation=90.0, size=2.0), upright)
    assert turned[:35].min() > 235 and turned[45:].max() < 20
    assert (alpha(mask, replace(upright, x=90, y=60)) == wide).all()


@pytest.mark.parametrize(
    "edge",
    [Edge(feather=24), Edge(inset=-9.5), Edge(feather=16, feather_side="outside"), Edge(rough=Rough("torn", 6))],
    ids=["fades", "is wider", "fades outside", "is torn"],
)
@pytest.mark.parametrize("rotation", [0.0, 25.0])
def test_what_stands_out_of_the_frame_is_masked_as_its_border_is(edge: Edge, rotation: float) -> None:
    white, half = (np.full((30, 50, 4), (*(level,) * 3, 255), np.uint8) for level in (255, 128))
    job, store = photo_job(flat_photo(), write_png(white), write_png(half))
    placement = ShapePlacement(120.3, 99.6, 110, 90, rotation)

    def alpha(mask: PictureMask | None) -> np.ndarray:
        plain = job_with(
            shape=library_shape("ellipse"),
            shape_placement=placement,
            content_placement=ContentPlacement(120, 100, 2, 2),
        ).sheets[0]
        item = replace(plain.items[0], finishes=Finishes(edge=replace(edge, mask=mask)))
        placed = replace(job, sheets=(replace(plain, items=(item,)),))
        return rendered(placed, store=store).rgba[..., 3].astype(float)

    unmasked = alpha(None)
    assert np.abs(alpha(PictureMask(job.photos[1].sha256)) - unmasked).max() <= 1
    assert np.abs(alpha(PictureMask(job.photos[2].sha256)) - unmasked * 128 / 255).max() <= 1
    assert np.abs(alpha(PictureMask(job.photos[2].sha256, is_inverted=True)) - unmasked * 127 / 255).max() <= 1


def test_a_backdrop_photo_covers_the_sheet_and_is_blurred() -> None:
    from glasscap.core.document.model.backdrop import PhotoBackdrop

    job, store = photo_job(png_photo(240, 200))
    sheet = replace(job.sheets[0], items=(), backdrop=PhotoBackdrop(job.photos[0].sha256, blur=30))
    picture = render(plan_sheet(replace(job, sheets=(sheet,)), sheet), store, cache())
    assert picture.box == PixelBox(0, 0, 240, 200) and (picture.rgba[..., 3] == 255).all()
    sharp = store.pyramid(job.photos[0]).photo.rgba.astype(float)
    assert picture.rgba[..., :3].std() < sharp[..., :3].std()
    assert np.abs(np.diff(picture.rgba[..., 0].astype(int), axis=1)).max() < 12


def test_exposure_doubles_linear_light() -> None:
    # IEC 61966-2-1: 0.5 in linear light is encoded 188.
    job, store = photo_job(flat_photo((137, 99, 188)))
    item = job.sheets[0].items[0]
    content = replace(item.content, adjustments=Adjustments(exposure_ev=1.0))
    job = replace(job, sheets=(replace(job.sheets[0], items=(replace(item, content=content),)),))
    assert isinstance(content, PhotoContent)
    assert np.abs(rendered(job, store=store).rgba[100, 100, :3].astype(int) - (188, 138, 255)).max() <= 1


def test_nothing_left_inside_is_an_empty_picture() -> None:
    assert rendered(job_with(Finishes(edge=Edge(inset=300))), crop="visible").width == 0
    assert JOB.photos


@pytest.mark.parametrize("turn", [0.0, 90.0])
@pytest.mark.parametrize("scale", [0.4, 1.0, 1.7, 3.0])
def test_a_mount_ends_on_pixel_lines_whatever_it_lies_behind(scale: float, turn: float) -> None:
    frame = ShapePlacement(120.37, 99.61, 101.43, 33.87, turn)
    plate = Mount(10.2, 20, 30, 10.7, corner=0, paint=ColourPaint("#ffeecc"))
    for crop in ("visible", "sheet"):
        job = job_with(Finishes(mount=plate), shape=library_shape("ellipse"), shape_placement=frame)
        alpha = rendered(job, scale, crop=crop).rgba[..., 3]
        assert set(np.unique(alpha)) <= {0, 255}
        assert alpha.any()
        if crop == "visible":
            assert alpha.min() == 255


@pytest.mark.parametrize("strength", [1.0, 2.0])
@pytest.mark.parametrize("shape", ["rectangle", "circle", "star"])
def test_a_feather_inside_reaches_nothing_at_the_outline(shape: str, strength: float) -> None:
    edge = Edge(feather=10, feather_side="inside", strength=strength)
    soft = rendered(job_with(Finishes(edge=edge), shape=library_shape(shape)), 2.0).rgba[..., 3]
    hard = rendered(job_with(shape=library_shape(shape)), 2.0).rgba[..., 3]
    beside = (hard == 255) & (cv2.erode(hard, np.ones((3, 3), np.uint8)) < 255)
    # A pixel further in it has three levels at the most: cut off, the Gaussian would have six on the outline itself.
    assert soft[beside].max() <= (30 if shape == "star" else 3)
    assert np.median(soft[beside]) <= 1
    assert soft.max() == 255
