"""Sheets of many cutouts: frames from kept layers, photos decoded on need within a budget."""

import io

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.model.job import Cutout, Job, PhotoContent, Sheet
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.store import PhotoStore
from glasscap.core.render.picture import is_heavy, render
from glasscap.core.render.plan.plan import PlanMemory, plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes
from tests.samples import cache, noise_rgba, png_photo

BOX = PixelBox(0, 0, 400, 300)


def many(count: int = 12, photos: int = 3) -> tuple[Job, PhotoStore]:
    """Round cutouts that overlap a little, in rows."""
    store, records = new_store(), []
    for seed in range(photos):
        data = png_photo(120, 90, seed=seed)
        store.add(data)
        records.append(photo_from_bytes(data, f"photo-{seed}.png").record)
    items = []
    for n in range(count):
        x, y = 50.3 + 88 * (n % 4), 50.7 + 80 * (n // 4)
        items.append(
            Cutout(
                f"i{n + 1}",
                f"Cutout {n + 1}",
                PhotoContent(records[n % photos].sha256),
                ContentPlacement(x, y, 1.1, 1.1),
                library_shape("circle"),
                ShapePlacement(x, y, 96, 96),
            )
        )
    return Job((Sheet("s1", "Sheet 1", 400, 300, items=tuple(items)),), tuple(records)), store


def moved(job: Job, at: int, dx: float) -> Job:
    sheet = job.sheets[0]
    item = sheet.items[at]
    there = replace(
        item,
        content_placement=item.content_placement.moved(dx, dx / 2),
        shape_placement=item.shape_placement.moved(dx, dx / 2),
    )
    return replace(job, sheets=(replace(sheet, items=(*sheet.items[:at], there, *sheet.items[at + 1 :])),))


def test_frames_from_kept_layers_are_those_drawn_anew() -> None:
    job, store = many()
    memory, kept = PlanMemory(), cache()
    steps = [job, *(moved(job, 5, n * 7.3) for n in range(4)), *(moved(job, 6, n * 5.1) for n in range(3)), job]
    for now in steps:
        plan = plan_view(now, now.sheets[0], Affine(), BOX, "preview", memory)
        fresh = plan_view(now, now.sheets[0], Affine(), BOX, "preview")
        assert plan.parts == fresh.parts
        one, other = screen_frame(plan, store, kept), screen_frame(fresh, store, cache())
        assert (one.x, one.y) == (other.x, other.y)
        assert np.array_equal(one.rgba, other.rgba)


def test_an_item_that_comes_or_goes_is_seen() -> None:
    job, store = many()
    memory, kept = PlanMemory(), cache()
    sheet = job.sheets[0]
    for items in (sheet.items, sheet.items[:-1], sheet.items[1:], sheet.items[::-1], sheet.items):
        now = replace(job, sheets=(replace(sheet, items=items),))
        plan = plan_view(now, now.sheets[0], Affine(), BOX, "preview", memory)
        fresh = screen_frame(plan_view(now, now.sheets[0], Affine(), BOX, "preview"), store, cache())
        assert np.array_equal(screen_frame(plan, store, kept).rgba, fresh.rgba)


def test_photos_beyond_the_budget_give_the_same_picture_one_by_one() -> None:
    job, store = many(photos=5)
    whole = render(plan_sheet(job, job.sheets[0], scale=1.7), store, cache())
    store.set_budget(120 * 90 * 4 * 2)
    plan = plan_sheet(job, job.sheets[0], scale=1.7)
    assert is_heavy(plan, store)
    bounded = render(plan, store, cache())
    assert bounded.box == whole.box
    assert np.abs(bounded.rgba.astype(int) - whole.rgba).max() <= 1
    assert store.decoded_bytes <= 120 * 90 * 4 * 4
    trimmed = render(plan_sheet(job, job.sheets[0], crop="visible"), store, cache())
    store.set_budget(1 << 30)
    assert trimmed.box == render(plan_sheet(job, job.sheets[0], crop="visible"), store, cache()).box


@pytest.fixture
def large() -> tuple[Job, PhotoStore]:
    """A JPEG of 6 MP, shown at a tenth of its size."""
    out = io.BytesIO()
    Image.fromarray(noise_rgba(3000, 2000)[..., :3]).save(out, "JPEG", quality=80)
    store = new_store()
    store.add(out.getvalue())
    record = photo_from_bytes(out.getvalue(), "large.jpg").record
    item = Cutout(
        "i1",
        "Large",
        PhotoContent(record.sha256),
        ContentPlacement(200, 150, 0.1, 0.1),
        library_shape("circle"),
        ShapePlacement(200, 150, 150, 150),
    )
    return Job((Sheet("s1", "Sheet 1", 400, 300, items=(item,)),), (record,)), store


def test_a_draft_will_do_for_what_is_shown_small(large: tuple[Job, PhotoStore]) -> None:
    job, store = large
    photos, kept = ScreenPhotos(store), cache()
    assert bench_frame(BenchRequest(job, "s1", Affine(), BOX), photos, kept).drafts == ()
    assert not store.is_decoded(job.photos[0])
    near = bench_frame(BenchRequest(job, "s1", Affine.scaling(6), PixelBox(0, 0, 2400, 1800)), photos, kept)
    assert near.drafts == job.photos
    chosen = bench_frame(BenchRequest(job, "s1", Affine(), BOX, whole_ids=("i1",)), photos, kept)
    assert chosen.drafts == job.photos


def test_a_photo_that_made_room_for_others_leaves_a_draft(large: tuple[Job, PhotoStore]) -> None:
    job, store = large
    (record,) = job.photos
    store.pyramid(record)
    store.set_budget(0)
    assert not store.is_decoded(record)
    draft = store.quick(record)
    assert draft.is_draft
    assert draft.size == (3000, 2000)
    assert not store.is_decoded(record)


def test_without_a_screen_nothing_is_kept_for_one(large: tuple[Job, PhotoStore]) -> None:
    job, for_screen = large
    (record,) = job.photos
    store = new_store(for_screen=False)
    assert store.add(for_screen.data(record), record.sha256) == record.sha256
    whole = store.pyramid(record)
    store.set_budget(0)
    quick = store.quick(record)
    assert not quick.is_draft
    assert np.array_equal(quick.photo.rgba, whole.photo.rgba)
