"""Edits one by one."""

import math

import pytest
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import bare_share
from glasscap.core.document.arranging.first_places import largest_centred, plain_name, sheet_for_photos
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.history import History
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord, Sheet
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import find_item, fresh_name, locate, photo_of
from glasscap.core.errors import JobFileError, PlacementError, ShapeError
from glasscap.core.shapes.kinds import library_shape
from glasscap.files.photos import photo_from_bytes
from tests.core.document.strategies import JOB
from tests.samples import photo_job, png_photo

NAN, INF = math.nan, math.inf


def names(job: Job) -> list[str]:
    return [i.name for i in job.sheets[0].items]


def test_the_largest_centred_circle_of_full_hd() -> None:
    placement = largest_centred(library_shape("circle"), 1920, 1080, 960, 540)
    assert (placement.x, placement.y, placement.width, placement.height) == (960, 540, 1080, 1080)


def test_an_odd_photo_gets_its_circle_on_whole_pixels() -> None:
    placement = largest_centred(library_shape("circle"), 1921, 1080, 960.5, 540)
    assert placement.box.x0 == math.floor(placement.box.x0)
    assert abs(placement.x - 960.5) <= 0.5


def test_one_photo_makes_a_sheet_of_its_own_frame() -> None:
    job, _ = photo_job(png_photo(200, 120))
    sheet = job.sheets[0]
    assert (sheet.width, sheet.height) == (200, 120)
    assert sheet.items[0].content_placement == ContentPlacement(100, 60)


def test_several_photos_lie_side_by_side_at_their_own_pixels() -> None:
    boxes = [i.shape_placement.box for i in JOB.sheets[0].items if i.shape_placement]
    assert all(i.content_placement.scale_x == 1 for i in JOB.sheets[0].items if i.content_placement)
    for n, one in enumerate(boxes):
        for other in boxes[n + 1 :]:
            assert one.x1 <= other.x0 or other.x1 <= one.x0 or one.y1 <= other.y0 or other.y1 <= one.y0


def test_swapping_keeps_shape_turn_and_cover() -> None:
    job, _ = photo_job(png_photo(200, 120))
    item = job.sheets[0].items[0]
    new = photo_from_bytes(png_photo(40, 90, seed=7), "other.png").record
    after = edits.swap_photo(job, item.id, new)
    now = find_item(after, item.id)
    assert (now.shape, now.shape_placement) == (item.shape, item.shape_placement)
    assert photo_of(after, now) == new
    assert bare_share(now, new) == 0


def test_a_waiting_shape_takes_a_photo() -> None:
    shape = Cutout("i5", "Circle", shape=library_shape("circle"), shape_placement=ShapePlacement(50, 50, 80, 80))
    job = Job((Sheet("s1", "Sheet 1", 100, 100, items=(shape,)),))
    photo = photo_from_bytes(png_photo(), "a.png").record
    after = find_item(edits.swap_photo(job, "i5", photo), "i5")
    assert after.shape_placement == shape.shape_placement
    assert bare_share(after, photo) == 0


def test_duplicate_paste_delete_and_order() -> None:
    first = JOB.sheets[0].items[0]
    doubled = edits.duplicate_items(JOB, [first.id], 10)
    assert names(doubled) == ["Sample 1", "Sample 1 2", "Sample 2", "Sample 3"]
    pasted = edits.paste_items(JOB, "s1", [first], JOB.photos)
    assert names(pasted)[-1] == "Sample 1 2"
    assert names(edits.remove_items(JOB, [first.id])) == ["Sample 2", "Sample 3"]
    assert names(edits.move_to_place(JOB, first.id, 99)) == ["Sample 2", "Sample 3", "Sample 1"]
    assert edits.move_to_place(JOB, first.id, 0) is JOB


def test_an_edit_that_changes_nothing_gives_the_same_job() -> None:
    item = JOB.sheets[0].items[0]
    assert edits.rename(JOB, item.id, item.name) is JOB
    assert edits.rename(JOB, item.id, "  ") is JOB
    assert edits.set_hidden(JOB, [item.id], False) is JOB
    assert edits.set_keeps(JOB, [item.id], "inside") is JOB
    assert edits.set_proof_colour(JOB, 0, JOB.proof_colours[0]) is JOB


def test_flags() -> None:
    item = JOB.sheets[0].items[0]
    job = edits.set_keeps(edits.set_keeps_covered(JOB, [item.id], True), [item.id], "outside")
    job = edits.set_locked(edits.set_hidden(job, [item.id], True), [item.id], True)
    now = find_item(job, item.id)
    assert now.is_hidden
    assert now.is_locked
    assert now.keeps_covered
    assert now.shape is not None
    assert now.shape.keeps == "outside"


def test_cover_meter_of_a_half_bare_square() -> None:
    job, _ = photo_job(png_photo(100, 100))
    item = replace(
        job.sheets[0].items[0],
        shape=library_shape("rectangle"),
        shape_placement=ShapePlacement(100, 50, 100, 100),
    )
    assert bare_share(item, job.photos[0]) == pytest.approx(0.5)
    hole = replace(item, shape=library_shape("rectangle", "outside"))
    assert bare_share(hole, job.photos[0]) is None


@pytest.mark.parametrize("bad", [NAN, INF, -1.0, 0.0])
def test_impossible_sizes_are_refused(bad: float) -> None:
    with pytest.raises(PlacementError):
        ShapePlacement(0, 0, bad, 10)
    with pytest.raises(PlacementError):
        ContentPlacement(0, 0, bad, 1)


def test_impossible_cutouts_and_jobs_are_refused() -> None:
    with pytest.raises(PlacementError):
        Cutout("i1", "Nothing")
    with pytest.raises(PlacementError):
        Cutout("i1", "Half", shape=library_shape("circle"))
    with pytest.raises(PlacementError):
        Sheet("s1", "Flat", 0, 10)
    with pytest.raises(ShapeError):
        replace(library_shape("rectangle"), params=())
    with pytest.raises(JobFileError):
        Job(())
    with pytest.raises(JobFileError):
        Job((Sheet("s1", "A", 1, 1), Sheet("s1", "B", 1, 1)))
    with pytest.raises(JobFileError):
        PhotoRecord("abc", "x", 1, 1)


def test_names_and_unknown_ids() -> None:
    assert fresh_name(JOB, "Sample 1") == "Sample 1 2"
    assert plain_name("blue-plate_2.final.jpg") == "Blue plate 2.final"
    assert plain_name(".jpg") == ".jpg"
    with pytest.raises(KeyError):
        locate(JOB, "nobody")
    with pytest.raises(KeyError):
        edits.update_sheet(JOB, "nowhere", lambda s: s)


def test_history_is_bounded_and_drops_what_was_undone() -> None:
    history = History((0,), capacity=3)
    for n in range(1, 6):
        history = history.applied(f"step {n}", n)
    assert history.values == (2, 3, 4, 5)
    history = history.undone().applied("other", 9)
    assert history.redo_label is None
    assert history.values == (2, 3, 4, 9)
    assert history.applied("nothing", 9).labels == history.labels


def test_sheet_for_photos_of_one_size() -> None:
    photo = photo_from_bytes(png_photo(60, 40), "a.png").record
    sheet = sheet_for_photos("s1", ["i2", "i3"], [photo, photo])
    assert (sheet.width, sheet.height) == (80, 40)
