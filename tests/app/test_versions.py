"""Versions in the window: one click shows one; side by side; all of them go out."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from glasscap.core.document.edits.versions import add_version, shown_version, version_names
from glasscap.core.document.model.query import find_item
from tests.app.answers import answer
from tests.app.conftest import Hand, finished

pytestmark = pytest.mark.shared_window


def entries(menu) -> dict[str, object]:
    return {a.text(): a for a in menu.actions()}


def bar_of(hand: Hand):
    return hand.studio.workbench.steps.versions


def bordered(hand: Hand) -> None:
    """A second version, half as opaque."""
    bar_of(hand).add.click()
    steps = hand.studio.workbench.steps
    steps.open_only("look")
    hand.type(steps.look.opacity.field, "50")
    hand.settle()


def test_a_version_is_added_and_switched_in_one_click(placed: Hand) -> None:
    bordered(placed)
    item, bar = placed.item(), bar_of(placed)
    assert version_names(item) == ("Version 1", "Version 2")
    assert bar.buttons["Version 2"].isChecked()
    bar.buttons["Version 1"].click()
    assert placed.item().opacity == 1.0
    assert placed.session.undo_label == "Show Version 1"
    placed.session.undo()
    assert placed.item().opacity == 0.5
    placed.session.undo()
    placed.session.undo()
    placed.settle()
    assert bar.buttons == {}
    assert not bar.compare.isVisible()


def test_versions_are_renamed_and_deleted(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    bordered(placed)
    bar = bar_of(placed)
    answer(monkeypatch, "line_of_text", "Faint")
    entries(bar.menu_for("Version 2"))["Rename…"].trigger()
    placed.settle()
    assert list(bar.buttons) == ["Version 1", "Faint"]
    entries(bar.menu_for("Faint"))["Delete the version"].trigger()
    assert version_names(placed.item()) == ()
    assert placed.item().opacity == 1.0


def test_versions_lie_side_by_side_over_the_bench(placed: Hand) -> None:
    bordered(placed)
    panel = placed.studio.workbench.compare
    bar_of(placed).compare.click()
    placed.settle()
    assert panel.isVisible()
    assert list(panel.cards) == ["Version 1", "Version 2"]
    assert [c.is_marked for c in panel.cards.values()] == [False, True]
    faint, full = panel.cards["Version 2"]._frame.rgba, panel.cards["Version 1"]._frame.rgba
    assert faint[..., 3].max() == 128
    assert full[..., 3].max() == 255
    placed.click(panel.cards["Version 1"])
    placed.settle()
    assert shown_version(placed.item()) == "Version 1"
    QTest.keyClick(panel.cards["Version 2"], Qt.Key.Key_Space)
    assert shown_version(placed.item()) == "Version 2"
    QTest.keyClick(panel, Qt.Key.Key_Escape)
    assert not panel.isVisible()


def test_the_panel_goes_with_what_it_is_of(placed: Hand) -> None:
    bordered(placed)
    panel = placed.studio.workbench.compare
    bar_of(placed).compare.click()
    placed.session.select(())
    assert not panel.isVisible()
    placed.session.select((placed.item().id,))
    bar_of(placed).compare.click()
    placed.session.undo()
    placed.session.undo()
    assert not panel.isVisible()


def test_sheets_have_versions_while_nothing_is_selected(placed: Hand) -> None:
    placed.session.select(())
    placed.settle()
    bar_of(placed).add.click()
    assert version_names(placed.session.sheet) == ("Version 1", "Version 2")
    placed.session.select((placed.item().id,))
    placed.do("delete")
    bar_of(placed).buttons["Version 1"].click()
    assert len(placed.session.sheet.items) == 1
    bar_of(placed).compare.click()
    placed.settle()
    assert list(placed.studio.workbench.compare.cards) == ["Version 1", "Version 2"]


def test_the_tray_tells_which_version_of_a_sheet_is_shown(placed: Hand) -> None:
    sheets, session = placed.studio.workbench.tray.sheets, placed.session
    sheet_id, item_id = session.sheet_id, placed.item().id
    button = sheets.buttons[sheet_id]
    name = button.text()
    assert "Version" not in button.accessibleName()
    session.apply("Add a version", lambda job: add_version(job, sheet_id))
    # Also while a cutout is selected.
    session.select((item_id,))
    placed.settle()
    assert button.text() == f"{name}\nVersion 2"
    assert button.accessibleName() == f"Sheet {session.sheet.name}, Version 2"
    assert button.height() >= 2 * button.fontMetrics().height()
    menu = sheets.menu_for(sheet_id)
    entries = {a.text(): a for a in menu.actions()}
    assert [entries[n].isChecked() for n in ("Version 1", "Version 2")] == [False, True]
    entries["Version 1"].trigger()
    assert shown_version(session.sheet) == "Version 1"
    placed.settle()
    assert button.text().endswith("\nVersion 1")
    before = session.committed
    sheets.menu_for(sheet_id).actions()[-2].trigger()
    assert session.committed is before
    session.undo()
    assert shown_version(session.sheet) == "Version 2"


def test_every_version_is_written(placed: Hand, tmp_path: Path) -> None:
    bordered(placed)
    placed.do("export")
    view = placed.studio.workbench.export
    view.list.versions.click()
    placed.settle()
    assert [o.version for o in view.outputs] == ["", "Version 1", "Version 2"]
    folder = tmp_path / "out"
    folder.mkdir()
    assert finished(view.write_to(folder))
    assert sorted(p.name for p in folder.iterdir()) == [
        "blue-plate-version-1.png",
        "blue-plate-version-2.png",
        "blue-plate.png",
    ]
    assert find_item(placed.session.job, placed.item().id).opacity == 0.5
