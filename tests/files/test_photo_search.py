"""Linked photos that were moved are found near the job by name and bytes, and by nothing else."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from glasscap.files.jobs import open_job, save_job
from tests.samples import photo_job, png_photo


@pytest.fixture
def job_file(tmp_path: Path) -> Path:
    """A job whose photo is linked to a file that is not there."""
    job, store = photo_job(png_photo(60, 40))
    path = tmp_path / "client" / "trail.glasscap"
    path.parent.mkdir()
    photo = replace(job.photos[0], name="jug.png", link="photos/jug.png")
    save_job(path, replace(job, photos=(photo,)), store)
    return path


@pytest.mark.parametrize("place", ["jug.png", "sent/again/JUG.png", "../jug.png", "../scans/jug.png"])
def test_a_moved_photo_is_found(job_file: Path, place: str) -> None:
    target = job_file.parent / place
    target.parent.mkdir(parents=True, exist_ok=True)
    target.write_bytes(png_photo(60, 40))
    before = job_file.read_bytes()
    opened = open_job(job_file)
    assert opened.problems == ()
    assert opened.job.photos[0].link == place
    assert opened.moved == (f"jug.png was found at {place}",)
    assert opened.job.photos[0].sha256 in opened.photos
    assert job_file.read_bytes() == before


@pytest.mark.parametrize(
    ("place", "seed"), [("jug.png", 2), ("other.png", 1), (".hidden/jug.png", 1), ("a/b/c/d/jug.png", 1)]
)
def test_another_picture_another_name_or_too_far_is_not_taken(job_file: Path, place: str, seed: int) -> None:
    target = job_file.parent / place
    target.parent.mkdir(parents=True, exist_ok=True)
    target.write_bytes(png_photo(60, 40, seed=seed))
    opened = open_job(job_file)
    assert "the linked photo is missing" in opened.problems[0].line
    assert opened.moved == ()
    assert opened.job.photos[0].link == "photos/jug.png"


def test_a_changed_photo_is_looked_for_too(job_file: Path) -> None:
    (job_file.parent / "photos").mkdir()
    (job_file.parent / "photos" / "jug.png").write_bytes(png_photo(60, 40, seed=3))
    assert "was changed since" in open_job(job_file).problems[0].line
    (job_file.parent / "jug.png").write_bytes(png_photo(60, 40))
    assert open_job(job_file).job.photos[0].link == "jug.png"
