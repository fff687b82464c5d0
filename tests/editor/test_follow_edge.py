"""Following edges and cutting objects out, on contours that are known."""

import math
import time
from threading import Event

import cv2
import msgspec
import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.document.shapes import found_object
from glasscap.core.document.shapes.points import nodes_on_sheet, set_nodes, set_smoothness
from glasscap.core.errors import CancelledError, ShapeError
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import LiveWire, Window, cut_object, window_around
from glasscap.core.shapes.kinds import PointsShape
from glasscap.core.work.ticket import Ticket
from glasscap.editor.sketches import follow_edge as following
from glasscap.editor.sketches.around_object import around_object
from glasscap.editor.sketches.follow_edge import follow_edge
from tests.editor.test_sketches import Hand
from tests.editor.test_tools import ITEM, JOB, scene


def _photo(radius_of) -> np.ndarray:
    """A light thing on a dark, noisy ground, 400 x 300, its rim at a radius for each angle; soft by one px."""
    rng = np.random.default_rng(5)
    y, x = np.mgrid[:300, :400] + 0.5
    angle = np.arctan2(y - 150, x - 200)
    share = np.clip(radius_of(angle) - np.hypot(x - 200, y - 150) + 0.5, 0, 1)
    grey = 60 + 130 * share + rng.normal(0, 5, share.shape)
    rgba = np.full((300, 400, 4), 255, np.uint8)
    rgba[..., :3] = np.clip(grey, 0, 255)[..., None]
    return rgba


SHAPES = {
    "circle": lambda a: 90 + 0 * a,
    "flower": lambda a: 90 + 14 * np.cos(5 * a),
    "ellipse": lambda a: 100 * 70 / np.hypot(70 * np.cos(a), 100 * np.sin(a)),
}


def _misses(job, radius_of) -> np.ndarray:
    item = find_item(job, ITEM.id)
    flat = np.concatenate(shape_polygons(item.shape, item.shape_placement, Affine(), tolerance=0.05))
    angle = np.linspace(-math.pi, math.pi, 4000)
    r = radius_of(angle)
    rim = np.stack([200 + r * np.cos(angle), 150 + r * np.sin(angle)], axis=1)
    return np.array([np.hypot(*(rim - p).T).min() for p in flat])


@pytest.mark.parametrize("name", list(SHAPES))
def test_a_followed_edge_is_near_the_contour_and_clean(name: str) -> None:
    radius_of = SHAPES[name]
    hand = Hand(follow_edge(scene("shape", reach=6), _photo(radius_of)))
    for a in np.radians([-90, -30, 30, 90, 150, 210]):
        r = float(radius_of(np.array(a)))
        hand.click((200 + r * math.cos(a), 150 + r * math.sin(a)))
        _wait(hand)
    hand.send("enter", 200, 150)
    _wait(hand)
    away = _misses(hand.edit.job, radius_of)
    assert away.mean() < 1.0
    assert away.max() < 4.0
    (nodes,) = nodes_on_sheet(find_item(hand.edit.job, ITEM.id))
    # Contour pixels: about the way round.
    around = 2 * math.pi * 90
    assert len(nodes) <= around / 20


def test_smoothness_is_a_number_that_stays_and_points_can_be_edited() -> None:
    radius_of = SHAPES["flower"]
    hand = Hand(follow_edge(scene("shape", reach=6), _photo(radius_of)))
    for a in np.radians([-90, 0, 90, 180]):
        r = float(radius_of(np.array(a)))
        hand.click((200 + r * math.cos(a), 150 + r * math.sin(a)))
        _wait(hand)
    hand.send("enter")
    job = hand.edit.job
    fine, coarse = set_smoothness(job, ITEM.id, 0.6), set_smoothness(job, ITEM.id, 8.0)
    counts = [len(nodes_on_sheet(find_item(j, ITEM.id))[0]) for j in (fine, coarse)]
    assert counts[0] > counts[1]
    again = set_smoothness(coarse, ITEM.id, 0.6)
    assert len(nodes_on_sheet(find_item(again, ITEM.id))[0]) == pytest.approx(counts[0], abs=4)
    edited = set_nodes(job, ITEM.id, nodes_on_sheet(find_item(job, ITEM.id)))
    assert find_item(edited, ITEM.id).shape.way == ""
    with pytest.raises(ShapeError, match="out of range"):
        set_smoothness(job, ITEM.id, 0.0)


def test_shift_goes_straight_and_backspace_steps_back() -> None:
    hand = Hand(follow_edge(scene("shape", reach=6), _photo(SHAPES["circle"])))
    hand.click((200, 60)).click((290, 150), has_shift=True)
    _wait(hand)
    assert len(hand.shown.lines) == 1
    assert len(hand.shown.lines[0]) == 2
    hand.send("back", 290, 150)
    assert hand.shown.lines == ()
    assert len(hand.shown.dots) == 1


def test_a_click_never_waits_and_none_is_lost(monkeypatch: pytest.MonkeyPatch) -> None:
    is_let_go, ready = Event(), []

    def slow(pixels: np.ndarray, x: float, y: float, scale: float) -> Window:
        is_let_go.wait(60)
        ready.append(scale)
        return window_around(pixels, x, y, scale)

    monkeypatch.setattr(following, "window_around", slow)
    hand = Hand(follow_edge(scene("shape", reach=6), _photo(SHAPES["circle"])))
    hand.click((200, 60), (290, 150), (200, 240), (110, 150), (200, 61))
    hand.send("tick")
    assert ready == []
    assert not hand.is_done
    assert hand.shown.is_waiting
    is_let_go.set()
    _wait(hand)
    assert hand.edit is not None
    assert _misses(hand.edit.job, SHAPES["circle"]).mean() < 1.0


def test_the_wire_clings_to_the_strongest_edge() -> None:
    photo = _photo(SHAPES["circle"])
    wire = LiveWire(window_around(photo, 200, 60, 1.0), 200, 60)
    way = wire.way_to(290, 150)
    assert np.abs(np.hypot(way[:, 0] - 200, way[:, 1] - 150) - 90).max() < 2.5


def test_without_a_photo_it_says_why() -> None:
    with pytest.raises(ShapeError, match="not ready"):
        next(follow_edge(scene("shape"), None))


def test_around_an_object_and_a_stroke_that_takes_away() -> None:
    radius_of = SHAPES["ellipse"]
    photo = _photo(radius_of)
    hand = Hand(around_object(scene("shape", reach=6), photo))
    hand.send("press", 80, 60).send("move", 200, 150).send("release", 320, 240)
    _wait(hand)
    assert len(hand.shown.lines) == 1
    hand.send("press", 200, 90, has_right_button=True).send("move", 240, 100).send("release", 200, 110)
    _wait(hand)
    hand.send("back", 0, 0)
    _wait(hand)
    hand.send("enter", 0, 0)
    item = find_item(hand.edit.job, ITEM.id)
    assert isinstance(item.shape, PointsShape)
    assert item.shape.made_by == "Cut-out object"
    away = _misses(hand.edit.job, radius_of)
    assert away.mean() < 1.0
    area = sum(signed_area(p) for p in shape_polygons(item.shape, item.shape_placement, Affine(), tolerance=0.05))
    assert area == pytest.approx(math.pi * 100 * 70, rel=0.03)
    assert JOB.sheets[0].items[0].content == item.content


def test_the_graph_cut_stops_between_its_rounds() -> None:
    class _Impatient(Ticket):
        def report(self, share: float) -> None:
            if share >= 0.5:
                self.stop.set()
            super().report(share)

    ticket = _Impatient()
    with pytest.raises(CancelledError):
        cut_object(_photo(SHAPES["circle"]), (80, 40, 320, 260), ticket=ticket)
    assert ticket.share == 0.6


def test_rounds_one_by_one_find_what_the_library_finds_at_once() -> None:
    photo = _photo(SHAPES["flower"])
    window, mask = cut_object(photo, (80, 40, 320, 260))
    labels = np.full(window.rgb.shape[:2], cv2.GC_BGD, np.uint8)
    (u0, v0), (u1, v1) = window.to_working(80, 40), window.to_working(320, 260)
    labels[round(v0) : round(v1), round(u0) : round(u1)] = cv2.GC_PR_FGD
    cv2.setRNGSeed(1)
    cv2.grabCut(window.rgb, labels, None, np.zeros((1, 65)), np.zeros((1, 65)), 4, cv2.GC_INIT_WITH_MASK)
    at_once = (labels == cv2.GC_FGD) | (labels == cv2.GC_PR_FGD)
    assert ((mask > 127) != at_once).mean() < 0.002


def test_leaving_stops_the_cut_and_a_new_stroke_replaces_it(monkeypatch) -> None:
    seen: list[Ticket] = []

    def watched(pixels, box, hints, ticket):
        seen.append(ticket)
        return cut_object(pixels, box, hints, ticket)

    monkeypatch.setattr(found_object, "cut_object", watched)
    hand = Hand(around_object(scene("shape", reach=6), _photo(SHAPES["ellipse"])))
    hand.send("press", 80, 60).send("move", 200, 150).send("release", 320, 240)
    assert "Escape gives it up" in hand.shown.words
    hand.send("press", 180, 140).send("move", 200, 150).send("release", 220, 150)
    _wait(hand)
    assert seen[0].stop.is_set() or seen[0].share == 1.0
    assert not seen[-1].stop.is_set()
    hand.sketch.close()
    assert seen[-1].stop.is_set()


def _wait(hand: Hand) -> None:
    end = time.monotonic() + 120
    while hand.shown.is_waiting and not hand.is_done:
        time.sleep(0.01)
        hand.send("tick", 0, 0)
        assert time.monotonic() < end


def test_anchors_along_an_edge_are_taken_back_and_put_back() -> None:
    hand = Hand(follow_edge(scene("shape", reach=6), _photo(SHAPES["circle"])))
    hand.click((200, 60))
    _wait(hand)
    hand.click((290, 150))
    _wait(hand)
    whole = hand.shown.lines[0]
    hand.send("back", 290, 150)
    _wait(hand)
    assert hand.shown.lines == ()
    assert hand.shown.again == "the last point"
    hand.send("again", 290, 150)
    _wait(hand)
    assert np.array_equal(hand.shown.lines[0], whole)
    hand.send("back", 0, 0).send("back", 0, 0)
    assert hand.shown.back == ""


@pytest.fixture
def around() -> Hand:
    """A hand that has dragged a box around the ellipse, its contour found."""
    hand = Hand(around_object(scene("shape", reach=6), _photo(SHAPES["ellipse"])))
    hand.send("press", 80, 60).send("move", 200, 150).send("release", 320, 240)
    _wait(hand)
    yield hand
    hand.sketch.close()


def _stroke(hand: Hand, *, right: bool = False) -> None:
    held = {"has_right_button": right}
    hand.send("press", 200, 90, **held).send("move", 240, 100, **held).send("release", 200, 110, **held)


def _area(hand: Hand) -> float:
    return sum(abs(signed_area(line[:-1])) for line in hand.shown.tinted)


def test_a_stroke_is_taken_back_without_cutting_anew(around: Hand) -> None:
    first = around.shown.lines
    _stroke(around, right=True)
    _wait(around)
    second = _area(around)
    assert around.shown.back == "the last stroke"
    around.send("back")
    assert not around.shown.is_waiting
    assert all(np.array_equal(a, b) for a, b in zip(around.shown.lines, first, strict=True))
    around.send("again")
    assert not around.shown.is_waiting
    assert _area(around) == second
    around.send("back").send("back")
    assert around.shown.lines == ()
    assert (around.shown.back, around.shown.again) == ("", "what was taken back")


def test_escape_gives_up_the_stroke_that_is_computed_and_nothing_else(around: Hand) -> None:
    first = _area(around)
    assert not around.shown.takes_escape
    _stroke(around, right=True)
    assert around.shown.takes_escape
    around.send("escape")
    assert not around.shown.takes_escape
    assert _area(around) == first
    around.send("enter")
    assert around.is_done


def test_what_strokes_do_is_chosen_and_the_brush_is_as_wide_on_screen_at_any_zoom(around: Hand) -> None:
    assert around.shown.choice == "add"
    around.send("take")
    assert around.shown.choice == "take"
    narrow = around.send("move", 0, 0, px=0.5).shown.brush
    wide = around.send("move", 0, 0, px=2.0).shown.brush
    assert wide == 4 * narrow > 0
    before = _area(around)
    _stroke(around)
    _wait(around)
    chosen = _area(around)
    around.send("back").send("add")
    _stroke(around, right=True)
    _wait(around)
    # The right button takes away whatever is chosen.
    assert _area(around) == pytest.approx(chosen, rel=0.01)
    assert chosen < before


def test_an_object_that_was_cut_out_is_taken_up_again_also_from_a_file(around: Hand) -> None:
    _stroke(around, right=True)
    _wait(around)
    area = _area(around)
    around.send("enter")
    job = msgspec.convert(msgspec.to_builtins(around.edit.job), Job)
    again = Hand(around_object(replace(scene("shape", reach=6), job=job), _photo(SHAPES["ellipse"])))
    _wait(again)
    assert _area(again) == pytest.approx(area, rel=1e-3)
    assert again.shown.back == "the last stroke"
    _stroke(again)
    _wait(again)
    assert _area(again) > area
    again.send("enter")
    assert again.is_done
    # A photo the drawing was not made on begins with a box, and so does a shape whose points were moved.
    (item,) = again.edit.job.sheets[0].items
    assert len(item.shape.drawn.strokes) == 2
    (changed,) = set_smoothness(again.edit.job, item.id, 2.0).sheets[0].items
    assert changed.shape.drawn == item.shape.drawn
    (moved,) = set_nodes(again.edit.job, item.id, nodes_on_sheet(item)).sheets[0].items
    assert moved.shape.drawn is None
    drawn = replace(item.shape.drawn, photo="f" * 64)
    other = update_item(job, item.id, lambda it: replace(it, shape=replace(item.shape, drawn=drawn)))
    fresh = Hand(around_object(replace(scene("shape", reach=6), job=other), _photo(SHAPES["ellipse"])))
    assert fresh.shown.back == ""
    fresh.sketch.close()
