"""Sheets: added, duplicated, ordered, sized."""

import math

import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.sheets import (
    PRESETS,
    add_sheet,
    duplicate_sheet,
    move_sheet,
    remove_sheet,
    rename_sheet,
    resize_sheet,
    set_bleed,
    sheet_around,
)
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.query import find_sheet
from glasscap.core.document.outputs.rows import add_output, live_outputs
from glasscap.core.errors import PlacementError
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.geometry.types import Box
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet
from tests.core.render.finished_samples import JOB, STORE, rendered
from tests.samples import cache


def test_a_sheet_is_added_behind_and_as_large() -> None:
    job = add_sheet(JOB, "s1")
    assert [s.name for s in job.sheets] == ["Sheet 1", "Sheet 2"]
    assert (job.sheets[1].width, job.sheets[1].height) == (JOB.sheets[0].width, JOB.sheets[0].height)
    assert read_job(write_job(job, STORE.data), "x").job == job
    like = replace(JOB.sheets[0], bleed=9, backdrop=ColourPaint("#204060"))
    fresh = add_sheet(replace(JOB, sheets=(like,)), "s1").sheets[1]
    assert (fresh.bleed, fresh.backdrop, fresh.items) == (9, like.backdrop, ())
    third = add_sheet(job, "s1")
    assert [s.name for s in third.sheets] == ["Sheet 1", "Sheet 3", "Sheet 2"]


def test_a_copy_holds_its_own_cutouts() -> None:
    job = duplicate_sheet(rename_sheet(JOB, "s1", "  Card   front "), "s1")
    first, copy = job.sheets
    assert (first.name, copy.name) == ("Card front", "Card front 2")
    assert copy.items[0].id != first.items[0].id
    assert copy.items[0].shape_placement == first.items[0].shape_placement
    assert [s.name for s in duplicate_sheet(job, copy.id).sheets] == [
        "Card front",
        "Card front 2",
        "Card front 3",
    ]
    assert rename_sheet(job, "s1", "   ") == job


def test_a_sheet_goes_with_what_only_it_shows_but_never_the_last() -> None:
    job = add_output(add_sheet(JOB, "s1"), Output("", "s1"))
    left = remove_sheet(job, "s1")
    assert len(left.sheets) == 1
    assert left.photos == ()
    assert live_outputs(left) == ()
    with pytest.raises(PlacementError, match="at least one sheet"):
        remove_sheet(left, left.sheets[0].id)


def test_order() -> None:
    job = add_sheet(add_sheet(JOB, "s1"), "s1")
    ids = [s.id for s in job.sheets]
    assert [s.id for s in move_sheet(job, ids[2], 0).sheets] == [ids[2], ids[0], ids[1]]
    assert [s.id for s in move_sheet(job, ids[0], 99).sheets] == [ids[1], ids[2], ids[0]]


def test_sizes_round_up_and_nothing_moves() -> None:
    job = resize_sheet(JOB, "s1", 1000 / 72 * 96, 300.2, 300)
    sheet = find_sheet(job, "s1")
    # CSS Values 4, 6.2: 1000 pt are 1333.33 px at 96 px an inch; a started px is one.
    assert (sheet.width, sheet.height, sheet.resolution_ppi) == (1334, 301, 300)
    assert sheet.items == JOB.sheets[0].items
    for size in ((0.2, 5), (5, 1e7)):
        if size[1] > 1e6:
            with pytest.raises(PlacementError):
                resize_sheet(JOB, "s1", *size)
        else:
            assert find_sheet(resize_sheet(JOB, "s1", *size), "s1").width == 1


def test_printed_sizes_are_those_of_the_standards() -> None:
    by_label = {p.label: p for p in PRESETS}
    # ISO 216: A4 is 210 x 297 mm, 2480 x 3508 px at 300 ppi; ISO/IEC 7810 ID-1 is 85.60 x 53.98 mm.
    assert (by_label["Page, A4"].width, by_label["Page, A4"].height) == (2480, 3508)
    assert (by_label["Card, 85.6 × 54 mm"].width, by_label["Card, 85.6 × 54 mm"].height) == (1011, 638)


def test_a_sheet_around_a_box_takes_all_along() -> None:
    before = rendered(JOB, crop="visible")
    job = sheet_around(JOB, "s1", Box(*map(float, before.box)))
    sheet = find_sheet(job, "s1")
    assert (sheet.width, sheet.height) == (before.width, before.height)
    after = rendered(job, crop="visible")
    assert (after.x, after.y) == (0, 0)
    assert (after.rgba == before.rgba).all()
    with pytest.raises(PlacementError):
        sheet_around(JOB, "s1", Box(0, 0, 1e7, 4))


def test_the_backdrop_runs_on_into_the_bleed() -> None:
    job = set_bleed(JOB, "s1", 9.2)
    assert job.sheets[0].bleed == 10
    sheet = replace(job.sheets[0], backdrop=ColourPaint("#b4532c"), items=())
    job = replace(job, sheets=(sheet,))
    for scale in (1.0, 1.5):
        whole = render(plan_sheet(job, sheet, crop="bleed", scale=scale), STORE, cache())
        by = math.ceil(10 * scale)
        assert (whole.x, whole.width) == (-by, math.ceil(sheet.width * scale) + 2 * by)
        assert (whole.rgba[2:-2, 2:-2] == (0xB4, 0x53, 0x2C, 255)).all()
    cut = render(plan_sheet(job, sheet), STORE, cache())
    assert (cut.width, cut.height) == (sheet.width, sheet.height)
    with pytest.raises(PlacementError, match="no bleed"):
        set_bleed(job, "s1", -1)
