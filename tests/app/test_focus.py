"""Where the keys go, and what they do there."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from tests.app.conftest import Hand, with_stroke

pytestmark = pytest.mark.shared_window


@pytest.fixture
def active(placed: Hand) -> Hand:
    placed.studio.shell.activateWindow()
    placed.bench.setFocus()
    return placed


def press(key: Qt.Key) -> None:
    """Press a key where the keys go."""
    QTest.keyClick(QApplication.focusWidget(), key)


JOB_KEYS = (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown, Qt.Key.Key_D, Qt.Key.Key_Delete, Qt.Key.Key_P, Qt.Key.Key_S)


@pytest.mark.parametrize("key", JOB_KEYS)
def test_keys_of_the_bench_do_nothing_in_sliders_lists_and_buttons(active: Hand, key: Qt.Key) -> None:
    steps = active.studio.workbench.steps
    with_stroke(active, steps)

    def state() -> object:
        return [i.id for i in active.session.sheet.items], active.session.drawing, active.session.grip

    before = state()
    for control in (steps.strokes.brush, steps.strokes.dashes.presets, steps.strokes.add):
        control.setFocus()
        press(key)
        assert state() == before, control
    steps.strokes.breadth.slider.setFocus()
    press(key)
    assert state() == before


@pytest.mark.parametrize("where", ["bench", "card"])
def test_keys_of_the_bench_work_there_and_in_the_tray(active: Hand, where: str) -> None:
    card = active.studio.workbench.tray.cards[active.item().id]
    (active.bench if where == "bench" else card).setFocus()
    press(Qt.Key.Key_P)
    assert active.session.grip == "photo"
    press(Qt.Key.Key_Delete)
    assert active.session.sheet.items == ()


def test_the_menu_still_does_what_the_keys_do(active: Hand) -> None:
    active.studio.workbench.steps.open_only("shape")
    active.studio.workbench.steps.shape.size_row.first.setFocus()
    active.do("grip_photo")
    assert active.session.grip == "photo"


def test_closing_the_library_gives_the_keys_to_the_bench(active: Hand) -> None:
    active.session.set_library(True)
    library = active.studio.workbench.library
    assert library.search.hasFocus()
    press(Qt.Key.Key_Escape)
    assert not library.isVisible()
    assert active.bench.hasFocus()
    before = active.item().shape_placement.x
    press(Qt.Key.Key_Right)
    assert active.item().shape_placement.x == before + 1


def test_a_rename_gives_the_keys_to_the_bench(active: Hand) -> None:
    active.do("rename")
    QTest.keyClicks(QApplication.focusWidget(), "Jug")
    press(Qt.Key.Key_Return)
    assert active.item().name == "Jug"
    assert active.bench.hasFocus()


def test_a_click_on_a_button_takes_what_is_typed_and_leaves_the_keys_to_the_bench(active: Hand) -> None:
    steps = active.studio.workbench.steps
    steps.open_only("shape")
    field = steps.shape.size_row.first
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "120")
    QTest.mouseClick(active.studio.workbench.bar.buttons["photo"], Qt.MouseButton.LeftButton)
    assert active.item().shape_placement.width == 120
    assert active.bench.hasFocus()
    assert active.session.grip == "photo"


def test_escape_backs_out_one_level_wherever_the_keys_are(active: Hand) -> None:
    steps = active.studio.workbench.steps
    steps.open_only("strokes")
    active.session.set_drawing("circle")
    steps.strokes.add.setFocus()
    press(Qt.Key.Key_Escape)
    assert active.session.drawing is None
    assert active.session.selected
    steps.strokes.add.setFocus()
    press(Qt.Key.Key_Escape)
    assert active.session.selected == ()


def test_escape_leaves_a_tool_also_with_nothing_selected(active: Hand) -> None:
    active.session.select(())
    active.session.set_drawing("circle")
    active.studio.topbar.export.setFocus()
    active.bench.setFocus()
    press(Qt.Key.Key_Escape)
    assert active.session.drawing is None


def test_what_has_the_keys_looks_unlike_what_is_chosen(active: Hand) -> None:
    card = active.studio.workbench.tray.cards[active.item().id]
    white = active.studio.workbench.proof.white
    for widget in (card, white, active.bench):
        active.studio.topbar.export.setFocus()
        without = picture(widget)
        widget.setFocus()
        assert picture(widget) != without, widget


def picture(widget: QWidget) -> bytes:
    image = widget.grab().toImage()
    return bytes(image.constBits())


def test_what_lies_over_the_bench_keeps_its_keys(active: Hand) -> None:
    active.session.set_library(True)
    job = active.session.job
    grid = active.studio.workbench.library.grid
    grid.setFocus()
    QTest.keyClick(grid, Qt.Key.Key_Delete)
    QTest.keyClick(active.studio.workbench.library, Qt.Key.Key_Right)
    assert active.session.job is job


def test_a_click_on_a_check_box_leaves_the_keys_to_the_bench(active: Hand) -> None:
    steps = active.studio.workbench.steps
    steps.open_only("edge")
    active.click(steps.edge.is_on)
    assert active.item().finishes.edge.is_on is not None
    assert active.bench.hasFocus()
    steps.edge.is_on.setFocus()
    press(Qt.Key.Key_Space)
    assert steps.edge.is_on.hasFocus()
