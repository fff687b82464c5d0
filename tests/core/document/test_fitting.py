"""Two ways to fit a photo into its shape, and the meter that tells what is bare."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.by_number import scale_content
from glasscap.core.document.arranging.cover import bare_share, fitted_inside, just_covering
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.intake import add_photos, job_of_photos
from glasscap.core.document.edits.items import another_cutout, change_item, join, joinable
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord, Sheet
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import find_item, photo_of
from glasscap.core.errors import PlacementError
from glasscap.core.shapes.kinds import library_shape

PHOTO = PhotoRecord("1" * 64, "plate.jpg", 4000, 3000)
sides = st.integers(2, 6000)


def cutout(x: float, y: float, scale: float, turn: float, name: str = "circle", width: float = 300) -> Cutout:
    job = job_of_photos([PHOTO])
    frame = ShapePlacement(1000, 800, width, 300)
    return replace(
        job.sheets[0].items[0],
        content_placement=ContentPlacement(x, y, scale, scale, turn),
        shape=library_shape(name),
        shape_placement=frame,
    )


@settings(max_examples=60, deadline=None)
@given(
    st.floats(900, 1100), st.floats(700, 900), st.floats(0.05, 8), st.sampled_from([0.0, 90.0, 17.0]),
    st.sampled_from(["circle", "heart"]),
)  # fmt: skip
def test_just_cover_is_the_smallest_size_that_covers(x, y, scale, turn, name) -> None:
    item = cutout(x, y, scale, turn, name)
    fitted = just_covering(item, PHOTO)
    assert bare_share(replace(item, content_placement=fitted), PHOTO) == 0
    smaller = replace(fitted, scale_x=fitted.scale_x * 0.98, scale_y=fitted.scale_y * 0.98)
    best = just_covering(replace(item, content_placement=smaller), PHOTO)
    assert best.scale_x == pytest.approx(fitted.scale_x)
    assert fitted.rotation == turn


def test_just_cover_of_a_circle_is_the_circle_s_diameter_over_the_short_side() -> None:
    for scale in (0.01, 1.0, 5.0):
        fitted = just_covering(cutout(1000, 800, scale, 0.0), PHOTO)
        assert fitted.scale_x == pytest.approx(300 / 3000, rel=1e-5)


def test_what_lies_in_the_shape_s_centre_stays_there_as_nearly_as_it_can() -> None:
    item = cutout(1400, 800, 1.0, 0.0)
    fitted = just_covering(item, PHOTO)
    # 0.1 of the size: the photo is 400 wide, the circle 300, so its centre may be 50 px off at the most.
    assert (fitted.x, fitted.y) == pytest.approx((1040, 800), abs=1e-3)


@settings(max_examples=40, deadline=None)
@given(st.floats(0.05, 8), st.floats(100, 900))
def test_fit_inside_shows_the_whole_photo_in_the_frame(scale: float, width: float) -> None:
    item = cutout(1234, 777, scale, 0.0, "rectangle", width)
    fitted = fitted_inside(item, PHOTO)
    seen = (PHOTO.width * fitted.scale_x, PHOTO.height * fitted.scale_y)
    assert seen[0] <= width + 1e-6
    assert seen[1] <= 300 + 1e-6
    assert math.isclose(seen[0], width) or math.isclose(seen[1], 300)
    assert (fitted.x, fitted.y) == pytest.approx((1000, 800))


def test_a_typed_scale_turns_about_the_shape_s_centre() -> None:
    job = job_of_photos([PHOTO])
    key = job.sheets[0].items[0].id
    frame = ShapePlacement(500, 400, 300, 300)
    job = change_item(job, key, lambda i: replace(i, shape_placement=frame))
    item = find_item(scale_content(job, key, 0.4), key)
    place = item.content_placement.to_sheet(4000, 3000)
    before = find_item(job, key).content_placement.to_sheet(4000, 3000)
    # The photo px that was under the shape's centre is there still.
    assert place.apply(*before.inverse().apply(500, 400)) == pytest.approx((500, 400))


@settings(max_examples=150, deadline=None)
@given(sides, sides, sides, sides)
def test_a_photo_that_was_just_added_leaves_nothing_bare(w: int, h: int, other_w: int, other_h: int) -> None:
    job = job_of_photos([PhotoRecord("2" * 64, "a.jpg", w, h)])
    job = add_photos(job, "s1", [PhotoRecord("3" * 64, "b.jpg", other_w, other_h)])
    for item in job.sheets[0].items:
        content, photo = item.content_placement, photo_of(job, item)
        if min(photo.width * content.scale_x, photo.height * content.scale_y) >= 1:
            assert bare_share(item, photo) == 0


def test_another_cutout_is_in_register_and_without_finishes() -> None:
    job = job_of_photos([PHOTO])
    key = job.sheets[0].items[0].id
    after, fresh = another_cutout(job, key)
    one, two = find_item(after, key), find_item(after, fresh)
    assert (two.content, two.content_placement) == (one.content, one.content_placement)
    assert after.sheets[0].items == (one, two)
    assert len(after.photos) == 1
    waiting = change_item(job, key, lambda i: replace(i, content=None, content_placement=None))
    with pytest.raises(PlacementError, match="no photo"):
        another_cutout(waiting, key)


def _with_shape(*, behind: bool):
    job = job_of_photos([PHOTO])
    shape = Cutout("m1", "Mask", shape=library_shape("heart"), shape_placement=ShapePlacement(900, 700, 200, 180))
    (item,) = job.sheets[0].items
    items = (shape, item) if behind else (item, shape)
    return replace(job, sheets=(replace(job.sheets[0], items=items),)), item


@pytest.mark.parametrize("behind", [False, True])
def test_a_new_shape_becomes_the_mask_of_a_cutout_that_has_one(behind: bool) -> None:
    job, item = _with_shape(behind=behind)
    pair = joinable(job, (item.id, "m1"))
    assert pair == (item.id, "m1")
    (joined,) = join(job, *pair).sheets[0].items
    assert joined.shape.name == "heart"
    assert joined.shape_placement == ShapePlacement(900, 700, 200, 180)
    assert (joined.content, joined.content_placement, joined.name) == (
        item.content,
        item.content_placement,
        item.name,
    )
    # One alone is joined only with what it was part of.
    assert joinable(job, ("m1",)) is None


@pytest.mark.parametrize("behind", [False, True])
def test_the_waiting_shape_becomes_the_group_s_wherever_it_lies(behind: bool) -> None:
    job, item = _with_shape(behind=behind)
    grouped, key = group_items(job, [item.id, "m1"])
    group = find_item(grouped, key)
    assert group.shape.name == "heart"
    assert [i.id for i in group.items] == [item.id]


@pytest.mark.parametrize(
    ("count", "size"), [(2, (1800, 1200)), (3, (1800, 400)), (7, (600, 900)), (40, (1800, 1200))]
)
def test_several_photos_are_laid_side_by_side(count: int, size: tuple[int, int]) -> None:
    photos = [PhotoRecord(f"{n:064x}", f"p{n}.jpg", 4000 - n, 3000) for n in range(count)]
    job = add_photos(Job((Sheet("s1", "Sheet", *size),)), "s1", photos)
    boxes = [item.shape_placement.box for item in job.sheets[0].items]
    assert len(boxes) == count
    assert all(b.x0 >= 0 and b.x1 <= size[0] and b.y0 >= 0 and b.y1 <= size[1] for b in boxes)
    for n, one in enumerate(boxes):
        for other in boxes[n + 1 :]:
            assert one.x1 < other.x0 or other.x1 < one.x0 or one.y1 < other.y0 or other.y1 < one.y0


def test_one_photo_has_the_whole_sheet() -> None:
    job = add_photos(Job((Sheet("s1", "Sheet", 1800, 1200),)), "s1", [PHOTO])
    place = job.sheets[0].items[0].content_placement
    assert (place.x, place.y) == (900, 600)
