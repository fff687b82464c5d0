"""Arranging: aligned, spread, scaled together, repeated."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from glasscap.core.document.arranging.several import (
    align,
    gap_of,
    repeat_in_ring,
    repeat_in_row,
    scale_items,
    spread,
    turn_items,
)
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import set_locked
from glasscap.core.document.model.boxes import box_around, item_box
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Box
from tests.core.document.samples_of_many import job_of, painted, row_of, waiting

ROW = row_of(0, 50, 130, 260)
ALL = ("i1", "i2", "i3", "i4")


def box(job: Job, key: str) -> Box:
    return item_box(job, find_item(job, key))


def lefts(job: Job) -> list[float]:
    return [box(job, key).x0 for key in ALL]


@pytest.mark.parametrize(
    ("edge", "expected"),
    [
        ("left", (0, 0)),
        ("middle", (180, 0)),
        ("right", (360, 0)),
        ("top", (50, 0)),
        ("centre", (50, 130)),
        ("bottom", (50, 260)),
    ],
)
def test_edges_are_aligned_to_the_sheet(edge: str, expected: tuple[float, float]) -> None:
    moved = box(align(ROW, ["i2"], edge, "sheet"), "i2")
    assert (moved.x0, moved.y0) == expected


def test_several_are_aligned_to_one_another() -> None:
    assert lefts(align(ROW, ALL, "right", "each other")) == [260] * 4


def test_a_cutout_is_aligned_to_its_groups_shape() -> None:
    job = job_of([painted("i1", Box(0, 0, 40, 40)), waiting("i2", Box(100, 100, 200, 200))])
    job, _ = group_items(job, ["i1", "i2"])
    assert box(align(job, ["i1"], "right", "group"), "i1").x0 == 160
    assert box(align(ROW, ["i1"], "right", "group"), "i1").x0 == 360


def test_locked_ones_stay() -> None:
    assert lefts(align(set_locked(ROW, ["i1"], True), ALL, "right", "sheet")) == [0, 360, 360, 360]


def test_gaps_become_equal_between_the_outermost() -> None:
    even = spread(ROW, ALL, "across")
    assert lefts(even)[0] == 0 and lefts(even)[3] == 260
    assert gap_of(even, ALL, "across") == pytest.approx((300 - 160) / 3)
    assert gap_of(ROW, ALL, "across") is None


def test_a_typed_gap_is_just_that() -> None:
    assert lefts(spread(ROW, ALL, "across", 12)) == [0, 52, 104, 156]
    assert gap_of(spread(ROW, ALL, "across", -5), ALL, "across") == -5


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(-500, 500), min_size=4, max_size=4, unique=True), st.floats(0, 100))
def test_spreading_twice_changes_nothing_more(starts: list[float], gap: float) -> None:
    once = spread(row_of(*starts), ALL, "across", gap)
    assert lefts(spread(once, ALL, "across", gap)) == pytest.approx(lefts(once), abs=1e-9)


def test_too_few_to_spread_is_said() -> None:
    with pytest.raises(PlacementError, match="3 cutouts are needed"):
        spread(ROW, ["i1", "i2"], "across")


def test_scaling_and_turning_are_about_the_middle_of_all() -> None:
    whole = box_around(ROW, ROW.sheets[0].items)
    grown = scale_items(ROW, ALL, 2)
    bigger = box_around(grown, grown.sheets[0].items)
    assert bigger.centre == pytest.approx(whole.centre)
    assert bigger.width == pytest.approx(2 * whole.width)
    turned = turn_items(ROW, ALL, 90)
    assert box_around(turned, turned.sheets[0].items).width == pytest.approx(whole.height)
    with pytest.raises(PlacementError, match="out of range"):
        scale_items(ROW, ALL, 0)


def test_a_row_has_the_gap_that_was_asked() -> None:
    job = repeat_in_row(row_of(10), "i1", 5, 8)
    items = job.sheets[0].items
    assert [item_box(job, i).x0 for i in items] == [10 + 48 * n for n in range(5)]
    assert len({i.name for i in items}) == 5
    down = repeat_in_row(row_of(10), "i1", 2, 8, "down")
    assert item_box(down, down.sheets[0].items[1]).y0 == 48


@pytest.mark.parametrize("is_turned", [True, False])
def test_a_ring_has_all_copies_at_its_radius(is_turned: bool) -> None:
    job = repeat_in_ring(row_of(100), "i1", 8, 90, is_turned=is_turned)
    items = job.sheets[0].items
    centre = (120, 20 + 90)
    ways = [math.hypot(i.shape_placement.x - centre[0], i.shape_placement.y - centre[1]) for i in items]
    assert ways == pytest.approx([90] * 8)
    assert len({(round(i.shape_placement.x, 6), round(i.shape_placement.y, 6)) for i in items}) == 8
    assert items[2].shape_placement.rotation == (90 if is_turned else 0)


def test_a_number_of_copies_that_is_none_is_refused() -> None:
    for count in (1, 5000):
        with pytest.raises(PlacementError, match="no number of copies"):
            repeat_in_row(ROW, "i1", count, 4)
