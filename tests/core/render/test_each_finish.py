"""What holds for each finish: it shows, is what is written, can be off, moves nothing, and scales."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    Finishes,
)
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import ANY_FINISH, STORE, job_with, over, rendered
from tests.samples import cache, photo_job, png_photo

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
    grainy = name in ("brush", "rough", "mount")  # A mount lies on the pixel lines of each scale.
    assert np.abs(halved - one[..., 3]).mean() < (3.0 if grainy else 0.8)


@given(st.sampled_from(list(ANY_FINISH)), st.floats(-40, 40), st.floats(-40, 40))
def test_no_finish_moves_the_photo(name: str, dx: float, dy: float) -> None:
    job = job_with(ANY_FINISH[name])
    item = job.sheets[0].items[0]
    moved = replace(item, content_placement=item.content_placement.moved(dx, dy))
    assert moved.finishes == item.finishes and moved.shape_placement == item.shape_placement
    assert replace(item, finishes=Finishes()) == replace(job_with().sheets[0].items[0])
