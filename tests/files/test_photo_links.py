"""Photos embedded, linked, collected beside the job."""

from pathlib import Path

import pytest

from glasscap.core.errors import FileProblemError, PhotoMissingError
from glasscap.files.jobs import new_store, open_job, save_job
from glasscap.files.photo_links import embedded, linked, photos_folder
from tests.core.render.finished_samples import JOB, STORE


def test_there_and_back(tmp_path: Path) -> None:
    path = tmp_path / "trail.glasscap"
    out = linked(JOB, STORE, path)
    assert [p.link for p in out.photos] == [
        f"trail photos/{JOB.photos[0].name.rsplit('.')[0]}.png"
    ] or out.photos[0].link
    save_job(path, out, STORE)
    opened = open_job(path)
    assert opened.problems == ()
    assert opened.job == out
    assert path.stat().st_size < 4000
    again = linked(out, STORE, path)
    assert again == out
    assert embedded(opened.job, opened.photos) == JOB


def test_nobodys_file_is_written_over(tmp_path: Path) -> None:
    path = tmp_path / "trail.glasscap"
    first = linked(JOB, STORE, path).photos[0].link
    (tmp_path / first).write_bytes(b"somebody's")
    second = linked(JOB, STORE, path).photos[0].link
    assert second != first
    assert (tmp_path / first).read_bytes() == b"somebody's"
    assert (tmp_path / second).read_bytes() == STORE.data(JOB.photos[0])


def test_only_linked_ones_are_collected(tmp_path: Path) -> None:
    path = tmp_path / "trail.glasscap"
    assert linked(JOB, STORE, path, only_linked=True) == JOB
    elsewhere = linked(JOB, STORE, tmp_path / "other.glasscap")
    collected = linked(elsewhere, STORE, path, only_linked=True)
    assert collected.photos[0].link.startswith("trail photos/")


def test_problems_are_said(tmp_path: Path) -> None:
    with pytest.raises(PhotoMissingError):
        embedded(JOB, new_store())
    path = tmp_path / "trail.glasscap"
    photos_folder(path).write_text("a file in the way")
    with pytest.raises(FileProblemError):
        linked(JOB, STORE, path)
