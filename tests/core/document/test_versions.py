"""Versions of cutouts and sheets: kept, switched, named, dropped; what goes out of each."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import drop_unused_photos, duplicate_items, set_hidden
from glasscap.core.document.edits.versions import (
    add_version,
    in_version,
    remove_version,
    rename_version,
    show_version,
    shown_version,
    version_names,
)
from glasscap.core.document.finishing.edits import set_finishes
from glasscap.core.document.model.finishes import Finishes, Stroke
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.model.query import find_item, fresh_ids, photos_in_versions
from glasscap.core.document.outputs.rows import add_output, add_versions, file_stem, row_title
from glasscap.core.errors import PlacementError
from glasscap.core.formats.job import read_job, write_job
from tests.core.document.samples_of_many import row_of
from tests.samples import photo_job, png_photo

ROW = row_of(0, 60)
BORDER = Finishes(strokes=(Stroke(8),))


def two(job: Job = ROW) -> Job:
    """i1 plain in version 1, bordered in version 2, which is shown."""
    return set_finishes(add_version(job, "i1"), ["i1"], BORDER)


def test_a_version_begins_as_it_was_and_then_goes_its_own_way() -> None:
    job = add_version(ROW, "i1")
    item = find_item(job, "i1")
    assert (version_names(item), shown_version(item)) == (("Version 1", "Version 2"), "Version 2")
    assert replace(item, versions=()) == find_item(ROW, "i1")
    assert find_item(two(), "i1").finishes == BORDER


def test_one_click_goes_there_and_back() -> None:
    job = two()
    plain = show_version(job, "i1", "Version 1")
    assert find_item(plain, "i1").finishes == Finishes()
    assert version_names(find_item(plain, "i1")) == ("Version 1", "Version 2")
    assert show_version(plain, "i1", "Version 2") == job
    assert show_version(job, "i1", "Version 2") is job
    assert in_version(job, "i1", "") is job


def test_name_lock_and_id_are_the_cutouts_not_the_versions() -> None:
    job = two()
    named = replace(find_item(job, "i1"), name="Plate", is_locked=True)
    job = replace(job, sheets=(replace(job.sheets[0], items=(named, job.sheets[0].items[1])),))
    plain = find_item(show_version(job, "i1", "Version 1"), "i1")
    assert (plain.id, plain.name, plain.is_locked) == ("i1", "Plate", True)


def test_versions_are_named_and_dropped() -> None:
    job = rename_version(add_version(two(), "i1"), "i1", "Version 2", "  With   border ")
    assert version_names(find_item(job, "i1")) == ("Version 1", "With border", "Version 3")
    assert rename_version(job, "i1", "Version 1", "  ") is job
    with pytest.raises(PlacementError, match="there is a version"):
        rename_version(job, "i1", "Version 1", "With border")
    left = remove_version(job, "i1", "Version 3")
    assert shown_version(find_item(left, "i1")) == "With border"
    single = remove_version(left, "i1", "Version 1")
    assert version_names(find_item(single, "i1")) == ()
    assert find_item(single, "i1").finishes == BORDER
    assert remove_version(single, "i1", "none") is single


def test_a_version_that_is_none_is_said() -> None:
    with pytest.raises(PlacementError, match="there are: Version 1, Version 2"):
        show_version(two(), "i1", "Bordered")


def test_sheets_have_versions_of_what_lies_on_them() -> None:
    job = set_hidden(add_version(ROW, "s1"), ["i2"], True)
    plain = show_version(job, "s1", "Version 1")
    assert not find_item(plain, "i2").is_hidden
    assert find_item(show_version(plain, "s1", "Version 2"), "i2").is_hidden
    assert version_names(plain.sheets[0]) == ("Version 1", "Version 2")
    assert remove_version(plain, "s1", "Version 2").sheets[0] == ROW.sheets[0]


def test_versions_are_saved_and_groups_have_them_too() -> None:
    job, key = group_items(two(), ["i1", "i2"])
    job = add_version(add_version(job, key), "s1")
    assert read_job(write_job(job, lambda photo: b""), "x").job == job
    assert find_item(show_version(job, key, "Version 1"), "i1").finishes == BORDER


def test_ids_of_versions_not_shown_stay_taken() -> None:
    job = duplicate_items(add_version(ROW, "s1"), ["i1"])
    hidden = show_version(job, "s1", "Version 1")
    assert not set(fresh_ids(hidden, 1)) & {i.id for i in job.sheets[0].items}


def test_photos_of_versions_not_shown_are_kept() -> None:
    job, _ = photo_job(png_photo(), png_photo(seed=2))
    first, second = job.sheets[0].items
    job = add_version(job, first.id)
    swapped = replace(find_item(job, first.id), content=second.content)
    job = replace(job, sheets=(replace(job.sheets[0], items=(swapped, second)),))
    assert drop_unused_photos(job) == job
    assert photos_in_versions(job) == {first.content.sha256}


def test_muddled_versions_are_refused() -> None:
    item = find_item(two(), "i1")
    with pytest.raises(PlacementError, match="muddled"):
        replace(item, versions=item.versions[:1])
    with pytest.raises(PlacementError, match="muddled"):
        replace(item, versions=(item.versions[1], item.versions[1]))


def test_every_version_gets_a_row_and_a_name_of_its_own() -> None:
    job = rename_version(two(), "i1", "Version 2", "Bordered")
    job = add_versions(add_output(job, Output("", "i1")), Output("", "i1"))
    assert [o.version for o in job.outputs] == ["", "Version 1", "Bordered"]
    assert row_title(job, job.outputs[2]) == "Tile i1, Bordered"
    names = [file_stem(job, o, n, (4, 4)) for n, o in enumerate(job.outputs)]
    assert names == ["tile-i1", "tile-i1-version-1", "tile-i1-bordered"]
    assert add_versions(job, job.outputs[2]) == job
    with pytest.raises(PlacementError, match="no versions"):
        add_versions(job, Output("", "i2"))
