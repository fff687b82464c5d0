"""The bench in the window: grips, drags, handles, zoom, drawing, selecting."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.app.conftest import Hand
from tests.samples import noise_rgba, png_photo

pytestmark = pytest.mark.shared_window

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)


@pytest.mark.parametrize(
    ("grip", "key"), [("photo", Qt.Key.Key_P), ("together", Qt.Key.Key_T), ("shape", Qt.Key.Key_S)]
)
def test_grips_by_button_and_key_move_what_they_say(placed: Hand, grip: str, key: Qt.Key) -> None:
    placed.do({"photo": "grip_photo", "together": "grip_together", "shape": "grip_shape"}[grip])
    assert placed.session.grip == grip
    assert placed.studio.workbench.bar.buttons[grip].isChecked()
    before = placed.item()
    placed.drag((200, 150), (220, 160), keys=ALT)
    now = placed.item()
    assert (now.content_placement != before.content_placement) == (grip != "shape")
    assert (now.shape_placement != before.shape_placement) == (grip != "photo")
    placed.do("undo")
    assert placed.item() == before
    shown = {"photo": "the photo", "together": "photo and shape together", "shape": "the shape"}
    assert shown[grip] in placed.bench.words
    assert placed.studio.actions_by_id[f"grip_{grip}"].shortcut() == QKeySequence(key)


def test_a_drag_is_one_step_and_escape_drops_it(placed: Hand) -> None:
    placed.session.set_grip("photo")
    before = placed.session.job
    placed.drag((200, 150), (260, 150), is_released=False)
    assert placed.session.job is not before
    assert placed.session.committed is before
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.job is before
    placed.drag((200, 150), (260, 150))
    assert placed.session.undo_label == "Move the photo"
    placed.do("undo")
    assert placed.session.job is before


def test_arrows_nudge_by_1_and_10(placed: Hand) -> None:
    placed.session.set_grip("shape")
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    placed.key(Qt.Key.Key_Down, SHIFT)
    now = placed.item().shape_placement
    assert (now.x, now.y) == (201, 160)


def test_handles_size_and_turn(placed: Hand) -> None:
    placed.session.set_grip("shape")
    right = next(h for h in placed.bench.driver.handles() if h.u == 1)
    placed.drag((right.x, right.y), (right.x - 100, right.y), keys=ALT)
    assert placed.item().shape_placement.width == pytest.approx(200, abs=2)
    turn = next(h for h in placed.bench.driver.handles() if h.kind == "turn")
    placed.drag(
        (turn.x, turn.y), (placed.item().shape_placement.x + 150, placed.item().shape_placement.y), keys=SHIFT
    )
    assert placed.item().shape_placement.rotation == 90


def test_zoom_about_the_pointer_fit_and_100_percent(placed: Hand) -> None:
    placed.do("actual")
    assert placed.bench.viewport.zoom == 1
    at = QPointF(300, 250)
    before = placed.bench.to_sheet(at.x(), at.y())
    from PySide6.QtGui import QWheelEvent

    wheel = QWheelEvent(
        at,
        placed.bench.mapToGlobal(at),
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        CTRL,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(placed.bench, wheel)
    assert placed.bench.viewport.zoom == pytest.approx(1.25)
    assert placed.bench.to_sheet(at.x(), at.y()) == pytest.approx(before, abs=1.5)
    x = placed.bench.viewport.x
    QTest.mousePress(placed.bench, Qt.MouseButton.MiddleButton, pos=QPoint(100, 100))
    placed.move(QPointF(150, 100), Qt.KeyboardModifier.NoModifier, Qt.MouseButton.MiddleButton)
    QTest.mouseRelease(placed.bench, Qt.MouseButton.MiddleButton, pos=QPoint(150, 100))
    assert placed.bench.viewport.x == pytest.approx(x - 40)
    placed.do("zoom_out")
    placed.do("zoom_in")
    placed.do("fit")
    assert placed.studio.topbar.zoom.text().endswith("%")


def test_the_frame_at_100_percent_is_the_written_picture(placed: Hand) -> None:
    placed.do("actual")
    placed.settle()
    frame = placed.bench._frame.sheet
    x, y = placed.bench.to_view.apply(200, 150)
    pixel = frame.rgba[round(y) - frame.y, round(x) - frame.x]
    assert pixel.tolist() == noise_rgba(400, 300)[150, 200].tolist()


def test_drawing_from_the_step(placed: Hand) -> None:
    placed.studio.workbench.steps.shape.draw.menu().actions()[0].trigger()
    assert "draws a circle" in placed.bench.words
    placed.drag((100, 80), (200, 180))
    assert placed.item().shape_placement.width == pytest.approx(100, abs=2)
    assert placed.session.drawing is None
    placed.studio.workbench.steps.shape.draw.menu().actions()[0].trigger()
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.drawing is None


def test_a_new_shape_is_drawn_with_nothing_selected(placed: Hand) -> None:
    placed.click(placed.bench, QPoint(4, 4))
    placed.settle()
    placed.do("draw")
    placed.drag((20, 20), (90, 70))
    assert len(placed.session.sheet.items) == 2
    assert placed.item().content is None
    assert placed.session.selected == (placed.item().id,)
    placed.do("draw")
    assert placed.session.drawing == "circle"
    placed.do("draw")
    assert placed.session.drawing is None


def test_clicking_selects_and_the_empty_bench_lets_go(placed: Hand) -> None:
    placed.click(placed.bench, QPoint(4, 4))
    assert placed.session.selected == ()
    placed.click(placed.bench, placed.at(200, 150))
    assert placed.session.selected == (placed.item().id,)


def test_a_click_selects_what_lies_under_the_hidden_part_of_a_photo(placed: Hand, tmp_path: Path) -> None:
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(100, 100, seed=4))
    first = placed.item()
    placed.drop(other)
    second = placed.item()
    placed.session.select([first.id])
    placed.session.set_grip("photo")
    placed.click(placed.bench, placed.at(200, 150))
    assert placed.session.selected == (second.id,)
    placed.session.select([first.id])
    placed.drag((200, 150), (230, 150))
    assert placed.session.selected == (first.id,)
    assert placed.item(0).content_placement.x > 220


def test_labels_reset_by_double_click(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    placed.type(steps.shape.size_row.first, "50")
    placed.type(steps.shape.centre.first, "90")
    for row in (steps.shape.centre, steps.shape.size_row, steps.photo.centre):
        QTest.mouseDClick(row.label, Qt.MouseButton.LeftButton)
    assert placed.item().shape_placement.width == 300
    assert placed.item().shape_placement.x == 200
    assert placed.session.undo_label == "Fit the shape"


def test_wire_view_and_snapping_are_switches(placed: Hand) -> None:
    placed.do("wire")
    assert placed.session.is_wire
    placed.settle()
    placed.studio.shell.grab()
    placed.do("wire")
    placed.do("snap")
    assert not placed.session.is_snapping


def test_cover_meter_and_cover_the_shape(placed: Hand) -> None:
    placed.session.set_grip("photo")
    bar = placed.studio.workbench.bar
    assert bar.meter.text() == "Photo covers the shape"
    placed.drag((200, 150), (350, 150), keys=ALT)
    placed.settle()
    assert bar.meter.text().endswith("bare")
    bar.cover_button.click()
    placed.settle()
    assert bar.meter.text() == "Photo covers the shape"
    assert placed.session.undo_label == "Just cover the shape"


def test_an_enlarged_photo_is_said(placed: Hand) -> None:
    placed.type(placed.studio.workbench.steps.photo.scale.field, "200")
    placed.settle()
    bar = placed.studio.workbench.bar
    assert bar.density.text() == "0.5 photo px per px"
    assert bar.density.objectName() == "amber"
