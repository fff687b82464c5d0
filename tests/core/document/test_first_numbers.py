"""First numbers of finishes: a share of the cutout, round, or the number given last."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.finishing.edits import add_light, add_stroke, change_stroke
from glasscap.core.document.finishing.first_numbers import (
    first_light,
    first_mount,
    first_numbers,
    first_rough,
    first_stroke,
    rounded_number,
)
from glasscap.core.document.model.job import Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from tests.core.document.strategies import JOB

KEY = JOB.sheets[0].items[0].id
SERIES = [1, 2, 5, 8, 10, 12, 16, 20, 24, 30, 40, 50, 60, 80, 100, 120, 160, 200, 240, 300, 400, 500, 600, 800]


def of_side(side: float) -> Job:
    sheet = JOB.sheets[0]
    paint = PaintContent(ColourPaint("#808080"))
    placement = ShapePlacement(0, 0, side * 1.5, side)
    item = replace(sheet.items[0], shape_placement=placement, content=paint, content_placement=None)
    return replace(JOB, sheets=(replace(sheet, items=(item, *sheet.items[1:])),))


def test_numbers_are_those_people_choose() -> None:
    assert [rounded_number(n) for n in SERIES] == SERIES
    assert rounded_number(0.01) == 1
    assert rounded_number(63) == 60
    assert rounded_number(72) == 80


@given(st.floats(1, 900))
def test_a_rounded_number_is_the_nearest_of_the_series(px: float) -> None:
    found = rounded_number(px)
    assert found in [*SERIES, 1000]
    nearest = min(max(n / px, px / n) for n in [*SERIES, 1000])
    assert max(found / px, px / found) == pytest.approx(nearest)


@pytest.mark.parametrize(("side", "width"), [(540, 8), (4200, 60), (160, 2), (20, 1), (1080, 16)])
def test_a_stroke_begins_as_a_share_of_the_shape(side: float, width: float) -> None:
    job = of_side(side)
    job = add_stroke(job, KEY, first_stroke(job, KEY, {}))
    assert find_item(job, KEY).finishes.strokes[0].width == width


@settings(max_examples=30)
@given(st.floats(100, 20_000))
def test_all_begin_larger_on_larger_shapes(side: float) -> None:
    small, large = of_side(side), of_side(side * 4)
    for kind in ("shadow", "inner_shadow", "outer_glow", "inner_glow"):
        assert first_light(small, KEY, kind, {}).blur < first_light(large, KEY, kind, {}).blur
    assert first_mount(small, KEY, {}).top < first_mount(large, KEY, {}).top
    assert first_rough(small, KEY, {}).amount < first_rough(large, KEY, {}).amount


def test_a_number_given_before_comes_first() -> None:
    job = of_side(4200)
    last = {"stroke width": 7.5, "shadow blur": 3.0, "mount left": 9.0}
    assert first_stroke(job, KEY, last).width == 7.5
    shadow = first_light(job, KEY, "shadow", last)
    assert (shadow.blur, shadow.dy) == (3.0, rounded_number(0.011 * 4200))
    mount = first_mount(job, KEY, last)
    assert (mount.left, mount.right) == (9.0, first_numbers("mount", 4200, {})["right"])


def test_a_light_begins_as_told_and_one_that_is_there_is_switched_on() -> None:
    job = of_side(1000)
    bevel = first_light(job, KEY, "bevel", {"bevel width": 3.0})
    job = add_light(job, KEY, "bevel", bevel)
    assert find_item(job, KEY).finishes.lights.bevel == bevel
    other = first_light(job, KEY, "bevel", {"bevel width": 70.0})
    assert add_light(job, KEY, "bevel", other) == job


def test_dashes_follow_the_width_until_they_are_given() -> None:
    job = add_stroke(of_side(540), KEY)
    job = change_stroke(job, KEY, 0, width=8.0, dashes=(16.0, 8.0), dash_offset=4.0)
    wide = find_item(change_stroke(job, KEY, 0, width=20.0), KEY).finishes.strokes[0]
    assert (wide.dashes, wide.dash_offset) == ((40.0, 20.0), 10.0)
    both = find_item(change_stroke(job, KEY, 0, width=20.0, dashes=(3.0, 3.0)), KEY).finishes.strokes[0]
    assert both.dashes == (3.0, 3.0)
    none = find_item(change_stroke(job, KEY, 0, width=0.0), KEY).finishes.strokes[0]
    assert none.dashes == (16.0, 8.0)
