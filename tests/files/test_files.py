"""The disk: atomic writes, job files with links, pictures checked, recent jobs."""

import errno
import os
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.errors import ExportError, FileProblemError, JobFileError, PhotoMissingError
from glasscap.core.formats.job import write_job
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Picture
from glasscap.files import atomic
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.jobs import new_store, open_job, relinked, save_job
from glasscap.files.pictures import write_picture
from glasscap.files.recent import recent_jobs, remember_job
from tests.core.document.strategies import JOB, STORE
from tests.samples import noise_rgba, photo_job, png_photo, read_pixels


def test_a_write_is_whole_and_leaves_nothing_behind(tmp_path: Path) -> None:
    path = tmp_path / "a.bin"
    write_atomically(path, b"one")
    write_atomically(path, b"two")
    assert path.read_bytes() == b"two"
    assert os.listdir(tmp_path) == ["a.bin"]
    assert path.stat().st_mode & 0o777 == 0o644


@pytest.mark.parametrize(
    ("code", "word"), [(errno.ENOSPC, "full"), (errno.EACCES, "permission"), (errno.EIO, "rror")]
)
def test_a_failed_write_leaves_the_old_file(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, code: int, word: str
) -> None:
    path = tmp_path / "a.bin"
    path.write_bytes(b"old")

    def refuse(handle: int) -> None:
        raise OSError(code, os.strerror(code))

    monkeypatch.setattr(atomic.os, "fsync", refuse)
    with pytest.raises(FileProblemError, match=word):
        write_atomically(path, b"new")
    assert path.read_bytes() == b"old"
    assert os.listdir(tmp_path) == ["a.bin"]


def test_folders_and_missing_places(tmp_path: Path) -> None:
    with pytest.raises(FileProblemError, match="folder"):
        write_atomically(tmp_path, b"x")
    with pytest.raises(FileProblemError, match="no such"):
        write_atomically(tmp_path / "no" / "a", b"x")
    with pytest.raises(FileProblemError, match="folder"):
        read_bytes(tmp_path)
    for work in (lambda path: write_atomically(path, b"x"), read_bytes):
        with pytest.raises(FileProblemError, match="no file can have this name"):
            work(tmp_path / "a\0b")
    with pytest.raises(FileProblemError, match="too long"):
        write_atomically(tmp_path / ("x" * 300), b"x")
    with pytest.raises(FileProblemError, match=r"gone\.jpg"):
        read_bytes(tmp_path / "gone.jpg")


def test_save_and_open(tmp_path: Path) -> None:
    path = tmp_path / "cards.glasscap"
    save_job(path, JOB, STORE, b"")
    opened = open_job(path)
    assert opened.job == JOB
    assert not opened.problems
    assert all(opened.photos.data(p) == STORE.data(p) for p in JOB.photos)


def test_saving_without_a_photo_keeps_the_old_file(tmp_path: Path) -> None:
    path = tmp_path / "cards.glasscap"
    path.write_bytes(b"old")
    with pytest.raises(PhotoMissingError):
        save_job(path, JOB, new_store())
    assert path.read_bytes() == b"old"


def linked(tmp_path: Path) -> Path:
    data = png_photo()
    job, store = photo_job(data)
    (tmp_path / "photos").mkdir()
    (tmp_path / "photos" / "a.png").write_bytes(data)
    job = replace(job, photos=(replace(job.photos[0], link="photos/a.png"),))
    path = tmp_path / "linked.glasscap"
    path.write_bytes(write_job(job, store.data))
    return path


def test_linked_photos_are_found_beside_the_job(tmp_path: Path) -> None:
    opened = open_job(linked(tmp_path))
    assert not opened.problems
    assert opened.photos.pyramid(opened.job.photos[0]).size == (160, 90)


@pytest.mark.parametrize("change", ["missing", "changed"])
def test_a_linked_photo_that_is_not_the_same_is_told(tmp_path: Path, change: str) -> None:
    path, photo = linked(tmp_path), tmp_path / "photos" / "a.png"
    if change == "missing":
        photo.unlink()
    else:
        photo.write_bytes(png_photo(seed=9))
    opened = open_job(path)
    assert change in opened.problems[0].line
    assert opened.problems[0].line.startswith("sample-1.png: ")


def test_links_still_lead_to_the_photo_from_another_folder(tmp_path: Path) -> None:
    opened = open_job(linked(tmp_path))
    other = tmp_path / "kept" / "cards"
    other.mkdir(parents=True)
    moved = relinked(opened.job, tmp_path, other)
    assert moved.photos[0].link == "../../photos/a.png"
    save_job(other / "b.glasscap", moved, opened.photos)
    assert not open_job(other / "b.glasscap").problems
    assert relinked(opened.job, tmp_path, tmp_path) is opened.job
    assert relinked(JOB, tmp_path, other) is JOB


def test_what_is_no_job_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "a.glasscap"
    path.write_bytes(png_photo())
    with pytest.raises(JobFileError):
        open_job(path)


def test_a_picture_is_written_and_read_back(tmp_path: Path) -> None:
    rgba = noise_rgba(50, 40, alpha=True)
    done = write_picture(tmp_path / "a.png", Picture(rgba, 3, -4))
    assert (done.width, done.height, done.x, done.y) == (50, 40, 3, -4)
    assert np.array_equal(read_pixels(done.path), rgba)
    assert done.nbytes == done.path.stat().st_size


def test_the_ending_says_the_format(tmp_path: Path) -> None:
    rgba = noise_rgba(50, 40, alpha=True)
    done = write_picture(tmp_path / "a.tif", Picture(rgba, 0, 0))
    assert np.array_equal(read_pixels(done.path), rgba)
    with pytest.raises(ExportError, match="no format has this ending"):
        write_picture(tmp_path / "a.gif", Picture(noise_rgba(5, 5), 0, 0))


def test_recent_jobs(tmp_path: Path) -> None:
    state = tmp_path / "state"
    for n in range(10):
        path = tmp_path / f"{n}.glasscap"
        path.write_bytes(b"x")
        remember_job(path, float(n), state)
    remember_job(tmp_path / "8.glasscap", 99.0, state)
    (tmp_path / "9.glasscap").unlink()
    found = recent_jobs(state)
    assert [Path(j.path).stem for j in found] == ["8", "7", "6", "5", "4", "3", "2"]
    (state / "recent.json").write_text("{]")
    assert recent_jobs(state) == []


def test_a_store_decodes_once_within_its_budget() -> None:
    counted: list[str] = []

    def decode(data: bytes, name: str):
        from glasscap.core.formats.photo import read_photo

        counted.append(name)
        return read_photo(data, name)

    store = PhotoStore(decode, budget_bytes=10)
    for photo in JOB.photos:
        store.add(STORE.data(photo))
    first, second = JOB.photos[:2]
    store.pyramid(first)
    store.pyramid(first)
    store.pyramid(second)
    assert not store.is_decoded(first)
    assert counted == [first.name, second.name]


def test_a_link_no_file_can_have_is_a_missing_photo(tmp_path: Path) -> None:
    path = tmp_path / "trail.glasscap"
    linked = replace(JOB, photos=tuple(replace(photo, link="a\0b.png") for photo in JOB.photos))
    path.write_bytes(write_job(linked, {}))
    opened = open_job(path)
    assert opened.job == linked
    assert all("no file can have this name" in problem.line for problem in opened.problems)
    assert len(opened.problems) == len(JOB.photos)
