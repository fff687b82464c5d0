"""Groups: put together, taken apart, moved in and out; nothing on the sheet moves."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.grips import held, transform_items
from glasscap.core.document.edits.groups import group_items, move_to_container, ungroup
from glasscap.core.document.edits.items import (
    duplicate_items,
    paste_items,
    remove_items,
    rename,
    set_locked,
    shifted,
    swap_photo,
    update_items,
)
from glasscap.core.document.edits.sheets import duplicate_sheet, sheet_around
from glasscap.core.document.model.boxes import content_box, item_box
from glasscap.core.document.model.job import DEEPEST_GROUP, Job, PhotoRecord, walk
from glasscap.core.document.model.query import (
    find_item,
    fresh_ids,
    group_of,
    has_item,
    items_of,
    path_to,
    siblings,
    topmost,
)
from glasscap.core.errors import JobFileError, PlacementError
from glasscap.core.formats.job import decode_job, read_job, write_job
from glasscap.core.geometry.types import Box, Similarity
from tests.core.document.samples_of_many import job_of, painted, row_of, waiting

ROW = row_of(0, 50, 120, 200)


def ids(job: Job) -> list[str]:
    return [i.id for _, i in items_of(job)]


def grouped(*keys: str, job: Job = ROW) -> tuple[Job, str]:
    return group_items(job, keys)


def test_a_group_lies_where_its_frontmost_lay_and_keeps_the_order() -> None:
    job, key = grouped("i3", "i1")
    assert [i.id for i in job.sheets[0].items] == ["i2", key, "i4"]
    assert [i.id for i in find_item(job, key).items] == ["i1", "i3"]
    assert find_item(job, key).name == "Group"
    assert group_of(job, "i1") == find_item(job, key)
    assert group_of(job, "i2") is None


def test_a_shape_in_front_that_waits_for_a_photo_becomes_the_groups_own() -> None:
    job = job_of([*ROW.sheets[0].items, waiting("i9", Box(10, 0, 90, 80))])
    job, key = group_items(job, ["i1", "i2", "i9"])
    group = find_item(job, key)
    assert group.shape == waiting("i9", Box(10, 0, 90, 80)).shape
    assert [i.id for i in group.items] == ["i1", "i2"]
    assert not has_item(job, "i9")


def test_ungrouping_gives_back_just_what_was_there() -> None:
    job, key = grouped("i2", "i3")
    free, freed = ungroup(job, [key])
    assert free == ROW
    assert freed == ("i2", "i3")


def test_the_own_shape_of_a_group_is_not_lost_by_ungrouping() -> None:
    job = job_of([painted("i1", Box(0, 0, 9, 9)), waiting("i2", Box(0, 0, 9, 9))])
    masked, key = group_items(job, ["i1", "i2"])
    free, _ = ungroup(masked, [key])
    first, second = free.sheets[0].items
    assert first.id == "i1"
    assert (second.shape, second.content) == (job.sheets[0].items[1].shape, None)


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sets(st.sampled_from(["i1", "i2", "i3", "i4"]), min_size=1), min_size=1, max_size=4))
def test_grouping_and_ungrouping_move_nothing(choices: list[set[str]]) -> None:
    job, made = ROW, []
    before = {i.id: item_box(ROW, i) for i in ROW.sheets[0].items}
    for chosen in choices:
        job, key = group_items(job, sorted(chosen))
        made.append(key)
        assert read_job(write_job(job, lambda photo: b""), "x").job == job
    assert {k: item_box(job, find_item(job, k)) for k in before} == before
    for key in reversed(made):
        if has_item(job, key):
            job, _ = ungroup(job, [key])
    assert {i.id for i in job.sheets[0].items} == set(before)
    assert {k: item_box(job, find_item(job, k)) for k in before} == before


def test_items_are_dragged_in_and_out() -> None:
    job, key = grouped("i1", "i2")
    into = move_to_container(job, "i4", key, 1)
    assert [i.id for i in find_item(into, key).items] == ["i1", "i4", "i2"]
    out = move_to_container(into, "i1", "s1", 0)
    assert [i.id for i in out.sheets[0].items] == ["i1", key, "i3"]
    assert item_box(out, find_item(out, "i1")) == item_box(ROW, find_item(ROW, "i1"))


def test_a_group_left_empty_goes() -> None:
    job, key = grouped("i1")
    assert not has_item(move_to_container(job, "i1", "s1", 0), key)
    assert not has_item(remove_items(job, ["i1"]), key)


def test_a_place_among_its_own_neighbours_counts_the_gap_it_leaves() -> None:
    assert [i.id for i in move_to_container(ROW, "i1", "s1", 3).sheets[0].items] == ["i2", "i3", "i1", "i4"]


def test_a_group_cannot_lie_in_itself() -> None:
    job, outer = grouped("i1", "i2")
    job, inner = group_items(job, ["i1"])
    with pytest.raises(PlacementError, match="cannot lie in itself"):
        move_to_container(job, outer, inner, 0)


def test_locked_things_stay_where_they_are() -> None:
    locked = set_locked(ROW, ["i1"], True)
    with pytest.raises(PlacementError, match="locked"):
        group_items(locked, ["i1", "i2"])
    job, key = grouped("i2", "i3", job=locked)
    with pytest.raises(PlacementError, match="locked"):
        move_to_container(job, "i1", key, 0)
    with pytest.raises(PlacementError, match="locked"):
        ungroup(set_locked(job, [key], True), [key])


def test_groups_do_not_nest_without_end() -> None:
    job = ROW
    for _ in range(DEEPEST_GROUP):
        job, _ = group_items(job, ["i1"])
    with pytest.raises(JobFileError, match="more than"):
        group_items(job, ["i1"])


def test_a_group_nested_too_deep_in_a_file_is_refused() -> None:
    data = b'{"format": "glasscap-job", "version": 5, "job": ' + b'{"a":' * 5000 + b"1" + b"}" * 5000 + b"}"
    with pytest.raises(JobFileError):
        decode_job(data, "deep")


def test_grips_hold_the_contents_the_shape_or_both() -> None:
    job = job_of([*ROW.sheets[0].items, waiting("i9", Box(0, 0, 90, 80))])
    job, key = group_items(job, ["i1", "i2", "i9"])
    shift = Similarity(dx=7, dy=3)
    for grip, moves_contents, moves_shape in (("photo", 1, 0), ("together", 1, 1), ("shape", 0, 1)):
        moved = find_item(transform_items(job, [key], grip, shift), key)
        assert content_box(job, moved).x0 == 7 * moves_contents
        assert moved.shape_placement.x == 45 + 7 * moves_shape
    assert held("shape", find_item(grouped("i1")[0], "i5")) == "photo"


def test_many_are_changed_at_once_as_one_by_one() -> None:
    job, key = grouped("i1", "i2")
    wanted = [key, "i2", "i4"]
    at_once = update_items(job, wanted, lambda i: replace(i, opacity=i.opacity / 2))
    one_by_one = job
    for item_id in wanted:
        one_by_one = update_items(one_by_one, [item_id], lambda i: replace(i, opacity=i.opacity / 2))
    assert at_once == one_by_one
    assert [i.opacity for _, i in items_of(at_once)] == [0.5, 1.0, 0.5, 1.0, 0.5]
    assert update_items(job, wanted, lambda i: i) is job
    with pytest.raises(KeyError):
        update_items(job, ["i1", "nothing"], lambda i: i)


def test_copies_have_ids_of_their_own_all_the_way_down() -> None:
    job, key = grouped("i1", "i2")
    twice = duplicate_items(job, [key], 5)
    assert len(set(ids(twice))) == len(ids(twice)) == len(ids(job)) + 3
    copy = siblings(twice, key)[1]
    assert item_box(twice, copy.items[0]).x0 == 5
    pasted = paste_items(job, key, [find_item(job, key)], ())
    assert len(set(ids(pasted))) == len(ids(job)) + 3
    assert len({i.id for s in duplicate_sheet(job, "s1").sheets for i in walk(s.items)}) == 10


def test_a_group_moves_with_its_sheet() -> None:
    job, key = grouped("i1", "i2")
    assert content_box(job, find_item(sheet_around(job, "s1", Box(-10, 0, 90, 90)), key)).x0 == 10
    assert item_box(job, shifted(find_item(job, key), 4, 0)).x0 == 4


def test_a_photo_is_not_put_in_place_of_a_group() -> None:
    job, key = grouped("i1", "i2")
    with pytest.raises(PlacementError, match="it is a group"):
        swap_photo(job, key, PhotoRecord("0" * 64, "plate.png", 10, 10))


def test_questions_look_into_groups() -> None:
    job, outer = grouped("i1", "i2", "i3")
    job, inner = group_items(job, ["i2", "i3"])
    assert [i.id for i in path_to(job, "i3")[1]] == [outer, inner, "i3"]
    assert [i.id for i in topmost(job.sheets[0].items, {"i3", inner, "i4"})] == [inner, "i4"]
    assert fresh_ids(job, 1) == ["i7"]
    assert find_item(rename(job, "i3", "Bowl"), "i3").name == "Bowl"
    with pytest.raises(KeyError):
        path_to(job, "none")


def test_an_empty_group_is_none() -> None:
    job, key = grouped("i1")
    with pytest.raises(PlacementError, match="nothing in it"):
        replace(find_item(job, key).content, items=())
