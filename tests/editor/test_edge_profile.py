"""The edge strip's marks and picture."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Shadow, Side, Stroke
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.photos.cache import ValueCache
from glasscap.editor.edge_profile import (
    INSIDE_SHARE,
    StripRequest,
    as_kept_inside,
    edge_strip,
    fitting_zoom,
    is_hole,
    marks_of,
    outer_edge,
    with_mark_at,
)
from glasscap.editor.frames import ScreenPhotos
from tests.core.render.finished_samples import STORE, job_with

DRESSED = Finishes(
    edge=Edge(inset=2, feather=6),
    strokes=(Stroke(8), Stroke(4, gap=12), Stroke(6, side="inside"), Stroke(6, side="centre")),
    lights=Lights(shadows=(Shadow(0, 10, 4),)),
)


def test_marks_stand_where_things_end() -> None:
    found = {(m.kind, m.index): m.at for m in marks_of(DRESSED)}
    assert found["inset", 0] == -2 and found["feather", 0] == -8
    assert (found["inner", 0], found["outer", 0]) == (-2, 6)
    assert (found["inner", 1], found["outer", 1]) == (10, 14)
    assert (found["inner", 2], found["outer", 2]) == (-8, -2)
    assert outer_edge(DRESSED) == 14 and found["shadow", 0] == 24


def test_what_is_off_has_no_marks() -> None:
    quiet = Finishes(edge=Edge(inset=5, is_on=False), strokes=(Stroke(is_on=False),))
    assert [(m.kind, m.at) for m in marks_of(quiet)] == [("inset", 0)]


@given(st.integers(0, len(marks_of(DRESSED)) - 1), st.floats(-5, 5))
def test_a_dragged_mark_lands_where_it_was_put(index: int, step: float) -> None:
    mark = marks_of(DRESSED)[index]
    wanted = round(mark.at + step, 2)
    moved = marks_of(with_mark_at(DRESSED, mark, wanted))[index]
    # A gap or width cannot become negative: a stroke outside begins at the outline at the earliest, its outer
    # border stays outside its inner one.
    least = {("inner", 0): -2.0, ("outer", 1): 10.0, ("outer", 3): -2.0}.get((mark.kind, mark.index), -np.inf)
    most = {("outer", 2): -2.0}.get((mark.kind, mark.index), np.inf)
    assert moved.at == pytest.approx(min(max(wanted, least), most), abs=0.02)


def test_the_zoom_holds_all_marks_and_is_one_to_sixteen() -> None:
    assert fitting_zoom(Finishes(), 220) == pytest.approx(0.85 * 220 / 12)
    assert fitting_zoom(Finishes(edge=Edge(feather=5000)), 220) == 1
    zoom = fitting_zoom(DRESSED, 220)
    assert all(0 <= INSIDE_SHARE * 220 + m.at * zoom <= 220 for m in marks_of(DRESSED))


@pytest.mark.parametrize("shape", ["circle", "ellipse", "rectangle"])
def test_the_strip_shows_photo_stroke_gap_and_stroke_in_their_widths(shape: str) -> None:
    from glasscap.core.shapes.kinds import library_shape

    finishes = Finishes(strokes=(Stroke(8, ColourPaint("#ff0000")), Stroke(4, ColourPaint("#00ff00"), gap=12)))
    job = job_with(finishes, shape=library_shape(shape))
    zoom, size = 4.0, (240, 40)
    strip = edge_strip(
        StripRequest(job, job.sheets[0].items[0].id, size, zoom), ScreenPhotos(STORE), ValueCache(1 << 24)
    )
    row = np.zeros((240, 4), int)
    frame = strip.frame
    row[frame.x : frame.x + frame.rgba.shape[1]] = frame.rgba[20]
    edge = round(INSIDE_SHARE * 240)
    assert tuple(row[edge - 20]) == (40, 160, 220, 255)
    assert tuple(row[edge + 16]) == (255, 0, 0, 255)
    assert row[edge + 40, 3] == 0
    assert tuple(row[edge + 56]) == (0, 255, 0, 255)
    assert (row[:, 0] == 255).sum() == pytest.approx(32, abs=1)


@pytest.mark.parametrize("shape", ["circle", "rectangle"])
def test_the_strip_of_a_hole_has_the_photo_at_its_left_and_its_marks_where_things_end(shape: str) -> None:
    from glasscap.core.shapes.kinds import library_shape

    red, green = ColourPaint("#ff0000"), ColourPaint("#00ff00")
    shadow = Shadow(0, 9, 0, opacity=1.0, colour="#0000ff")
    finishes = Finishes(
        edge=Edge(inset=3),
        strokes=(Stroke(8, red), Stroke(4, green, side="inside", gap=2), Stroke(2, green, side="centre", gap=6)),
        lights=Lights(shadows=(shadow,)),
    )
    job = job_with(finishes, shape=library_shape(shape, "outside"))
    zoom, size = 4.0, (240, 40)
    strip = edge_strip(
        StripRequest(job, job.sheets[0].items[0].id, size, zoom), ScreenPhotos(STORE), ValueCache(1 << 24)
    )
    frame = strip.frame
    row = np.zeros((240, 4), int)
    row[frame.x : frame.x + frame.rgba.shape[1]] = frame.rgba[20]
    told = as_kept_inside(finishes)
    found = {(m.kind, m.index): round(INSIDE_SHARE * 240 + m.at * zoom) for m in marks_of(told)}
    assert tuple(row[found["inner", 0] - 3]) == (40, 160, 220, 255)
    for column, colour in ((found["inner", 0] + 3, (255, 0, 0)), (found["outer", 0] - 3, (255, 0, 0))):
        assert tuple(row[column, :3]) == colour
    for column, colour in ((found["inner", 1] + 3, (0, 255, 0)), (found["outer", 1] - 3, (0, 255, 0))):
        assert tuple(row[column, :3]) == colour
    assert tuple(row[(found["inner", 2] + found["outer", 2]) // 2, :3]) in ((255, 0, 0), (0, 255, 0))
    assert found["inset", 0] == round(INSIDE_SHARE * 240 - 12)
    # The shadow falls into the hole.
    assert tuple(row[found["shadow", 0] - 3]) == (0, 0, 255, 255) and row[found["shadow", 0] + 3, 3] == 0


def test_with_the_mask_off_a_hole_is_none() -> None:
    from glasscap.core.shapes.kinds import library_shape

    red = ColourPaint("#ff0000")
    found = []
    for is_masked in (False, True):
        job = job_with(
            Finishes(strokes=(Stroke(8, red),)), shape=library_shape("circle", "outside"), is_masked=is_masked
        )
        item = job.sheets[0].items[0]
        assert is_hole(item) == is_masked
        request = StripRequest(job, item.id, (240, 40), 4.0)
        frame = edge_strip(request, ScreenPhotos(STORE), ValueCache(1 << 24)).frame
        red_at = np.flatnonzero((frame.rgba[20] == (255, 0, 0, 255)).all(axis=1)) + frame.x
        found.append((red_at.min() + red_at.max()) / 2 > INSIDE_SHARE * 240)
    # Around the photo they run outside, around the hole on the photo.
    assert found == [True, False]


@given(st.sampled_from(["inside", "outside", "centre"]), st.floats(-9, 9), st.floats(0, 9))
def test_told_twice_of_the_other_side_is_as_it_was(side: Side, gap: float, width: float) -> None:
    finishes = Finishes(strokes=(Stroke(width, side=side, gap=gap),))
    other = as_kept_inside(finishes)
    assert as_kept_inside(other) == finishes
    low, high = finishes.strokes[0].band
    assert other.strokes[0].band == pytest.approx((-high, -low))


def test_the_strip_turns_with_the_shadow() -> None:
    shadow = Shadow(0, 12, 0, opacity=1.0, colour="#0000ff")
    job = job_with(Finishes(lights=Lights(shadows=(shadow,))))
    strip = edge_strip(
        StripRequest(job, job.sheets[0].items[0].id, (240, 40), 4.0), ScreenPhotos(STORE), ValueCache(1 << 24)
    )
    blue = (strip.frame.rgba[20] == (0, 0, 255, 255)).all(axis=1).sum()
    assert blue == pytest.approx(48, abs=1)


def test_a_cutout_without_content_has_no_strip() -> None:
    job = job_with()
    bare = replace(job.sheets[0].items[0], content=None, content_placement=None)
    job = replace(job, sheets=(replace(job.sheets[0], items=(bare,)),))
    assert (
        edge_strip(StripRequest(job, bare.id, (9, 9), 1.0), ScreenPhotos(STORE), ValueCache(1 << 20)).frame
        is None
    )
