"""Calls and files that made the program fall short: one line, the right status, nothing written outside."""

import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import pytest

from glasscap.cli.main import main

FAULTS = Path(__file__).parents[1] / "faults"
BASE = FAULTS / "base.jpg"


class Said(NamedTuple):
    """What a call came to."""

    returncode: int
    stdout: str
    stderr: str


@pytest.fixture
def call(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> Callable[..., Said]:
    """Call the command line in this process, its folder the test's own."""
    monkeypatch.chdir(tmp_path)

    def called(*arguments: object) -> Said:
        capsys.readouterr()
        status = main([*map(os.fspath, map(str, arguments))])
        return Said(status, *capsys.readouterr())

    return called


def call_apart(folder: Path, *arguments: object, **environment: str) -> subprocess.CompletedProcess[str]:
    """Call it as a process: what libraries write by themselves is heard, too."""
    command = [sys.executable, "-m", "glasscap", *map(os.fspath, map(str, arguments))]
    return subprocess.run(
        command, cwd=folder, capture_output=True, text=True, errors="surrogateescape", check=False, timeout=120,
        env={**os.environ, **environment},
    )  # fmt: skip


@pytest.mark.parametrize(
    "arguments",
    [
        ("cut", BASE, "-o", "x.png", "--palette=300"),
        ("cut", BASE, "-o", "x.webp", "--quality", "0"),
        ("cut", BASE, "-o", "x.png", "--carry", "300"),
        ("cut", BASE, "-o", "x.png", "--scale", "1001"),
        ("cut", BASE, "-o", "x.gif"),
        ("cut", BASE, "-o", "x.png", "--letters", ""),
        ("cut", BASE, "-o", "x.png", "--shape-path", ""),
        ("cut", BASE, "-o", "x.png", "--bevel", "outer"),
        ("render", FAULTS / "adj.glasscap", "-o", "x.png", "--cutout", "Nobody"),
    ],
    ids=lambda a: " ".join(str(v) for v in a[3:]),
)
def test_a_wrong_call_is_one_line_and_status_2(
    arguments: tuple[object, ...], call: Callable[..., Said], tmp_path: Path
) -> None:
    done = call(*arguments)
    assert done.returncode == 2
    assert done.stderr.startswith("glasscap: ")
    assert done.stderr.count("\n") == 1
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (("cut", FAULTS / "nested300.svg", "-o", "x.png"), "more than 200 deep"),
        (("cut", FAULTS / "damaged.avif", "-o", "x.png"), "damaged.avif"),
        (("check", FAULTS / "int16.tif"), "int16.tif"),
        (("check", FAULTS / "check_4887.tif"), "check_4887.tif"),
        (("check", FAULTS / "check_1388.bmp"), "check_1388.bmp"),
        (("info", FAULTS / "combwide2x64.glasscap"), "4096 shapes in all"),
        (("cut", "/dev/zero", "-o", "x.png"), "no regular file"),
        (("cut", BASE, "-o", "x.png", "--opacity", "0.001"), "nothing is left of it to see"),
        (("export", FAULTS / "row_dotdot.glasscap", "-o", "out"), "leads out of"),
        (("export", FAULTS / "row_longfolder.glasscap", "-o", "out"), "name is too long"),
    ],
    ids=lambda a: str(a[1].name if isinstance(a, tuple) and isinstance(a[1], Path) else "")[:20],
)  # fmt: skip
def test_what_cannot_be_done_is_one_line(
    arguments: tuple[object, ...], words: str, call: Callable[..., Said], tmp_path: Path
) -> None:
    done = call(*arguments)
    assert done.returncode == 1
    assert done.stderr.startswith("glasscap: ")
    assert done.stderr.count("\n") == 1
    assert words in done.stderr
    assert [p for p in tmp_path.rglob("*") if p.is_file()] == []


@pytest.mark.parametrize("name", ["link_zero", "link_fifo", "backdrop", "fin_innershadow", "fin_bevel", "adj"])
def test_jobs_that_ask_for_everything_are_read_drawn_and_kept(name: str, call: Callable[..., Said]) -> None:
    job = FAULTS / f"{name}.glasscap"
    assert call("info", job).returncode == 0
    assert call("convert", job, "-o", "x.glasscap").returncode == 0
    if not name.startswith("link"):
        assert call("render", job, "-o", "x.png").returncode == 0


def test_one_photo_that_is_damaged_stops_no_other_and_the_folder_is_made(
    call: Callable[..., Said], tmp_path: Path
) -> None:
    done = call("series", FAULTS / "adj.glasscap", FAULTS / "damaged.avif", BASE, "--cutout", "c1", "-o", "a/b")
    assert done.returncode == 1
    assert (tmp_path / "a/b/base.png").is_file()
    assert "damaged.avif" in done.stderr


def test_names_that_are_no_utf_8_go_through_every_stream(tmp_path: Path) -> None:
    photo = tmp_path / os.fsdecode(b"kr\xfcg.jpg")
    photo.write_bytes(BASE.read_bytes())
    for kind in ("utf-8:strict", "ascii:strict"):
        done = call_apart(tmp_path, "cut", photo.name, "-o", os.fsdecode(b"kr\xfcg.png"), PYTHONIOENCODING=kind)
        assert done.returncode == 0, done.stderr
        assert done.stdout.startswith(os.fsdecode(b"kr\xfcg.png"))


@pytest.mark.parametrize("asked", [("--ppi", "20000"), ("--ppi", "0.1")])
def test_a_page_is_as_large_as_a_page_can_be(asked: tuple[str, ...], call: Callable[..., Said]) -> None:
    done = call("cut", BASE, "-o", "x.pdf", *asked)
    assert done.returncode == 0, done.stderr
    assert "no PDF page can have that size" in done.stderr


def test_files_of_one_name_written_side_by_side_are_all_there(tmp_path: Path) -> None:
    command = [sys.executable, "-c", PLACED]
    running = [subprocess.Popen(command, cwd=tmp_path) for _ in range(4)]
    assert [p.wait(60) for p in running] == [0] * 4
    assert len(list(tmp_path.glob("a*.png"))) == 40


PLACED = """
from pathlib import Path
from glasscap.files.atomic import write_numbered
for n in range(10):
    write_numbered(Path("a.png"), b"x" * n)
"""


def test_what_decoders_say_of_damage_is_not_heard(tmp_path: Path) -> None:
    whole = (FAULTS / "own_premultiplied16.tif").read_bytes()
    for at in range(40, len(whole) - 40, len(whole) // 7):
        spoilt = tmp_path / "spoilt.tif"
        spoilt.write_bytes(whole[:at] + b"\xff\x13\x77" + whole[at + 3 :])
        done = call_apart(tmp_path, "cut", spoilt, "-o", "x.png")
        lines = done.stderr.splitlines()
        assert all(line.startswith("glasscap: ") for line in lines), lines
        assert len(lines) <= 1
