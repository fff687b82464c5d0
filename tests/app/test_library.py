"""The library over the bench, driven like a user."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from glasscap.app.library.shape_grid import star_rect
from glasscap.files.shelf import read_shelf
from tests.app.conftest import Hand


def _grid(hand: Hand):
    return hand.studio.workbench.library.grid


def _click(hand: Hand, key: str, *, on_star: bool = False) -> None:
    grid = _grid(hand)
    box = grid.visualRect(grid.shapes.index(grid.shapes.keys.index(key)))
    at = star_rect(box).center() if on_star else box.center()
    QTest.mouseClick(grid.viewport(), Qt.MouseButton.LeftButton, pos=at)


def test_a_shape_is_found_by_a_word_and_cuts_the_own_photo(placed: Hand) -> None:
    panel = placed.studio.workbench.library
    placed.studio.workbench.steps.shape.library.click()
    assert panel.isVisible()
    panel.search.setText("love")
    assert _grid(placed).shapes.keys == ["heart"]
    placed.settle()
    assert _grid(placed).shapes.has_image("heart")
    before = placed.item()
    _click(placed, "heart")
    after = placed.item()
    assert after.shape.name == "heart"
    assert after.content_placement == before.content_placement
    assert after.finishes == before.finishes
    assert after.shape_placement.keeps_ratio
    placed.do("undo")
    assert placed.item() == before
    QTest.keyClick(panel.search, Qt.Key.Key_Escape)
    assert not panel.isVisible()


def test_only_cards_in_sight_are_drawn(placed: Hand) -> None:
    placed.session.set_library(True)
    placed.settle()
    grid = _grid(placed)
    drawn = [k for k in grid.shapes.keys if grid.shapes.has_image(k)]
    assert 6 <= len(drawn) < len(grid.shapes.keys)
    assert set(grid.keys_in_sight()) == set(drawn)
    grid.verticalScrollBar().setValue(grid.verticalScrollBar().maximum())
    placed.settle()
    assert grid.shapes.has_image(grid.shapes.keys[-1])


def test_kept_and_recent_shapes_are_remembered(placed: Hand) -> None:
    panel = placed.studio.workbench.library
    placed.session.set_library(True)
    panel.groups.buttons["nature"].click()
    _click(placed, "leaf", on_star=True)
    _click(placed, "drop")
    assert read_shelf().kept == ("leaf",)
    assert read_shelf().recent == ("drop",)
    panel.kept.click()
    assert _grid(placed).shapes.keys == ["leaf"]
    panel.recent.click()
    assert _grid(placed).shapes.keys == ["drop"]
    _click(placed, "drop", on_star=True)
    panel.kept.click()
    _click(placed, "leaf", on_star=True)
    assert read_shelf().kept == ("drop",)


def test_a_shape_of_ones_own_is_kept_and_used_again(placed: Hand) -> None:
    panel = placed.studio.workbench.library
    placed.session.set_library(True)
    _grid(placed).chosen.emit("star")
    steps = placed.studio.workbench.steps.shape
    placed.settle()
    placed.type(steps.params.rows["points"].field, "9")
    panel.groups.buttons["mine"].click()
    panel.keep_as("Nine tips")
    wanted = placed.item().shape
    _grid(placed).chosen.emit("star")
    _grid(placed).chosen.emit("circle")
    _grid(placed).chosen.emit("own Nine tips")
    assert placed.item().shape == wanted
    panel._drop_own("own Nine tips")
    assert read_shelf().own == {}


def test_a_star_keeps_its_proportions_while_its_points_change(placed: Hand) -> None:
    _grid(placed).chosen.emit("star")
    placed.settle()
    steps = placed.studio.workbench.steps.shape
    before = placed.item().shape_placement
    placed.type(steps.params.rows["points"].field, "6")
    after = placed.item().shape_placement
    assert after.height > before.height
    assert abs(after.width / after.height - 3**0.5 / 2) < 0.05
    placed.settle()
    placed.type(steps.size_row.first, "40")
    now = placed.item().shape_placement
    assert abs(now.width / now.height - after.width / after.height) < 0.03


def test_nothing_found_says_so(placed: Hand) -> None:
    panel = placed.studio.workbench.library
    placed.session.set_library(True)
    panel.search.setText("qzx")
    assert "No shape is called" in panel.note.text()


def test_ratio_reference_point_and_flips(placed: Hand) -> None:
    _grid(placed).chosen.emit("rectangle")
    placed.settle()
    steps = placed.studio.workbench.steps.shape
    steps.anchor.choose(-1, -1)
    corner = placed.item().shape_placement.point(-1, -1)
    actions = {a.text(): a for a in steps.ratio.menu().actions()}
    actions["2 : 1"].trigger()
    placement = placed.item().shape_placement
    assert placement.width == 2 * placement.height
    assert placement.keeps_ratio
    assert placement.point(-1, -1) == corner
    placed.settle()
    placed.type(steps.size_row.second, "20")
    assert placed.item().shape_placement.width == 40
    assert placed.item().shape_placement.point(-1, -1) == corner
    placed.settle()
    placed.type(steps.centre.first, "7")
    assert placed.item().shape_placement.point(-1, -1)[0] == 7
    steps.flip.click()
    assert (placed.item().shape_placement.is_mirrored, placed.item().shape_placement.rotation) == (True, 180)
    steps.ratio.click()
    assert not placed.item().shape_placement.keeps_ratio


def test_one_corner_is_chosen_by_its_ring_and_rounded_by_number(placed: Hand) -> None:
    _grid(placed).chosen.emit("diamond")
    placed.session.set_grip("shape")
    placed.settle()
    ring = next(h for h in placed.bench.driver.forms() if h.kind == "round" and h.number == 2)
    QTest.mouseClick(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(ring.x, ring.y))
    assert placed.session.corner == 2
    placed.settle()
    params = placed.studio.workbench.steps.shape.params
    assert params.round.label.text() == "Corner 3"
    placed.type(params.round.field, "12")
    assert placed.item().shape.corners == ((2, 12.0),)
    QTest.keyClick(placed.bench, Qt.Key.Key_Escape)
    assert placed.session.corner is None
    placed.settle()
    placed.type(params.round.field, "5")
    assert (placed.item().shape.round, placed.item().shape.corners) == (5, ())
