"""Editing an outline's points with the pointer and by command."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from glasscap.core.document.model.query import find_item
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.document.shapes.chosen_points import (
    align_points,
    delete_points,
    move_points,
    set_kind,
    straighten,
)
from glasscap.core.document.shapes.points import nodes_on_sheet, set_nodes, to_points
from glasscap.core.document.shapes.shaping import choose_shape, set_round
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import PointsShape
from glasscap.core.shapes.library.table import SHAPES
from glasscap.editor.point_picking import PointHit, point_at, rings_shown
from glasscap.editor.tools.edit_points import edit_points
from tests.editor.test_tools import CARD, ITEM, JOB, drag, press, scene

BOX = to_points(CARD, ITEM.id)


def _nodes(job):
    return nodes_on_sheet(find_item(job, ITEM.id))


def _area(job) -> float:
    item = find_item(job, ITEM.id)
    flat = shape_polygons(item.shape, item.shape_placement, Affine(), tolerance=1e-4)
    return sum(signed_area(p) for p in flat)


def _hit(job, x: float, y: float, chosen=frozenset()):
    return point_at(_nodes(job), chosen, x, y, 6)


@pytest.mark.parametrize("name", list(SHAPES))
def test_a_shape_turned_into_points_keeps_its_form(name: str) -> None:
    before = choose_shape(JOB, ITEM.id, name)
    after = to_points(before, ITEM.id)
    assert isinstance(find_item(after, ITEM.id).shape, PointsShape)
    assert _area(after) == pytest.approx(_area(before), rel=2e-4)
    assert find_item(after, ITEM.id).shape_placement.box == pytest.approx(
        find_item(before, ITEM.id).shape_placement.box, abs=0.05
    )


def test_rounding_becomes_part_of_the_points_and_turns_stay() -> None:
    from glasscap.core.document.arranging.by_number import place_shape

    job = set_round(
        place_shape(choose_shape(JOB, ITEM.id, "star"), ITEM.id, rotation=25, is_mirrored=True), ITEM.id, 8
    )
    after = to_points(job, ITEM.id)
    assert _area(after) == pytest.approx(_area(job), rel=1e-4)
    item = find_item(after, ITEM.id)
    assert (item.shape.round, item.shape_placement.rotation, item.shape_placement.is_mirrored) == (0, 25, True)


def test_a_dragged_point_moves_alone_and_others_stay() -> None:
    hit = _hit(BOX, 150, 110)
    edit = drag(edit_points(scene("shape", BOX), press(150, 110), hit, frozenset()), (140, 100), (130, 90))
    assert edit.chosen == {hit.place}
    places = {(n.x, n.y) for n in _nodes(edit.job)[0]}
    assert places == {(130, 90), (250, 110), (250, 190), (150, 190)}
    assert find_item(edit.job, ITEM.id).content_placement == ITEM.content_placement


def test_a_frame_gathers_points_and_they_move_together() -> None:
    edit = drag(
        edit_points(scene("shape", BOX, reach=6), press(240, 100), None, frozenset()), (260, 150), (260, 200)
    )
    assert len(edit.chosen) == 2
    assert edit.job is BOX
    hit = _hit(BOX, 250, 110)
    moved = drag(edit_points(scene("shape", BOX), press(250, 110), hit, edit.chosen), (260, 112), (270, 110))
    assert {(n.x, n.y) for n in _nodes(moved.job)[0]} == {(150, 110), (270, 110), (270, 190), (150, 190)}


def test_a_press_on_the_outline_adds_a_point_there() -> None:
    hit = _hit(BOX, 200, 111)
    assert hit.kind == "segment"
    edit = drag(edit_points(scene("shape", BOX), press(200, 111), hit, frozenset()), (200, 90), (200, 80))
    nodes = _nodes(edit.job)[0]
    assert len(nodes) == 5
    assert _area(edit.job) == pytest.approx(100 * 80 + 100 * 31 / 2 + 0, abs=60)


def test_control_points_bend_smooth_and_symmetric_and_alt_breaks() -> None:
    job = set_kind(BOX, ITEM.id, frozenset({(0, 0)}), "symmetric")
    chosen = frozenset({(0, 0)})
    node = _nodes(job)[0][0]
    hit = point_at(_nodes(job), chosen, *node.after, 3)
    assert hit.kind == "after"
    tool = edit_points(scene("shape", job), press(*node.after), hit, chosen)
    bent = drag(tool, (node.x + 40, node.y), (node.x + 40, node.y - 10))
    after = _nodes(bent.job)[0][0]
    assert after.after == pytest.approx((node.x + 40, node.y - 10))
    assert after.before == pytest.approx((node.x - 40, node.y + 10))
    tool = edit_points(scene("shape", job), press(*node.after), hit, chosen)
    broken = drag(tool, (node.x + 40, node.y), (node.x + 40, node.y), has_ctrl=True)
    after = _nodes(broken.job)[0][0]
    assert after.kind == "corner"
    assert after.before == pytest.approx(node.before)


def test_a_handle_is_pulled_out_of_a_corner_and_pushed_in_again() -> None:
    chosen = frozenset({(0, 0)})
    corner = _nodes(BOX)[0][0]
    assert not corner.has_after
    (ring,) = [at for place, kind, at in rings_shown(_nodes(BOX), chosen, 6) if kind == "after"]
    # It lies on the side that leaves the point.
    assert ring[1] == pytest.approx(corner.y)
    assert 0 < ring[0] - corner.x < 20
    hit = point_at(_nodes(BOX), chosen, *ring, 6)
    assert (hit.kind, hit.place) == ("after", (0, 0))
    still = drag(edit_points(scene("shape", BOX), press(*ring), hit, chosen), ring)
    assert still.job is BOX
    pulled = drag(edit_points(scene("shape", BOX), press(*ring), hit, chosen), (180, 80), (190, 70))
    node = _nodes(pulled.job)[0][0]
    assert node.after == pytest.approx((190, 70))
    assert (node.kind, node.has_before) == ("corner", False)
    assert _area(pulled.job) > _area(BOX) + 100
    hit = point_at(_nodes(pulled.job), chosen, 190, 70, 6)
    start = edit_points(scene("shape", pulled.job, reach=4), press(190, 70), hit, chosen)
    pushed = drag(start, (160, 100), (corner.x + 3, corner.y - 2))
    assert _nodes(pushed.job)[0][0] == corner
    assert _area(pushed.job) == pytest.approx(_area(BOX))


def test_a_handle_snaps_in_line_with_the_other_and_ctrl_keeps_it_from_that() -> None:
    chosen = frozenset({(0, 0)})
    corner = _nodes(BOX)[0][0]
    rings = {kind: at for _, kind, at in rings_shown(_nodes(BOX), chosen, 6)}
    first = drag(
        edit_points(scene("shape", BOX), press(*rings["after"]), PointHit("after", (0, 0)), chosen),
        (corner.x + 40, corner.y - 30),
    ).job

    def pulled(**held: bool):
        tool = edit_points(
            scene("shape", first, reach=4), press(*rings["before"]), PointHit("before", (0, 0)), chosen
        )
        return _nodes(drag(tool, (corner.x - 22, corner.y + 15), **held).job)[0][0]

    # (-22, 15) is 1.2 px beside the line of (40, -30).
    smooth, free = pulled(), pulled(has_ctrl=True)
    assert smooth.kind == "smooth"
    back, ahead = (smooth.before[0] - corner.x, smooth.before[1] - corner.y), (40, -30)
    assert back[0] * ahead[1] - back[1] * ahead[0] == pytest.approx(0, abs=1e-3)
    assert np.hypot(*back) == pytest.approx(26.6, abs=0.1)
    assert smooth.after == pytest.approx((corner.x + 40, corner.y - 30))
    assert free.kind == "corner"
    assert free.before == pytest.approx((corner.x - 22, corner.y + 15))


def test_delete_align_nudge_straighten() -> None:
    job = delete_points(BOX, ITEM.id, frozenset({(0, 0)}))
    assert _area(job) == pytest.approx(4000)
    with pytest.raises(ShapeError, match="none left"):
        delete_points(job, ITEM.id, frozenset({(0, 0), (0, 1)}))
    moved = move_points(BOX, ITEM.id, frozenset({(0, 0)}), -7, 3)
    level = align_points(moved, ITEM.id, frozenset({(0, 0), (0, 1)}), "top")
    assert {n.y for n in _nodes(level)[0][:2]} == {110}
    round_one = set_kind(BOX, ITEM.id, frozenset({(0, 1)}), "smooth")
    assert _area(round_one) != pytest.approx(8000, abs=1)
    assert _area(straighten(round_one, ITEM.id, frozenset({(0, 1)}))) == pytest.approx(8000)


def test_a_corner_s_own_radius_stays_with_its_corner() -> None:
    job = set_round(BOX, ITEM.id, 12, corner=2)
    item = find_item(job, ITEM.id)
    assert item.shape.corners == ((2, 12.0),)
    gone = find_item(delete_points(job, ITEM.id, frozenset({(0, 0)})), ITEM.id)
    assert gone.shape.corners == ((1, 12.0),)


@settings(max_examples=30, deadline=None)
@given(st.lists(st.tuples(st.integers(-500, 900), st.integers(-500, 900)), min_size=4, max_size=12, unique=True))
def test_any_points_give_a_shape_of_the_same_points_or_a_reason(places: list[tuple[int, int]]) -> None:
    from glasscap.core.shapes.nodes import corner_node

    try:
        job = set_nodes(BOX, ITEM.id, (tuple(corner_node(*p) for p in places),))
    except ShapeError:
        return
    assert [(n.x, n.y) for n in _nodes(job)[0]] == [pytest.approx(p, abs=1e-5) for p in places]
    assert _area(job) > 0


def test_points_that_fell_together_are_one_and_places_that_are_gone_are_left_out() -> None:
    job = align_points(BOX, ITEM.id, frozenset({(0, 0), (0, 1)}), "left")
    assert len(_nodes(job)[0]) == 3
    stale = frozenset({(0, 3), (0, 2), (7, 0)})
    assert align_points(job, ITEM.id, stale, "top") is job
    assert delete_points(job, ITEM.id, frozenset({(0, 3)})) is job
    assert move_points(job, ITEM.id, frozenset({(0, 3)}), 1, 1) is job
