"""The exact contract of the command line."""

import io
import json
import os
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

import glasscap
from glasscap.cli.main import main
from glasscap.core.document.edits import items as edits
from glasscap.core.formats import read_back as read_back_module
from glasscap.core.formats.read_back import ReadBack, read_back
from glasscap.core.shapes.kinds import library_shape
from glasscap.files.jobs import save_job
from tests.core.document.strategies import JOB, STORE
from tests.samples import encoded, noise_rgba, png_photo, read_pixels

PIXELS = noise_rgba(400, 300)


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    path = tmp_path / "plate.png"
    path.write_bytes(png_photo(400, 300))
    return path


@pytest.fixture
def job(tmp_path: Path) -> Path:
    path = tmp_path / "cards.glasscap"
    save_job(path, edits.update_sheet(JOB, "s1", lambda s: replace(s, name="Card front")), STORE)
    return path


def run(capsys: pytest.CaptureFixture[str], *arguments: str | Path) -> tuple[int, str, str]:
    try:
        status = main([str(a) for a in arguments])
    except SystemExit as end:
        status = int(end.code or 0)
    out, err = capsys.readouterr()
    return status, out, err


def test_cut_writes_the_largest_circle(capsys, photo: Path, tmp_path: Path) -> None:
    out = tmp_path / "out.png"
    status, said, _ = run(capsys, "cut", photo, "-o", out, "--json")
    assert status == 0
    assert json.loads(said) == {"path": str(out), "width": 300, "height": 300, "x": 50, "y": 0}
    rgba = read_pixels(out)
    assert np.array_equal(rgba[150, 150], PIXELS[150, 200])
    assert rgba[0, 0].tolist() == [0, 0, 0, 0]


@pytest.mark.parametrize(
    ("arguments", "expected"),
    [
        (["--box", "10.4,20,168,168"], (168, 168, 10, 20)),
        (["--shape", "rectangle", "--box", "10,20,100,50", "--param", "corner=9"], (100, 50, 10, 20)),
        (["--shape", "ellipse"], (400, 300, 0, 0)),
        (["--crop", "sheet"], (400, 300, 0, 0)),
        (["--invert"], (400, 300, 0, 0)),
        (["--scale", "0.5"], (150, 150, 50, 0)),
        (["--scale", "2", "--crop", "shape", "--box", "0,0,50,50"], (100, 100, 0, 0)),
    ],
    ids=lambda v: " ".join(v) if isinstance(v, list) else "",
)
def test_cut_sizes_and_places(
    capsys, photo: Path, tmp_path: Path, arguments: list[str], expected: tuple[int, ...]
) -> None:
    out = tmp_path / "out.png"
    status, said, _ = run(capsys, "cut", photo, "-o", out, "--json", *arguments)
    found = json.loads(said)
    assert status == 0
    assert (found["width"], found["height"], found["x"], found["y"]) == expected
    assert read_pixels(out).shape[1::-1] == expected[:2]


def test_python_gives_the_same_pixels(capsys, photo: Path, tmp_path: Path) -> None:
    out = tmp_path / "out.png"
    run(capsys, "cut", photo, "-o", out, "--shape", "rectangle", "--param", "corner=30", "--scale", "1.5")
    found = glasscap.cut(photo.read_bytes(), shape="rectangle", params={"corner": 30.0}, scale=1.5)
    assert np.array_equal(read_pixels(out), found.array)


def test_rounded_corners_have_the_handbook_area(capsys, photo: Path, tmp_path: Path) -> None:
    """400 x 300 with 30 px corners: w h - (4 - pi) r^2 = 119 227.43 px^2."""
    out = tmp_path / "out.png"
    run(capsys, "cut", photo, "-o", out, "--shape", "rectangle", "--param", "corner=30")
    assert read_pixels(out)[..., 3].sum() / 255 == pytest.approx(119_227.43, abs=0.5)


@pytest.mark.parametrize(
    ("arguments", "status", "words"),
    [
        (["cut", "gone.jpg", "-o", "out.png"], 1, ["gone.jpg", "no such"]),
        (["cut", "{photo}", "-o", "out.gif"], 2, [".gif", "no format has this ending"]),
        (["cut", "{photo}", "-o", "no/out.png"], 1, ["out.png", "no such"]),
        (["cut", "{text}", "-o", "out.png"], 1, ["note.txt", "not a picture"]),
        (["cut", "{empty}", "-o", "out.png"], 1, ["empty.png", "empty"]),
        (["cut", ".", "-o", "out.png"], 1, ["folder"]),
        (["cut", "{photo}"], 2, ["-o"]),
        (["cut", "{photo}", "-o", "o.png", "--box", "1,2,3"], 2, ["--box"]),
        (["cut", "{photo}", "-o", "o.png", "--box", "1,2,nan,4"], 2, ["--box"]),
        (["cut", "{photo}", "-o", "o.png", "--box", "1,2,0,4"], 2, ["--box"]),
        (["cut", "{photo}", "-o", "o.png", "--box", "1,2,30,40"], 2, ["--box", "ellipse"]),
        (["cut", "{photo}", "-o", "o.png", "--scale", "-1"], 2, ["--scale"]),
        (["cut", "{photo}", "-o", "o.png", "--scale", "inf"], 2, ["--scale"]),
        (["cut", "{photo}", "-o", "o.png", "--shape", "blob"], 2, ["--shape"]),
        (["cut", "{photo}", "-o", "o.png", "--param", "corner=2"], 2, ["corner"]),
        (["cut", "{photo}", "-o", "o.png", "--param", "corner"], 2, ["--param"]),
        (["cut", "{photo}", "-o", "o.png", "--box", "9000,0,10,10"], 1, ["visible"]),
        (["cut", "{photo}", "-o", "o.png", "--pixel-limit", "100"], 1, ["plate.png", "limit"]),
        (["render", "{photo}", "-o", "o.png"], 1, ["plate.png", "job file"]),
        (["render", "{job}", "-o", "o.png", "--sheet", "Nope"], 2, ["Nope", "Card front"]),
        (["render", "{job}", "-o", "o.png", "--cutout", "Nope"], 2, ["Nope", "Sample 1"]),
        (["render", "{job}", "-o", "nowhere", "--all"], 1, ["nowhere"]),
        (["render", "{job}", "-o", ".", "--all", "--sheet", "x"], 2, ["--all"]),
        (["info", "gone.glasscap"], 1, ["gone.glasscap"]),
        (["--frobnicate"], 2, ["--frobnicate"]),
    ],
    ids=lambda v: " ".join(v) if isinstance(v, list) and len(v) > 2 else "",
)  # fmt: skip
def test_problems_are_one_line(
    capsys,
    photo: Path,
    job: Path,
    tmp_path: Path,
    monkeypatch,
    arguments: list[str],
    status: int,
    words: list[str],
) -> None:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "note.txt").write_text("hello")
    (tmp_path / "empty.png").write_text("")
    before = sorted(p.name for p in tmp_path.iterdir())
    names = {"photo": "plate.png", "job": "cards.glasscap", "text": "note.txt", "empty": "empty.png"}
    found, out, err = run(capsys, *[a.format(**names) for a in arguments])
    assert found == status
    assert out == ""
    assert len(err.strip().splitlines()) == 1
    assert all(word in err for word in words), err
    assert sorted(p.name for p in tmp_path.iterdir()) == before


def test_no_permission(capsys, photo: Path, tmp_path: Path, monkeypatch) -> None:
    def refuse(*asked: object) -> int:
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(os, "open", refuse)
    status, _, err = run(capsys, "cut", photo, "-o", tmp_path / "o.png")
    assert status == 1
    assert "permission" in err


def test_a_broken_profile_is_noted(capsys, tmp_path: Path) -> None:
    path = tmp_path / "odd.png"
    path.write_bytes(encoded(Image.fromarray(PIXELS[..., :3]), "PNG", icc_profile=b"nonsense"))
    status, _, err = run(capsys, "cut", path, "-o", tmp_path / "o.png")
    assert status == 0
    assert "odd.png: its colour profile is broken" in err


def test_render_one_and_all(capsys, job: Path, tmp_path: Path) -> None:
    out = tmp_path / "sheet.png"
    status, said, _ = run(capsys, "render", job, "-o", out, "--json")
    assert status == 0
    assert json.loads(said)["width"] == JOB.sheets[0].width
    status, said, _ = run(
        capsys, "render", job, "-o", out, "--cutout", "Sample 2", "--sheet", "Card front", "--json"
    )
    assert json.loads(said)["width"] == 120
    folder = tmp_path / "all"
    folder.mkdir()
    status, said, _ = run(capsys, "render", job, "-o", folder, "--all", "--json")
    assert status == 0
    assert sorted(p.name for p in folder.iterdir()) == [
        "Card front.png",
        "Sample 1.png",
        "Sample 2.png",
        "Sample 3.png",
    ]
    assert len(said.splitlines()) == 4


def test_shapes_and_info(capsys, photo: Path, job: Path) -> None:
    _, said, _ = run(capsys, "shapes", "--json")
    shapes = {s["name"]: s for s in json.loads(said)}
    assert {"circle", "ellipse", "rectangle", "heart", "scallop"} < set(shapes)
    assert len(shapes) >= 60
    assert shapes["rectangle"]["parameters"][0]["name"] == "corner"
    _, said, _ = run(capsys, "info", photo, "--json")
    assert json.loads(said)["width"] == 400
    _, said, _ = run(capsys, "info", job, "--json")
    found = json.loads(said)
    assert [c["name"] for c in found["sheets"][0]["cutouts"]] == ["Sample 1", "Sample 2", "Sample 3"]
    _, said, _ = run(capsys, "info", job)
    assert "Card front" in said
    _, said, _ = run(capsys, "shapes")
    assert said.startswith("circle")


def test_standard_input_and_output(photo: Path) -> None:
    call = [sys.executable, "-m", "glasscap", "cut", "-", "-o", "-", "--json"]
    done = subprocess.run(call, input=photo.read_bytes(), capture_output=True, check=True)
    assert Image.open(io.BytesIO(done.stdout)).size == (300, 300)
    assert json.loads(done.stderr)["path"] == "-"


def called(*arguments: str) -> "subprocess.CompletedProcess[str]":
    return subprocess.run([sys.executable, "-m", "glasscap", *arguments], capture_output=True, text=True)


def test_a_command_leaves_with_its_status_and_all_it_had_to_say(capsys: pytest.CaptureFixture[str]) -> None:
    done = called("shapes")
    assert main(["shapes"]) == 0
    assert (done.returncode, done.stdout, done.stderr) == (0, capsys.readouterr().out, "")
    failed = called("cut", "no such photo.jpg", "-o", "-")
    assert (failed.returncode, failed.stdout) == (1, "")
    assert failed.stderr.startswith("glasscap: no such photo.jpg") and failed.stderr.count("\n") == 1
    assert called("cut").returncode == 2 and called("--version").stdout.startswith("glasscap ")


def test_output_there_is_no_room_for_is_told_in_one_line() -> None:
    with open("/dev/full", "w") as full:
        command = [sys.executable, "-m", "glasscap", "shapes"]
        done = subprocess.run(command, stdout=full, stderr=subprocess.PIPE, text=True)
    assert done.returncode == 1 and done.stderr.count("\n") == 1
    assert done.stderr.startswith("glasscap: standard output: ")


def test_who_stops_reading_is_not_told_of_it() -> None:
    command = [sys.executable, "-m", "glasscap", "shapes"]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as running:
        assert running.stdout is not None and running.stderr is not None
        running.stdout.close()
        assert running.stderr.read() == b""


def test_the_command_line_needs_no_toolkit() -> None:
    code = (
        "import sys, glasscap.cli.main, glasscap.python.cutting, glasscap.editor.frames, glasscap.editor.proofs,"
        " glasscap.editor.comparing, glasscap.editor.clipboard;"
        "sys.exit(any(m.startswith(('PySide6', 'shiboken6', 'scipy')) for m in sys.modules))"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_hole_and_plain_share_the_edge() -> None:
    plain = glasscap.cut(png_photo(400, 300), crop="sheet").array[..., 3].astype(int)
    hole = glasscap.cut(png_photo(400, 300), keeps="outside", crop="sheet").array[..., 3]
    assert np.abs(plain + hole - 255).max() <= 1
    assert library_shape("circle", "outside").keeps == "outside"


def test_a_file_that_is_read_back_otherwise_is_not_written(
    capsys, photo: Path, tmp_path: Path, monkeypatch
) -> None:
    def spoilt(data: bytes, *rest: object) -> ReadBack:
        return replace(read_back(data, *rest), pixels=np.zeros((300, 300, 4), np.uint8))

    monkeypatch.setattr(read_back_module, "read_back", spoilt)
    for arguments in (("cut", photo), ("cut", photo, "--background", "#f4e9d8")):
        out = tmp_path / "out.png"
        status, _, said = run(capsys, *arguments, "-o", out)
        assert status != 0
        assert "out.png: it was read back with" in said
        assert not out.exists()
