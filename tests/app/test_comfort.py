"""Preferences, help, names of controls, several windows, how the window was left, recent jobs' pictures."""

import json
from pathlib import Path

import msgspec
import pytest
import shiboken6
from PySide6.QtCore import QFileInfo, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
    QLineEdit,
    QMessageBox,
    QSlider,
    QToolButton,
)

from glasscap.app import windows
from glasscap.app.help.book import PAGES, pages, search
from glasscap.app.help.control_names import ControlNames, control_name
from glasscap.app.help.help_window import HelpWindow
from glasscap.app.preferring import PreferencesDialog
from glasscap.app.services.asking import Button
from glasscap.app.services.memory import photo_budget
from glasscap.app.shell import Shell
from glasscap.app.theme.style import colours, set_surround
from glasscap.app.widgets.dialogs import dress, message_box
from glasscap.app.widgets.number_field import NumberField
from glasscap.files.jobs import new_store
from glasscap.files.preferences import Preferences, preferences_path, read_preferences, write_preferences
from glasscap.files.recent import job_picture
from glasscap.files.window_state import WindowState, keep_window_state, read_window_state
from tests.app.answers import answer
from tests.app.conftest import Hand, finished


@pytest.fixture(autouse=True)
def as_at_first() -> object:
    yield
    set_surround(None)
    NumberField.length_unit = "px"


def dialog_of(hand: Hand, action: str, kind: type):
    hand.do(action)
    return hand.studio.shell.findChild(kind)


def leave(shell: Shell) -> None:
    """Close a further window; it goes."""
    assert shell.close()
    QApplication.sendPostedEvents(None, 52)
    assert not shiboken6.isValid(shell)


# preferences


def test_preferences_are_kept_and_read(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "preferences.json"
    wanted = Preferences(120, "mm", False, 30)
    write_preferences(wanted, path)
    assert read_preferences(path) == wanted


@pytest.mark.parametrize("text", ["", "{", '{"unit": "furlong"}', '{"memory": "much"}', "[1]", "\xff"])
def test_what_cannot_be_read_is_as_it_was_at_first(tmp_path: Path, text: str) -> None:
    (tmp_path / "p.json").write_text(text, encoding="latin-1")
    assert read_preferences(tmp_path / "p.json") == Preferences()


def test_numbers_out_of_range_are_brought_into_it(tmp_path: Path) -> None:
    (tmp_path / "p.json").write_text('{"surround": 999, "memory": 400}')
    assert read_preferences(tmp_path / "p.json") == Preferences(255, memory=75)


def test_the_grey_around_the_sheet_is_seen_at_once_and_kept(placed: Hand) -> None:
    dialog = dialog_of(placed, "preferences", PreferencesDialog)
    dialog.surround.field.setFocus()
    dialog.surround.field.selectAll()
    QTest.keyClicks(dialog.surround.field, "64")
    QTest.keyClick(dialog.surround.field, Qt.Key.Key_Return)
    assert colours().surround == "#404040"
    assert placed.bench.grab().toImage().pixelColor(3, 3).name() == "#404040"
    assert read_preferences().surround == 64
    dialog.close()


def test_lengths_are_shown_and_typed_in_the_preferred_unit(placed: Hand) -> None:
    dialog = dialog_of(placed, "preferences", PreferencesDialog)
    placed.session.apply("Set 254 ppi", lambda job: msgspec.structs.replace(
        job, sheets=(msgspec.structs.replace(job.sheets[0], resolution_ppi=254.0),)))  # fmt: skip
    field = placed.studio.workbench.steps.shape.size_row.first
    before = placed.item().shape_placement.width
    placed.click(dialog.unit.buttons["mm"])
    dialog.close()
    placed.settle()
    assert float(field.text()) == pytest.approx(before / 10, abs=0.06)
    placed.type(field, "20")
    assert placed.item().shape_placement.width == pytest.approx(200)
    placed.type(field, "150px")
    assert placed.item().shape_placement.width == pytest.approx(150)


def test_memory_for_photos_is_bounded_as_preferred(placed: Hand) -> None:
    dialog = dialog_of(placed, "preferences", PreferencesDialog)
    assert placed.session.store.budget_bytes == photo_budget()
    dialog.memory.stepped.emit(5.0)
    limited = placed.session.store.budget_bytes
    assert limited != photo_budget()
    store = new_store()
    placed.studio.service.use_store(store)
    assert store.budget_bytes == limited
    placed.studio.service.use_store(placed.session.store)
    dialog.close()


def test_snapping_begins_as_preferred(qapp: QApplication, placed: Hand) -> None:
    dialog = dialog_of(placed, "preferences", PreferencesDialog)
    dialog.snapping.click()
    dialog.close()
    assert placed.session.is_snapping
    shell = windows.open_window()
    assert not shell.resident.session.is_snapping
    leave(shell)


def test_preferences_that_cannot_be_kept_are_said_and_work_all_the_same(placed: Hand) -> None:
    place = preferences_path().parent
    place.parent.mkdir(parents=True, exist_ok=True)
    place.write_text("in the way")
    dialog = dialog_of(placed, "preferences", PreferencesDialog)
    dialog.surround.stepped.emit(90.0)
    assert "Not kept for the next time" in placed.studio.toast.text.text()
    assert colours().surround == "#5a5a5a"
    dialog.close()


# help


def test_every_page_has_a_title_words_and_pictures_that_are_there() -> None:
    assert len(pages()) >= 12
    for page in pages():
        assert page.title and page.words, page.name
        for part in page.text.split("](")[1:]:
            assert (PAGES / part.split(")")[0]).is_file(), (page.name, part)


@pytest.mark.parametrize(
    ("wanted", "page"),
    [
        ("clipping mask", "start"),
        ("border", "strokes"),
        ("soft edge", "edge"),
        ("distribute", "many"),
        ("masks nested", "groups"),
        ("bleed", "sheets"),
        ("transparent", "export"),
        ("crash", "safety"),
        ("client pdf", "mockups"),
    ],
)
def test_pages_are_found_by_the_words_people_use(wanted: str, page: str) -> None:
    assert page in [p.name for p in search(wanted)[:2]]


def test_help_is_searched_and_followed(placed: Hand) -> None:
    window = dialog_of(placed, "help", HelpWindow)
    assert window.list.count() == len(pages())
    QTest.keyClicks(window.search, "feather")
    assert window.list.item(0).text() == "The edge"
    assert "without a limit" in window.text.toPlainText()
    QTest.keyClicks(window.search, " unicorn")
    assert window.list.count() == 0
    window.text.anchorClicked.emit("placing.md")
    assert window.list.currentItem().text() == "Placing photo and shape"
    window.close()


# names


def test_every_control_in_sight_says_its_name(placed: Hand) -> None:
    placed.do("names")
    over = placed.studio.shell.findChild(ControlNames)
    names = [name for _, name in over.names]
    for wanted in ("Export…", "Undo: Add a photo", "Grip: Shape", "Width, px", "+ Version"):
        assert any(name.startswith(wanted.split(":")[0]) for name in names), wanted
    QTest.keyClick(over, Qt.Key.Key_Escape)
    QApplication.sendPostedEvents(None, 52)
    assert placed.studio.shell.findChild(ControlNames) is None


def test_no_control_is_without_a_name(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    kinds = (QAbstractButton, QSlider, QComboBox, QLineEdit)
    for key in steps.cards:
        steps.open_only(key)
        placed.settle()
        shown = [w for kind in kinds for w in placed.studio.shell.findChildren(kind) if w.isVisible()]
        own = [w for w in shown if not w.objectName().startswith("qt_")]
        assert len(own) > 20
        assert [w for w in own if not control_name(w)] == [], key


def test_questions_and_file_dialogs_wear_the_program_s_own_icons(placed: Hand, tmp_path: Path) -> None:
    shell = placed.studio.shell
    box = message_box(shell, "Not saved.")
    box.setStandardButtons(Button.Save | Button.Cancel)
    dress(box)
    assert not box.iconPixmap().isNull()
    assert box.icon() == QMessageBox.Icon.NoIcon
    assert all(b.icon().isNull() for b in box.buttons())
    box.deleteLater()
    dialog = QFileDialog(shell, "Open", str(tmp_path))
    dialog.setOption(QFileDialog.Option.DontUseNativeDialog)
    style = [b.icon().cacheKey() for b in dialog.findChildren(QToolButton)]
    dress(dialog)
    own = [b.icon().cacheKey() for b in dialog.findChildren(QToolButton)]
    assert len(own) >= 6
    assert set(own).isdisjoint(style)
    icons = dialog.iconProvider()
    (tmp_path / "cards.glasscap").write_bytes(b"")
    job, folder = (icons.icon(QFileInfo(str(p))) for p in (tmp_path / "cards.glasscap", tmp_path))
    assert job.pixmap(16).toImage() != folder.pixmap(16).toImage()
    dialog.deleteLater()


# windows


def test_a_window_of_its_own_has_a_job_of_its_own(placed: Hand, photo: Path) -> None:
    placed.studio.new_window_asked.connect(windows.open_window)
    placed.do("new_window")
    shell = windows._opened[-1]
    other = shell.resident
    assert not other.has_job
    other.take_paths((photo,))
    placed.settle(lambda: other.is_settled)
    assert other.session.job is not placed.session.job
    placed.do("duplicate")
    assert len(other.session.sheet.items) == 1
    other.session.mark_saved(Path("kept.glasscap"), other.session.committed)
    leave(shell)


def test_quitting_asks_in_each_window_and_one_that_stays_ends_it(
    placed: Hand, photo: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    windows.live_in(placed.studio)
    placed.do("new_window")
    shell = windows._opened[-1]
    other = shell.resident
    other.take_paths((photo,))
    placed.settle(lambda: other.is_settled)
    asked = answer(monkeypatch, "question", Button.Cancel)
    placed.do("quit")
    placed.settle(lambda: len(asked) == 1)
    placed.settle()
    assert (len(asked), placed.studio.shell.isVisible(), shell.isVisible()) == (1, True, True)
    asked = answer(monkeypatch, "question", Button.Discard)
    placed.do("quit")
    placed.settle(lambda: len(asked) == 2)
    placed.settle(lambda: not placed.studio.shell.isVisible() and not shiboken6.isValid(shell))


def test_the_window_is_as_large_as_it_was_left(qapp: QApplication) -> None:
    keep_window_state(WindowState(1333, 777))
    shell = Shell()
    assert (shell.width(), shell.height()) == (1333, 777)
    shell.resize(1200, 760)
    shell.show()
    assert shell.close()
    assert read_window_state() == WindowState(1200, 760)
    keep_window_state(WindowState(1100, 720, True))
    full = Shell()
    assert full.isMaximized()
    for made in (shell, full):
        made.deleteLater()
    QApplication.sendPostedEvents(None, 52)


@pytest.mark.parametrize("text", ["", "[]", '{"width": -4, "height": 3, "is_maximised": 0}', '{"width": "x"}'])
def test_a_size_that_is_none_is_not_taken(tmp_path: Path, text: str) -> None:
    (tmp_path / "window.json").write_text(text)
    assert read_window_state(tmp_path) is None


def test_recent_jobs_have_their_pictures(placed: Hand, tmp_path: Path) -> None:
    finished(placed.studio.files.save_to(tmp_path / "plate.glasscap"))
    placed.settle()
    assert job_picture(str(tmp_path / "plate.glasscap")).startswith(b"\x89PNG")
    placed.do("new")
    start = placed.studio.shell.start
    placed.settle(lambda: not start._unseen and not start._pictures.isActive())
    entry = start._recent.itemAt(0).widget()
    assert not entry.icon().isNull()
    (tmp_path / "plate.glasscap").write_bytes(b"PK nothing")
    assert job_picture(str(tmp_path / "plate.glasscap")) == b""
    assert job_picture(str(tmp_path / "none.glasscap")) == b""
    assert json.dumps([])


def test_the_cards_are_filled_one_by_one_before_they_are_opened(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    before = [key for key, card in steps.cards.items() if card.is_open]
    count = sum(1 for _ in iter(steps.make_ready, False))
    assert 0 < count <= len(steps.cards) + 1
    assert not steps.make_ready()
    assert [key for key, card in steps.cards.items() if card.is_open] == before
    steps.open_only("edge")
    assert steps.cards["edge"].is_open
