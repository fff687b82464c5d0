"""A job that is open in one window is read-only in the next."""

from pathlib import Path

import pytest

from glasscap.files.jobs import save_job
from glasscap.files.locks import JobHold
from tests.app.answers import answer
from tests.app.conftest import Hand, finished
from tests.samples import photo_job, png_photo


@pytest.fixture
def job_file(tmp_path: Path) -> Path:
    path = tmp_path / "trail.glasscap"
    save_job(path, *photo_job(png_photo(60, 40)))
    return path


def test_the_second_window_reads_only_and_saves_a_copy(
    hand: Hand, job_file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    other = JobHold()
    assert other.take(job_file)
    before = job_file.read_bytes()
    hand.drop(job_file)
    assert "open in another window" in hand.studio.toast.text.text()
    assert hand.studio.topbar.state.text() == "saved, read-only"
    hand.session.apply("Rename", lambda job: hand.session.committed)
    assert not finished(hand.studio.files.save_to(job_file))
    assert "choose another name" in hand.studio.toast.text.text()
    copy = tmp_path / "copy.glasscap"
    answer(monkeypatch, "file_to_save", copy)
    hand.do("save")
    hand.settle()
    assert copy.is_file()
    assert job_file.read_bytes() == before
    assert hand.session.path == copy
    assert not hand.session.is_read_only
    assert hand.studio.topbar.state.text() == "saved"
    assert not JobHold().take(copy)
    other.release()


def test_a_window_holds_its_job_until_it_shows_another(hand: Hand, job_file: Path) -> None:
    hand.drop(job_file)
    assert not hand.session.is_read_only
    assert not JobHold().take(job_file)
    hand.do("new")
    hand.settle()
    hold = JobHold()
    assert hold.take(job_file)
    hold.release()
