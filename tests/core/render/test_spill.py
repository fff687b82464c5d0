"""A series as it is drawn: every picture is the cutout's own with another photo, and none lies over another."""

from itertools import combinations

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.items import swap_photo, update_item
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import find_sheet
from glasscap.core.document.outputs.series import in_series, make_series
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Picture, premultiplied
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout, plan_sheet
from glasscap.core.render.plan.spill import roomy_series, spill_of
from tests.samples import cache, photo_job, png_photo

JOB, STORE = photo_job(*(png_photo(*size, seed=n) for n, size in enumerate([(160, 120), (90, 150), (200, 80)])))
SHEET = JOB.sheets[0]
ITEM = SHEET.items[0]
LOOK = Finishes(
    Edge(feather=4), (Stroke(7, side="outside"),), Lights((Shadow(5, 9, 24),)),
)  # fmt: skip
OTHERS = JOB.photos[1:]


def dressed(finishes: Finishes = LOOK) -> Job:
    return update_item(JOB, ITEM.id, lambda i: replace(i, finishes=finishes))


def drawn(job: Job, item_id: str, scale: float = 1.0) -> Picture:
    sheet, item = next((s, i) for s in job.sheets for i in s.items if i.id == item_id)
    return render(plan_cutout(job, sheet, item, scale=scale), STORE, cache())


def on(box: PixelBox, picture: Picture) -> np.ndarray:
    """A picture's premultiplied pixels on a larger box."""
    rgba = np.zeros((box.height, box.width, 4), np.uint8)
    y, x = picture.y - box.y0, picture.x - box.x0
    rgba[y : y + picture.height, x : x + picture.width] = premultiplied(picture.rgba)
    return rgba


@pytest.mark.parametrize("scale", [1.0, 2.5, 0.35])
def test_each_picture_is_the_cutout_s_with_another_photo(scale: float) -> None:
    job, sheet_id = roomy_series(dressed(), ITEM.id, OTHERS, "alike")
    for one, photo in zip(find_sheet(job, sheet_id).items, OTHERS, strict=True):
        expected = drawn(swap_photo(dressed(), ITEM.id, photo), ITEM.id, scale)
        shift = (one.shape_placement.x - ITEM.shape_placement.x) * scale
        down = (one.shape_placement.y - ITEM.shape_placement.y) * scale
        picture = drawn(job, one.id, scale)
        # Shadows are blurred on cells that lie elsewhere: a tail may end a pixel sooner.
        box = picture.box.union(expected.box.moved(round(shift), round(down)))
        there = on(box.moved(-round(shift), -round(down)), expected)
        assert np.abs(on(box, picture).astype(int) - there).max() <= 1


def test_what_is_cast_lies_over_no_neighbour() -> None:
    job, sheet_id = roomy_series(dressed(), ITEM.id, JOB.photos)
    sheet = find_sheet(job, sheet_id)
    boxes = [drawn(job, i.id).box for i in sheet.items]
    whole = plan_sheet(job, sheet).box
    assert all(whole.holds(box) for box in boxes)
    for one, other in combinations(boxes, 2):
        assert one.intersection(other).is_empty


def test_room_is_what_finishes_need() -> None:
    shadowed = dressed().sheets[0]
    assert spill_of(JOB, SHEET, ITEM) <= 1
    assert 7 + 9 + 12 < spill_of(dressed(), shadowed, shadowed.items[0]) < 80


@pytest.mark.parametrize("scale", [1.0, 4.0])
@pytest.mark.parametrize("photo", JOB.photos, ids=["like it", "tall", "wide"])
def test_a_photo_that_just_covers_leaves_no_edge_of_its_own(photo: PhotoRecord, scale: float) -> None:
    """Coverage against that of a photo twice as large."""
    item = in_series(JOB, ITEM, photo, "covering")
    there = item.content_placement
    larger = replace(there, scale_x=2 * there.scale_x, scale_y=2 * there.scale_y)
    just, more = (
        render(plan_cutout(JOB, SHEET, replace(item, content_placement=placed), scale=scale), STORE, cache())
        for placed in (there, larger)
    )
    assert just.box == more.box
    assert np.abs(just.rgba[..., 3].astype(int) - more.rgba[..., 3]).max() <= 1


def test_of_no_photos_none_is_made() -> None:
    for make in (roomy_series, make_series):
        with pytest.raises(PlacementError, match="no photos"):
            make(JOB, ITEM.id, [])
