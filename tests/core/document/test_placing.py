"""Placing by number."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.by_number import (
    centre_content,
    centre_shape,
    fit_photos,
    fit_shape,
    place_content,
    place_shape,
    scale_content,
)
from glasscap.core.document.arranging.cover import bare_share, just_covering
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.shaping import choose_shape, resize_shape, set_params
from glasscap.core.errors import PlacementError, ShapeError
from glasscap.core.shapes.kinds import library_shape
from tests.core.document.strategies import JOB, item_ids, jobs

FIRST = JOB.sheets[0].items[0]


def first(job: Job):
    return find_item(job, FIRST.id)


@given(jobs(), item_ids, st.floats(-500, 500))
def test_one_number_changes_one_number(job: Job, item_id: str, x: float) -> None:
    job = edits.set_keeps_covered(job, [item_id], False)
    before = find_item(job, item_id)
    after = find_item(place_shape(job, item_id, x=x, y=None), item_id)
    assert after == replace(before, shape_placement=replace(before.shape_placement, x=x))
    after = find_item(place_content(job, item_id, x=x), item_id)
    assert after == replace(before, content_placement=replace(before.content_placement, x=x))


@pytest.mark.parametrize(("typed", "kept"), [(450, 90), (-190, 170), (180, 180), (-180, 180)])
def test_turns_are_kept_in_half_turns(typed: float, kept: float) -> None:
    assert first(place_shape(JOB, FIRST.id, rotation=typed)).shape_placement.rotation == kept
    assert first(place_content(JOB, FIRST.id, rotation=typed)).content_placement.rotation == kept


def test_scaling_keeps_a_stretched_photo_s_proportion() -> None:
    stretched = place_content(JOB, FIRST.id, scale_x=2.0, scale_y=1.0)
    now = first(scale_content(stretched, FIRST.id, 0.5)).content_placement
    assert (now.scale_x, now.scale_y) == (0.5, 0.25)


@pytest.mark.parametrize("bad", [math.nan, math.inf, 0.0, -3.0])
def test_impossible_numbers_are_refused(bad: float) -> None:
    with pytest.raises(PlacementError):
        resize_shape(JOB, FIRST.id, bad, None, on_whole_pixels=True)
    with pytest.raises((PlacementError, ZeroDivisionError)):
        scale_content(JOB, FIRST.id, bad)


def test_a_typed_size_lies_on_whole_pixels() -> None:
    now = first(resize_shape(JOB, FIRST.id, 33.0, None, on_whole_pixels=True)).shape_placement
    assert (now.width, now.height) == (33, 33)
    assert now.box.x0 == int(now.box.x0)
    free = first(resize_shape(JOB, FIRST.id, None, 33.0, on_whole_pixels=False)).shape_placement
    assert (free.x, free.y) == (FIRST.shape_placement.x, FIRST.shape_placement.y)


def test_another_shape_keeps_place_and_side() -> None:
    hole = edits.set_keeps(JOB, [FIRST.id], "outside")
    now = first(choose_shape(hole, FIRST.id, "rectangle"))
    assert now.shape == library_shape("rectangle", "outside")
    assert now.shape_placement == FIRST.shape_placement
    assert choose_shape(JOB, FIRST.id, "circle") is JOB


def test_a_circle_from_an_oblong_takes_the_shorter_side() -> None:
    card = edits.set_shape(JOB, FIRST.id, library_shape("rectangle"), ShapePlacement(60, 60, 80, 40))
    now = first(choose_shape(card, FIRST.id, "circle")).shape_placement
    assert (now.width, now.height, now.x, now.y) == (40, 40, 60, 60)


def test_a_photo_without_a_shape_gets_the_largest() -> None:
    apart = edits.take_apart(JOB, FIRST.id, "i99")
    now = first(choose_shape(apart, FIRST.id, "circle")).shape_placement
    assert now.width == 90


def test_corner_numbers() -> None:
    card = choose_shape(JOB, FIRST.id, "rectangle")
    now = first(set_params(card, FIRST.id, [("corner", 9.0), ("corner_tl", 1.0)])).shape
    assert dict(now.params) == {"corner_tl": 1, "corner_tr": 9, "corner_br": 9, "corner_bl": 9}
    with pytest.raises(ShapeError):
        set_params(card, FIRST.id, [("corner", -1.0)])


@given(jobs())
def test_covering_all_leaves_nothing_bare_but_what_is_locked(job: Job) -> None:
    ids = [i.id for i in job.sheets[0].items]
    locked = edits.set_locked(job, ids[:1], True)
    after = fit_photos(locked, ids, just_covering)
    assert find_item(after, ids[0]) == find_item(locked, ids[0])
    for item, photo in zip(after.sheets[0].items[1:], JOB.photos[1:], strict=True):
        assert (bare_share(item, photo) or 0) < 1e-4


def test_resets_by_double_click() -> None:
    away = place_shape(place_content(JOB, FIRST.id, x=7.0, y=9.0), FIRST.id, x=1.0, width=11.0, height=11.0)
    assert first(centre_content(away, FIRST.id)).content_placement.x == JOB.sheets[0].width / 2
    centred = first(centre_shape(away, FIRST.id)).shape_placement
    assert (centred.x, centred.y, centred.width) == (7.5, 9.5, 11)
    fitted = first(fit_shape(away, FIRST.id)).shape_placement
    assert (fitted.x, fitted.y, fitted.width) == (7, 9, 90)
    apart = edits.take_apart(JOB, FIRST.id, "i99")
    assert find_item(fit_shape(apart, "i99"), "i99").shape_placement.width == JOB.sheets[0].width
    assert centre_content(apart, "i99") is apart
    assert centre_shape(apart, FIRST.id) is apart
    assert fit_shape(apart, FIRST.id) is apart


def test_items_that_lack_a_part_are_left_alone() -> None:
    apart = edits.take_apart(JOB, FIRST.id, "i99")
    assert place_shape(apart, FIRST.id, x=1.0) is apart
    assert place_content(apart, "i99", x=1.0) is apart
    assert scale_content(apart, "i99", 2.0) is apart
    assert resize_shape(apart, FIRST.id, 5.0, None, on_whole_pixels=True) is apart
    assert set_params(apart, FIRST.id, [("corner", 1.0)]) is apart
    assert fit_photos(apart, ["i99", FIRST.id], just_covering) is apart
