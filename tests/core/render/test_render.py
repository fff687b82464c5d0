"""Plans and pictures: sizes, places, bytes."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.errors import CancelledError, ExportError, PhotoMissingError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.pixels import Picture, visible_box
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout, plan_sheet
from glasscap.core.shapes.kinds import library_shape
from glasscap.files.jobs import new_store
from tests.samples import cache, noise_rgba, photo_job, png_photo

PHOTO = png_photo(400, 300)
JOB, STORE = photo_job(PHOTO)
PIXELS = noise_rgba(400, 300)


def with_item(**changes: object) -> Job:
    item = JOB.sheets[0].items[0]
    return edits.update_item(JOB, item.id, lambda i: replace(i, **changes))


def picture(job: Job, crop: str = "visible", scale: float = 1.0) -> Picture:
    sheet = job.sheets[0]
    plan = plan_cutout(job, sheet, sheet.items[0], crop=crop, scale=scale)  # type: ignore[arg-type]
    return render(plan, STORE, cache())


def placed(name: str, x: float, y: float, width: float, height: float, **more: float) -> Job:
    return with_item(shape=library_shape(name), shape_placement=ShapePlacement(x, y, width, height, **more))


@settings(max_examples=40)
@given(st.floats(60, 300), st.floats(60, 200), st.sampled_from(["circle", "rectangle", "ellipse"]))
def test_168_stays_168_wherever_it_lies(x: float, y: float, name: str) -> None:
    job = placed(name, x, y, 168, 168)
    found = picture(job, "shape")
    assert (found.width, found.height) == (168, 168)
    assert abs(found.x + 84 - x) <= 0.5 + 1e-9
    assert abs(found.y + 84 - y) <= 0.5 + 1e-9


@pytest.mark.parametrize(
    ("size", "scale", "expected"),
    [(168.0, 2.0, 336), (168.2, 1.0, 169), (100.0, 1.5, 150), (33.0, 0.5, 17)],
)
def test_fractions_round_up(size: float, scale: float, expected: int) -> None:
    assert picture(placed("circle", 200, 150, size, size), "shape", scale).width == expected


def test_interior_pixels_are_the_photo_s_bytes() -> None:
    found = picture(JOB)
    full = found.rgba[..., 3] == 255
    under = PIXELS[found.y : found.y + found.height, found.x : found.x + found.width]
    assert full.sum() > 65_000
    assert np.array_equal(found.rgba[full], under[full])


def test_alpha_sums_to_the_circle_s_area() -> None:
    # pi 150^2 = 70685.83; each of about 1200 boundary pixels is rounded by at most half a level.
    found = picture(JOB)
    assert found.rgba[..., 3].sum() / 255 == pytest.approx(math.pi * 150**2, abs=1.0)


def test_visible_holds_every_visible_pixel_and_no_more() -> None:
    job = placed("circle", 200, 150, 101, 101)
    found, whole = picture(job), picture(job, "sheet")
    assert whole.box == PixelBox(0, 0, 400, 300)
    shifted = picture(placed("circle", 200.5, 150.5, 101, 101), "sheet")
    assert found.width == visible_box(shifted).width == 101


def test_a_hole_keeps_the_outside() -> None:
    job = with_item(shape=library_shape("circle", "outside"))
    found = picture(job)
    assert found.box == PixelBox(0, 0, 400, 300)
    inside, hole = picture(JOB, "sheet").rgba[..., 3], found.rgba[..., 3]
    assert np.abs(inside.astype(int) + hole - 255).max() <= 1


def test_the_mask_off_shows_the_whole_photo() -> None:
    found = picture(with_item(is_masked=False))
    assert np.array_equal(found.rgba, PIXELS)


def test_a_shape_beyond_the_photo_shows_only_photo() -> None:
    job = placed("circle", 0, 0, 200, 200)
    found = picture(job)
    assert found.box == PixelBox(0, 0, 100, 100)
    assert found.rgba[..., 3].sum() / 255 == pytest.approx(math.pi * 100**2 / 4, rel=1e-3)


def test_a_shape_edge_on_the_photo_s_edge_is_counted_once() -> None:
    """Half-covered rows at the border stay half covered: one coverage, not the product of two."""
    place = ContentPlacement(200.5, 150.5)
    job = with_item(content_placement=place, shape=library_shape("rectangle"),
                    shape_placement=ShapePlacement(200.5, 150.5, 400, 300))  # fmt: skip
    found = picture(job, "sheet")
    assert found.rgba[150, 0, 3] == 128
    assert found.rgba[0, 0, 3] == 64


def test_own_alpha_multiplies_the_mask() -> None:
    data = png_photo(120, 100, alpha=True)
    job, store = photo_job(data)
    sheet = job.sheets[0]
    found = render(plan_cutout(job, sheet, sheet.items[0], crop="sheet"), store, cache())
    rgba = noise_rgba(120, 100, alpha=True)
    assert np.array_equal(found.rgba[40:60, 40:80, 3], rgba[40:60, 40:80, 3])
    seen = found.rgba[..., 3] > 0
    assert np.array_equal(found.rgba[seen][:, :3], rgba[seen][:, :3])
    assert (found.rgba[~seen] == 0).all()


@pytest.mark.parametrize("scale", [0.5, 2.0, 3.0])
def test_every_scale_has_the_same_shape(scale: float) -> None:
    found = picture(JOB, scale=scale)
    assert found.width == 300 * scale
    area = found.rgba[..., 3].sum() / 255
    assert area == pytest.approx(math.pi * (150 * scale) ** 2, rel=2e-5)


def test_a_sheet_is_exactly_its_box_and_composes_back_to_front() -> None:
    job, store = photo_job(png_photo(90, 90, seed=1), png_photo(90, 90, seed=2))
    front = job.sheets[0].items[1]
    job = edits.update_item(job, front.id, lambda i: replace(
        i, content_placement=i.content_placement.moved(-60, 0), shape_placement=i.shape_placement.moved(-60, 0)))  # type: ignore[union-attr]  # fmt: skip
    found = render(plan_sheet(job, job.sheets[0]), store, cache())
    assert found.box == PixelBox(0, 0, 180, 90)
    assert np.array_equal(found.rgba[45, 75, :3], noise_rgba(90, 90, seed=2)[45, 45, :3])
    everything = render(plan_sheet(job, job.sheets[0], crop="visible"), store, cache())
    assert everything.box == PixelBox(0, 0, 120, 90)


def test_bands_do_not_show() -> None:
    """A picture rendered in bands equals one rendered as a whole, resampled and translucent."""
    job, store = photo_job(png_photo(600, 700), png_photo(300, 300, seed=2))
    sheet = job.sheets[0]
    job = edits.update_items(job, [i.id for i in sheet.items], lambda i: replace(i, opacity=0.7))
    whole = render(plan_sheet(job, job.sheets[0], scale=0.7), store, cache())
    part = plan_sheet(job, job.sheets[0], scale=0.7)
    window = type(part)(PixelBox(0, 200, part.box.x1, 300), part.parts, part.quality)
    assert np.abs(render(window, store, cache()).rgba.astype(int) - whole.rgba[200:300]).max() <= 1


def test_an_empty_sheet_and_empty_bands_are_empty_pictures() -> None:
    job, store = photo_job(png_photo(90, 90, seed=1), png_photo(90, 90, seed=2))
    empty = replace(job, sheets=(replace(job.sheets[0], items=()),))
    assert not render(plan_sheet(empty, empty.sheets[0]), store, cache()).rgba.any()
    tall = replace(job, sheets=(replace(job.sheets[0], height=2000),))
    half = edits.update_items(tall, [i.id for i in job.sheets[0].items], lambda i: replace(i, opacity=0.5))
    for case in (tall, half):
        found = render(plan_sheet(case, case.sheets[0], scale=1.5), store, cache())
        assert found.rgba[:100].any()
        assert not found.rgba[300:].any()


@pytest.mark.parametrize("scale", [0.0, -1.0, math.nan, math.inf, 1e9])
def test_impossible_scales_are_refused(scale: float) -> None:
    with pytest.raises(ExportError):
        picture(JOB, scale=scale)


def test_nothing_to_show_is_said() -> None:
    with pytest.raises(ExportError, match="visible"):
        picture(placed("circle", 5000, 5000, 10, 10))
    waiting = Cutout("i9", "Circle", shape=library_shape("circle"), shape_placement=ShapePlacement(5, 5, 8, 8))
    with pytest.raises(ExportError, match="no photo"):
        plan_cutout(JOB, JOB.sheets[0], waiting)


def test_a_missing_photo_and_cancel() -> None:
    plan = plan_sheet(JOB, JOB.sheets[0])
    with pytest.raises(PhotoMissingError):
        render(plan, new_store(), cache())

    def stop() -> None:
        raise CancelledError

    with pytest.raises(CancelledError):
        render(plan, STORE, cache(), stop)


def test_the_cache_forgets_what_was_used_least() -> None:
    kept = ValueCache(100)
    for key in ("a", "b", "a", "c"):
        kept.get(key, lambda: b"x" * 40, len)
    assert kept.peek("b") is None
    assert kept.peek("a") is not None
    assert kept.nbytes == 80
