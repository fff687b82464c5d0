"""Drawing in several clicks: events in, one edit out."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.query import find_item
from glasscap.core.document.shapes.points import nodes_on_sheet, outline_nodes
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten_contour
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import PointsShape, RimShape
from glasscap.editor.sketches.draw_points import draw_points
from glasscap.editor.sketches.freehand import clean_curve, freehand
from glasscap.editor.sketches.rim import mark_rim, rim_points
from glasscap.editor.sketches.sketch import Sketch, SketchEvent
from glasscap.editor.tools.pointer import Edit
from tests.editor.test_tools import CARD, ITEM, JOB, scene


class Hand:
    """Sends events to a sketch; the edit when it ends."""

    def __init__(self, sketch: Sketch) -> None:
        self.sketch, self.edit, self.is_done = sketch, None, False
        self.shown = next(sketch)

    def send(self, kind: str, x: float = 0, y: float = 0, **held: bool) -> "Hand":
        try:
            self.shown = self.sketch.send(SketchEvent(kind, x, y, **held))
        except StopIteration as end:
            self.edit, self.is_done = end.value, True
            if self.edit is not None:
                self.edit = replace(self.edit, job=self.edit.change(self.edit.job))
        return self

    def click(self, *places: tuple[float, float], **held: bool) -> "Hand":
        for x, y in places:
            for kind in ("move", "press", "release"):
                if not self.is_done:
                    self.send(kind, x, y, **held)
        return self


def _nodes(edit: Edit | None):
    assert edit is not None
    return nodes_on_sheet(find_item(edit.job, edit.selected[0]))


def test_clicks_set_corners_and_the_first_point_closes() -> None:
    hand = Hand(draw_points(scene("shape", reach=6))).click((10, 10), (110, 10), (110, 90), (12, 11))
    (nodes,) = _nodes(hand.edit)
    assert [(n.x, n.y) for n in nodes] == [(10, 10), (110, 10), (110, 90)]
    placement = find_item(hand.edit.job, ITEM.id).shape_placement
    assert (placement.width, placement.height) == (100, 80)
    assert find_item(hand.edit.job, ITEM.id).content == ITEM.content


def test_a_drag_bends_backspace_takes_back_and_enter_closes() -> None:
    hand = Hand(draw_points(scene("shape", reach=6))).click((10, 10), (300, 300)).send("back")
    assert hand.shown.dots == ((10, 10),)
    hand.send("press", 100, 10).send("move", 130, 40).send("release", 130, 40).click((60, 120)).send(
        "enter", 0, 0
    )
    (nodes,) = _nodes(hand.edit)
    assert nodes[1].after == (130, 40)
    assert nodes[1].before == (70, -20)
    assert [n.kind for n in nodes] == ["corner", "symmetric", "corner"]


def test_shift_keeps_to_steps_of_15_degrees() -> None:
    hand = Hand(draw_points(scene("shape"))).click((0, 0)).click((100, 24), has_shift=True)
    x, y = hand.shown.dots[-1]
    assert math.degrees(math.atan2(y, x)) == pytest.approx(15)


def test_points_meet_other_shapes_exactly() -> None:
    # The gap beside a shape is filled to its very points and edges.
    board = scene("shape", CARD, reach=8, selected=())
    hand = Hand(draw_points(board)).click((148, 113), (252, 108), (251.5, 150)).send("enter")
    nodes = _nodes(hand.edit)[0]
    assert [(n.x, n.y) for n in nodes[:2]] == [(150, 110), (250, 110)]
    assert nodes[2].x == 250


def test_nothing_enclosed_is_said() -> None:
    hand = Hand(draw_points(scene("shape"))).click((0, 0), (50, 0), (100, 0))
    with pytest.raises(ShapeError, match="no area"):
        hand.send("enter")


def test_a_freehand_circle_is_a_clean_curve() -> None:
    hand = Hand(freehand(scene("shape", reach=6)))
    rng = np.random.default_rng(1)
    for n in range(200):
        a = n / 200 * 2 * math.pi
        r = 80 + rng.normal(0, 0.6)
        hand.send("press" if n == 0 else "move", 200 + r * math.cos(a), 150 + r * math.sin(a))
    hand.send("release", 280, 150)
    (nodes,) = _nodes(hand.edit)
    assert len(nodes) <= 12
    assert all(abs(math.hypot(n.x - 200, n.y - 150) - 80) < 4 for n in nodes)


def test_a_freehand_square_keeps_its_corners() -> None:
    corners = [(0, 0), (100, 0), (100, 100), (0, 100)]
    way = [
        (x0 + (x1 - x0) * t, y0 + (y1 - y0) * t)
        for (x0, y0), (x1, y1) in zip(corners, corners[1:] + corners[:1], strict=True)
        for t in np.arange(0, 1, 0.05)
    ]
    contour = clean_curve(np.array(way), tolerance=1.5)
    assert len(contour) == 13
    assert {tuple(np.round(p)) for p in contour[:-1:3]} == set(corners)


@settings(max_examples=25, deadline=None)
@given(st.integers(3, 7), st.floats(0.05, 0.5), st.floats(0.2, 2))
def test_a_fitted_curve_stays_within_its_tolerance(lobes: int, depth: float, tolerance: float) -> None:
    from glasscap.core.geometry.fit import fit_closed

    a = np.linspace(0, 2 * math.pi, 400, endpoint=False)
    r = 100 * (1 + depth * np.cos(lobes * a))
    way = np.stack([r * np.cos(a), r * np.sin(a)], axis=1)
    flat = flatten_contour(fit_closed(way, tolerance=tolerance), tolerance=tolerance / 20)
    away = np.hypot(*(way[:, None] - flat[None]).transpose(2, 0, 1)).min(axis=1)
    step = np.hypot(*np.diff(flat, axis=0).T).max()
    assert away.max() <= math.hypot(tolerance * 1.05, step / 2)


def test_a_circle_through_rim_points_says_its_misfit_and_can_be_corrected() -> None:
    hand = Hand(mark_rim(scene("shape", reach=6), "circle")).click((100, 50), (150, 100))
    assert "1 more point" in hand.shown.words
    hand.click((100, 150))
    assert "100 px across, misfit 0 px" in hand.shown.words
    hand.send("press", 101, 150).send("move", 100, 160).send("release", 100, 160)
    assert len(hand.shown.dots) == 3
    hand.send("press", 100, 160).send("move", 100, 150).send("release", 100, 150).send("enter")
    item = find_item(hand.edit.job, ITEM.id)
    assert isinstance(item.shape, RimShape)
    assert (item.shape_placement.x, item.shape_placement.width) == pytest.approx((100, 100))
    again = rim_points(item, "circle")
    assert again == [pytest.approx(p) for p in ((100, 50), (150, 100), (100, 150))]


def test_rim_points_on_a_line_are_refused_in_words() -> None:
    hand = Hand(mark_rim(scene("shape"), "circle")).click((0, 0), (50, 0), (100, 0))
    assert hand.shown.words == "The points lie on a line"
    assert not hand.send("enter").is_done


def test_an_ellipse_seen_at_an_angle() -> None:
    hand = Hand(mark_rim(scene("shape", reach=1), "ellipse"))
    turn = math.radians(20)
    for a in np.linspace(0, 2 * math.pi, 7, endpoint=False):
        u, v = 90 * math.cos(a), 40 * math.sin(a)
        hand.click((200 + u * math.cos(turn) - v * math.sin(turn), 150 + u * math.sin(turn) + v * math.cos(turn)))
    hand.send("enter")
    placement = find_item(hand.edit.job, ITEM.id).shape_placement
    assert (placement.width, placement.height, placement.rotation) == pytest.approx((180, 80, 20))


def test_drawing_with_nothing_selected_makes_a_cutout_that_waits() -> None:
    hand = (
        Hand(draw_points(scene("shape", JOB, reach=6, selected=())))
        .click((10, 10), (90, 10), (50, 80))
        .send("enter")
    )
    item = find_item(hand.edit.job, hand.edit.selected[0])
    assert item.content is None
    assert isinstance(item.shape, PointsShape)
    assert outline_nodes(item, Affine())


def test_points_are_taken_back_and_put_back() -> None:
    hand = Hand(draw_points(scene("shape", reach=6)))
    assert hand.shown.back == ""
    hand.click((10, 10), (110, 10), (110, 90)).send("back").send("back")
    assert hand.shown.dots == ((10, 10),)
    assert (hand.shown.back, hand.shown.again) == ("the last point", "the last point")
    hand.send("again").send("again")
    assert hand.shown.dots == ((10, 10), (110, 10), (110, 90))
    assert hand.shown.again == ""
    hand.send("back").click((200, 200)).send("again")
    assert hand.shown.dots == ((10, 10), (110, 10), (200, 200))


def test_a_curve_that_is_being_dragged_is_taken_back_whole() -> None:
    hand = Hand(draw_points(scene("shape", reach=6))).click((10, 10))
    hand.send("press", 100, 10).send("move", 130, 40).send("back", 130, 40).send("release", 130, 40)
    assert hand.shown.dots == ((10, 10),)
    assert hand.shown.controls == ()


def test_ctrl_sets_a_point_freely_and_breaks_a_curve() -> None:
    board = scene("shape", CARD, reach=8, selected=())
    hand = Hand(draw_points(board)).click((148, 113), has_ctrl=True)
    assert hand.shown.dots == ((148, 113),)
    hand.send("press", 300, 300).send("move", 330, 340)
    hand.send("move", 300, 350, has_ctrl=True).send("release", 300, 350)
    # The outgoing control follows the hand, the incoming one stays.
    assert hand.shown.controls == ((270, 260, 300, 350),)


def test_a_freehand_stroke_is_given_up_by_taking_it_back() -> None:
    hand = Hand(freehand(scene("shape", reach=6))).send("press", 10, 10)
    for n in range(20):
        hand.send("move", 10 + 8 * n, 10 + n * n)
    assert hand.shown.back == "the stroke"
    hand.send("back").send("release", 10, 10)
    assert not hand.is_done
    assert hand.shown.lines == ()


def test_rim_points_that_were_set_or_moved_are_taken_back_one_by_one() -> None:
    hand = Hand(mark_rim(scene("shape", reach=6), "circle")).click((100, 50), (150, 100), (100, 150))
    hand.send("press", 101, 150).send("move", 100, 160).send("release", 100, 160)
    hand.send("back")
    assert hand.shown.dots == ((100, 50), (150, 100), (100, 150))
    hand.send("back").send("back")
    assert hand.shown.dots == ((100, 50),)
    for _ in range(3):
        hand.send("again")
    assert hand.shown.dots == ((100, 50), (150, 100), (100, 160))
    hand.send("enter")
    made = rim_points(find_item(hand.edit.job, ITEM.id), "circle")
    assert made == [pytest.approx(p) for p in ((100, 50), (150, 100), (100, 160))]
