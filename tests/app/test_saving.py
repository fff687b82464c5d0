"""Saving and opening in the window: the question on close, failed saves, missing photos."""

import errno
import os
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from glasscap.app.commands import job_files
from glasscap.app.services import errands
from glasscap.app.services.asking import Button
from glasscap.app.services.errands import run_errand
from glasscap.app.studio import empty_job
from glasscap.app.widgets.progress import ProgressStrip
from glasscap.core.formats.job import write_job
from glasscap.files import jobs
from glasscap.files.jobs import new_store, open_job, save_job
from tests.app.answers import answer
from tests.app.conftest import Hand, finished, incoming
from tests.samples import png_photo


def test_save_open_and_the_question_on_close(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    answer(monkeypatch, "file_to_save", tmp_path / "cards")
    placed.do("save")
    assert placed.session.is_saved
    assert placed.studio.topbar.state.text() == "saved"
    assert open_job(path).job == placed.session.job
    placed.key(Qt.Key.Key_Right)
    assert not placed.session.is_saved
    answer(monkeypatch, "question", Button.Cancel, Button.Save)
    assert not may_leave(placed)
    assert may_leave(placed)
    assert open_job(path).job == placed.session.job
    saved = placed.session.job
    placed.do("undo")
    answer(monkeypatch, "question", Button.Discard)
    assert finished(placed.studio.files.open(path))
    placed.settle()
    assert placed.session.job == saved
    assert placed.studio.shell.windowTitle() == "cards[*] - Glass Cap"
    placed.do("new")
    assert not placed.studio.has_job


def test_work_saved_on_the_way_to_opening_the_same_file_is_what_opens(
    placed: Hand, tmp_path: Path, monkeypatch
) -> None:
    path = tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(path))
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    moved = placed.session.job
    answer(monkeypatch, "question", Button.Save)
    assert finished(placed.studio.files.open(path))
    placed.settle()
    assert placed.session.job == moved


def test_a_failed_save_keeps_the_work_and_says_so(placed: Hand, tmp_path: Path) -> None:
    assert not finished(placed.studio.files.save_to(tmp_path / "no" / "cards.glasscap"))
    assert "Not saved" in placed.studio.toast.text.text()
    assert len(placed.session.sheet.items) == 1


def test_a_full_disk_at_save_keeps_work_and_file(placed: Hand, tmp_path: Path, monkeypatch) -> None:
    path = tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(path))
    before = path.read_bytes()
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)

    def refuse(handle: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", refuse)
    assert not finished(placed.studio.files.save())
    assert "the disk is full" in placed.studio.toast.text.text()
    assert path.read_bytes() == before
    assert not placed.session.is_saved
    assert sorted(p.name for p in tmp_path.iterdir()) == ["blue-plate.png", "cards.glasscap"]


def test_a_job_with_a_missing_photo_opens_grey_and_is_mended_by_a_drop(
    hand: Hand, photo: Path, tmp_path: Path
) -> None:
    hand.drop(photo)
    # Photos are looked for in the folders around, where other tests' lie.
    path = tmp_path / "client" / "cards.glasscap"
    path.parent.mkdir()
    job = hand.session.job
    linked = replace(job, photos=tuple(replace(p, link="gone.png") for p in job.photos))
    path.write_bytes(write_job(linked, hand.session.store.data))
    hand.session.mark_saved(path, hand.session.committed)
    photo.rename(tmp_path / "renamed.png")
    assert finished(hand.studio.files.open(path))
    hand.settle()
    assert "linked photo is missing" in hand.studio.toast.text.text()
    hand.do("export")
    assert not finished(hand.studio.workbench.export.write_to(tmp_path))
    assert "blue-plate.png" in hand.studio.workbench.export.list.result_text.text()
    hand.do("export")
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(300, 300, seed=6))
    hand.drop(other, on=hand.item().id)
    (tmp_path / "out").mkdir()
    assert finished(hand.studio.workbench.export.write_to(tmp_path / "out"))


def test_a_bad_job_leaves_what_is_open(placed: Hand, tmp_path: Path) -> None:
    bad = tmp_path / "bad.glasscap"
    bad.write_bytes(b"PK nonsense")
    before = placed.session.job
    placed.studio.take(incoming(bad))
    placed.wait_for_errands()
    assert placed.session.job is before
    assert "bad.glasscap" in placed.studio.toast.text.text()


def may_leave(hand: Hand) -> bool | None:
    return finished(run_errand(hand.studio.files.leaving(), hand.studio.shell, print))


@pytest.fixture
def slow(monkeypatch: pytest.MonkeyPatch) -> Iterator[threading.Event]:
    """Saving waits for this gate."""
    gate, really = threading.Event(), job_files.save_job

    def save(*arguments: object) -> None:
        gate.wait(60)
        really(*arguments)

    monkeypatch.setattr(job_files, "save_job", save)
    yield gate
    gate.set()


def test_a_slow_save_and_another_job_keep_their_own_names(
    placed: Hand, tmp_path: Path, slow: threading.Event
) -> None:
    one, other = tmp_path / "one.glasscap", tmp_path / "other.glasscap"
    slow.set()
    finished(placed.studio.files.save_to(other))
    placed.key(Qt.Key.Key_Right)
    finished(placed.studio.files.save_to(one))
    placed.key(Qt.Key.Key_Right)
    moved = placed.session.job
    slow.clear()
    saving = placed.studio.files.save()
    opening = placed.studio.files.open(other)
    QTest.qWait(50)
    assert placed.session.path == one
    slow.set()
    assert finished(opening)
    assert saving.result
    assert placed.session.path == other
    assert open_job(one).job == moved
    assert placed.session.job == open_job(other).job
    placed.key(Qt.Key.Key_Down)
    assert finished(placed.studio.files.save())
    assert open_job(one).job == moved


def test_what_is_done_while_a_file_is_written_is_not_called_saved(
    placed: Hand, tmp_path: Path, slow: threading.Event
) -> None:
    path = tmp_path / "cards.glasscap"
    saving = placed.studio.files.save_to(path)
    before = placed.session.job
    placed.key(Qt.Key.Key_Right)
    slow.set()
    assert finished(saving)
    assert open_job(path).job == before
    assert not placed.session.is_saved
    assert placed.studio.topbar.state.text() != "saved"
    placed.do("undo")
    assert placed.session.is_saved


def test_a_save_ends_after_the_window_shows_another_job(
    placed: Hand, tmp_path: Path, slow: threading.Event
) -> None:
    saving = placed.studio.files.save_to(tmp_path / "one.glasscap")
    placed.studio.session.replace_job(empty_job(), new_store(), None)
    slow.set()
    assert not finished(saving)
    assert (tmp_path / "one.glasscap").is_file()
    assert placed.session.path is None
    assert not placed.session.is_saved


def test_a_save_that_fails_leaves_links_as_they_were(placed: Hand, tmp_path: Path) -> None:
    path = tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(path))
    before = placed.session.job
    assert not finished(placed.studio.files.save_to(tmp_path / "no" / "cards.glasscap"))
    assert placed.session.job is before
    assert placed.session.path == path


def test_the_window_closes_once_the_work_is_saved(
    placed: Hand, tmp_path: Path, slow: threading.Event, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    slow.set()
    finished(placed.studio.files.save_to(path))
    placed.key(Qt.Key.Key_Right)
    slow.clear()
    answer(monkeypatch, "question", Button.Save)
    shell = placed.studio.shell
    assert not shell.close()
    assert not shell.close()
    assert shell.isVisible()
    slow.set()
    placed.settle(lambda: not shell.isVisible())
    assert open_job(path).job == placed.session.job


def test_a_file_that_another_program_changed_is_not_written_over_unasked(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(path))
    asked = answer(monkeypatch, "question", Button.Cancel, Button.Save)
    placed.key(Qt.Key.Key_Right)
    placed.do("save")
    assert asked == []
    placed.key(Qt.Key.Key_Right)
    path.write_bytes(b"of another program")
    placed.do("save")
    assert "Another program changed cards.glasscap" in str(asked[0])
    assert path.read_bytes() == b"of another program"
    assert not placed.session.is_saved
    placed.do("save")
    assert open_job(path).job == placed.session.job
    assert placed.session.is_saved


def test_a_job_behind_a_symbolic_link_is_written_through_it(placed: Hand, tmp_path: Path) -> None:
    real, link = tmp_path / "elsewhere.glasscap", tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(real))
    link.symlink_to(real)
    assert finished(placed.studio.files.open(link))
    placed.key(Qt.Key.Key_Right)
    placed.do("save")
    assert link.is_symlink()
    assert open_job(real).job == placed.session.job


def test_saving_again_is_no_step_of_the_job(placed: Hand, tmp_path: Path) -> None:
    finished(placed.studio.files.save_to(tmp_path / "cards.glasscap"))
    placed.key(Qt.Key.Key_Right)
    before = placed.session.undo_label
    placed.do("save")
    assert placed.session.undo_label == before
    placed.key(Qt.Key.Key_Right)
    placed.do("undo")
    assert placed.session.is_saved


def test_cancel_while_saving_leaves_the_old_file(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    finished(placed.studio.files.save_to(path))
    before, gate = path.read_bytes(), threading.Event()
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)
    monkeypatch.setattr(job_files, "job_preview", lambda *asked: gate.wait(60) and b"")
    placed.key(Qt.Key.Key_Right)
    running = placed.studio.files.save()
    strips = lambda: placed.studio.shell.findChildren(ProgressStrip)  # noqa: E731
    placed.settle(lambda: bool(strips()))
    strips()[0].findChild(QPushButton).click()
    gate.set()
    assert not finished(running)
    assert path.read_bytes() == before
    assert not placed.session.is_saved


def test_a_linked_photo_that_vanished_is_put_into_the_job(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    answer(monkeypatch, "question", Button.Discard)
    job, store = placed.session.job, placed.session.store
    photo = tmp_path / "jug.png"
    photo.write_bytes(store.data(job.photos[0]))
    linked = replace(job, photos=(replace(job.photos[0], name="jug.png", link="jug.png"),))
    path = tmp_path / "cards.glasscap"
    save_job(path, linked, store)
    assert finished(placed.studio.files.open(path))
    placed.settle()
    photo.unlink()
    placed.key(Qt.Key.Key_Right)
    placed.do("save")
    assert (
        placed.studio.toast.text.text()
        == "jug.png is gone from its place on the disk, and now in the job file itself"
    )
    assert placed.session.is_saved
    opened = open_job(path)
    assert opened.problems == ()
    assert opened.job.photos[0].link is None


def test_what_cannot_be_drawn_is_saved_without_its_picture(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(*asked: object) -> None:
        raise MemoryError

    monkeypatch.setattr(jobs, "render", fails)
    path = tmp_path / "cards.glasscap"
    assert finished(placed.studio.files.save_to(path))
    assert open_job(path).job == placed.session.job
