"""Work that is not saved is kept behind the window, offered at the next start, recovered or discarded."""

import time
from collections.abc import Callable
from concurrent.futures import Future
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from glasscap.app.services.asking import Button
from glasscap.app.services.keeping import Keeping
from glasscap.app.start.start_view import StartView
from glasscap.app.studio import empty_job
from glasscap.core.errors import FileProblemError
from glasscap.files.jobs import job_preview, new_store
from glasscap.files.kept_work import WORK, KeptWork, kept_works, read_origin
from glasscap.files.work_keeper import WorkKeeper, recover
from tests.app.answers import answer
from tests.app.conftest import Hand, finished
from tests.samples import photo_job, png_photo


def kept(hand: Hand) -> Callable[[], bool]:
    keeping = hand.studio.keeping
    keeping.keep()
    return lambda: keeping.is_current


def folder_of(hand: Hand) -> Path | None:
    return hand.studio.keeping._keeper.folder


def left_behind(name: str = "autumn cards", path: Path | None = None) -> KeptWork:
    """Work of a window that fell."""
    keeper = WorkKeeper()
    job, store = photo_job(png_photo(80, 60))
    keeper.keep(job, store, path, name)
    keeper.keep_preview(job_preview(job, store))
    keeper.leave()
    return kept_works()[0]


def test_every_step_is_kept_within_seconds_and_forgotten_when_saved(placed: Hand, tmp_path: Path) -> None:
    assert placed.studio.keeping._timer.interval() <= 1000
    placed.settle(lambda: placed.studio.keeping.is_current)
    folder = folder_of(placed)
    assert folder is not None
    placed.studio.items.table["duplicate"]()
    placed.settle(kept(placed))
    assert folder_of(placed) == folder
    work = KeptWork(folder, read_origin(folder), 0)
    assert recover(work).job == placed.session.committed
    assert finished(placed.studio.files.save_to(tmp_path / "cards.glasscap"))
    placed.settle(lambda: not (folder / WORK).exists())
    placed.session.undo()
    placed.settle(kept(placed))
    assert folder_of(placed) is not None


def test_an_empty_window_keeps_nothing(hand: Hand) -> None:
    hand.studio.keeping.keep()
    assert not hand.studio.keeping._is_busy
    assert folder_of(hand) is None


def test_a_preview_is_not_kept(placed: Hand) -> None:
    placed.settle(kept(placed))
    kept_job = placed.session.committed
    placed.drag((200, 150), (230, 150), is_released=False)
    assert placed.session.is_previewing
    placed.studio.keeping.keep()
    assert placed.studio.keeping._kept is kept_job
    placed.session.drop_preview()


def test_discarding_on_the_way_out_forgets(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    placed.settle(kept(placed))
    folder = folder_of(placed)
    assert folder is not None
    answer(monkeypatch, "question", Button.Discard)
    placed.do("new")
    placed.settle(lambda: not folder.exists())
    assert kept_works() == []


def test_the_start_view_offers_what_was_left_with_its_picture(hand: Hand) -> None:
    start = hand.studio.shell.start
    assert start.kept.isHidden()
    left_behind()
    start.show_recent()
    QApplication.processEvents()
    (row,) = start.kept.rows
    assert not start.kept.isHidden()
    assert row.work.origin.name == "autumn cards"
    assert not row.thumb.picture.isNull()
    row.recover.click()
    hand.settle()
    session = hand.session
    assert hand.studio.has_job
    assert session.name == "autumn cards"
    assert not session.is_saved
    assert [p.name for p in session.job.photos] != []
    assert session.store.data(session.job.photos[0])
    assert folder_of(hand) == row.work.folder
    assert row.work.folder.exists()


def test_recovered_work_belongs_to_its_file(hand: Hand, tmp_path: Path) -> None:
    path = tmp_path / "cards.glasscap"
    work = left_behind("cards", path)
    hand.studio.shell.start.recover_asked.emit(work)
    hand.settle()
    assert hand.session.path == path
    assert not hand.session.is_saved
    hand.do("save")
    hand.settle()
    assert path.is_file()
    hand.settle(lambda: not (work.folder / WORK).exists())


def test_discard_asks(hand: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    work, start = left_behind(), hand.studio.shell.start
    start.show_recent()
    answer(monkeypatch, "question", Button.Cancel)
    start.kept.rows[0].discard.click()
    assert work.folder.exists()
    answer(monkeypatch, "question", Button.Discard)
    start.kept.rows[0].discard.click()
    assert not work.folder.exists()
    assert start.kept.isHidden()


def test_what_cannot_be_recovered_is_said_and_stays(hand: Hand) -> None:
    work = left_behind()
    (work.folder / "work.glasscap").write_bytes(b"no archive")
    hand.studio.shell.start.recover_asked.emit(work)
    hand.wait_for_errands()
    assert "still kept" in hand.studio.toast.text.text()
    assert not hand.studio.has_job
    assert work.folder.exists()


def test_work_another_window_took_is_said(hand: Hand) -> None:
    work, other = left_behind(), WorkKeeper()
    other.adopt(work)
    hand.studio.shell.start.recover_asked.emit(work)
    hand.wait_for_errands()
    assert "another window" in hand.studio.toast.text.text()
    other.forget()


def test_a_full_disk_is_said_once_and_work_goes_on(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    placed.settle(kept(placed))
    keeping, said = placed.studio.keeping, []
    keeping.said.connect(said.append)

    def full(*arguments: object) -> None:
        raise FileProblemError("work.glasscap", "the disk is full", "free some space")

    with monkeypatch.context() as patched:
        patched.setattr(keeping._keeper, "keep", full)
        for _ in range(2):
            placed.studio.items.table["duplicate"]()
            keeping.keep()
            placed.settle(lambda: not keeping._is_busy)
    assert len(said) == 1
    assert "the disk is full" in said[0]
    placed.settle(kept(placed))
    assert keeping.is_current


def test_the_list_holds_two_at_most(qapp: QApplication) -> None:
    folders = [left_behind(f"job {n}").folder for n in range(3)]
    assert len(set(folders)) == 3
    start = StartView()
    assert len(start.kept.rows) == 2
    start.deleteLater()


def test_steps_without_a_pause_are_kept_within_two_seconds(placed: Hand) -> None:
    placed.settle(kept(placed))
    keeping, session = placed.studio.keeping, placed.session
    made = {id(session.committed): (session.committed, time.monotonic())}
    worst, end = 0.0, time.monotonic() + 6
    # On a busy machine six seconds are not enough for fifty steps.
    while time.monotonic() < end or len(made) <= 50:
        placed.key(Qt.Key.Key_Right)
        made.setdefault(id(session.committed), (session.committed, time.monotonic()))
        QTest.qWait(20)
        # The oldest step that would be lost if the window fell now.
        later = [at for job, at in made.values() if at > made[id(keeping._kept)][1]]
        worst = max(worst, time.monotonic() - min(later, default=time.monotonic()))
    assert worst < 2.0


def test_what_was_said_goes_when_keeping_works_again(placed: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    keeper, keep = placed.studio.keeping._keeper, placed.studio.keeping._keeper.keep

    def fails(*asked: object) -> None:
        raise FileProblemError("0" * 64, "the disk is full", "free some space")

    monkeypatch.setattr(keeper, "keep", fails)
    placed.key(Qt.Key.Key_Right)
    toast = placed.studio.toast
    placed.settle(lambda: toast.isVisible())
    assert toast.text.text() == "Unsaved work cannot be kept aside (the disk is full); save the job to be safe"
    # It is as true in every other view.
    placed.do("export")
    placed.do("export")
    assert toast.isVisible()
    monkeypatch.setattr(keeper, "keep", keep)
    placed.key(Qt.Key.Key_Right)
    placed.settle(lambda: not toast.isVisible())


def test_what_ends_after_the_window_or_belongs_to_another_job_is_dropped(placed: Hand) -> None:
    session, keeping = placed.session, Keeping(placed.session, placed.studio.shell)
    done: Future[None] = Future()
    done.set_result(None)
    keeping._on_done(empty_job(), new_store(), done)
    assert keeping._kept is None
    keeping.stop()
    keeping._on_done(session.committed, session.store, done)
    assert not keeping._timer.isActive()
