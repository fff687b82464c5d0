"""Number and colour fields: the first click, Tab, Enter, Escape, the wheel."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.app import runs
from glasscap.app.widgets import wheel
from glasscap.app.widgets.colour_field import ColourField
from tests.app.conftest import Hand, finishes, turn, with_stroke

pytestmark = pytest.mark.shared_window

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def width(placed: Hand):
    placed.studio.shell.activateWindow()
    placed.studio.workbench.steps.open_only("shape")
    placed.bench.setFocus()
    return placed.studio.workbench.steps.shape.size_row.first


def test_a_first_click_marks_all_and_a_second_sets_the_caret(width) -> None:
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    assert width.selectedText() == width.text()
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    assert width.selectedText() == ""


def test_tab_marks_all_of_the_next_field_also_where_it_changed_meanwhile(placed: Hand, width) -> None:
    other = placed.studio.workbench.steps.shape.size_row.second
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    QTest.keyClicks(width, "400")
    QTest.keyClick(width, Qt.Key.Key_Tab)
    assert other.hasFocus()
    placed.settle(lambda: other.text() == "400")
    assert other.selectedText() == "400"
    QTest.keyClicks(other, "300")
    QTest.keyClick(other, Qt.Key.Key_Return)
    assert placed.item().shape_placement.width == 300


def test_enter_gives_the_keys_to_the_bench_so_that_its_keys_work(placed: Hand, width) -> None:
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    QTest.keyClicks(width, "840/5")
    QTest.keyClick(width, Qt.Key.Key_Return)
    assert placed.item().shape_placement.width == 168
    assert placed.bench.hasFocus()
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_P)
    assert placed.session.grip == "photo"


def test_escape_brings_the_old_value_back_and_a_wrong_one_keeps_the_keys(placed: Hand, width) -> None:
    before, job = width.text(), placed.session.job
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    QTest.keyClicks(width, "12x")
    QTest.keyClick(width, Qt.Key.Key_Return)
    assert width.is_wrong
    assert width.hasFocus()
    QTest.keyClick(width, Qt.Key.Key_Escape)
    assert (width.text(), width.is_wrong) == (before, False)
    assert placed.session.job is job


def test_escape_once_more_leaves_the_field_and_backs_out(placed: Hand, width) -> None:
    QTest.mouseClick(width, LEFT, NONE, QPoint(14, 10))
    QTest.keyClick(width, Qt.Key.Key_Escape)
    assert placed.bench.hasFocus()
    assert placed.session.selected == ()


# the wheel


def test_the_wheel_changes_nothing_that_has_not_the_keys(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    job = placed.session.job
    rows = steps.strokes
    for control in (rows.brush, rows.breadth.slider, rows.breadth.field, rows.dashes.presets, rows.strip.strip):
        assert not turn(control), control
        assert not control.hasFocus()
    assert placed.session.job is job


def test_a_control_under_a_scrolling_panel_is_not_meant(placed: Hand, steps, monkeypatch) -> None:
    with_stroke(placed, steps)
    job, field = placed.session.job, steps.strokes.breadth.field
    field.setFocus()
    monkeypatch.setattr(wheel, "monotonic", lambda: wheel._scrolled_at[0] + 0.1)
    assert not turn(field)
    assert placed.session.job is job
    monkeypatch.setattr(wheel, "monotonic", lambda: wheel._scrolled_at[0] + 10)
    assert turn(field)
    assert placed.session.job is not job


def test_a_run_of_notches_is_one_step_and_a_pause_ends_it(placed: Hand, steps, monkeypatch) -> None:
    with_stroke(placed, steps)
    now, field = [100.0], steps.strokes.breadth.field
    monkeypatch.setattr(runs, "monotonic", lambda: now[0])
    field.setFocus()
    for _ in range(5):
        turn(field, 1)
        now[0] += 0.2
    assert finishes(placed).strokes[0].width == 10
    now[0] += 5
    turn(field, 1)
    turn(steps.strokes.breadth.slider, 1)
    placed.do("undo")
    assert finishes(placed).strokes[0].width == 10
    placed.do("undo")
    assert finishes(placed).strokes[0].width == 5
    placed.do("redo")
    assert finishes(placed).strokes[0].width == 10


def test_notches_after_an_undo_are_a_step_of_their_own(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    field = steps.strokes.breadth.field
    field.setFocus()
    turn(field, 1)
    placed.do("undo")
    placed.do("redo")
    turn(field, 1)
    placed.do("undo")
    assert finishes(placed).strokes[0].width == 6


def test_arrow_keys_on_a_slider_step_by_what_its_field_shows(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    slider = steps.strokes.breadth.slider
    slider.setFocus()
    QTest.keyClick(slider, Qt.Key.Key_Right)
    assert finishes(placed).strokes[0].width == 6
    QTest.keyClick(slider, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert finishes(placed).strokes[0].width == 0


# colours


@pytest.mark.parametrize(
    ("typed", "colour"),
    [("#B4532C", "#b4532c"), ("0a7", "#00aa77"), ("RebeccaPurple", "#663399"), ("12345680", "#12345680")],
)
def test_a_colour_is_typed_into_its_field(placed: Hand, steps, typed: str, colour: str) -> None:
    with_stroke(placed, steps)
    field = steps.strokes.paint.well.field
    QTest.mouseClick(field, LEFT, NONE, QPoint(10, 10))
    assert field.selectedText() == field.text()
    QTest.keyClicks(field, typed)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert finishes(placed).strokes[0].paint.colour == colour
    assert field.text() == colour
    assert placed.bench.hasFocus()
    placed.do("undo")
    assert field.text() != colour


def test_a_word_that_is_no_colour_says_why(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    field, job = steps.strokes.paint.well.field, placed.session.job
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "brownish")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert "'brownish': it is no colour" in placed.studio.toast.text.text()
    assert field.is_wrong
    assert placed.session.job is job


def test_the_panel_begins_with_its_digits(placed: Hand, steps) -> None:
    with_stroke(placed, steps)
    well = steps.strokes.paint.well
    well.swatch.click()
    assert [s.colour for s in well.panel.house[:2]] == ["#ffffff", "#000000"]
    assert well.panel.digits.selectedText() == well.panel.digits.text()
    QTest.keyClicks(well.panel.digits, "teal")
    QTest.keyClick(well.panel.digits, Qt.Key.Key_Return)
    assert finishes(placed).strokes[0].paint.colour == "#008080"
    well.panel.close()
    assert placed.bench.hasFocus()


def test_a_colour_that_must_be_opaque_says_so(qapp: QApplication) -> None:
    field, said = ColourField("Colour", see_through=False), []
    field.refused.connect(said.append)
    QTest.keyClicks(field, "#12345680")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert "cannot be see-through" in said[0]
    field.deleteLater()


def test_escape_brings_back_a_text_that_was_typed_over_and_corrected(placed: Hand, steps) -> None:
    placed.do("export")
    field = placed.studio.workbench.export.picture.name
    before = field.text()
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "jug")
    QTest.keyClick(field, Qt.Key.Key_Backspace)
    QTest.keyClicks(field, "x-y")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == before
    assert placed.session.job.outputs == ()
