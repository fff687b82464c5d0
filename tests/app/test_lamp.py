"""The lamp and the rows of light, driven in the window."""

import math

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from glasscap.core.document.model.finishes import NO_FINISHES, Bevel, Shadow
from glasscap.editor.lamp import direction_from
from tests.app.conftest import Hand, drag_on, finishes, turn
from tests.samples import png_photo

pytestmark = pytest.mark.shared_window


@pytest.fixture
def light(placed: Hand, steps):
    steps.open_only("light")
    placed.settle()
    return steps.light


def lights_of(hand: Hand):
    return finishes(hand).lights


def row_of(light, name: str):
    return next(r for r in light.rows.rows if r.switch.accessibleName() == name)


def test_dragging_the_lamp_over_an_unlit_cutout_lights_a_shadow(placed: Hand, light) -> None:
    knob = light.lamp.view.knob()
    drag_on(light.lamp.view, knob, QPointF(20, 20))
    (shadow,) = lights_of(placed).shadows
    assert direction_from(shadow) == pytest.approx(
        math.degrees(math.atan2(-66, 20 - light.lamp.view.width() / 2)), abs=1
    )
    assert math.hypot(shadow.dx, shadow.dy) > 20
    placed.do("undo")
    assert finishes(placed) == NO_FINISHES


def test_what_follows_goes_along_and_what_left_stays(placed: Hand, light) -> None:
    light.add_light("shadow")
    light.add_light("inner_shadow")
    light.add_light("bevel")
    placed.settle()
    left = lights_of(placed).bevel
    assert direction_from(left) == -135
    middle = QPointF(light.lamp.view.width() / 2, light.lamp.view.height() / 2)
    drag_on(light.lamp.view, light.lamp.view.knob(), middle + QPointF(-90, 0))
    now = lights_of(placed)
    assert now.shadows[0].dx > 10
    assert now.inner_shadow.dx > 0
    assert now.shadows[0].dy == now.inner_shadow.dy == 0
    assert now.bevel == left
    # The slope follows again, and keeps on following.
    assert light.back.isVisible()
    light.back.click()
    placed.settle()
    assert lights_of(placed).bevel == replace(left, direction=-180)
    assert not light.back.isVisible()
    drag_on(light.lamp.view, light.lamp.view.knob(), middle + QPointF(0, 80))
    assert {round(direction_from(n)) for n in (lights_of(placed).shadows[0], lights_of(placed).bevel)} == {90}


def test_a_typed_direction_leaves_the_lamp_but_the_leaders_takes_all_along(placed: Hand, light) -> None:
    light.add_light("shadow")
    light.add_light("inner_shadow")
    placed.settle()
    placed.type(light.direction.field, "0")
    now = lights_of(placed)
    assert (now.inner_shadow.dx > 0, now.inner_shadow.dy) == (True, 0)
    assert now.shadows[0].dx == 0
    row_of(light, "Shadow beneath").chosen.emit()
    placed.type(light.place.second, "0")
    placed.type(light.place.first, "-8")
    assert (lights_of(placed).shadows[0].dx, lights_of(placed).inner_shadow) == (-8, now.inner_shadow)
    row_of(light, "Shade within").back_asked.emit()
    row_of(light, "Shadow beneath").chosen.emit()
    placed.type(light.distance.field, "16")
    led = lights_of(placed)
    assert led.shadows[0].dx == -16
    assert led.inner_shadow.dx == pytest.approx(-2 * now.inner_shadow.dx)


def test_keys_and_wheel_move_and_soften(placed: Hand, light) -> None:
    light.add_light("shadow")
    placed.settle()
    lamp, begun = light.lamp.view, lights_of(placed).shadows[0]
    lamp.setFocus()
    QTest.keyClick(lamp, Qt.Key.Key_Up)
    assert lights_of(placed).shadows[0].dy == begun.dy + 1
    QTest.keyClick(lamp, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert direction_from(lights_of(placed).shadows[0]) == pytest.approx(-75, abs=0.2)
    QTest.keyClick(lamp, Qt.Key.Key_PageUp)
    assert lights_of(placed).shadows[0].blur == begun.blur + 1
    turn(lamp, 1)
    assert lights_of(placed).shadows[0].blur == begun.blur + 2
    placed.bench.setFocus()
    turn(lamp, 1)
    assert lights_of(placed).shadows[0].blur == begun.blur + 2, "the panel is scrolled, not the light"


def test_a_click_on_the_lamp_is_no_step(placed: Hand, light) -> None:
    light.add_light("shadow")
    placed.settle()
    before = placed.session.committed
    placed.click(light.lamp.view, light.lamp.view.knob().toPoint())
    assert placed.session.committed is before


def test_rows_are_switched_chosen_and_taken_away_by_keys_and_menu(placed: Hand, light) -> None:
    shade = row_of(light, "Shade within")
    # A row without a light is its own switch.
    QTest.mouseClick(shade.name, Qt.MouseButton.LeftButton)
    assert lights_of(placed).inner_shadow.is_on
    QTest.keyClick(shade.switch, Qt.Key.Key_Space)
    assert not lights_of(placed).inner_shadow.is_on
    light.add_light("outer_glow")
    assert not light.place.isVisible()
    QTest.keyClick(shade.switch, Qt.Key.Key_Return)
    assert light.place.isVisible()
    shade.switch.click()
    placed.settle()
    QTest.keyClick(row_of(light, "Shade within").switch, Qt.Key.Key_Delete)
    assert lights_of(placed).inner_shadow is None
    where = QPoint(60, 10)
    around = row_of(light, "Light around")
    asked = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, where, around.mapToGlobal(where))
    QApplication.sendEvent(around, asked)
    menu = around.findChild(QMenu)
    words = [a.text() for a in menu.actions() if a.text()]
    assert words == ["Switch off", "Take away\tDel"]
    menu.actions()[-1].trigger()
    menu.close()
    assert lights_of(placed).outer_glow is None


def test_the_picture_under_the_lamp_is_the_lit_cutout(placed: Hand, light) -> None:
    placed.settle(lambda: light.lamp.view._frame is not None)
    plain = light.lamp.view._frame.rgba.copy()
    light.add_light("shadow")
    placed.type(light.distance.field, "40")
    placed.settle(lambda: light.lamp.view._frame.rgba.shape != plain.shape or placed.studio.is_settled)
    assert light.lamp.view._frame.rgba.shape[0] > plain.shape[0]


def test_a_number_for_several_passes_over_those_without_such_a_finish(hand: Hand, photo, tmp_path) -> None:
    hand.drop(photo)
    hand.settle()
    steps = hand.studio.workbench.steps
    other = tmp_path / "jug.png"
    other.write_bytes(png_photo(200, 200, seed=4))
    hand.drop(other)
    steps.open_only("light")
    steps.light.add_light("bevel")
    steps.light.add_light("shadow")
    steps.open_only("strokes")
    steps.strokes.add.click()
    last, first = hand.item().id, hand.item(0).id
    hand.session.select((first, last))
    hand.settle()
    hand.type(steps.light.blur.field, "33")
    hand.type(steps.strokes.breadth.field, "7")
    assert hand.item().finishes.lights.shadows[0].blur == 33
    assert hand.item().finishes.strokes[0].width == 7
    assert hand.item(0).finishes == NO_FINISHES
    assert isinstance(hand.item().finishes.lights.bevel, Bevel)
    assert isinstance(hand.item().finishes.lights.shadows[0], Shadow)


def test_notches_are_one_step_and_keys_light_an_unlit_cutout(placed: Hand, light) -> None:
    lamp = light.lamp.view
    lamp.setFocus()
    QTest.keyClick(lamp, Qt.Key.Key_PageUp)
    (shadow,) = lights_of(placed).shadows
    QTest.keyClick(lamp, Qt.Key.Key_PageUp)
    QTest.keyClick(lamp, Qt.Key.Key_PageUp)
    assert lights_of(placed).shadows[0].blur == shadow.blur + 2
    placed.do("undo")
    assert finishes(placed) == NO_FINISHES


def test_escape_gives_a_drag_of_the_lamp_up(placed: Hand, light) -> None:
    light.add_light("shadow")
    placed.settle()
    before, lamp = placed.session.committed, light.lamp.view
    stood = lamp.knob()
    QTest.mousePress(lamp, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    assert placed.session.is_previewing
    QTest.keyClick(lamp, Qt.Key.Key_Escape)
    assert not placed.session.is_previewing
    QTest.mouseRelease(lamp, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    assert placed.session.committed is before
    assert lamp.knob() == stood
