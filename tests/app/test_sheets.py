"""Sheets in the window: the list at the tray's left, size and resolution in the steps."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from glasscap.core.document.model.outputs import Output
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.outputs import plan_output
from tests.app.answers import answer
from tests.app.conftest import Hand

pytestmark = pytest.mark.shared_window


def entries(menu) -> dict[str, object]:
    return {a.text(): a for a in menu.actions()}


def names(hand: Hand) -> list[str]:
    return [s.name for s in hand.session.job.sheets]


def test_sheets_are_added_renamed_duplicated_ordered_and_deleted(
    placed: Hand, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, sheets = placed.session, placed.studio.workbench.tray.sheets
    sheets.add.click()
    placed.settle()
    assert names(placed) == ["Sheet 1", "Sheet 2"]
    second = session.sheet_id
    assert session.sheet.name == "Sheet 2"
    assert sheets.buttons[second].isChecked()
    answer(monkeypatch, "line_of_text", "Card back")
    entries(sheets.menu_for(second))["Rename…"].trigger()
    assert names(placed) == ["Sheet 1", "Card back"]
    entries(sheets.menu_for("s1"))["Duplicate"].trigger()
    placed.settle()
    assert names(placed) == ["Sheet 1", "Sheet 2", "Card back"]
    assert len(session.sheet.items) == 1
    entries(sheets.menu_for(second))["Move up"].trigger()
    assert names(placed) == ["Sheet 1", "Card back", "Sheet 2"]
    assert not entries(sheets.menu_for("s1"))["Move up"].isEnabled()
    gone = session.sheet_id
    entries(sheets.menu_for(gone))["Delete the sheet"].trigger()
    placed.settle()
    assert gone not in [s.id for s in session.job.sheets]
    assert session.sheet_id in [s.id for s in session.job.sheets]
    for _ in range(5):
        session.undo()
    placed.settle()
    assert names(placed) == ["Sheet 1"]
    assert not entries(sheets.menu_for("s1"))["Delete the sheet"].isEnabled()


@pytest.fixture
def size(placed: Hand):
    placed.session.select(())
    placed.settle()
    return placed.studio.workbench.steps.sheet.measures


def typed(hand: Hand, field, text: str) -> None:
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)
    hand.settle()


def test_the_size_is_typed_in_any_unit(placed: Hand, size) -> None:
    typed(placed, size.ppi, "300")
    typed(placed, size.sides.first, "85.6mm")
    typed(placed, size.sides.second, "2in")
    sheet = placed.session.sheet
    assert (sheet.width, sheet.height, sheet.resolution_ppi) == (1012, 600, 300)
    assert placed.item().shape_placement.x == 200
    placed.session.undo()
    assert placed.session.sheet.height == 300
    typed(placed, size.sides.first, "0")
    assert "Sheet width" in placed.studio.toast.text.text()


def test_sizes_by_use(placed: Hand, size) -> None:
    index = next(n for n in range(size.presets.count()) if size.presets.itemText(n) == "Page, A4")
    size.presets.setCurrentIndex(index)
    size.presets.activated.emit(index)
    placed.settle()
    sheet = placed.session.sheet
    assert (sheet.width, sheet.height, sheet.resolution_ppi) == (2480, 3508, 300)
    assert size.presets.currentText() == "Page, A4"


@pytest.mark.parametrize(
    ("entry", "wanted"),
    [
        ("Everything visible", (300, 300)),
        ("The photo of {}", (400, 300)),
        ("The shape of {}", (300, 300)),
    ],
)
def test_as_large_as_what_lies_on_it(placed: Hand, size, entry: str, wanted: tuple[int, int]) -> None:
    before = placed.item().content_placement.x - placed.item().shape_placement.x
    size._fill_menu()
    entries(size.fit.menu())[entry.format(placed.item().name)].trigger()
    placed.settle()
    assert (placed.session.sheet.width, placed.session.sheet.height) == wanted
    after = placed.item()
    assert after.content_placement.x - after.shape_placement.x == before
    placed.session.undo()
    assert placed.session.sheet.width == 400


def test_a_bleed_is_typed_seen_and_written(placed: Hand) -> None:
    session = placed.session
    session.select(())
    placed.settle()
    size = placed.studio.workbench.steps.sheet.measures
    placed.type(size.bleed, "12")
    assert session.sheet.bleed == 12
    assert session.undo_label == "Set the bleed"
    output = Output("", session.sheet_id, crop="bleed")
    planned = plan_output(session.job, output, session.store, ValueCache(1 << 26))
    assert planned.size == (session.sheet.width + 24, session.sheet.height + 24)
    session.undo()
    assert session.sheet.bleed == 0
