"""Mock-ups in the window: added, followed, fitted, their corners dragged, written."""

from pathlib import Path

import pytest
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.core.document.model.mockups import OwnPlace
from glasscap.files.jobs import open_job
from tests.app.answers import answer
from tests.app.conftest import Hand, finished

pytestmark = pytest.mark.shared_window


@pytest.fixture
def view(placed: Hand):
    placed.do("mockups")
    made = placed.studio.workbench.mockups
    placed.settle(lambda: placed.studio.service.is_idle)
    return made


def settle(hand: Hand) -> None:
    hand.settle(lambda: hand.studio.service.is_idle)


def test_a_click_on_a_place_puts_the_selected_cutout_into_it(placed: Hand, view) -> None:
    assert view.stage.words.startswith("Choose a place")
    assert not view.write_page.isEnabled()
    view.places.buttons["badge"].click()
    settle(placed)
    (mockup,) = placed.session.job.mockups
    assert (mockup.place, mockup.subject_id, mockup.name) == ("badge", placed.item().id, "Enamel badge")
    assert placed.session.undo_label == "Add a mock-up"
    ((name, frame),) = view.stage.answer.pictures
    assert name == ""
    assert (frame.rgba[..., 3] == 255).all()


def test_it_follows_every_edit(placed: Hand, view) -> None:
    view.places.buttons["avatar"].click()
    settle(placed)
    before = view.stage.answer.pictures[0][1].rgba.copy()
    placed.do("hide")
    placed.session.apply(
        "Fade",
        lambda job: __import__("glasscap.core.document.finishing.edits", fromlist=["set_opacity"]).set_opacity(
            job, [placed.item().id], 0.3
        ),
    )
    settle(placed)
    assert (view.stage.answer.pictures[0][1].rgba != before).any()


def test_stretching_is_said(placed: Hand, view) -> None:
    view.places.buttons["phone"].click()
    settle(placed)
    assert view.note.text() == ""
    view.fit.buttons["stretch"].click()
    settle(placed)
    assert view.note.text().startswith("Stretched by")
    view.fit.buttons["cover"].click()
    settle(placed)
    assert view.note.text() == ""
    placed.session.undo()
    assert placed.session.job.mockups[0].fit == "stretch"


def test_it_shows_a_sheet_instead(placed: Hand, view) -> None:
    view.places.buttons["card"].click()
    row = next(n for n in range(view.subject.count()) if view.subject.itemData(n) == "s1")
    view.subject.setCurrentIndex(row)
    view.subject.activated.emit(row)
    assert placed.session.job.mockups[0].subject_id == "s1"


def test_mockups_are_renamed_chosen_and_removed(placed: Hand, view, monkeypatch: pytest.MonkeyPatch) -> None:
    view.places.buttons["card"].click()
    view.places.buttons["card"].click()
    settle(placed)
    assert [m.name for m in placed.session.job.mockups] == ["Card on a table", "Card on a table 2"]
    view.list.setCurrentRow(0)
    answer(monkeypatch, "line_of_text", "On the bench")
    view.rename_button.click()
    assert view.list.item(0).text() == "On the bench"
    view.remove_button.click()
    assert [m.name for m in placed.session.job.mockups] == ["Card on a table 2"]
    placed.session.undo()
    assert len(placed.session.job.mockups) == 2


def drag(stage, start: QPointF, end: QPointF, *, is_released: bool = True) -> None:
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QTest.mousePress(stage, left, none, start.toPoint())
    for share in (0.5, 1.0):
        at = start + (end - start) * share
        move = QMouseEvent(QMouseEvent.Type.MouseMove, at, stage.mapToGlobal(at), left, left, none)
        QApplication.sendEvent(stage, move)
    if is_released:
        QTest.mouseRelease(stage, left, none, end.toPoint())


def test_the_corners_of_a_place_of_ones_own_are_dragged(
    placed: Hand, view, photo: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    answer(monkeypatch, "file_to_open", photo)
    view.own.click()
    # The photo is read in a thread.
    placed.settle(lambda: bool(placed.session.job.mockups))
    settle(placed)
    (mockup,) = placed.session.job.mockups
    assert isinstance(mockup.place, OwnPlace)
    corners = view.stage.corners()
    assert len(corners) == 4
    drag(view.stage, corners[0], corners[0] - QPointF(20, 12))
    settle(placed)
    moved = placed.session.job.mockups[0].place.corners[0]
    assert moved[0] < mockup.place.corners[0][0]
    assert placed.session.undo_label == "Move a corner"
    # Across the others it is no quadrilateral: the corner stays where it was.
    drag(view.stage, view.stage.corners()[0], view.stage.corners()[2] + QPointF(30, 30), is_released=False)
    QTest.keyClick(view.stage, Qt.Key.Key_Escape)
    assert not placed.session.is_previewing
    assert placed.session.job.mockups[0].place.corners[0] == moved


def test_versions_stand_side_by_side_and_on_one_page(placed: Hand, view, tmp_path: Path) -> None:
    placed.do("mockups")
    placed.studio.workbench.steps.versions.add.click()
    placed.do("mockups")
    view.places.buttons["tote"].click()
    settle(placed)
    assert not view.all_versions.isHidden()
    view.all_versions.click()
    settle(placed)
    assert [name for name, _ in view.stage.answer.pictures] == ["Version 1", "Version 2"]
    assert len(view.stage.boxes()) == 2
    assert finished(view.write_to(tmp_path / "client.pdf"))
    assert (tmp_path / "client.pdf").read_bytes().startswith(b"%PDF-1.4")
    assert finished(view.write_to(tmp_path / "bag.png"))
    assert sorted(p.name for p in tmp_path.glob("bag*")) == ["bag-version-1.png", "bag-version-2.png"]


def test_it_is_written_where_the_dialog_says(
    placed: Hand, view, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    view.places.buttons["video"].click()
    settle(placed)
    answer(monkeypatch, "file_to_save", tmp_path / "frame")
    view.write_picture.click()
    placed.wait_for_errands()
    with Image.open(tmp_path / "frame.png") as picture:
        assert picture.size == (1600, 1200)
    answer(monkeypatch, "file_to_save", tmp_path / "frame.txt")
    view.write_picture.click()
    placed.wait_for_errands()
    assert "no format has this ending" in placed.studio.toast.text.text()
    assert not (tmp_path / "frame.txt").exists()


def test_escape_and_the_button_go_back_to_the_bench(placed: Hand, view) -> None:
    assert placed.studio.topbar.mockups.text() == "Back to bench"
    placed.studio.topbar.mockups.click()
    assert placed.studio.workbench.page == "bench"
    placed.do("mockups")
    QTest.keyClick(placed.studio.shell, Qt.Key.Key_Escape)
    assert placed.studio.workbench.page == "bench"


def test_mockups_are_saved(placed: Hand, view, tmp_path: Path) -> None:
    view.places.buttons["window"].click()
    finished(placed.studio.files.save_to(tmp_path / "plate.glasscap"))
    assert open_job(tmp_path / "plate.glasscap").job.mockups == placed.session.job.mockups
    placed.click(view.stage, QPoint(3, 3))
