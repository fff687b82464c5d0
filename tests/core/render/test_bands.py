"""Strokes as a partition."""

from glasscap.core.document.model.finishes import Stroke
from glasscap.core.render.plan.bands import OUTLINE, bands_of, solid_spans


def names(strokes: tuple[Stroke, ...], scale: float = 1.0) -> list[tuple[float, float, tuple[int, ...], bool]]:
    return [(b.inner.distance, b.outer.distance, b.strokes, b.is_inside) for b in bands_of(strokes, scale)]


def test_sides_are_measured_from_the_outline() -> None:
    assert Stroke(8, side="inside", gap=2).band == (-10, -2)
    assert Stroke(8, side="centre").band == (-4, 4)
    assert Stroke(8, side="outside", gap=2).band == (2, 10)


def test_a_centred_stroke_is_cut_by_the_outline() -> None:
    assert names((Stroke(8, side="centre"),), 2) == [(-8, 0, (0,), True), (0, 8, (0,), False)]


def test_the_first_stroke_lies_on_top_where_two_meet() -> None:
    assert names((Stroke(4), Stroke(10))) == [(0, 4, (0, 1), False), (4, 10, (1,), False)]


def test_a_gap_is_a_band_without_strokes() -> None:
    assert names((Stroke(4, gap=4),)) == [(0, 4, (), False), (4, 8, (0,), False)]
    assert next((i, o.distance) for i, o in solid_spans(bands_of((Stroke(4, gap=4),), 1))) == (None, 0)


def test_bands_that_touch_are_one_solid() -> None:
    spans = solid_spans(bands_of((Stroke(4), Stroke(6, gap=4)), 1))
    assert len(spans) == 1 and spans[0][1].distance == 10


def test_what_is_off_or_has_no_width_is_left_out() -> None:
    assert bands_of((Stroke(4, is_on=False), Stroke(0)), 1) == ()


def test_joins_at_one_distance_are_nested() -> None:
    mixed = bands_of((Stroke(4, join="bevel"), Stroke(4, join="mitre"), Stroke(4, join="round")), 1)
    assert [b.outer.join for b in mixed] == ["bevel", "round", "mitre"]
    assert mixed[0].inner == OUTLINE


def test_a_border_holds_those_within_it_whose_corners_reach_further() -> None:
    mixed = bands_of((Stroke(4, join="mitre"), Stroke(4, gap=4, join="bevel")), 1)
    assert [b.outer.holds for b in mixed] == [None, mixed[0].outer, mixed[1].outer]
    alike = bands_of((Stroke(4, join="mitre"), Stroke(4, gap=4, join="mitre")), 1)
    assert all(b.outer.holds is None for b in alike)
