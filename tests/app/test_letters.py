"""Letters in the window: typed on the bench and in the step, kept as text."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QInputMethodEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.core.document.model.job import PhotoContent
from glasscap.core.document.shapes.lettering import type_size
from glasscap.core.shapes.kinds import LettersShape
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, finished

pytestmark = pytest.mark.shared_window


def _rows(hand: Hand):
    return hand.studio.workbench.steps.shape.letters_rows


def _begin(hand: Hand) -> None:
    hand.studio.workbench.steps.shape.letters.click()
    hand.settle()


def test_words_are_typed_on_the_bench_and_stay_text_after_saving(placed: Hand, tmp_path) -> None:
    before = placed.item()
    _begin(placed)
    assert placed.session.is_typing
    QTest.keyClicks(placed.bench, "POT")
    QTest.keyClick(placed.bench, Qt.Key.Key_Escape)
    item = placed.item()
    assert isinstance(item.shape, LettersShape)
    assert item.shape.letters.text == "POT"
    assert item.content == before.content
    assert placed.session.undo_label == "Type letters"
    path = tmp_path / "letters.glasscap"
    finished(placed.studio.files.save_to(path))
    placed.settle(lambda: path.exists() and placed.session.is_saved)
    again = open_job(path).job.sheets[0].items[0]
    assert again.shape == item.shape
    for _ in range(2):
        placed.do("undo")
    assert placed.item() == before


def test_typing_moves_nothing_but_what_is_typed(placed: Hand) -> None:
    _begin(placed)
    size = type_size(placed.item())
    QTest.keyClicks(placed.bench, "KILN")
    QTest.keyClick(placed.bench, Qt.Key.Key_Home)
    QTest.keyClick(placed.bench, Qt.Key.Key_Delete)
    QTest.keyClick(placed.bench, Qt.Key.Key_End)
    QTest.keyClick(placed.bench, Qt.Key.Key_Return)
    QTest.keyClicks(placed.bench, "x")
    placed.session.settle()
    assert placed.item().shape.letters.text == "ILN\nx"
    assert type_size(placed.item()) == pytest.approx(size)


def test_accents_and_composed_scripts_are_typed_on_the_bench(placed: Hand) -> None:
    _begin(placed)
    assert placed.bench.testAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled)
    QTest.keyClicks(placed.bench, "Caf")
    bare = placed.bench.grab().toImage()
    QApplication.sendEvent(placed.bench, QInputMethodEvent("´", []))
    assert placed.bench.composing == "´"
    assert placed.bench.grab().toImage() != bare
    assert placed.item().shape.letters.text == "Caf"
    done = QInputMethodEvent()
    done.setCommitString("é")
    QApplication.sendEvent(placed.bench, done)
    assert (placed.bench.composing, placed.item().shape.letters.text) == ("", "Café")
    corrected = QInputMethodEvent()
    corrected.setCommitString("fè", -2, 2)
    QApplication.sendEvent(placed.bench, corrected)
    assert placed.item().shape.letters.text == "Cafè"
    box = placed.bench.inputMethodQuery(Qt.InputMethodQuery.ImCursorRectangle)
    assert placed.bench.rect().contains(box)
    placed.key(Qt.Key.Key_Escape)
    assert not placed.bench.testAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled)
    placed.do("undo")
    placed.settle()


def test_rows_set_font_weight_size_and_circle(placed: Hand) -> None:
    _begin(placed)
    placed.key(Qt.Key.Key_Escape)
    rows = _rows(placed)
    rows.fonts.chosen.emit("Oswald")
    placed.settle()
    assert rows.weight.isVisible()
    placed.type(rows.weight.field, "700")
    placed.settle()
    placed.type(rows.type_size.field, "64")
    assert type_size(placed.item()) == pytest.approx(64)
    placed.settle()
    placed.type(rows.tracking.field, "120")
    placed.settle()
    placed.type(rows.circle.field, "2")
    letters = placed.item().shape.letters
    assert (letters.font, letters.weight, letters.tracking, letters.circle) == ("Oswald", 700, 120, 2)
    placed.settle()
    rows.align.buttons["left"].click()
    assert placed.item().shape.letters.align == "left"
    for _ in range(6):
        placed.do("undo")
    assert placed.item().shape.letters.font == "Anton"


def test_the_list_of_fonts_shows_the_designer_s_own_words(placed: Hand) -> None:
    _begin(placed)
    rows = _rows(placed)
    rows.family.click()
    fonts = rows.fonts
    placed.settle(lambda: fonts._row(0).path is not None)
    assert not fonts._row(0).path.isEmpty()
    QTest.keyClicks(fonts.search, "pacif")
    QTest.keyClick(fonts.search, Qt.Key.Key_Return)
    assert placed.item().shape.letters.font == "Pacifico"


def test_text_typed_in_the_step_is_one_step(placed: Hand) -> None:
    _begin(placed)
    placed.key(Qt.Key.Key_Escape)
    rows = _rows(placed)
    rows.text.setFocus()
    rows.text.selectAll()
    QTest.keyClicks(rows.text, "Bowls")
    assert placed.item().shape.letters.text == "Bowls"
    placed.bench.setFocus()
    placed.do("undo")
    assert placed.item().shape.letters.text == "KILN"
    placed.do("redo")
    assert placed.item().shape.letters.text == "Bowls"


def test_one_cutout_per_letter_keeps_every_letter_in_place(placed: Hand) -> None:
    _begin(placed)
    placed.key(Qt.Key.Key_Escape)
    whole = placed.item()
    _rows(placed).split.click()
    items = placed.session.sheet.items
    assert [i.shape.letters.text for i in items] == list("KILN")
    assert all(i.content == whole.content and isinstance(i.content, PhotoContent) for i in items)
    assert items[0].shape_placement.box.x0 == pytest.approx(whole.shape_placement.box.x0, abs=0.01)
    assert items[-1].shape_placement.box.x1 == pytest.approx(whole.shape_placement.box.x1, abs=0.01)
    placed.do("undo")
    assert placed.session.sheet.items == (whole,)


def test_letters_with_nothing_selected_wait_for_a_photo(placed: Hand) -> None:
    placed.session.select(())
    placed.settle()
    placed.bench.lettering.begin()
    assert placed.item().content is None
    assert placed.item().name == "KILN"


def test_a_missing_font_is_said_and_named(placed: Hand) -> None:
    _begin(placed)
    placed.bench.lettering.change("Font", font="Nowhere Sans")
    assert "not installed" in placed.studio.toast.text.text()
    placed.settle()
    assert _rows(placed).family.text() == "Nowhere Sans (not installed)"
    assert placed.item().shape.letters.font == "Nowhere Sans"


def test_a_double_click_edits_letters_in_place(placed: Hand) -> None:
    _begin(placed)
    placed.key(Qt.Key.Key_Escape)
    assert not placed.session.is_typing
    centre = placed.item().shape_placement
    QTest.mouseDClick(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(centre.x, centre.y))
    assert placed.session.is_typing
    assert 1 <= placed.bench.lettering.entry.caret <= 3
    QTest.mouseClick(placed.bench, Qt.MouseButton.LeftButton, pos=placed.at(5, 5))
    assert not placed.session.is_typing
