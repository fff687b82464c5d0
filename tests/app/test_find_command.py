"""Find a command: typed words lead to every command, control, shape, set of finishes and page of the help."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QMessageBox

from glasscap.app.help.find_command import FindCommand
from glasscap.app.help.help_window import HelpWindow
from glasscap.editor.actions import ACTIONS
from glasscap.editor.finding import COMMAND_WORDS, Findable, control, found
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window


@pytest.fixture
def panel(placed: Hand) -> FindCommand:
    placed.do("find_command")
    (found_panel,) = placed.studio.shell.findChildren(FindCommand)
    return found_panel


def titles(panel: FindCommand) -> list[str]:
    return [panel.list.topLevelItem(n).text(0) for n in range(panel.list.topLevelItemCount())]


def enter(panel: FindCommand, words: str) -> None:
    QTest.keyClicks(panel.field, words)
    QTest.keyClick(panel.field, Qt.Key.Key_Return)


@pytest.mark.parametrize(
    ("words", "title"),
    [
        ("release", "Take apart"),
        ("duplicate", "Duplicate"),
        ("transparent", "Export…"),
        ("border", "Strokes"),
        ("border", "Add a stroke"),
        ("round corners", "Corner radius, px"),
        ("heart", "Heart"),
        ("drop shadow", "Shadow beneath"),
        ("inner shadow", "Shade within"),
        ("emboss", "Sloped edge"),
        ("glow", "Light around"),
        ("light direction", "Lamp"),
        ("stitched", "Finishes: Stitched"),
        ("version licence", "About Glass Cap"),
        ("shortcuts", "Keys"),
        ("help groups", "Help: Groups, masks within masks"),
    ],
)
def test_words_people_use_find_it(panel: FindCommand, words: str, title: str) -> None:
    QTest.keyClicks(panel.field, words)
    assert title in titles(panel)[:10], titles(panel)


def test_enter_does_a_command_and_the_keys_are_the_bench_s(placed: Hand, panel: FindCommand) -> None:
    enter(panel, "duplic")
    assert len(placed.session.items) == 2
    assert not panel.isVisible()
    placed.do("undo")


def test_a_shape_is_given_or_drawn(placed: Hand, panel: FindCommand) -> None:
    enter(panel, "heart")
    assert placed.item().shape.name == "heart"
    placed.do("undo")
    placed.session.select(())
    placed.do("find_command")
    enter(panel, "heart")
    assert placed.session.drawing == "heart"


def test_a_control_is_led_to(placed: Hand, panel: FindCommand) -> None:
    QTest.keyClicks(panel.field, "feather")
    row = titles(panel).index("Feather, px")
    for _ in range(row):
        QTest.keyClick(panel.field, Qt.Key.Key_Down)
    QTest.keyClick(panel.field, Qt.Key.Key_Return)
    edge = placed.studio.workbench.steps.edge
    assert placed.studio.workbench.steps.cards["edge"].is_open
    placed.settle(lambda: edge.feather.field.hasFocus())


def test_a_step_is_opened(placed: Hand, panel: FindCommand) -> None:
    enter(panel, "border")
    assert placed.studio.workbench.steps.cards["strokes"].is_open


def test_finishes_and_help(placed: Hand, panel: FindCommand) -> None:
    enter(panel, "stitched")
    assert len(placed.item().finishes.strokes) == 2
    placed.do("find_command")
    enter(panel, "help groups")
    (window,) = placed.studio.shell.findChildren(HelpWindow)
    assert "group" in window.text.toPlainText().lower()
    window.close()


def test_nothing_found_is_said_and_escape_leaves(placed: Hand, panel: FindCommand) -> None:
    enter(panel, "xyzzy")
    assert titles(panel) == ["Nothing has all of these words; try another one"]
    assert panel.isVisible()
    QTest.keyClick(panel.field, Qt.Key.Key_Escape)
    assert not panel.isVisible()


def test_what_cannot_be_done_here_says_so(placed: Hand) -> None:
    placed.do("export")
    placed.do("find_command")
    (panel,) = placed.studio.shell.findChildren(FindCommand)
    enter(panel, "zoom in")
    assert "cannot be done in this view" in placed.studio.toast.text.text()


def test_without_a_selection_there_are_no_controls(placed: Hand) -> None:
    placed.session.select(())
    placed.do("find_command")
    (panel,) = placed.studio.shell.findChildren(FindCommand)
    QTest.keyClicks(panel.field, "feather")
    assert all(not t.startswith("Feather") for t in titles(panel))


def test_the_main_menu_is_short_and_holds_every_command(placed: Hand) -> None:
    menu = placed.studio.topbar.menu_button.menu()
    groups = [a.menu() for a in menu.actions() if a.menu() is not None]
    assert [g.title() for g in groups] == ["Job", "Edit", "Cutout", "Photos", "View", "Help"]
    assert menu.actions()[0].text() == "Find a command…"
    inside = {a.text() for g in groups for a in g.actions()} | {menu.actions()[0].text()}
    assert {spec.text for spec in ACTIONS} <= inside
    assert menu.sizeHint().height() < 300
    assert all(isinstance(g, QMenu) and g.sizeHint().height() < 700 for g in groups)


def test_about_tells_version_licences_and_folders(placed: Hand) -> None:
    placed.do("about")
    (box,) = [w for w in QApplication.topLevelWidgets() if isinstance(w, QMessageBox)]
    assert "0.1.0" in box.text()
    assert "MIT" in box.text()
    assert "glasscap" in box.text()
    box.close()
    box.deleteLater()


def test_every_word_must_fit_and_titles_come_first() -> None:
    things = [Findable("help", "a", "Help: Strokes", "border"), control("b", "Stroke width, px", "Strokes")]
    assert [t.key for t in found("border", things)] == ["b", "a"]
    assert [t.key for t in found("stro", things)] == ["b", "a"]
    assert found("border nothing", things) == ()
    assert {*COMMAND_WORDS} <= {spec.id for spec in ACTIONS}
