"""Formats, sizes and checks from the command line."""

import io
import json
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.cli.main import main
from glasscap.core.document.model.outputs import FileOptions, Output
from glasscap.core.document.outputs.rows import add_output
from glasscap.files.jobs import save_job
from tests.core.render.finished_samples import JOB, STORE
from tests.samples import png_photo


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    path = tmp_path / "plate.png"
    path.write_bytes(png_photo(200, 160))
    return path


def cut(photo: Path, out: str, *more: str) -> Image.Image:
    path = photo.parent / out
    assert main(["cut", str(photo), "-o", str(path), *more]) == 0
    with Image.open(io.BytesIO(path.read_bytes())) as image:
        image.load()
        return image


@pytest.mark.parametrize(
    ("out", "more", "kind", "mode"),
    [
        ("a.png", (), "PNG", "RGBA"),
        ("a.png", ("--palette",), "PNG", "P"),
        ("a.png", ("--palette=16", "--dither", "0.4", "--small"), "PNG", "P"),
        ("a.webp", ("--lossless",), "WEBP", "RGBA"),
        ("a.webp", ("--quality", "60"), "WEBP", "RGBA"),
        ("a.avif", ("--quality", "70"), "AVIF", "RGBA"),
        ("a.tif", ("--premultiplied", "--ppi", "300"), "TIFF", "RGBA"),
        ("a.jpg", ("--background", "tomato", "--quality", "90"), "JPEG", "RGB"),
    ],
    ids=lambda v: v if isinstance(v, str) else " ".join(v),
)
def test_the_ending_says_the_format(photo: Path, out: str, more: tuple[str, ...], kind: str, mode: str) -> None:
    image = cut(photo, out, *more)
    assert (image.format, image.mode, image.size) == (kind, mode, (160, 160))


@pytest.mark.parametrize(
    ("more", "size"),
    [
        (("--size", "168x168"), (168, 168)),
        (("--size", "longest=64"), (64, 64)),
        (("--size", "width=90", "--margin", "5"), (90, 90)),
        (("--crop", "square", "--shape", "rectangle", "--box", "10,20,100,50"), (100, 100)),
        (("--crop", "centred", "--shadow", "8,12,24,black"), None),
        (("--scale", "1.5", "--margin", "4"), (252, 252)),
    ],
)
def test_sizes_and_crops(photo: Path, more: tuple[str, ...], size: tuple[int, int] | None) -> None:
    found = cut(photo, "a.png", *more).size
    assert found == size if size else found[0] > 160


def test_jpeg_says_what_is_lost(photo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    cut(photo, "a.jpg", "--background", "#102030")
    assert "JPEG has no transparency; laid over #102030" in capsys.readouterr().err


def test_profile_metadata_bits_and_colour_carried(photo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    image = cut(photo, "a.png", "--profile", "p3", "--carry", "4", "--ppi", "150")
    assert b"Display P3".decode().encode("utf-16-be") in image.info["icc_profile"]
    assert image.info["dpi"][0] == pytest.approx(150, abs=0.1)
    assert np.asarray(image)[0, 0, 3] == 0
    capsys.readouterr()
    for more, risk in (((), "some"), (("--carry", "3"), "none")):
        cut(photo, "b.png", "--bits", "16", *more)
        capsys.readouterr()
        assert main(["check", str(photo.parent / "b.png"), "--json"]) == 0
        facts = json.loads(capsys.readouterr().out)
        assert (facts["format"], facts["bits"], facts["width"], facts["alpha_high"]) == ("PNG", 16, 160, 65535)
        assert facts["fringe_risk"] == risk
        assert facts["partly_transparent"] > 100
    assert main(["check", str(photo.parent / "b.png")]) == 0
    assert "fringe risk          none" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("out", "more", "words"),
    [
        ("a.gif", (), "no format has this ending"),
        ("a.webp", ("--palette",), "--palette: it belongs to PNG"),
        ("a.png", ("--quality", "5"), "--quality: it belongs to WebP and AVIF"),
        ("a.png", ("--dither", "0.5"), "--dither: it belongs to PNG, indexed"),
        ("a.png", ("--palette=1",), "Colours: 1 is out of range"),
        ("a.webp", ("--quality", "0"), "Quality: 0 is out of range"),
        ("a.png", ("--size", "0x5"), "0 px is out of range"),
        ("a.png", ("--size", "wide"), "is not WxH"),
        ("a.png", ("--size", "50"), "type size of --letters"),
        ("a.png", ("--size", "9x9", "--scale", "2"), "does not go with --scale"),
        ("a.png", ("--background", "mauvish"), "no colour"),
        ("a.png", ("--carry", "-1"), "out of range"),
        ("a.png", ("--margin", "-2"), "out of range"),
        ("a.png", ("--size", "40000x40001"), "out of range"),
    ],
)
def test_refusals_are_one_line(
    photo: Path, out: str, more: tuple[str, ...], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    try:
        status = main(["cut", str(photo), "-o", str(photo.parent / out), *more])
    except SystemExit as left:
        status = int(left.code or 0)
    err = capsys.readouterr().err
    assert status in (1, 2)
    assert words in err
    assert err.count("\n") == 1
    assert not (photo.parent / out).exists()


def test_the_jobs_list_is_written(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job, item = JOB, JOB.sheets[0].items[0].id
    path = tmp_path / "trail.glasscap"
    save_job(path, job, STORE)
    assert main(["export", str(path)]) == 2
    assert "its export list is empty" in capsys.readouterr().err
    for kind in ("png", "webp"):
        job = add_output(job, Output("", item, file=FileOptions(kind)))
    save_job(path, job, STORE)
    (tmp_path / "out").mkdir()
    assert main(["export", str(path), "-o", str(tmp_path / "out"), "--json"]) == 0
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [Path(v["path"]).name for v in lines] == ["sample-1.png", "sample-1.webp"]
    assert {v["state"] for v in lines} == {"written"}
    assert main(["export", str(path), "-o", str(tmp_path / "out")]) == 1
    assert "it is there already; say --if-there" in capsys.readouterr().err
    assert main(["export", str(path), "-o", str(tmp_path / "out"), "--if-there", "skip"]) == 0
    assert "skipped" in capsys.readouterr().out
    broken = replace(job, outputs=(*job.outputs, Output("o9", item, name="{nothing}")))
    save_job(path, broken, STORE)
    assert main(["export", str(path), "-o", str(tmp_path / "out"), "--if-there", "replace"]) == 1
    assert "1 of 3 files" in capsys.readouterr().err
