"""``glasscap convert``: today's version, photos embedded, linked, or where they were."""

import json
import zipfile
from pathlib import Path

import pytest

from glasscap.cli.main import main
from glasscap.core.formats.job import VERSION, encode_job
from glasscap.files.jobs import open_job, save_job
from glasscap.files.locks import JobHold
from tests.samples import photo_job, png_photo


@pytest.fixture
def job_file(tmp_path: Path) -> Path:
    path = tmp_path / "trail.glasscap"
    save_job(path, *photo_job(png_photo(60, 40), png_photo(40, 30, seed=2)))
    return path


def test_photos_are_linked_and_embedded_again(
    job_file: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out, back = tmp_path / "linked.glasscap", tmp_path / "away" / "whole.glasscap"
    back.parent.mkdir()
    assert main(["convert", str(job_file), "-o", str(out), "--link", "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == {"path": str(out), "embedded": 0, "linked": 2}
    assert sorted(zipfile.ZipFile(out).namelist()) == ["job.json", "mimetype", "preview.png"]
    assert len(list((tmp_path / "linked photos").iterdir())) == 2
    assert main(["convert", str(out), "-o", str(back), "--embed"]) == 0
    opened = open_job(back)
    assert opened.job == open_job(job_file).job
    assert opened.problems == ()


def test_links_follow_into_another_folder(job_file: Path, tmp_path: Path) -> None:
    out, moved = tmp_path / "linked.glasscap", tmp_path / "away" / "moved.glasscap"
    moved.parent.mkdir()
    assert main(["convert", str(job_file), "-o", str(out), "--link"]) == 0
    assert main(["convert", str(out), "-o", str(moved)]) == 0
    opened = open_job(moved)
    assert opened.problems == ()
    assert all(p.link is not None and p.link.startswith("../linked photos/") for p in opened.job.photos)


def test_an_older_version_is_written_as_today_s(job_file: Path, tmp_path: Path) -> None:
    old, out = tmp_path / "old.glasscap", tmp_path / "new.glasscap"
    job = open_job(job_file).job
    body = json.loads(encode_job(job))
    body["version"] = 3
    with zipfile.ZipFile(job_file) as source, zipfile.ZipFile(old, "w") as target:
        for name in source.namelist():
            target.writestr(name, json.dumps(body) if name == "job.json" else source.read(name))
    assert main(["convert", str(old), "-o", str(out)]) == 0
    with zipfile.ZipFile(out) as archive:
        assert json.loads(archive.read("job.json"))["version"] == VERSION
    assert open_job(out).job == job


@pytest.mark.parametrize(
    ("more", "status", "words"),
    [
        (["-o", "out.zip"], 2, "does not end in .glasscap"),
        (["-o", "gone/out.glasscap"], 1, "no such file or folder"),
        (["-o", "out.glasscap", "--embed", "--link"], 2, "not allowed with"),
    ],
)
def test_wrong_calls_are_one_line(
    job_file: Path,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
    more: list[str],
    status: int,
    words: str,
) -> None:
    monkeypatch.chdir(tmp_path)
    try:
        got = main(["convert", str(job_file), *more])
    except SystemExit as left:
        got = left.code
    said = capsys.readouterr().err.splitlines()
    assert got == status
    assert len(said) == 1
    assert words in said[0]
    assert sorted(p.name for p in tmp_path.iterdir()) == ["trail.glasscap"]


def test_a_missing_photo_is_told_and_cannot_be_embedded(
    job_file: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "linked.glasscap"
    assert main(["convert", str(job_file), "-o", str(out), "--link"]) == 0
    next((tmp_path / "linked photos").iterdir()).unlink()
    assert main(["convert", str(out), "-o", str(tmp_path / "whole.glasscap"), "--embed"]) == 1
    assert "the linked photo is missing" in capsys.readouterr().err
    assert not (tmp_path / "whole.glasscap").exists()


def test_a_file_that_a_window_has_open_is_left_alone(
    job_file: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    target, hold = tmp_path / "shown.glasscap", JobHold()
    target.write_bytes(job_file.read_bytes())
    assert hold.take(target)
    assert main(["convert", str(job_file), "-o", str(target), "--link"]) == 1
    assert "open in a window" in capsys.readouterr().err
    assert target.read_bytes() == job_file.read_bytes()
    hold.release()
    assert main(["convert", str(job_file), "-o", str(target), "--link"]) == 0
