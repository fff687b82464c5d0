"""Menus under the pointer: what can be done to the thing there, by right button, menu key and a resting finger."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QContextMenuEvent, QInputDevice, QMouseEvent, QPointingDevice
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from tests.app.conftest import Hand, with_stroke

pytestmark = pytest.mark.shared_window

LEFT, NO_KEYS = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def asked(widget: QWidget, at: QPoint, reason=QContextMenuEvent.Reason.Mouse) -> QMenu | None:
    """Ask for a menu; return the one that opened."""
    before = set(QApplication.topLevelWidgets())
    QApplication.sendEvent(widget, QContextMenuEvent(reason, at, widget.mapToGlobal(at)))
    fresh = [
        w for w in QApplication.topLevelWidgets() if isinstance(w, QMenu) and w not in before and w.isVisible()
    ]
    return fresh[0] if fresh else None


def words(menu: QMenu | None) -> list[str]:
    assert menu is not None
    return [a.text().partition("\t")[0] for a in menu.actions() if not a.isSeparator()]


def take(menu: QMenu | None, entry: str) -> None:
    """Choose an entry; the menu closes."""
    assert menu is not None
    next(a for a in menu.actions() if a.text().partition("\t")[0] == entry).trigger()
    menu.close()


def test_the_bench_has_one_for_a_cutout_and_one_for_the_sheet(placed: Hand) -> None:
    placed.session.select(())
    place = placed.at(*placed.item().shape_placement.box.centre)
    menu = asked(placed.bench, place)
    assert placed.session.selected == (placed.item().id,)
    assert "Duplicate" in words(menu)
    take(menu, "Duplicate")
    assert len(placed.session.items) == 2
    placed.do("undo")
    menu = asked(placed.bench, QPoint(3, 3))
    assert placed.session.selected == ()
    assert words(menu)[:3] == ["Paste", "Add photos…", "Draw a shape"]
    menu.close()


def test_the_menu_key_opens_it_on_the_cutout(placed: Hand) -> None:
    places = []
    placed.bench.menu_asked.connect(places.append)
    menu = asked(placed.bench, QPoint(0, 0), QContextMenuEvent.Reason.Keyboard)
    assert "Lock or unlock" in words(menu)
    x, y = placed.item().shape_placement.box.centre
    assert (places[0] - placed.bench.mapToGlobal(placed.at(x, y))).manhattanLength() <= 2
    menu.close()


def test_several_that_are_selected_stay_so(placed: Hand) -> None:
    placed.do("duplicate")
    placed.do("select_all")
    menu = asked(placed.bench, placed.at(*placed.item().shape_placement.box.centre))
    assert len(placed.session.selected) == 2
    menu.close()


@pytest.mark.parametrize("tool", ["drawing", "points"])
def test_tools_keep_the_right_button(placed: Hand, tool: str) -> None:
    if tool == "drawing":
        placed.do("draw")
    else:
        placed.session.set_editing_points(True)
    assert asked(placed.bench, placed.at(*placed.item().shape_placement.box.centre)) is None


def test_strokes_have_one(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.add.click()
    placed.settle()
    line = steps.strokes.list.lines[1]
    menu = asked(line, QPoint(40, 10))
    assert steps.strokes.chosen == 1
    assert words(menu) == ["Hide", "One place up", "One place down", "Take away"]
    take(menu, "Hide")
    assert [s.is_on for s in placed.item().finishes.strokes] == [True, False]
    take(asked(line, QPoint(40, 10)), "One place up")
    assert [s.is_on for s in placed.item().finishes.strokes] == [False, True]
    placed.settle()
    take(asked(steps.strokes.list.lines[0], QPoint(40, 10)), "Take away")
    assert [s.is_on for s in placed.item().finishes.strokes] == [True]


def test_stops_of_a_gradient_have_one(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    steps.strokes.paint.kinds.buttons["gradient"].click()
    bar = steps.strokes.paint.bar
    bar.show_stops((*bar.stops[:1], bar.stops[0].__class__(0.5, "#ff0000"), *bar.stops[-1:]))
    stepped = []
    bar.stepped.connect(stepped.append)
    take(asked(bar, QPoint(round(bar._x(0.5)), 20)), "Take the stop away")
    assert [s.at for s in stepped[-1]] == [0, 1]


def test_proofs_have_one(placed: Hand) -> None:
    proof = placed.studio.workbench.proof
    take(asked(proof.ink, QPoint(20, 40)), "Show the bench on ink")
    assert placed.session.backdrop == proof.ink.colour
    take(asked(proof.ink, QPoint(20, 40)), "Show the bench on the checkerboard")
    assert placed.session.backdrop is None


def test_export_rows_have_one(placed: Hand) -> None:
    placed.do("export")
    view = placed.studio.workbench.export
    placed.settle(lambda: view.list.rows.count() == 1)
    take(asked(view.list.rows.viewport(), QPoint(20, 20)), "Add once more")
    assert len(view.outputs) == 2
    placed.settle(lambda: view.list.rows.count() == 2)
    take(asked(view.list.rows.viewport(), QPoint(20, 20)), "Remove")
    assert len(view.outputs) == 1


FINGER = QPointingDevice(
    "screen", 7, QInputDevice.DeviceType.TouchScreen, QPointingDevice.PointerType.Finger,
    QInputDevice.Capability.Position, 5, 1,
)  # fmt: skip


def by_finger(hand: Hand, kind: QMouseEvent.Type, at: QPoint) -> None:
    """Send what a touch screen sends to the window, at a place on the bench."""
    shell = hand.studio.shell
    far = QPointF(hand.bench.mapToGlobal(at))
    near = QPointF(shell.mapFromGlobal(far))
    buttons = Qt.MouseButton.NoButton if kind == QMouseEvent.Type.MouseButtonRelease else LEFT
    QApplication.sendEvent(shell.windowHandle(), QMouseEvent(kind, near, far, LEFT, buttons, NO_KEYS, FINGER))


def test_a_finger_that_rests_asks_for_it(placed: Hand) -> None:
    place = placed.at(*placed.item().shape_placement.box.centre)
    opened = []
    placed.bench.menu_asked.connect(opened.append)
    by_finger(placed, QMouseEvent.Type.MouseButtonPress, place)
    assert placed.studio.shell.long_press.rest.isActive()
    placed.settle(lambda: bool(opened))
    by_finger(placed, QMouseEvent.Type.MouseButtonRelease, place)
    popup = QApplication.activePopupWidget()
    if popup is not None:
        popup.close()
    assert placed.session.selected == (placed.item().id,)


def test_a_finger_that_moves_or_leaves_does_not(placed: Hand) -> None:
    rest = placed.studio.shell.long_press.rest
    place = placed.at(*placed.item().shape_placement.box.centre)
    by_finger(placed, QMouseEvent.Type.MouseButtonPress, place)
    by_finger(placed, QMouseEvent.Type.MouseMove, place + QPoint(30, 0))
    assert not rest.isActive()
    by_finger(placed, QMouseEvent.Type.MouseButtonRelease, place + QPoint(30, 0))
    by_finger(placed, QMouseEvent.Type.MouseButtonPress, place)
    by_finger(placed, QMouseEvent.Type.MouseButtonRelease, place)
    assert not rest.isActive()
    QTest.mouseClick(placed.studio.shell.windowHandle(), LEFT, NO_KEYS, place)
    assert not rest.isActive()


def test_a_closed_group_is_taken_as_a_whole(placed: Hand) -> None:
    placed.do("duplicate")
    placed.do("select_all")
    placed.do("group")
    (group,) = placed.session.items
    placed.session.select(())
    placed.settle()
    menu = asked(placed.bench, placed.at(*group.items[0].shape_placement.box.centre))
    assert placed.session.selected == (group.id,)
    menu.close()
