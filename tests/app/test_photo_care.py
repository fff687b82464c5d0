"""The Photos menu: hidden pixels removed, photos reduced, embedded, linked, collected."""

from pathlib import Path

import pytest
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from glasscap.app.photos.care import TrimDialog
from glasscap.app.services.asking import Button
from glasscap.files.jobs import open_for_output
from tests.app.answers import answer
from tests.app.conftest import Hand, finished
from tests.samples import png_photo

pytestmark = pytest.mark.shared_window


@pytest.fixture
def small(hand: Hand, tmp_path: Path) -> Hand:
    """A large photo of which a small circle is shown."""
    path = tmp_path / "kiln.png"
    path.write_bytes(png_photo(900, 700, seed=4))
    hand.drop(path)
    hand.type(hand.studio.workbench.steps.shape.size_row.first, "120")
    hand.settle()
    return hand


@pytest.fixture
def yes(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    return answer(monkeypatch, "question", Button.Ok)


def test_what_is_hidden_goes_and_comes_back(small: Hand, yes: list[str], tmp_path: Path) -> None:
    session, care = small.session, small.studio.photo_care
    before = session.job.photos[0]
    assert finished(care.remove_hidden(None, 0.0))
    (_, words, *_), *_ = yes
    assert "1 photo" in words
    assert "KB less" in words or "MB less" in words
    small.settle()
    assert session.job.photos[0].width < before.width
    assert session.undo_label == "Remove what is hidden"
    session.undo()
    assert session.job.photos == (before,)
    session.redo()
    path = tmp_path / "a.glasscap"
    assert finished(small.studio.files.save_to(path))
    opened = open_for_output(path)
    assert opened.problems == ()
    assert opened.job.photos[0].width < before.width
    assert not finished(care.remove_hidden(None, 0.0))
    assert "nothing hidden" in small.studio.toast.text.text()


def test_the_dialog_asks_for_scope_and_margin(small: Hand, yes: list[str]) -> None:
    def fill() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, TrimDialog)
        dialog.choice.buttons["job"].click()
        dialog.number.show_value(60.0)
        dialog.go_on.click()

    QTimer.singleShot(150, fill)
    small.do("remove_hidden")
    assert len(yes) == 1
    assert small.session.undo_label == "Remove what is hidden"
    QTimer.singleShot(150, lambda: QApplication.activeModalWidget().reject())
    small.do("reduce_photos")
    assert len(yes) == 1


def test_photos_are_reduced(small: Hand, yes: list[str]) -> None:
    care, session = small.studio.photo_care, small.session
    assert finished(care.reduce(None, 0.5))
    assert session.job.photos[0].width == 450
    small.settle()


def test_photos_are_linked_collected_and_embedded(small: Hand, tmp_path: Path) -> None:
    care, session = small.studio.photo_care, small.session
    assert not finished(care.link(only_linked=False))
    assert "Save the job first" in small.studio.toast.text.text()
    finished(small.studio.files.save_to(tmp_path / "b.glasscap"))
    assert finished(care.link(only_linked=False))
    assert session.job.photos[0].link == "b photos/kiln.png"
    assert (tmp_path / "b photos" / "kiln.png").is_file()
    assert not finished(care.link(only_linked=True))
    care.embed()
    assert session.job.photos[0].link is None
    session.undo()
    session.undo()
    assert session.job.photos[0].link is None
