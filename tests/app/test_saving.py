"""Saving and opening in the window: the question on close, failed saves, missing photos."""

import errno
import os
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QMessageBox

from glasscap.core.formats.job import write_job
from glasscap.files.jobs import open_job
from tests.app.conftest import Hand, incoming
from tests.samples import png_photo


def test_save_open_and_the_question_on_close(
    placed: Hand, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "cards.glasscap"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "cards"), ""))
    placed.do("save")
    assert placed.session.is_saved
    assert placed.studio.topbar.state.text() == "saved"
    assert open_job(path).job == placed.session.job
    placed.key(Qt.Key.Key_Right)
    assert not placed.session.is_saved
    answers = iter([QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Save])
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: next(answers))
    assert not placed.studio.files.may_leave()
    assert placed.studio.files.may_leave()
    assert open_job(path).job == placed.session.job
    saved = placed.session.job
    placed.do("undo")
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Discard)
    assert placed.studio.files.open(path)
    placed.settle()
    assert placed.session.job == saved
    assert placed.studio.shell.windowTitle() == "cards[*] - Glass Cap"
    placed.do("new")
    assert not placed.studio.has_job


def test_work_saved_on_the_way_to_opening_the_same_file_is_what_opens(
    placed: Hand, tmp_path: Path, monkeypatch
) -> None:
    path = tmp_path / "cards.glasscap"
    assert placed.studio.files.save_to(path)
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)
    moved = placed.session.job
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Save)
    assert placed.studio.files.open(path)
    placed.settle()
    assert placed.session.job == moved


def test_a_failed_save_keeps_the_work_and_says_so(placed: Hand, tmp_path: Path) -> None:
    assert not placed.studio.files.save_to(tmp_path / "no" / "cards.glasscap")
    assert "Not saved" in placed.studio.toast.text.text()
    assert len(placed.session.sheet.items) == 1


def test_a_full_disk_at_save_keeps_work_and_file(placed: Hand, tmp_path: Path, monkeypatch) -> None:
    path = tmp_path / "cards.glasscap"
    assert placed.studio.files.save_to(path)
    before = path.read_bytes()
    placed.bench.setFocus()
    placed.key(Qt.Key.Key_Right)

    def refuse(handle: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", refuse)
    assert not placed.studio.files.save()
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
    assert hand.studio.files.open(path)
    hand.settle()
    assert "linked photo is missing" in hand.studio.toast.text.text()
    hand.do("export")
    assert not hand.studio.workbench.export.write_to(tmp_path)
    assert "blue-plate.png" in hand.studio.workbench.export.list.result_text.text()
    hand.do("export")
    other = tmp_path / "other.png"
    other.write_bytes(png_photo(300, 300, seed=6))
    hand.drop(other, on=hand.item().id)
    (tmp_path / "out").mkdir()
    assert hand.studio.workbench.export.write_to(tmp_path / "out")


def test_a_bad_job_leaves_what_is_open(placed: Hand, tmp_path: Path) -> None:
    bad = tmp_path / "bad.glasscap"
    bad.write_bytes(b"PK nonsense")
    before = placed.session.job
    placed.studio.take(incoming(bad))
    assert placed.session.job is before
    assert "bad.glasscap" in placed.studio.toast.text.text()
