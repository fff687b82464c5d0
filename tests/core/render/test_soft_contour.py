"""A soft contour in whole pictures: the matte is what is written, kept, shaded and shown."""

from functools import lru_cache

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    BandStroke,
    Edge,
    Finishes,
    Lights,
    Rough,
    Shadow,
    SoftContour,
    Stroke,
)
from glasscap.core.document.model.job import GroupContent, Job
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.errors import FinishError
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.render.paint import soft_contour
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout, plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.render.vector_scene import pixel_reasons
from glasscap.core.shapes.kinds import library_shape
from tests.core.raster.known_mattes import SIDE, known_matte
from tests.samples import cache, photo_job

# The band is as wide as the hair is long.
BAND = 48.0
SOFT = SoftContour(BAND)


@lru_cache
def _file() -> bytes:
    rgb = known_matte("hair").rgb
    return write_png(np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)]))


def soft_job(
    soft: SoftContour = SOFT, finishes: Finishes | None = None, scale: float = 1.0
) -> tuple[Job, PhotoStore]:
    job, store = photo_job(_file())
    sheet, size = job.sheets[0], 0.6 * SIDE * scale
    middle = SIDE * scale / 2
    given = finishes or Finishes()
    item = replace(
        sheet.items[0],
        content_placement=ContentPlacement(middle, middle, scale, scale),
        shape=library_shape("circle"),
        shape_placement=ShapePlacement(middle, middle, size, size),
        finishes=replace(given, edge=replace(given.edge, soft=soft)),
    )
    whole = max(round(SIDE * scale), 1)
    return replace(job, sheets=(replace(sheet, width=whole, height=whole, items=(item,)),)), store


def picture(job: Job, store: PhotoStore, scale: float = 1.0) -> np.ndarray:
    return render(plan_sheet(job, job.sheets[0], scale=scale), store, cache()).rgba


def test_what_is_written_is_the_photo_s_matte() -> None:
    truth, rgba = known_matte("hair"), picture(*soft_job())
    band = np.abs(np.hypot(*(np.mgrid[:SIDE, :SIDE] - SIDE / 2)) - 0.3 * SIDE) < BAND / 2
    assert np.abs(rgba[..., 3] / 255 - truth.alpha)[band].mean() < 0.03
    full = rgba[..., 3] == 255
    assert np.array_equal(rgba[full][:, :3], truth.rgb[full])
    assert full[SIDE // 2, SIDE // 2]


def test_off_or_without_a_width_it_is_the_outline() -> None:
    plain = picture(*soft_job(replace(SOFT, is_on=False)))
    assert np.array_equal(plain, picture(*soft_job(SoftContour(0.0))))
    assert (plain[..., 3] > 0).sum() == pytest.approx(np.pi * (0.3 * SIDE) ** 2, rel=0.02)


def test_a_cleaned_rim_has_the_object_s_colours_and_the_same_alpha() -> None:
    truth = known_matte("hair")
    as_shot, clean = picture(*soft_job()), picture(*soft_job(replace(SOFT, cleans_rim=True)))
    assert np.array_equal(as_shot[..., 3], clean[..., 3])
    mixed = (truth.alpha > 0.1) & (truth.alpha < 0.9) & (as_shot[..., 3] > 25)
    errors = [np.abs(p[..., :3] / 255 - truth.colours)[mixed].mean() for p in (as_shot, clean)]
    assert errors[1] < 0.6 * errors[0]


@pytest.mark.parametrize("scale", [0.5, 1.0, 1.7])
def test_the_screen_shows_the_file(scale: float) -> None:
    job, store = soft_job()
    whole = round(SIDE * scale)
    box = PixelBox(0, 0, whole, whole)
    frame = screen_frame(plan_view(job, job.sheets[0], Affine.scaling(scale), box, "preview"), store, cache())
    shown = np.zeros((whole, whole), np.uint8)
    shown[frame.y : frame.y + frame.rgba.shape[0], frame.x : frame.x + frame.rgba.shape[1]] = frame.rgba[..., 3]
    written = picture(job, store, scale)[..., 3]
    assert np.abs(shown.astype(int) - written[:whole, :whole]).mean() < 1.0


def test_a_cleaned_rim_is_cleaned_anew_when_the_shape_alone_moves() -> None:
    job, store = soft_job(replace(SOFT, cleans_rim=True))
    sheet, keep, box = job.sheets[0], cache(), PixelBox(0, 0, SIDE, SIDE)
    item = sheet.items[0]

    def frame(at: float, kept: ValueCache) -> np.ndarray:
        moved = replace(item, shape_placement=replace(item.shape_placement, x=at))
        now = replace(job, sheets=(replace(sheet, items=(moved,)),))
        return screen_frame(plan_view(now, now.sheets[0], Affine(), box, "preview"), store, kept).rgba

    frame(SIDE / 2 - 30, keep)
    assert np.array_equal(frame(SIDE / 2, keep), frame(SIDE / 2, cache()))


def test_a_shadow_is_that_of_the_matte() -> None:
    lit = Finishes(lights=Lights(shadows=(Shadow(0, 60, 2, colour="#ff0000", opacity=1.0),)))
    job, store = soft_job(finishes=lit)
    alpha = picture(*soft_job())[..., 3].astype(int)
    shaded = picture(job, store)
    # Below the object its own alpha is found again, 60 px lower.
    rows = slice(int(SIDE * 0.84), SIDE)
    expected = alpha[rows.start - 60 : rows.stop - 60]
    clear = alpha[rows] == 0
    assert np.abs(shaded[rows][..., 3].astype(int) - expected)[clear].mean() < 12
    assert (expected[clear] > 0).any()


def test_the_matte_goes_with_the_cutout_and_is_computed_once(monkeypatch: pytest.MonkeyPatch) -> None:
    job, store = soft_job()
    calls, real = [], soft_contour.contour_matte
    monkeypatch.setattr(soft_contour, "contour_matte", lambda *a, **k: calls.append(1) or real(*a, **k))
    sheet, keep = job.sheets[0], cache()
    item = sheet.items[0]
    for dx in (0, 7, 19):
        moved = replace(
            item,
            content_placement=replace(item.content_placement, x=item.content_placement.x + dx),
            shape_placement=replace(item.shape_placement, x=item.shape_placement.x + dx),
        )
        again = replace(job, sheets=(replace(sheet, items=(moved,)),))
        render(plan_cutout(again, again.sheets[0], moved), store, keep)
    assert len(calls) == 1
    smaller = replace(item, shape_placement=replace(item.shape_placement, width=200, height=200))
    again = replace(job, sheets=(replace(sheet, items=(smaller,)),))
    render(plan_cutout(again, again.sheets[0], smaller), store, keep)
    assert len(calls) == 2


def test_it_is_as_wide_on_a_photo_that_is_shown_small() -> None:
    # The same band in sheet px: half as many of a photo shown at twice its size.
    large = picture(*soft_job(SoftContour(2 * BAND), scale=2.0))[..., 3]
    small = picture(*soft_job())[..., 3]
    reduced = large.reshape(SIDE, 2, SIDE, 2).mean(axis=(1, 3))
    assert np.abs(reduced - small).mean() < 1.5


@pytest.mark.parametrize(
    "finishes",
    [
        Finishes(strokes=(Stroke(6.0),)),
        Finishes(edge=Edge(feather=8.0)),
        Finishes(edge=Edge(rough=Rough())),
        Finishes(edge=Edge(inset=-4.0), strokes=(Stroke(3.0, gap=2.0),), lights=Lights(shadows=(Shadow(),))),
    ],
)
def test_with_other_finishes_nothing_shows_that_the_matte_holds_back(finishes: Finishes) -> None:
    own = picture(*soft_job(finishes=replace(finishes, strokes=(), lights=Lights())))[..., 3]
    bare = picture(*soft_job())[..., 3]
    assert (own.astype(int) - bare).max() <= 1
    whole = picture(*soft_job(finishes=finishes))
    assert (whole[..., 3].astype(int) - own).min() >= -1


def test_only_a_photo_within_a_shape_has_one() -> None:
    job, store = soft_job()
    sheet, item = job.sheets[0], job.sheets[0].items[0]
    hole = replace(item, shape=library_shape("circle", "outside"))
    plain = replace(hole, finishes=Finishes())
    for one, other in ((hole, plain), (replace(item, is_masked=False), replace(plain, is_masked=False))):
        pair = [
            replace(job, sheets=(replace(sheet, items=(i,)),)) for i in (one, replace(other, shape=one.shape))
        ]
        assert np.array_equal(picture(pair[0], store), picture(pair[1], store))
    group = replace(item, id="group", content=GroupContent((replace(item, id="inner"),)), content_placement=None)
    grouped = replace(job, sheets=(replace(sheet, items=(group,)),))
    assert picture(grouped, store).any()


def test_it_is_saved_and_drawn_as_pixels_where_formats_hold_paths() -> None:
    stroke = BandStroke(((0.5, 0.0), (0.5, 0.1)), 0.05, is_wider=False)
    job, store = soft_job(SoftContour(20.0, (stroke,), cleans_rim=True))
    read = read_job(write_job(job, store.data), "a.glasscap")
    assert read.job.sheets == job.sheets
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    assert pixel_reasons(plan.parts) == {"a soft contour"}


def test_numbers_out_of_range_are_refused() -> None:
    with pytest.raises(FinishError, match="Soft contour"):
        SoftContour(-1.0)
    with pytest.raises(FinishError, match="Brush"):
        BandStroke(((0.0, 0.0),), -1.0)
