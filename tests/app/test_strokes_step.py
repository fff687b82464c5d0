"""Strokes, driven control by control: seen, undone, saved."""

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.app.widgets.colour_panel import ColourPanel
from glasscap.app.widgets.dropper import Dropper
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, TexturePaint
from tests.app.conftest import Hand, drag_on, finishes, with_stroke

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


STROKE_NUMBERS = {
    "breadth": ("width", "14", 14.0),
    "gap": ("gap", "5", 5.0),
    "opacity": ("opacity", "40", 0.4),
    "limit": ("mitre_limit", "2", 2.0),
    "dash_offset": ("dash_offset", "3", 3.0),
}


@pytest.mark.parametrize("row", STROKE_NUMBERS)
def test_stroke_numbers_are_typed_and_undone(placed: Hand, steps, row: str) -> None:
    with_stroke(placed, steps)
    field, typed, value = STROKE_NUMBERS[row]
    before = finishes(placed).strokes[0]
    placed.type(getattr(steps.strokes, row).field, typed)
    assert getattr(finishes(placed).strokes[0], field) == value
    placed.do("undo")
    assert finishes(placed).strokes[0] == before


def test_stroke_choices(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.side.buttons["inside"].click()
    steps.strokes.joins.buttons["bevel"].click()
    steps.strokes.caps.buttons["round"].click()
    steps.strokes.brush.setCurrentIndex(2)
    steps.strokes.brush.activated.emit(2)
    steps.strokes.another.click()
    stroke = finishes(placed).strokes[0]
    assert (stroke.side, stroke.join, stroke.cap, stroke.texture, stroke.seed) == (
        "inside", "bevel", "round", "chalk", 2,
    )  # fmt: skip


def test_strokes_are_added_outside_one_another_ordered_hidden_and_taken_away(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.add.click()
    placed.settle()
    # 1.5 % of 300 px, round.
    assert [s.gap for s in finishes(placed).strokes] == [0, 5]
    lines = steps.strokes.list.lines
    assert [line.words.toolTip() for line in lines] == ["5 px outside", "5 px, 5 px away"]
    QTest.keyClick(lines[1], Qt.Key.Key_PageUp)
    assert [s.gap for s in finishes(placed).strokes] == [5, 0]
    lines[0].eye.click()
    assert not finishes(placed).strokes[0].is_on
    QTest.keyClick(lines[0], Qt.Key.Key_Delete)
    assert [s.gap for s in finishes(placed).strokes] == [0]
    placed.settle()
    steps.strokes.list.lines[0].delete.click()
    assert finishes(placed).strokes == ()


def test_dashes_from_a_preset_and_typed(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    dashes = steps.strokes.dashes
    dashes.presets.setCurrentIndex(1)
    dashes.presets.activated.emit(1)
    assert finishes(placed).strokes[0].dashes == (10, 5)
    placed.settle()
    # They follow the width, and are still called by the same name.
    placed.type(steps.strokes.breadth.field, "12")
    placed.settle()
    assert finishes(placed).strokes[0].dashes == (24, 12)
    assert dashes.presets.currentIndex() == 1
    placed.type(dashes.lengths, "10 4, 2 4")
    assert finishes(placed).strokes[0].dashes == (10, 4, 2, 4)
    placed.settle()
    dashes.even.click()
    assert not finishes(placed).strokes[0].has_even_ends


def test_the_width_typed_last_is_offered_first(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    placed.type(steps.strokes.breadth.field, "23")
    placed.settle()
    steps.strokes.add.click()
    assert [s.width for s in finishes(placed).strokes] == [23, 23]


@pytest.mark.parametrize("typed", ["0 0", "-3 4", "abc"])
def test_wrong_dashes_are_said_and_change_nothing(placed: Hand, steps, typed: str) -> None:
    with_stroke(placed, steps)
    before = placed.session.committed
    placed.type(steps.strokes.dashes.lengths, typed)
    assert placed.session.committed is before
    assert steps.strokes.dashes.lengths.property("wrong")


def test_paint_goes_from_colour_to_gradient_to_texture_and_back(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    for kind, made in (("gradient", GradientPaint), ("texture", TexturePaint), ("colour", ColourPaint)):
        paint.kinds.buttons[kind].click()
        placed.settle()
        assert isinstance(finishes(placed).strokes[0].paint, made)


def test_gradient_stops_are_made_dragged_coloured_and_pulled_off(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    paint.kinds.buttons["gradient"].click()
    placed.settle()
    bar = paint.bar
    middle = QPointF(bar.width() / 2, 10)
    drag_on(bar, middle, middle + QPointF(20, 0))
    stops = finishes(placed).strokes[0].paint.stops
    assert len(stops) == 3 and 0.5 < stops[1].at < 0.75
    placed.settle()
    paint.stop_well.stepped.emit("#00ff00")
    assert finishes(placed).strokes[0].paint.stops[1].colour == "#00ff00"
    placed.settle()
    at = QPointF(bar._x(finishes(placed).strokes[0].paint.stops[1].at), 28)
    drag_on(bar, at, at + QPointF(0, 90))
    assert len(finishes(placed).strokes[0].paint.stops) == 2
    paint.way.setCurrentIndex(paint.way.findData("along"))
    paint.way.activated.emit(0)
    assert finishes(placed).strokes[0].paint.way == "along"
    placed.type(paint.angle.field, "45")
    assert finishes(placed).strokes[0].paint.angle == 45


def test_a_texture_is_chosen_scaled_turned_and_of_ones_own(placed: Hand, steps, picture: Path) -> None:
    with_stroke(placed, steps)
    paint = steps.strokes.paint
    paint.kinds.buttons["texture"].click()
    placed.settle()
    paint.texture.chosen.emit("clay")
    placed.settle()
    placed.type(paint.scale.field, "50")
    placed.type(paint.turn.field, "30")
    assert finishes(placed).strokes[0].paint == TexturePaint("clay", 0.5, 30)
    paint.texture.own_asked.emit()
    placed.settle()
    own = finishes(placed).strokes[0].paint
    assert own.is_own and own.texture == placed.session.job.photos[-1].sha256


def test_a_colour_is_proposed_typed_slid_and_dropped(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    placed.settle(lambda: bool(steps.photo_colours.now()))
    well = steps.strokes.paint.well
    well.swatch.click()
    panel = well.panel
    assert isinstance(panel, ColourPanel) and panel.proposed
    QTest.mouseClick(panel.proposed[0], LEFT)
    assert finishes(placed).strokes[0].paint.colour == panel.proposed[0].colour
    placed.type(panel.digits, "#12345680")
    assert finishes(placed).strokes[0].paint.colour == "#12345680"
    track = panel.tracks["Light"]
    drag_on(track, QPointF(20, 8), QPointF(60, 8))
    assert finishes(placed).strokes[0].paint.colour != "#12345680"
    panel.close()


def test_a_colour_typed_wrong_is_marked(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.paint.well.swatch.click()
    panel, before = steps.strokes.paint.well.panel, placed.session.committed
    placed.type(panel.digits, "ochre")
    assert panel.digits.property("wrong") and placed.session.committed is before
    panel.close()


def test_the_dropper_takes_what_is_seen(placed: Hand) -> None:
    dropper, taken = Dropper(placed.studio.shell), []
    dropper.taken.connect(taken.append)
    dropper.begin()
    export = placed.studio.topbar
    QTest.mouseClick(export, LEFT, NONE, QPoint(export.width() // 2, 4))
    assert taken == ["#fbfaf7"]
    assert QApplication.overrideCursor() is None


def test_a_rough_edge_has_no_corners_to_join(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    assert steps.strokes.joins.isVisible()
    steps.edge.rough.click()
    placed.settle()
    assert not steps.strokes.joins.isVisible()
    steps.edge.rough.click()
    placed.settle()
    assert steps.strokes.joins.isVisible()


def test_a_line_of_the_photo_gives_its_width(hand: Hand, tmp_path: Path) -> None:
    rgba = np.full((300, 400, 4), 255, np.uint8)
    rgba[:, 190:203, :3] = 20
    from glasscap.core.formats.png import write_png

    path = tmp_path / "line.png"
    path.write_bytes(write_png(rgba))
    hand.drop(path)
    steps = hand.studio.workbench.steps
    with_stroke(hand, steps)
    steps.strokes.measure.click()
    assert "Drag across a line" in hand.bench.words
    hand.drag((170, 150), (225, 150))
    assert hand.item().finishes.strokes[0].width == pytest.approx(13, abs=0.3)
    assert hand.session.aim is None
    hand.do("undo")
    assert hand.item().finishes.strokes[0].width == 5


def test_measuring_for_a_stroke_that_has_gone_changes_nothing(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.measure.click()
    placed.do("undo")
    assert placed.session.aim is None
    before = placed.session.committed
    placed.drag((60, 60), (120, 60))
    assert placed.session.committed is before


def test_escape_leaves_measuring(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.measure.click()
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.aim is None and placed.session.selected
