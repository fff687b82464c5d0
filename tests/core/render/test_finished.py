"""Finishes: partition at the joints, feather, shadows, what moves what."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy import ndimage, special

from glasscap.core.document.finishes import (
    Adjustments,
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    PictureMask,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model import PaintContent, PhotoContent
from glasscap.core.document.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.region import Region
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.resample import Quality
from glasscap.core.render import path_places
from glasscap.core.render.bands import OffsetKey
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.edges import Edges, Ground
from glasscap.core.render.finished import FinishedPart
from glasscap.core.render.part import flatness
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan import plan_cutout, plan_sheet, plan_view
from glasscap.core.render.screen import screen_frame
from glasscap.core.render.weights import Weights
from glasscap.core.shapes.kinds import Keeps, PointsShape, library_shape
from tests.core.render.finished_samples import JOB, PHOTO, STORE, flat_photo, job_with, over, rendered
from tests.samples import cache, photo_job, png_photo

RED, GREEN = ColourPaint("#e01020"), ColourPaint("#10c040")
SIDES = ("inside", "centre", "outside")
SCALES = (0.5, 1.0, 2.0, 3.7)


def radius_field(picture, centre):
    y, x = np.mgrid[0 : picture.height, 0 : picture.width]
    return np.hypot(x + 0.5 + picture.x - centre[0], y + 0.5 + picture.y - centre[1])


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
    share = {"centred": share, "inside": share * (away > 0), "outside": np.where(away > 0, 1, share)}[side]
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


def cast(job, **shadow):
    return job_with(Finishes(lights=Lights(shadows=(Shadow(**shadow),))))


@pytest.mark.parametrize("blur", [4.0, 18.0, 40.0])
@pytest.mark.parametrize("shift", [(0, 0), (13, -7), (5.5, 30.25)])
def test_a_shadow_is_a_float64_gaussian_of_the_silhouette(blur: float, shift: tuple[float, float]) -> None:
    shadow = Shadow(*shift, blur, 0.0, "#000000", 1.0)
    job = job_with(Finishes(lights=Lights(shadows=(shadow,))))
    alone = job_with(shape=None)
    with_it, without = rendered(job, crop="sheet"), rendered(alone, crop="sheet")
    moved = replace(
        alone.sheets[0].items[0],
        shape_placement=ShapePlacement(120.3 + shift[0], 99.6 + shift[1], 120, 120),
        content_placement=ContentPlacement(120, 100, 9, 9),
    )
    silhouette = rendered(replace(alone, sheets=(replace(alone.sheets[0], items=(moved,)),)), crop="sheet")
    plane = np.zeros((200 + 200, 240 + 200))
    from glasscap.core.document.region import shape_polygons
    from glasscap.core.raster.scan import cover

    flat = shape_polygons(moved.shape, moved.shape_placement, Affine(), tolerance=1 / 512)
    plane = cover(flat, PixelBox(-100, -100, 340, 300)).dense()
    truth = ndimage.gaussian_filter(plane, blur / 2, mode="constant", truncate=6)[100:300, 100:340]
    beneath = without.rgba[..., 3] == 0
    assert silhouette.rgba[..., 3].any()
    assert np.abs(with_it.rgba[..., 3] / 255 - truth)[beneath].max() < 1.02 / 255


def test_a_shadow_under_strokes_and_gaps_is_that_of_all_of_them() -> None:
    strokes = (Stroke(6, RED, gap=8),)
    shadow = Shadow(80, 0, 0, 0, "#000000", 1.0)
    picture = rendered(job_with(Finishes(strokes=strokes, lights=Lights(shadows=(shadow,)))))
    field = radius_field(picture, (200.3, 99.6))
    own = radius_field(picture, (120.3, 99.6)) < 76
    alpha = picture.rgba[..., 3]
    assert (alpha[(field > 61.5) & (field < 66.5) & ~own] == 0).all()
    assert (alpha[(field > 69.5) & (field < 72.5) & ~own] == 255).all()


def test_spread_grows_a_shadow_and_clear_beneath_takes_it_away() -> None:
    plain = Shadow(0, 0, 0, 10, "#000000", 1.0)
    clear = replace(plain, is_clear_beneath=True)
    one = rendered(job_with(Finishes(lights=Lights(shadows=(plain,)))))
    assert one.rgba[..., 3].sum() / 255 == pytest.approx(np.pi * 70**2, rel=1e-3)
    glass = job_with(Finishes(lights=Lights(shadows=(clear,))), opacity=0.5)
    field = radius_field(rendered(glass), (120.3, 99.6))
    assert np.abs(rendered(glass).rgba[field < 58] - (*PHOTO, 128)).max() <= 1


def test_the_picture_grows_to_hold_a_shadow_and_no_more() -> None:
    job = cast(None, dx=30, dy=20, blur=40, opacity=1.0)
    picture = rendered(job, crop="visible")
    for line in (picture.rgba[0], picture.rgba[-1], picture.rgba[:, 0], picture.rgba[:, -1]):
        assert line[..., 3].any()
    whole = rendered(job, crop="sheet")
    assert picture.rgba[..., 3].astype(int).sum() > whole.rgba[..., 3].astype(int).sum()
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    assert picture_box(plan, STORE, cache()) == picture.box


ANY_FINISH = {
    "inset": Finishes(edge=Edge(inset=4)),
    "feather": Finishes(edge=Edge(feather=24)),
    "rough": Finishes(edge=Edge(rough=Rough("torn", 5, 20))),
    "stroke": Finishes(strokes=(Stroke(6, RED), Stroke(3, GREEN, gap=9))),
    "dashes": Finishes(strokes=(Stroke(6, RED, dashes=(12, 7)),)),
    "brush": Finishes(strokes=(Stroke(9, RED, texture="brush"),)),
    "gradient": Finishes(strokes=(Stroke(9, GradientPaint(), "centre"),)),
    "texture": Finishes(strokes=(Stroke(9, TexturePaint("clay")),)),
    "shadow": Finishes(lights=Lights(shadows=(Shadow(),))),
    "inner shadow": Finishes(lights=Lights(inner_shadow=Shadow(4, 4, 12, opacity=0.9))),
    "glow": Finishes(lights=Lights(outer_glow=Glow(), inner_glow=Glow(10, 0, "#ff0000"))),
    "bevel": Finishes(lights=Lights(bevel=Bevel())),
    "outer bevel": Finishes(lights=Lights(bevel=Bevel(side="outer"))),
    "mount": Finishes(mount=Mount(8, 8, 30, 8, 4, stroke=Stroke(2), shadow=Shadow())),
}
each = pytest.mark.parametrize("name", ANY_FINISH)


@each
def test_every_finish_shows(name: str) -> None:
    plain, finished = (rendered(job_with(f), crop="sheet").rgba for f in (Finishes(), ANY_FINISH[name]))
    assert np.abs(plain.astype(int) - finished).max() > 8


@each
def test_the_middle_is_the_photos_bytes(name: str) -> None:
    job, store = photo_job(png_photo(240, 200))
    item = replace(job.sheets[0].items[0], finishes=ANY_FINISH[name])
    placed = replace(
        item, shape_placement=ShapePlacement(120, 100, 150, 150), content_placement=ContentPlacement(120, 100)
    )
    job = replace(job, sheets=(replace(job.sheets[0], items=(placed,)),))
    picture = rendered(job, store=store, crop="sheet").rgba
    photo = store.pyramid(job.photos[0]).photo.rgba
    assert np.array_equal(picture[90:110, 110:130], photo[90:110, 110:130])


@each
def test_the_bench_shows_what_is_written(name: str) -> None:
    job = job_with(ANY_FINISH[name])
    sheet, box = job.sheets[0], PixelBox(0, 0, 240, 200)
    written = render(plan_sheet(job, sheet), STORE, cache())
    frame = screen_frame(plan_view(job, sheet, Affine(), box, "preview"), STORE, cache())
    seen = np.zeros((200, 240, 4), np.uint8)
    seen[frame.y : frame.y + frame.rgba.shape[0], frame.x : frame.x + frame.rgba.shape[1]] = frame.rgba
    for backdrop in (0, 255):
        bench = np.floor(seen[..., :3] + backdrop * (1 - seen[..., 3:] / 255) + 0.5)
        assert np.abs(bench - np.floor(over(written, backdrop) + 0.5)).max() <= 1


@each
def test_a_finish_that_is_off_shows_nothing_and_keeps_its_numbers(name: str) -> None:
    finishes = ANY_FINISH[name]

    def off(value):
        return None if value is None else replace(value, is_on=False)

    lights = finishes.lights
    quiet = replace(
        finishes,
        edge=off(finishes.edge),
        strokes=tuple(off(s) for s in finishes.strokes),
        lights=replace(
            lights,
            shadows=tuple(off(s) for s in lights.shadows),
            inner_shadow=off(lights.inner_shadow),
            outer_glow=off(lights.outer_glow),
            inner_glow=off(lights.inner_glow),
            bevel=off(lights.bevel),
        ),
        mount=off(finishes.mount),
    )
    assert np.array_equal(rendered(job_with(quiet)).rgba, rendered(job_with()).rgba)


@each
@pytest.mark.parametrize("keeps", ["inside", "outside"])
def test_scales_agree_in_shape(name: str, keeps: str) -> None:
    shape = library_shape("circle", keeps)
    one, two = (rendered(job_with(ANY_FINISH[name], shape=shape), s, crop="sheet").rgba for s in (1, 2))
    halved = two[..., 3].reshape(200, 2, 240, 2).mean(axis=(1, 3))
    grainy = name in ("brush", "rough")
    assert np.abs(halved - one[..., 3]).mean() < (3.0 if grainy else 0.8)


def test_a_hole_shows_its_shadow_inside_and_its_stroke_around() -> None:
    shape = library_shape("circle", "outside")
    shadow = Shadow(10, 10, 8, 0, "#000000", 1.0)
    finishes = Finishes(strokes=(Stroke(6, RED, "outside"),), lights=Lights(shadows=(shadow,)))
    picture = rendered(job_with(finishes, shape=shape), crop="sheet")
    field = radius_field(picture, (120.3, 99.6))
    assert (picture.rgba[(field > 61.2) & (field < 64.8)] == (0xE0, 0x10, 0x20, 255)).all()
    assert picture.rgba[62, 82, 3] > 200 and (picture.rgba[62, 82, :3] == 0).all()
    assert picture.rgba[110, 128, 3] == 0


def test_parallels_of_a_rough_edge_are_one_shape_at_every_scale() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("rectangle"), ShapePlacement(120, 100, 120, 80), Affine.scaling(2)
    )
    edge, window = Edge(rough=Rough("stamped", 5)), PixelBox(0, 0, 500, 420)
    small = replace(region, sheet_to_output=Affine.translation(7, -3).after(Affine.scaling(0.37)))
    keep = cache()
    twice = Edges(region, edge, window, keep).polygons(OffsetKey(12.0, "mitre"))
    third = Edges(small, edge, window, keep).polygons(OffsetKey(6 * 0.37, "mitre"))
    assert len(twice) == len(third) > 0
    for one, other in zip(twice, third, strict=True):
        assert np.abs((other - (7, -3)) / 0.37 - one / 2).max() < 1e-9


@pytest.mark.parametrize("shape", ["circle", "heart", "star"])
def test_dashes_lie_at_the_same_places_at_every_scale_and_while_they_move(shape: str) -> None:
    job = job_with(Finishes(strokes=(Stroke(4, dashes=(9, 5)),)), shape=library_shape(shape))
    sheet, item = job.sheets[0], job.sheets[0].items[0]

    def middles(scale: float, quality: Quality) -> np.ndarray:
        plan = plan_cutout(job, sheet, item, scale=scale)
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        # In the shape's frame, which lies on whole pixels of the output.
        region = plan.parts[0].region
        assert region.placement is not None
        to_frame = region.sheet_to_output.after(region.placement.to_sheet).inverse()
        regions = (shapely.Polygon(ring).centroid for ring in weights.textures[0].dashes())
        return np.array(sorted(to_frame.apply(c.x, c.y) for c in regions))

    known = middles(1.0, "final")
    for scale, quality in ((2.0, "final"), (3.7, "final"), (1.0, "moving")):
        found = middles(scale, quality)
        away = np.hypot(*(found[:, None] - known[None]).transpose(2, 0, 1)).min(axis=1)
        # Round a corner dashes reach a pixel past their band, whose middle that moves.
        assert len(found) == len(known) and np.median(away) < 0.03


@pytest.mark.parametrize("side", ["inside", "outside"])
def test_dashes_along_a_rough_edge_lie_as_along_the_edge_it_was(side: str) -> None:
    def turns(rough: Rough | None, scale: float, quality: Quality) -> np.ndarray:
        job = job_with(Finishes(edge=Edge(rough=rough), strokes=(Stroke(4, side=side, dashes=(9, 5)),)))
        plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0], scale=scale)
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        region = plan.parts[0].region
        assert region.placement is not None
        to_frame = region.sheet_to_output.after(region.placement.to_sheet).inverse()
        middles = [shapely.Polygon(ring).centroid for ring in weights.textures[0].dashes()]
        return np.sort([math.atan2(*to_frame.apply(c.x, c.y)) for c in middles])

    torn, even = Rough("torn", 5, scale=9), turns(None, 1.0, "final")
    for scale, quality in ((1.0, "final"), (2.0, "final"), (1.0, "moving")):
        assert np.abs(turns(torn, scale, quality) - even).max() < 1e-3
    # And they reach across all of the rough stroke: no dash is cut off above or below.
    look = Finishes(edge=Edge(rough=torn), strokes=(Stroke(4, RED, side, dashes=(2000, 1), has_even_ends=False),))
    whole = replace(look, strokes=(replace(look.strokes[0], dashes=()),))
    assert np.abs(rendered(job_with(look)).rgba.astype(int) - rendered(job_with(whole)).rgba).max() <= 1


def test_round_dashes_along_a_rough_edge_stay_where_they_are_while_it_moves() -> None:
    def region(quality: Quality, rough: Rough | None) -> shapely.Geometry:
        job = job_with(Finishes(edge=Edge(rough=rough), strokes=(Stroke(6, dashes=(9, 14), cap="round"),)))
        plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
        weights = Weights(plan.parts[0], plan.box, STORE, quality, cache())
        return shapely.union_all([shapely.buffer(shapely.Polygon(p), 0) for p in weights.textures[0].dashes()])

    torn = Rough("torn", 3, scale=9)
    still, moving, even = region("final", torn), region("moving", torn), region("final", None)
    assert shapely.symmetric_difference(still, moving).area < 0.1 * still.area
    # And beside those along the edge it was, but for crumbs where teeth are sharp.
    middles = [[p.centroid for p in shapely.get_parts(some) if p.area > 20] for some in (still, even)]
    assert len(middles[0]) == len(middles[1])
    assert max(min(shapely.distance(a, b) for b in middles[1]) for a in middles[0]) < 6


def test_dots_along_a_rough_edge_lie_in_its_stroke() -> None:
    def red(rough: Rough | None) -> int:
        dotted = Stroke(6, RED, dashes=(0, 14), cap="round")
        picture = rendered(job_with(Finishes(edge=Edge(rough=rough), strokes=(dotted,))))
        return int((picture.rgba == (0xE0, 0x10, 0x20, 255)).all(axis=-1).sum())

    assert red(Rough("deckled", 12, scale=40)) > 0.8 * red(None) > 0


def test_a_brush_that_grows_keeps_where_along_the_outline_pixels_lie(monkeypatch: pytest.MonkeyPatch) -> None:
    measured: list[PixelBox] = []
    measuring = path_places.path_field

    def counted(polygons: tuple[np.ndarray, ...], box: PixelBox, margin: int) -> tuple[np.ndarray, np.ndarray]:
        measured.append(box)
        return measuring(polygons, box, margin)

    monkeypatch.setattr(path_places, "path_field", counted)

    def grain(width: float, keep: ValueCache) -> np.ndarray:
        job = job_with(Finishes(strokes=(Stroke(width, texture="brush"),)))
        part = plan_cutout(job, job.sheets[0], job.sheets[0].items[0]).parts[0]
        weights = Weights(part, PixelBox(0, 0, 240, 200), STORE, "preview", keep)
        return weights.textures[0].plane(PixelBox(60, 40, 90, 100))

    keep = cache()
    grown = [grain(width, keep) for width in (9.0, 10.5, 12.0)]
    assert len(measured) == 1
    for width, made in zip((9.0, 10.5, 12.0), grown, strict=True):
        assert np.array_equal(made, grain(width, cache()))


def test_a_gradient_along_the_edge_shares_them_with_a_brush() -> None:
    def painted(keep: ValueCache, *strokes: Stroke) -> list[np.ndarray]:
        job = job_with(Finishes(strokes=strokes))
        part = plan_cutout(job, job.sheets[0], job.sheets[0].items[0]).parts[0]
        ready = FinishedPart(part, PixelBox(0, 0, 240, 200), STORE, "preview", keep)
        frames = [stroke.frame() for stroke in ready.strokes]
        return [f.path.within(PixelBox(60, 40, 90, 100))[0] for f in frames if f.path is not None]

    along = GradientPaint((Stop(0, "#000000"), Stop(1, "#ffffff")), "along")
    keep = cache()
    one, other = painted(keep, Stroke(9.0, along), Stroke(11.0, texture="brush"))
    assert np.shares_memory(one, other)
    assert np.ptp(one) > 0.1 and np.array_equal(one, painted(cache(), Stroke(9.0, along))[0])


def test_what_moves_has_the_parallel_of_a_rough_edge_to_a_quarter_of_a_pixel() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("circle"), ShapePlacement(120, 100, 180, 180), Affine.scaling(1.5)
    )
    edge, window = Edge(rough=Rough("torn", 5, scale=6)), PixelBox(0, 0, 500, 420)
    offset, keep = OffsetKey(15.0), cache()
    exact, moving = (
        Edges(region, edge, window, keep, flatness(quality)).polygons(offset) for quality in ("final", "moving")
    )
    one, other = (shapely.Polygon(polygons[0]).exterior for polygons in (exact, moving))
    assert len(moving[0]) < len(exact[0])
    # By arcs and by points left out in dents.
    assert shapely.hausdorff_distance(one, other, densify=0.01) < 2 / 4
    assert np.array_equal(
        Edges(region, edge, window, keep, flatness("moving")).polygons()[0],
        Edges(region, edge, window, keep).polygons()[0],
    )


def test_what_moves_has_a_rough_edge_of_fewer_points_where_none_is_kept() -> None:
    region = Region(
        Affine(), (240, 200), library_shape("circle"), ShapePlacement(120, 100, 180, 180), Affine.scaling(0.5)
    )
    edge, window = Edge(rough=Rough("torn", 5, scale=6)), PixelBox(0, 0, 130, 110)
    exact = Edges(region, edge, window, cache())
    moving = Edges(region, edge, window, cache(), flatness("moving"))
    (many,), (few,) = exact.polygons(), moving.polygons()
    assert 2 * len(few) < len(many)
    # Of the same edge: most points lie on it, all near by, and a stroke's parallel follows.
    away = shapely.distance(shapely.LinearRing(many), shapely.points(few))
    assert np.median(away) < 0.03 and away.max() < 0.6
    for offset in (OffsetKey(0.0), OffsetKey(4.0)):
        one, other = (edges.coverage(offset).dense() for edges in (exact, moving))
        assert abs(one.sum() - other.sum()) < 0.002 * one.sum()
        assert np.abs(one - other).max() < 0.35


@pytest.mark.parametrize("keeps", ["inside", "outside"])
@pytest.mark.parametrize("rough", [None, Rough("torn", 2, scale=6)])
def test_what_moves_is_filled_as_what_rests_where_sides_are_turned_round(
    keeps: Keeps, rough: Rough | None
) -> None:
    # A thorn beside a dent that the stroke closes, over a side of many points.
    side = " ".join(f"L{200 - n / 3:.3f} {120 + math.sin(n / 9):.3f}" for n in range(600))
    shape = PointsShape(f"M0 0 L80 0 L85 -60 L90 0 L100 0 L103 30 L106 0 L200 0 {side} Z", keeps=keeps)
    region = Region(Affine(), (300, 260), shape, ShapePlacement(150, 130, 200, 180), Affine())
    edge, window = Edge(rough=rough), PixelBox(0, 0, 300, 260)
    ground = Ground(Affine(), (300, 260)) if keeps == "outside" else None
    exact, moving = (
        Edges(region, edge, window, cache(), flatness(quality), ground) for quality in ("final", "moving")
    )
    for distance in (12.0, -4.0):
        one, other = (edges.coverage(OffsetKey(distance)).dense() for edges in (exact, moving))
        away = np.abs(one - other)
        # In the pixels where two arcs cross alone; a rough edge that moves has fewer points, and folds at corners.
        assert (away > 0.1).sum() <= 2 if rough is None else (away > 0.35).sum() <= 12
        assert away.mean() < 2e-3
    # Dashes go along the outline, which does not cross itself.
    assert rough is not None or shapely.is_valid(shapely.Polygon(moving.polygons(OffsetKey(12.0))[0]))


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
    from glasscap.core.document.backdrop import PhotoBackdrop

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


@given(st.sampled_from(list(ANY_FINISH)), st.floats(-40, 40), st.floats(-40, 40))
def test_no_finish_moves_the_photo(name: str, dx: float, dy: float) -> None:
    job = job_with(ANY_FINISH[name])
    item = job.sheets[0].items[0]
    moved = replace(item, content_placement=item.content_placement.moved(dx, dy))
    assert moved.finishes == item.finishes and moved.shape_placement == item.shape_placement
    assert replace(item, finishes=Finishes()) == replace(job_with().sheets[0].items[0])


def test_nothing_left_inside_is_an_empty_picture() -> None:
    assert rendered(job_with(Finishes(edge=Edge(inset=300))), crop="visible").width == 0
    assert JOB.photos
