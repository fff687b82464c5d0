"""Any shape first: with nothing selected, a shape is chosen and drawn; a double click holds a cutout's photo."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from glasscap.core.document.model.query import items_of
from glasscap.core.shapes.kinds import ParametricShape, PointsShape
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window

LEFT, NO_KEYS = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def bare(placed: Hand) -> Hand:
    """A hand over a bench with a photo, nothing of it selected."""
    placed.session.select(())
    placed.settle()
    return placed


def double_click(hand: Hand, at: QPoint) -> None:
    QTest.mouseClick(hand.bench, LEFT, NO_KEYS, at)
    QTest.mouseDClick(hand.bench, LEFT, NO_KEYS, at)
    QTest.mouseRelease(hand.bench, LEFT, NO_KEYS, at)


@pytest.mark.parametrize("name", ["circle", "ellipse", "rectangle"])
def test_a_shape_is_chosen_and_drawn(bare: Hand, name: str) -> None:
    buttons = bare.studio.workbench.steps.first_shape.buttons
    buttons[name].click()
    assert buttons[name].isChecked()
    assert f"draws a{'n' if name == 'ellipse' else ''} {name}, a new one that waits" in bare.bench.words
    bare.drag((40, 40), (160, 120))
    made = bare.item()
    assert isinstance(made.shape, ParametricShape)
    assert made.shape.name == name
    assert made.content is None
    assert bare.session.selected == (made.id,)
    bare.do("undo")
    assert made.id not in {i.id for _, i in items_of(bare.session.job)}


def test_a_second_click_puts_the_shape_away(bare: Hand) -> None:
    button = bare.studio.workbench.steps.first_shape.buttons["rectangle"]
    button.click()
    button.click()
    assert bare.session.drawing is None
    assert not button.isChecked()


def test_the_last_shapes_used_are_offered(placed: Hand) -> None:
    for name in ("cross", "ring", "star", "circle", "heart"):
        placed.studio.workbench.library.choose(name)
    placed.session.select(())
    placed.settle()
    first = placed.studio.workbench.steps.first_shape
    assert [*first.buttons] == [
        "circle", "ellipse", "rectangle", "heart", "star", "ring", "Point by point", "Freehand", "Library…",
    ]  # fmt: skip
    first.buttons["star"].click()
    placed.drag((40, 40), (160, 160))
    assert placed.item().shape.name == "star"


def test_d_draws_what_was_drawn_last_and_says_whose_shape_it_will_be(bare: Hand) -> None:
    bare.studio.workbench.steps.first_shape.buttons["rectangle"].click()
    bare.drag((40, 40), (160, 120))
    bare.session.select(())
    bare.do("draw")
    assert "Drag draws a rectangle, a new one" in bare.bench.words
    bare.do("draw")
    bare.session.select((bare.item(0).id,))
    bare.do("draw")
    assert f"Drag draws a circle, the new shape of {bare.item(0).name}" in bare.bench.words


def test_points_are_drawn_with_nothing_selected(bare: Hand) -> None:
    bare.studio.workbench.steps.first_shape.buttons["Point by point"].click()
    for at in ((40, 40), (200, 40), (120, 160)):
        QTest.mouseClick(bare.bench, LEFT, NO_KEYS, bare.at(*at))
    bare.key(Qt.Key.Key_Return)
    assert isinstance(bare.item().shape, PointsShape)
    assert bare.item().content is None


def test_the_library_begins_a_new_shape(bare: Hand) -> None:
    bare.studio.workbench.steps.first_shape.buttons["Library…"].click()
    library = bare.studio.workbench.library
    assert library.isVisible()
    bare.settle(lambda: library.grid.shapes.has_image(library.grid.keys_in_sight()[0]))
    library.grid.chosen.emit("heart")
    assert bare.session.drawing == "heart"
    assert not library.isVisible()
    bare.drag((40, 40), (160, 160))
    assert bare.item().shape.name == "heart"
    assert library.shelf.recent[0] == "heart"


def test_a_shape_of_ones_own_is_laid_on_the_sheet(bare: Hand) -> None:
    library = bare.studio.workbench.library
    library.shelf = library.shelf.with_own("Jug", bare.item().shape)
    bare.session.set_library(True)
    library.grid.chosen.emit("own Jug")
    assert not library.isVisible()
    assert bare.item().content is None
    assert bare.session.selected == (bare.item().id,)
    sheet = bare.session.sheet
    assert bare.item().shape_placement.box.centre == pytest.approx((sheet.width / 2, sheet.height / 2), abs=0.5)


def test_a_double_click_holds_the_photo_and_escape_gives_the_grip_back(placed: Hand) -> None:
    middle = placed.item().shape_placement.box.centre
    double_click(placed, placed.at(*middle))
    assert placed.session.grip == "photo"
    assert "Escape gives the grip back" in placed.bench.words
    before = placed.item()
    placed.drag(middle, (middle[0] + 20, middle[1]))
    assert placed.item().shape_placement == before.shape_placement
    assert placed.item().content_placement.x > before.content_placement.x
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.grip == "together"
    assert placed.session.selected


def test_the_grip_comes_back_with_another_selection(placed: Hand) -> None:
    double_click(placed, placed.at(*placed.item().shape_placement.box.centre))
    placed.session.select(())
    assert placed.session.grip == "together"
    assert not placed.session.is_holding_photo


def test_a_grip_that_is_chosen_stays(placed: Hand) -> None:
    double_click(placed, placed.at(*placed.item().shape_placement.box.centre))
    placed.do("grip_shape")
    placed.key(Qt.Key.Key_Escape)
    assert placed.session.grip == "shape"


def test_a_double_click_that_goes_on_as_a_drag_moves_the_photo(placed: Hand) -> None:
    middle = placed.item().shape_placement.box.centre
    before, start = placed.item(), placed.at(*middle)
    QTest.mouseClick(placed.bench, LEFT, NO_KEYS, start)
    QTest.mouseDClick(placed.bench, LEFT, NO_KEYS, start)
    for step in (10, 25):
        placed.move(QPointF(start) + QPointF(step, 0), NO_KEYS)
    QTest.mouseRelease(placed.bench, LEFT, NO_KEYS, start + QPoint(25, 0))
    assert placed.item().shape_placement == before.shape_placement
    assert placed.item().content_placement.x > before.content_placement.x
