"""``glasscap series`` as programs call it: files read by Pillow, against the window's own way to a picture."""

import json
import os
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.cli.main import main
from glasscap.core.document.edits.items import swap_photo, update_item
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Shadow, Stroke
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.outputs.rows import add_output
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.files.jobs import save_job
from glasscap.files.photos import photo_from_bytes
from tests.samples import cache, photo_job, png_photo, read_pixels

LOOK = Finishes(
    Edge(feather=4), (Stroke(7, side="outside"),), Lights((Shadow(5, 9, 24),)),
)  # fmt: skip
JOB, STORE = photo_job(png_photo(200, 150))
ITEM = JOB.sheets[0].items[0]
DRESSED = update_item(JOB, ITEM.id, lambda i: replace(i, name="Round plate", finishes=LOOK))


@pytest.fixture
def job_path(tmp_path: Path) -> Path:
    path = tmp_path / "plates.glasscap"
    save_job(path, DRESSED, STORE, b"")
    return path


@pytest.fixture
def photos(tmp_path: Path) -> list[str]:
    made = {"tall jug.png": png_photo(120, 220, seed=5), "shelf.png": png_photo(400, 150, seed=6)}
    for name, data in made.items():
        (tmp_path / name).write_bytes(data)
    return [str(tmp_path / name) for name in made]


def call(job_path: Path, *arguments: str) -> list[str]:
    return ["series", str(job_path), "--cutout", "Round plate", *arguments]


def test_every_photo_is_written_as_the_cutout_is(
    job_path: Path, photos: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "out"
    out.mkdir()
    assert main(call(job_path, *photos, "-o", str(out), "--placing", "alike", "--json")) == 0
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [(Path(line["path"]).name, line["what"]) for line in lines] == [
        ("tall-jug.png", "Tall jug"),
        ("shelf.png", "Shelf"),
    ]
    for path, line in zip(photos, lines, strict=True):
        data = Path(path).read_bytes()
        record = photo_from_bytes(data, Path(path).name).record
        STORE.add(data, record.sha256)
        job = swap_photo(DRESSED, ITEM.id, record)
        expected = render(plan_cutout(job, job.sheets[0], job.sheets[0].items[0]), STORE, cache())
        assert np.array_equal(read_pixels(Path(line["path"])), expected.rgba)


def test_pictures_of_one_series_have_one_size_and_one_edge(
    job_path: Path, photos: list[str], tmp_path: Path
) -> None:
    assert main(call(job_path, *photos, "-o", str(tmp_path), "--if-there", "replace")) == 0
    jug, shelf = (read_pixels(tmp_path / name) for name in ("tall-jug.png", "shelf.png"))
    assert np.array_equal(jug[..., 3], shelf[..., 3])


def test_it_goes_out_by_the_cutout_s_rows(job_path: Path, photos: list[str], tmp_path: Path) -> None:
    row = Output(
        "", ITEM.id, OutputSize("longest", width=64), crop="sheet", file=FileOptions("webp"), folder="small"
    )
    save_job(job_path, add_output(DRESSED, row), STORE, b"")
    assert main(call(job_path, *photos)) == 0
    assert sorted(p.name for p in (tmp_path / "small").iterdir()) == ["shelf.webp", "tall-jug.webp"]
    assert max(read_pixels(tmp_path / "small" / "shelf.webp").shape) == 64


def test_what_cannot_be_read_is_told_and_the_others_are_written(
    job_path: Path, photos: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "words.png").write_text("no picture")
    out = tmp_path / "out"
    out.mkdir()
    assert main(call(job_path, *photos, str(tmp_path / "words.png"), "-o", str(out))) == 1
    assert "1 of 3 photos: they could not be read; words.png" in capsys.readouterr().err
    assert len(list(out.iterdir())) == 2


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["--cutout", "Jug"], "there are Round plate"),
        (["--placing", "anywhere"], "invalid choice"),
    ],
    ids=["no such cutout", "no placing"],
)
def test_a_wrong_call_says_why(
    job_path: Path, photos: list[str], arguments: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    try:
        status = main(call(job_path, *photos, *arguments))
    except SystemExit as leaving:
        status = leaving.code
    assert status != 0
    assert words in capsys.readouterr().err


def test_nothing_is_written_over_unasked(
    job_path: Path, photos: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "tall-jug.png").write_bytes(b"mine")
    assert main(call(job_path, *photos)) == 1
    assert "it is there already" in capsys.readouterr().err
    assert (tmp_path / "tall-jug.png").read_bytes() == b"mine"


def test_a_stopped_run_goes_on(
    job_path: Path, photos: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "out"
    out.mkdir()
    go_on = call(job_path, *photos, "-o", str(out), "--continue", "--json")

    def states() -> dict[str, str]:
        assert main(go_on) == 0
        lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
        return {Path(line["path"]).name: line["state"] for line in lines}

    # The first run was stopped after one file.
    assert main(call(job_path, photos[0], "-o", str(out))) == 0
    capsys.readouterr()
    first = (out / "tall-jug.png").stat().st_mtime_ns
    assert states() == {"tall-jug.png": "skipped", "shelf.png": "written"}
    assert (out / "tall-jug.png").stat().st_mtime_ns == first
    assert states() == {"tall-jug.png": "skipped", "shelf.png": "skipped"}
    # A photo that was changed since is done again, and all of them once the job was.
    later = first + 60 * 10**9
    os.utime(photos[1], ns=(later, later))
    assert states() == {"tall-jug.png": "skipped", "shelf.png": "written"}
    os.utime(job_path, ns=(later, later))
    assert states() == {"tall-jug.png": "written", "shelf.png": "written"}


def test_going_on_and_what_becomes_of_files_exclude_each_other(
    job_path: Path, photos: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(call(job_path, *photos, "--continue", "--if-there", "skip")) == 2
    assert "exclude each other" in capsys.readouterr().err
