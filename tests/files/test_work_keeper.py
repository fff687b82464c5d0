"""Unsaved work is kept aside, found again, and never offered while its window lives."""

import json
import os
import random
import zipfile
from pathlib import Path

import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.sheets import rename_sheet
from glasscap.core.document.model.job import Job
from glasscap.core.errors import FileProblemError, JobFileError
from glasscap.core.photos.store import PhotoStore
from glasscap.files import work_keeper
from glasscap.files.jobs import job_preview
from glasscap.files.kept_work import KeptWork, discard, kept_works
from glasscap.files.work_keeper import WorkKeeper, recover
from tests.files.kill_runs import kill_run
from tests.samples import photo_job, png_photo, read_pixels


@pytest.fixture
def made() -> tuple[Job, PhotoStore]:
    return photo_job(png_photo(64, 48))


def fallen(keeper: WorkKeeper) -> KeptWork:
    """Let go of the lock as a process that ends does, and return what it left."""
    keeper.leave()
    (work,) = kept_works()
    return work


def test_work_is_found_again_with_photos_links_and_a_picture(
    made: tuple[Job, PhotoStore], tmp_path: Path
) -> None:
    job, store = made
    linked = replace(job, photos=tuple(replace(p, link="photos/jug.png") for p in job.photos))
    keeper = WorkKeeper()
    keeper.keep(linked, store, tmp_path / "trail.glasscap", "trail")
    assert keeper.wants_preview
    keeper.keep_preview(job_preview(job, store))
    assert not keeper.wants_preview
    assert kept_works() == []
    work = fallen(keeper)
    got = recover(work)
    assert got.job == linked
    assert got.path == tmp_path / "trail.glasscap"
    assert got.name == work.origin.name == "trail"
    assert got.problems == ()
    assert got.photos.data(job.photos[0]) == store.data(job.photos[0])
    picture = tmp_path / "preview.png"
    picture.write_bytes(work.preview())
    assert read_pixels(picture).shape[2] == 4
    discard(work)
    assert kept_works() == []
    assert not work.folder.exists()


def test_photos_are_written_once(made: tuple[Job, PhotoStore]) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "a")
    assert keeper.folder is not None
    photo = keeper.folder / "photos" / job.photos[0].sha256
    before = photo.stat().st_mtime_ns, photo.stat().st_ino
    keeper.keep(rename_sheet(job, job.sheets[0].id, "Back"), store, None, "a")
    assert (photo.stat().st_mtime_ns, photo.stat().st_ino) == before
    assert recover(fallen(keeper)).job.sheets[0].name == "Back"


def test_adopted_work_is_one_window_s(made: tuple[Job, PhotoStore]) -> None:
    job, store = made
    first, second, third = WorkKeeper(), WorkKeeper(), WorkKeeper()
    first.keep(job, store, None, "a")
    work = fallen(first)
    second.adopt(work)
    assert kept_works() == []
    with pytest.raises(FileProblemError, match="another window"):
        third.adopt(work)
    second.keep(rename_sheet(job, job.sheets[0].id, "Later"), store, None, "a")
    assert second.folder == work.folder
    second.forget()
    assert not work.folder.exists()


def test_a_missing_linked_photo_keeps_its_link(made: tuple[Job, PhotoStore], tmp_path: Path) -> None:
    job, _ = made
    linked = replace(job, photos=tuple(replace(p, link="gone.png") for p in job.photos))
    keeper = WorkKeeper()
    keeper.keep(linked, PhotoStore(lambda *a: None), tmp_path / "trail.glasscap", "trail")  # type: ignore[arg-type, return-value]
    got = recover(fallen(keeper))
    assert got.job == linked
    assert "gone.png" in got.problems[0].line


def test_damaged_work_is_refused_in_words_and_stays(made: tuple[Job, PhotoStore]) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "a")
    work = fallen(keeper)
    (work.folder / "work.glasscap").write_bytes(b"PK\3\4 cut short")
    with pytest.raises(JobFileError, match="damaged"):
        recover(work)
    assert kept_works() == [work] or kept_works()[0].folder == work.folder


@pytest.mark.parametrize("origin", [b"", b"[]", b'{"name": 1}', b'{"name": "a", "path": null, "links": 3}'])
def test_an_unreadable_origin_costs_the_name_only(made: tuple[Job, PhotoStore], origin: bytes) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "a")
    assert keeper.folder is not None
    (keeper.folder / "origin.json").write_bytes(origin)
    work = fallen(keeper)
    assert work.origin.name == "Untitled"
    assert recover(work).job == job


def test_a_full_disk_leaves_what_was_kept(made: tuple[Job, PhotoStore], monkeypatch: pytest.MonkeyPatch) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "a")

    def full(*arguments: object) -> None:
        raise OSError(28, os.strerror(28))

    with monkeypatch.context() as patched:
        patched.setattr(os, "replace", full)
        with pytest.raises(FileProblemError, match="disk is full"):
            keeper.keep(rename_sheet(job, job.sheets[0].id, "Lost"), store, None, "a")
    assert recover(fallen(keeper)).job == job


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everywhere")
def test_a_read_only_folder_is_told(made: tuple[Job, PhotoStore], tmp_path: Path) -> None:
    tmp_path.chmod(0o500)
    with pytest.raises(FileProblemError):
        WorkKeeper(tmp_path).keep(*made, None, "a")
    tmp_path.chmod(0o700)


def test_kept_work_is_a_job_file_with_readable_json(made: tuple[Job, PhotoStore]) -> None:
    keeper = WorkKeeper()
    keeper.keep(*made, None, "a")
    assert keeper.folder is not None
    with zipfile.ZipFile(keeper.folder / work_keeper.WORK) as archive:
        assert json.loads(archive.read("job.json"))["format"] == "glasscap-job"
    keeper.forget()


def test_killed_at_random_moments_nothing_told_safe_is_lost(tmp_path: Path) -> None:
    chance = random.Random(7)
    runs = [kill_run(tmp_path / "state", tmp_path / "trail.glasscap", chance) for _ in range(6)]
    assert sum(run.told for run in runs) > 6
    for run in runs:
        assert run.found >= run.told
        assert run.problems == ()


def test_what_was_saved_rests_with_its_photos_only(made: tuple[Job, PhotoStore]) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "trail")
    folder = keeper.folder
    assert folder is not None
    keeper.rest()
    assert (folder / "photos" / job.photos[0].sha256).is_file()
    keeper.keep_preview(b"none of this is kept")
    assert sorted(p.name for p in folder.iterdir()) == ["lock", "photos"]
    written = (folder / "photos" / job.photos[0].sha256).stat().st_mtime_ns
    keeper.keep(job, store, None, "trail")
    assert (folder / "photos" / job.photos[0].sha256).stat().st_mtime_ns == written
    keeper.rest()
    keeper.leave()
    # A window that fell then left nothing to offer; its folder goes after a while.
    assert kept_works() == []
    assert folder.is_dir()
    os.utime(folder, (0, 0))
    assert kept_works() == []
    assert not folder.exists()


def test_adopted_work_keeps_its_photos_where_they_are(made: tuple[Job, PhotoStore]) -> None:
    job, store = made
    keeper = WorkKeeper()
    keeper.keep(job, store, None, "trail")
    work = fallen(keeper)
    photo = work.folder / "photos" / job.photos[0].sha256
    written = photo.stat().st_mtime_ns
    other = WorkKeeper()
    other.adopt(work)
    other.keep(job, store, None, "trail")
    assert photo.stat().st_mtime_ns == written
    other.forget()
