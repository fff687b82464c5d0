"""Combined shapes against another geometry library; parts, gaps, links."""

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.arranging.by_number import place_shape
from glasscap.core.document.arranging.grips import transform_items
from glasscap.core.document.edits.items import add_items
from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.document.shapes.combining import (
    add_part,
    change_part,
    combine,
    focused,
    gap_between,
    part_at,
    parts_on_sheet,
    placed_combined,
    remove_part,
    unfocused,
)
from glasscap.core.document.shapes.shaping import choose_shape, link_shapes, set_params, set_round, unlink_shape
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.types import Affine, Similarity
from glasscap.core.shapes.kinds import CombinedShape, library_shape
from glasscap.core.shapes.outlines import polygons_of_shape
from tests.samples import photo_job, png_photo

JOB, _ = photo_job(png_photo(400, 300))
ITEM = JOB.sheets[0].items[0]
OPERATIONS = {"add": shapely.union, "subtract": shapely.difference, "intersect": shapely.intersection,
              "exclude": shapely.symmetric_difference}  # fmt: skip
NAMES = [
    "circle",
    "star",
    "heart",
    "ring",
    "gear",
    "scallop",
    "cross",
    "flower",
    "bubble",
    "window",
    "drop",
    "frame",
]


def _area(job, item_id: str = ITEM.id) -> float:
    item = find_item(job, item_id)
    return sum(signed_area(p) for p in shape_polygons(item.shape, item.shape_placement, Affine(), tolerance=1e-4))


def _region(shape, placement: ShapePlacement):
    flat = shape_polygons(shape, placement, Affine(), tolerance=1e-3)
    solid = shapely.union_all([shapely.Polygon(p).buffer(0) for p in flat if signed_area(p) > 0])
    holes = [shapely.Polygon(p).buffer(0) for p in flat if signed_area(p) < 0]
    return shapely.difference(solid, shapely.union_all(holes)) if holes else solid


@settings(max_examples=500, deadline=None)
@given(
    names=st.tuples(st.sampled_from(NAMES), st.sampled_from(NAMES)),
    does=st.sampled_from(list(OPERATIONS)),
    x=st.floats(-160, 160),
    y=st.floats(-160, 160),
    width=st.floats(30, 300),
    turn=st.floats(-180, 180),
)
def test_areas_are_another_library_s(names, does: str, x: float, y: float, width: float, turn: float) -> None:
    one, other = (library_shape(n) for n in names)
    first, second = ShapePlacement(0, 0, 200, 200), ShapePlacement(x, y, width, width, turn)
    expected = OPERATIONS[does](_region(one, first), _region(other, second)).area
    try:
        shape, placement = placed_combined([part_at(one, first), part_at(other, second, does)])
    except ShapeError:
        assert expected < 1
        return
    found = sum(
        signed_area(p) for p in polygons_of_shape(shape, placement.width, placement.height, tolerance=1e-3)
    )
    assert found == pytest.approx(expected, rel=2e-4, abs=2)


def _two(does: str = "subtract"):
    hole = Cutout("i9", "Hole", shape=library_shape("circle"), shape_placement=ShapePlacement(200, 150, 100, 100))
    return combine(add_items(JOB, "s1", [hole]), [ITEM.id, "i9"], does)


def test_waiting_shapes_are_used_up_and_the_photo_stays() -> None:
    job, kept = _two()
    assert kept == ITEM.id
    assert [i.id for i in job.sheets[0].items] == [ITEM.id]
    item = find_item(job, ITEM.id)
    assert item.content_placement == ITEM.content_placement
    assert _area(job) == pytest.approx(np.pi * (150**2 - 50**2), rel=1e-5)


def test_parts_are_worked_on_one_by_one_and_nothing_else_moves() -> None:
    job, _ = _two()
    before = parts_on_sheet(find_item(job, ITEM.id))
    seen = focused(job, ITEM.id, 1)
    assert find_item(seen, ITEM.id).shape.name == "circle"
    moved = unfocused(job, place_shape(seen, ITEM.id, x=180.0, width=60.0, height=60.0), ITEM.id, 1)
    after = parts_on_sheet(find_item(moved, ITEM.id))
    assert after[0] == before[0]
    assert (after[1].x, after[1].width) == pytest.approx((180, 60))
    assert _area(moved) == pytest.approx(np.pi * (150**2 - 30**2), rel=1e-5)
    starred = unfocused(job, choose_shape(seen, ITEM.id, "star"), ITEM.id, 1)
    assert find_item(starred, ITEM.id).shape.parts[1].shape.name == "star"


@given(st.floats(0.3, 3), st.floats(-170, 170), st.booleans())
@settings(deadline=None, max_examples=40)
def test_parts_follow_the_whole(scale: float, degrees: float, is_mirrored: bool) -> None:
    job, _ = _two("add")
    job = place_shape(job, ITEM.id, is_mirrored=is_mirrored)
    job = transform_items(job, [ITEM.id], "shape", Similarity(200, 150, scale, degrees, 13, -7))
    same = unfocused(job, focused(job, ITEM.id, 0), ITEM.id, 0)
    assert _area(same) == pytest.approx(_area(job), rel=1e-6)
    one, other = find_item(job, ITEM.id), find_item(same, ITEM.id)
    assert other.shape_placement.box.centre == pytest.approx(
        one.shape_placement.box.centre if degrees % 90 == 0 else other.shape_placement.box.centre
    )
    flat = [shape_polygons(i.shape, i.shape_placement, Affine(), tolerance=0.01) for i in (one, other)]
    ends = [(p.min(axis=0), p.max(axis=0)) for p in (np.concatenate(f) for f in flat)]
    assert ends[0][0] == pytest.approx(ends[1][0], abs=0.02)
    assert ends[0][1] == pytest.approx(ends[1][1], abs=0.02)


def test_operations_off_and_removed() -> None:
    job, _ = _two()
    added = change_part(job, ITEM.id, 1, does="exclude")
    assert _area(added) == pytest.approx(_area(job), rel=1e-6)
    off = change_part(job, ITEM.id, 1, is_off=True)
    assert _area(off) == pytest.approx(np.pi * 150**2, rel=1e-5)
    assert len(find_item(off, ITEM.id).shape.parts) == 2
    with pytest.raises(ShapeError, match="nothing is left"):
        change_part(off, ITEM.id, 0, is_off=True)
    alone = remove_part(job, ITEM.id, 1)
    assert find_item(alone, ITEM.id).shape == ITEM.shape
    assert find_item(alone, ITEM.id).shape_placement.box == pytest.approx(ITEM.shape_placement.box)


def test_a_part_is_added_to_a_plain_shape_and_the_whole_can_be_rounded() -> None:
    job = add_part(choose_shape(JOB, ITEM.id, "rectangle"), ITEM.id, "subtract", "circle")
    assert isinstance(find_item(job, ITEM.id).shape, CombinedShape)
    sharp = _area(job)
    assert _area(set_round(job, ITEM.id, 10)) == pytest.approx(sharp, rel=0.01)
    assert _area(set_round(job, ITEM.id, 10)) != pytest.approx(sharp, rel=1e-6)


def test_curves_stay_curves() -> None:
    from glasscap.core.shapes.outlines import outline_of

    job, _ = _two("intersect")
    item = find_item(job, ITEM.id)
    outline = outline_of(item.shape, item.shape_placement.width, item.shape_placement.height)
    assert sum(len(c) // 3 for c in outline.contours) < 40


def test_two_shapes_are_needed() -> None:
    with pytest.raises(ShapeError, match="two shapes"):
        combine(JOB, [ITEM.id], "add")


def test_the_gap_between_neighbours_fits_exactly() -> None:
    boxes = [
        Cutout(
            f"i{n}", f"Box {n}", shape=library_shape("rectangle"), shape_placement=ShapePlacement(x, 100, 80, 100)
        )
        for n, x in ((7, 60), (8, 200))
    ]
    job = add_items(replace(JOB, sheets=(replace(JOB.sheets[0], items=()),)), "s1", boxes)
    after, gap = gap_between(job, "s1", ["i7", "i8"])
    assert find_item(after, gap).shape_placement.box == pytest.approx((100, 50, 160, 150), abs=1e-4)
    assert _area(after, gap) == pytest.approx(60 * 100, rel=1e-6)
    with pytest.raises(ShapeError, match="none between"):
        gap_between(place_shape(job, "i8", x=140.0), "s1", ["i7", "i8"])


def test_linked_shapes_change_together_where_they_are() -> None:
    job, _ = photo_job(png_photo(400, 300), png_photo(300, 300, seed=2))
    one, other = (i.id for i in job.sheets[0].items)
    job = link_shapes(choose_shape(job, one, "star"), one, [other])
    assert find_item(job, other).shape == find_item(job, one).shape
    centre = find_item(job, other).shape_placement
    job = set_params(job, one, [("points", 9.0)])
    assert dict(find_item(job, other).shape.params)["points"] == 9
    assert find_item(job, other).shape_placement.x == pytest.approx(centre.x, abs=3)
    job = choose_shape(job, other, "heart")
    assert find_item(job, one).shape.name == "heart"
    job = choose_shape(unlink_shape(job, other), other, "circle")
    assert find_item(job, one).shape.name == "heart"


def test_a_rounded_whole_keeps_its_parts_and_its_rounding() -> None:
    job, _ = _two()
    rounded = set_round(job, ITEM.id, 6)
    for after in (
        change_part(rounded, ITEM.id, 1, does="exclude"),
        add_part(rounded, ITEM.id, "add"),
        unfocused(
            rounded, place_shape(focused(rounded, ITEM.id, 1), ITEM.id, width=40.0, height=40.0), ITEM.id, 1
        ),
    ):
        shape = find_item(after, ITEM.id).shape
        assert len(shape.parts) >= 2
        assert shape.round == 6
    assert change_part(rounded, ITEM.id, 7, does="add") is rounded
    assert remove_part(rounded, ITEM.id, 7) is rounded
