"""A series: what every cutout of it keeps, where it lies, and what goes out."""

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import add_photo, set_keeps, set_locked, swap_photo, update_item
from glasscap.core.document.edits.versions import add_version
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.finishes import Adjustments, Edge, Finishes, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Cutout, Job, PhotoContent, PhotoRecord
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.model.query import find_item, find_sheet, items_of, locate
from glasscap.core.document.outputs.rows import add_output, file_stem
from glasscap.core.document.outputs.series import PLACINGS, Placing, in_series, make_series
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Box
from tests.core.document.samples_of_many import job_of, waiting
from tests.core.document.strategies import JOB, item_ids, jobs

LOOK = Finishes(
    Edge(feather=6), (Stroke(10, side="outside"),), Lights((Shadow(0, 6, 18),)),
)  # fmt: skip


def photo(name: str, width: int = 160, height: int = 90) -> PhotoRecord:
    return PhotoRecord(name.encode().hex().ljust(64, "0"), name, width, height)


PHOTOS = [photo("tall-jug.jpg", 90, 160), photo("WIDE_shelf.png", 800, 90), photo("tile.jpg", 64, 64)]
ITEM = JOB.sheets[0].items[0].id


def dressed() -> Job:
    def change(item: Cutout) -> Cutout:
        content = PhotoContent(item.content.sha256, Adjustments(exposure_ev=0.5))
        return replace(item, finishes=LOOK, opacity=0.8, content=content, is_locked=True, is_hidden=True)

    return update_item(JOB, ITEM, change)


def made(job: Job, item_id: str = ITEM, placing: Placing = "covering", **more) -> tuple[Job, tuple[Cutout, ...]]:
    after, sheet_id = make_series(job, item_id, PHOTOS, placing, **more)
    return after, find_sheet(after, sheet_id).items


def test_each_photo_is_a_cutout_with_all_that_was_done_to_the_one() -> None:
    job, series = made(dressed())
    item = find_item(dressed(), ITEM)
    assert [i.name for i in series] == ["Tall jug", "WIDE shelf", "Tile"]
    assert [i.content.sha256 for i in series] == [p.sha256 for p in PHOTOS]
    for one in series:
        assert (one.shape, one.finishes, one.opacity) == (item.shape, item.finishes, item.opacity)
        assert one.content.adjustments == item.content.adjustments
        assert not one.is_locked and not one.is_hidden
    assert job.photos == (*JOB.photos, *PHOTOS)


def test_it_lies_on_a_sheet_of_its_own_behind_the_cutouts() -> None:
    job, _ = made(dressed())
    assert job.sheets[0] == dressed().sheets[0]
    assert [s.name for s in job.sheets] == ["Sheet 1", "Sample 1, series"]
    again, _ = made(job)
    assert [s.name for s in again.sheets] == ["Sheet 1", "Sample 1, series 2", "Sample 1, series"]
    assert len({i.name for _, i in items_of(again)}) == len(list(items_of(again)))


@given(jobs(), item_ids, st.sampled_from(PHOTOS))
def test_a_photo_that_covers_is_centred_undistorted_and_no_larger_than_needed(job, item_id, new) -> None:
    one = in_series(job, find_item(job, item_id), new, "covering")
    before, there = find_item(job, item_id).content_placement, one.content_placement
    assert bare_share(one, new) == 0.0
    assert there.scale_x == there.scale_y
    assert (there.rotation, there.is_mirrored) == (before.rotation, before.is_mirrored)
    smaller = replace(there, scale_x=there.scale_x * 0.99, scale_y=there.scale_y * 0.99)
    assert bare_share(replace(one, content_placement=smaller), new) > 0


def test_alike_it_lies_as_a_swapped_photo_does() -> None:
    for new in PHOTOS:
        swapped = find_item(swap_photo(JOB, ITEM, new), ITEM)
        assert in_series(JOB, find_item(JOB, ITEM), new, "alike") == swapped


def test_around_a_hole_photos_lie_alike() -> None:
    job = set_keeps(JOB, [ITEM], "outside")
    one, other = (in_series(job, find_item(job, ITEM), PHOTOS[0], placing) for placing in PLACINGS)
    assert one == other


def test_a_shape_that_waits_gets_every_photo() -> None:
    job, series = made(job_of([waiting("i1", Box(10, 20, 110, 70))]), "i1")
    for one, record in zip(series, PHOTOS, strict=True):
        assert bare_share(one, record) == 0.0
    assert series[0].content_placement.scale_x == pytest.approx(100 / 90, rel=2e-5)
    assert len(job.sheets) == 2


@given(jobs(), item_ids, st.sampled_from(PLACINGS), st.floats(0, 80))
def test_they_lie_beside_one_another_on_the_same_parts_of_pixels(job, item_id, placing, spill) -> None:
    after, series = made(job, item_id, placing, spill=spill)
    frame = find_item(job, item_id).shape_placement
    boxes = [item_box(after, one) for one in series]
    sheet = locate(after, series[0].id)[0]
    for one, box in zip(series, boxes, strict=True):
        shift = one.shape_placement.x - frame.x, one.shape_placement.y - frame.y
        assert shift == pytest.approx([20 * round(v / 20) for v in shift], abs=1e-6)
        assert min(box.x0, box.y0, sheet.width - box.x1, sheet.height - box.y1) >= spill - 1
    for one, other in combinations(boxes, 2):
        apart = max(one.x0 - other.x1, other.x0 - one.x1, one.y0 - other.y1, other.y0 - one.y1)
        assert apart >= 2 * spill - 2


def test_each_goes_out_as_the_cutout_does() -> None:
    webp = Output("", ITEM, OutputSize("longest", width=400), name="{size}", file=FileOptions("webp"))
    job = add_output(add_output(dressed(), Output("", ITEM)), webp)
    after, series = made(job)
    rows = after.outputs[2:]
    assert [(o.item_id, o.file.format) for o in rows] == [(i.id, f) for i in series for f in ("png", "webp")]
    stems = [file_stem(after, o, n, (400, 400)) for n, o in enumerate(rows)]
    assert stems[:2] == ["tall-jug", "400x400-tall-jug"]
    assert len(set(stems)) == len({(o.item_id, o.file.format) for o in rows})


def test_without_rows_each_is_a_picture_and_none_where_they_are_not_wanted() -> None:
    job, series = made(dressed())
    assert [o.item_id for o in job.outputs] == [i.id for i in series]
    assert made(dressed(), has_rows=False)[0].outputs == ()


def test_what_cannot_be_made_says_why() -> None:
    grouped, group_id = group_items(JOB, [i.id for i in JOB.sheets[0].items])
    with pytest.raises(PlacementError, match="it is a group"):
        make_series(grouped, group_id, PHOTOS)
    with pytest.raises(PlacementError, match="there are no photos"):
        make_series(JOB, ITEM, [])
    large = update_item(
        JOB, ITEM, lambda i: replace(i, shape_placement=replace(i.shape_placement, width=60_000, height=60_000))
    )
    with pytest.raises(PlacementError, match="fewer photos"):
        make_series(large, ITEM, PHOTOS)


def test_a_photo_that_is_there_already_is_listed_once() -> None:
    job, _ = make_series(add_photo(JOB, PHOTOS[0]), ITEM, [PHOTOS[0], JOB.photos[0]])
    assert job.photos == (*JOB.photos, PHOTOS[0])


def test_of_a_cutout_in_a_group_it_is_the_cutout_s_own() -> None:
    job = set_locked(dressed(), [ITEM], False)
    grouped, group_id = group_items(job, [i.id for i in JOB.sheets[0].items])
    job, series = made(grouped)
    assert find_item(job, group_id) == find_item(grouped, group_id)
    assert [i.finishes for i in series] == [LOOK] * len(PHOTOS)


def test_versions_stay_with_the_cutout() -> None:
    job, series = made(add_version(JOB, ITEM))
    assert find_item(job, ITEM).versions
    assert not any(i.versions for i in series)
