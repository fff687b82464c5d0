"""Edits of finishes, and what values of them are refused."""

import math
from collections.abc import Callable
from typing import get_type_hints

import pytest
from msgspec.structs import replace

from glasscap.core.document.finishing import edits as finishing
from glasscap.core.document.finishing.at_work import working
from glasscap.core.document.finishing.fields import (
    AdjustmentFields,
    EdgeFields,
    LightFields,
    MountFields,
    PictureMaskFields,
    RoughFields,
    StrokeFields,
    one_field,
)
from glasscap.core.document.finishing.mounts import mount_frame
from glasscap.core.document.finishing.sets import SHIPPED_SETS, find_set
from glasscap.core.document.model.finishes import (
    NO_FINISHES,
    Adjustments,
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    PictureMask,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.job import Cutout, Job, Sheet
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint, colour_of, rgba_of
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.errors import FinishError, JobFileError
from glasscap.core.formats.job import decode_job, encode_job
from glasscap.core.shapes.kinds import library_shape
from tests.core.document.strategies import JOB

KEY = JOB.sheets[0].items[0].id
NAN = math.nan


def item(job: Job) -> Cutout:
    return job.sheets[0].items[0]


@pytest.mark.parametrize(
    "make",
    [
        lambda: Edge(inset=NAN),
        lambda: Edge(feather=math.inf),
        lambda: Edge(feather=-1),
        lambda: Edge(strength=9),
        lambda: Rough(amount=-1),
        lambda: Stroke(-3),
        lambda: Stroke(dashes=(0.0, 0.0)),
        lambda: Stroke(dashes=(NAN, 3.0)),
        lambda: Stroke(opacity=1.5),
        lambda: Shadow(blur=-1),
        lambda: Shadow(colour="red"),
        lambda: Glow(opacity=NAN),
        lambda: Bevel(elevation=0),
        lambda: Mount(top=math.inf),
        lambda: GradientPaint(()),
        lambda: GradientPaint((Stop(0.9, "#000000"), Stop(0.1, "#ffffff"))),
        lambda: Stop(2, "#000000"),
        lambda: TexturePaint(scale=0),
        lambda: ColourPaint("#12"),
    ],
)
def test_numbers_that_make_no_sense_are_refused_with_a_remedy(make: Callable[[], object]) -> None:
    with pytest.raises(FinishError) as caught:
        make()
    assert caught.value.why and caught.value.remedy


def test_colours_go_to_numbers_and_back() -> None:
    assert colour_of(*rgba_of("#1a2b3c")) == "#1a2b3c"
    assert colour_of(*rgba_of("#1a2b3c80")) == "#1a2b3c80"
    assert colour_of(300, -4, 0.5) == "#ff0001"


def test_a_new_shape_has_no_finishes() -> None:
    assert all(i.finishes == NO_FINISHES for i in JOB.sheets[0].items)


def test_strokes_are_edited_in_their_places() -> None:
    job = finishing.add_stroke(finishing.add_stroke(JOB, KEY), KEY)
    job = finishing.change_stroke(job, KEY, 1, width=3.0)
    assert [(s.width, s.gap) for s in item(job).finishes.strokes] == [(8, 0), (3, 8)]
    assert [s.width for s in item(finishing.move_stroke(job, KEY, 1, -5)).finishes.strokes] == [3, 8]
    assert [s.width for s in item(finishing.remove_stroke(job, KEY, 0)).finishes.strokes] == [3]


def test_a_locked_cutout_keeps_its_finishes() -> None:
    locked = replace(item(JOB), is_locked=True)
    sheet = replace(JOB.sheets[0], items=(locked, *JOB.sheets[0].items[1:]))
    job = replace(JOB, sheets=(sheet,))
    for edit in (
        lambda j: finishing.add_stroke(j, KEY),
        lambda j: finishing.set_finishes(j, [KEY], SHIPPED_SETS["Mist"]),
        lambda j: finishing.set_opacity(j, [KEY], 0.2),
        lambda j: finishing.change_adjustments(j, KEY, contrast=9.0),
    ):
        assert edit(job) == job


def test_lights_are_added_once_and_switched_on_again() -> None:
    job = finishing.add_light(JOB, KEY, "bevel")
    job = finishing.change_light(job, KEY, "bevel", 0, width=33.0, is_on=False)
    assert item(finishing.add_light(job, KEY, "bevel")).finishes.lights.bevel == Bevel(33.0)
    job = finishing.add_light(finishing.add_light(job, KEY, "shadow"), KEY, "shadow")
    assert len(item(finishing.remove_light(job, KEY, "shadow", 0)).finishes.lights.shadows) == 1


def test_sets_are_kept_replaced_found_and_dropped() -> None:
    job = finishing.keep_set(JOB, "  Trail   rim ", SHIPPED_SETS["Mist"])
    job = finishing.keep_set(job, "Trail rim", SHIPPED_SETS["Die cut"])
    assert [(s.name, s.finishes) for s in job.finish_sets] == [("Trail rim", SHIPPED_SETS["Die cut"])]
    assert finishing.drop_set(job, "Trail rim").finish_sets == ()
    assert find_set("torn SHEET") == SHIPPED_SETS["Torn sheet"]
    with pytest.raises(FinishError, match="no such set"):
        find_set("velvet")
    with pytest.raises(FinishError):
        finishing.keep_set(JOB, "  ", NO_FINISHES)


def test_eight_sets_ship_and_each_does_something() -> None:
    assert len(SHIPPED_SETS) == 8
    assert len(set(SHIPPED_SETS.values())) == 8
    assert NO_FINISHES not in SHIPPED_SETS.values()


@pytest.mark.parametrize("name", SHIPPED_SETS)
def test_finishes_survive_the_file(name: str) -> None:
    job = finishing.set_finishes(JOB, [KEY], SHIPPED_SETS[name])
    job = finishing.keep_set(job, "Mine", SHIPPED_SETS[name])
    job = finishing.set_backdrop(job, job.sheets[0].id, TexturePaint("clay", 0.5, 30))
    assert decode_job(encode_job(job), "a.glasscap") == job


def test_a_job_of_version_1_opens() -> None:
    old = encode_job(JOB).replace(b'"version": 2', b'"version": 1')
    assert decode_job(old, "old.glasscap") == JOB


def test_a_file_with_numbers_that_make_no_sense_is_refused_by_name() -> None:
    data = encode_job(finishing.add_stroke(JOB, KEY)).replace(b'"strokes": [', b'"strokes": [{"width": -4},')
    with pytest.raises(JobFileError, match=r"a\.glasscap"):
        decode_job(data, "a.glasscap")


def test_what_is_off_or_does_nothing_is_not_at_work() -> None:
    finishes = Finishes(
        edge=Edge(strength=3, rough=Rough(amount=0)),
        strokes=(Stroke(0), Stroke(opacity=0), Stroke(is_on=False)),
        lights=Lights((Shadow(opacity=0),), Shadow(is_on=False), Glow(is_on=False), None, Bevel(0)),
    )
    assert working(finishes) == NO_FINISHES


def test_a_mount_lies_around_the_turned_frame() -> None:
    shape = library_shape("rectangle")
    cutout = Cutout("i1", "Card", shape=shape, shape_placement=ShapePlacement(100, 100, 40, 20, 90))
    frame = mount_frame(Mount(1, 2, 3, 4), cutout, None)
    assert (frame.width, frame.height, frame.rotation) == (46, 24, 90)
    # Turned by a quarter, the side that was right lies below.
    assert (frame.x, frame.y) == pytest.approx((99, 99))
    assert mount_frame(Mount(-10, 0, -10, 0), cutout, None) is None


def test_a_paint_needs_a_shape() -> None:
    bare = replace(item(JOB), shape=None, shape_placement=None)
    job = replace(JOB, sheets=(Sheet("s1", "One", 9, 9, items=(bare,)),))
    with pytest.raises(FinishError, match="needs a shape"):
        finishing.set_paint_content(job, KEY, ColourPaint())


@pytest.mark.parametrize(
    ("fields", "kinds", "left_out"),
    [
        (EdgeFields, (Edge,), set()),
        (RoughFields, (Rough,), set()),
        (PictureMaskFields, (PictureMask,), {"sha256"}),
        (StrokeFields, (Stroke,), set()),
        (LightFields, (Shadow, Glow, Bevel), set()),
        (MountFields, (Mount,), set()),
        (AdjustmentFields, (Adjustments,), set()),
    ],
)
def test_an_edit_may_change_all_that_a_finish_has(
    fields: type, kinds: tuple[type, ...], left_out: set[str]
) -> None:
    of_struct = {name: kind for struct in kinds for name, kind in get_type_hints(struct).items()}
    assert get_type_hints(fields) == {n: k for n, k in of_struct.items() if n not in left_out}


def test_a_field_that_a_finish_has_not_is_told() -> None:
    with pytest.raises(KeyError, match="no blurr"):
        one_field(LightFields, "blurr", 3.0)
