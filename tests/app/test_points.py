"""Drawing and editing points on the bench, driven like a user."""

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.core.document.edits.items import remove_items, rename
from glasscap.core.document.shapes.points import nodes_on_sheet
from glasscap.core.shapes.kinds import PointsShape, RimShape
from glasscap.editor.point_picking import rings_shown
from tests.app.conftest import Hand, drag_on

pytestmark = pytest.mark.shared_window


def _click(hand: Hand, *places: tuple[float, float]) -> None:
    for x, y in places:
        QTest.mouseMove(hand.bench, hand.at(x, y))
        QTest.mouseClick(hand.bench, Qt.MouseButton.LeftButton, pos=hand.at(x, y))


def _draw(hand: Hand, name: str) -> None:
    menu = hand.studio.workbench.steps.shape.draw.menu()
    next(a for a in menu.actions() if a.text() == name).trigger()


def test_drawing_point_by_point_undo_and_escape(placed: Hand) -> None:
    before = placed.item()
    _draw(placed, "Point by point")
    assert "Ctrl+Z takes one back" in placed.bench.words
    _click(placed, (40, 40), (340, 40), (340, 240), (160, 150))
    QTest.keyClick(placed.bench, Qt.Key.Key_Backspace)
    QTest.keyClick(placed.bench, Qt.Key.Key_Return)
    shape = placed.item().shape
    assert isinstance(shape, PointsShape)
    assert len(nodes_on_sheet(placed.item())[0]) == 3
    assert placed.session.sketch is None
    placed.do("undo")
    assert placed.item() == before
    _draw(placed, "Point by point")
    _click(placed, (40, 40), (340, 40))
    QTest.keyClick(placed.bench, Qt.Key.Key_Escape)
    assert placed.session.sketch is None
    assert placed.item() == before


def test_points_are_chosen_moved_added_and_deleted(placed: Hand) -> None:
    placed.studio.workbench.library.grid.chosen.emit("rectangle")
    rows = placed.studio.workbench.steps.shape.points
    placed.settle()
    rows.turn.click()
    assert placed.session.is_editing_points
    placed.settle()
    nodes = nodes_on_sheet(placed.item())[0]
    assert len(nodes) == 4
    _click(placed, (nodes[0].x, nodes[0].y))
    assert placed.session.chosen_points == {(0, 0)}
    QTest.keyClick(placed.bench, Qt.Key.Key_Right)
    assert nodes_on_sheet(placed.item())[0][0].x == pytest.approx(nodes[0].x + 1)
    middle = ((nodes[1].x + nodes[2].x) / 2, (nodes[1].y + nodes[2].y) / 2)
    _click(placed, middle)
    assert len(nodes_on_sheet(placed.item())[0]) == 5
    placed.settle()
    rows.is_even.click()
    chosen = next(iter(placed.session.chosen_points))
    assert nodes_on_sheet(placed.item())[0][chosen[1]].kind == "symmetric"
    placed.settle()
    assert rows.is_even.isChecked()
    rows.is_even.click()
    assert nodes_on_sheet(placed.item())[0][chosen[1]].kind == "smooth"
    placed.do("select_all")
    assert len(placed.session.chosen_points) == 5
    _click(placed, middle)
    placed.do("delete")
    assert len(nodes_on_sheet(placed.item())[0]) == 4
    assert len(placed.session.sheet.items) == 1
    placed.do("undo")
    assert len(nodes_on_sheet(placed.item())[0]) == 5
    QTest.keyClick(placed.bench, Qt.Key.Key_Escape)
    assert not placed.session.is_editing_points
    QTest.mouseDClick(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(200, 150))
    assert placed.session.is_editing_points


def test_point_numbers_and_alignment(placed: Hand) -> None:
    placed.studio.workbench.library.grid.chosen.emit("diamond")
    placed.settle()
    rows = placed.studio.workbench.steps.shape.points
    rows.turn.click()
    placed.session.choose_points(frozenset({(0, 0)}))
    placed.settle()
    placed.type(rows.place.first, "33")
    assert min(n.x for n in nodes_on_sheet(placed.item())[0]) <= 33
    assert any(n.x == pytest.approx(33) for n in nodes_on_sheet(placed.item())[0])
    placed.session.choose_points(frozenset({(0, 0), (0, 1)}))
    placed.settle()
    (level,) = [e for e in rows.entries if e is not None and e.words == "Align points to one level line"]
    assert level.is_possible
    level.run()
    nodes = nodes_on_sheet(placed.item())[0]
    assert nodes[0].y == pytest.approx(nodes[1].y)
    # The same buttons that align cutouts align chosen points.
    assert nodes[0].x != pytest.approx(nodes[2].x)
    placed.session.choose_points(frozenset({(0, 0), (0, 2)}))
    placed.settle()
    arrange = placed.studio.workbench.steps.arrange
    next(b for b in arrange.edges if b.accessibleName() == "Align left").click()
    aligned = nodes_on_sheet(placed.item())[0]
    assert aligned[0].x == pytest.approx(aligned[2].x) == pytest.approx(min(nodes[0].x, nodes[2].x))
    placed.session.choose_points(frozenset({(0, 0), (0, 1)}))
    placed.settle()
    rows.straight.click()
    rows.delete.click()
    placed.do("select_all")
    placed.settle()
    rows.delete.click()
    assert "none left" in placed.studio.toast.text.text()


def test_a_point_has_a_menu_under_the_pointer(placed: Hand) -> None:
    placed.studio.workbench.library.grid.chosen.emit("rectangle")
    rows = placed.studio.workbench.steps.shape.points
    placed.settle()
    rows.turn.click()
    placed.settle()
    nodes = nodes_on_sheet(placed.item())[0]
    at = placed.at(nodes[1].x, nodes[1].y)
    press = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, placed.bench.mapToGlobal(at))
    QApplication.sendEvent(placed.bench, press)
    assert placed.session.chosen_points == {(0, 1)}
    menu = QApplication.activePopupWidget()
    words = [a.text() for a in menu.actions() if a.text()]
    assert words[:2] == ["Even handles", "Straighten"]
    assert [a.isEnabled() for a in menu.actions() if a.text().startswith("Align")] == [False] * 6
    menu.actions()[0].trigger()
    menu.close()
    assert nodes_on_sheet(placed.item())[0][1].kind == "symmetric"


def test_a_handle_is_pulled_out_on_the_bench(placed: Hand) -> None:
    placed.studio.workbench.library.grid.chosen.emit("rectangle")
    placed.settle()
    placed.studio.workbench.steps.shape.points.turn.click()
    placed.settle()
    corner = nodes_on_sheet(placed.item())[0][0]
    _click(placed, (corner.x, corner.y))
    placed.settle()
    driver = placed.bench.driver
    ring = next(
        at for _, kind, at in rings_shown(driver.nodes(), driver.chosen, driver.point_reach) if kind == "after"
    )
    # It is drawn where it is taken: amber on the bench.
    x, y = placed.bench.to_view.apply(*ring)
    image = placed.bench.grab().toImage()
    near = [image.pixelColor(round(x) + i, round(y) + j) for i in range(-5, 6) for j in range(-5, 6)]
    assert any(c.red() > 180 and c.blue() < 110 for c in near)
    drag_on(placed.bench, QPointF(x, y), QPointF(x + 30, y - 30))
    node = nodes_on_sheet(placed.item())[0][0]
    assert node.has_after
    assert not node.has_before
    assert placed.session.undo_label == "Bend the outline"
    # Its handles stay in sight while a step is taken back; points that are others by then do not.
    placed.session.undo()
    assert placed.session.chosen_points == {(0, 0)}
    placed.do("delete")
    assert len(nodes_on_sheet(placed.item())[0]) == 3
    placed.session.choose_points(frozenset({(0, 1)}))
    placed.session.undo()
    assert placed.session.chosen_points == frozenset()


def test_a_circle_through_rim_points(placed: Hand) -> None:
    _draw(placed, "Circle through rim points")
    _click(placed, (200, 50), (300, 150), (200, 250))
    QTest.keyClick(placed.bench, Qt.Key.Key_Return)
    assert isinstance(placed.item().shape, RimShape)
    assert placed.item().shape_placement.width == pytest.approx(200, abs=3)


def test_undo_of_the_points_leaves_the_points_tool(placed: Hand) -> None:
    placed.studio.workbench.library.grid.chosen.emit("star")
    placed.settle()
    placed.studio.workbench.steps.shape.points.turn.click()
    placed.do("undo")
    assert not placed.session.is_editing_points
    assert placed.item().shape.name == "star"


def test_what_happens_while_drawing_is_not_undone_by_the_shape(placed: Hand, photo) -> None:
    _draw(placed, "Point by point")
    _click(placed, (40, 40), (340, 40))
    placed.session.apply("Rename", lambda job: rename(job, placed.item().id, "Other name"))
    _click(placed, (340, 240))
    QTest.keyClick(placed.bench, Qt.Key.Key_Return)
    assert placed.item().name == "Other name"
    assert isinstance(placed.item().shape, PointsShape)
    _draw(placed, "Point by point")
    _click(placed, (40, 40))
    placed.session.apply("Delete", lambda job: remove_items(job, [placed.item().id]))
    assert placed.session.sketch is None
    assert placed.bench.driver.sketching.shown is None
