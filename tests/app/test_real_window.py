"""One real window on a virtual X screen, driven by X events; the written file is read by two libraries."""

import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import cv2
import numpy as np
import pytest

import glasscap
from glasscap.cli.main import main
from glasscap.core.formats.png import write_png
from glasscap.core.formats.read_back import read_back
from tests.samples import png_photo, read_pixels

SCENARIO = Path(__file__).parent / "real_window.py"
FINISHING = Path(__file__).parent / "real_finishing.py"
SHAPES = Path(__file__).parent / "real_shapes.py"
EXPORT = Path(__file__).parent / "real_export.py"
SERIES = Path(__file__).parent / "real_series.py"
CARDS = Path(__file__).parent / "real_cards.py"
SHAKEN = Path(__file__).parent / "shaken.py"
ROOT = str(Path(__file__).parents[2])
NEEDED = ("Xvfb", "xdotool", "xclip")


@pytest.fixture
def display() -> Iterator[str]:
    missing = [tool for tool in NEEDED if shutil.which(tool) is None]
    if missing:
        pytest.fail(f"the real window needs {' and '.join(missing)}: apt-get install xvfb xdotool xclip")
    read, write = os.pipe()
    call = ["Xvfb", "-displayfd", str(write), "-screen", "0", "1400x900x24", "-nolisten", "tcp"]
    server = subprocess.Popen(call, pass_fds=[write], stderr=subprocess.DEVNULL)
    os.close(write)
    with os.fdopen(read) as pipe:
        number = pipe.readline().strip()
    yield f":{number}"
    server.terminate()
    server.wait()


def played(scenario: Path, display: str, *arguments: Path) -> dict:
    """Run a scenario on a display; return what it prints last."""
    environment = {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb", "PYTHONPATH": ROOT}
    environment.pop("WAYLAND_DISPLAY", None)
    done = subprocess.run(
        [sys.executable, str(scenario), *map(str, arguments)],
        env=environment, capture_output=True, text=True, timeout=300, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    return json.loads(done.stdout.splitlines()[-1])


@pytest.mark.screen
def test_finishes_by_hand(display: str, tmp_path: Path) -> None:
    photo = tmp_path / "blue-plate.png"
    photo.write_bytes(png_photo(700, 600))
    out = tmp_path / "out"
    out.mkdir()
    seen = played(FINISHING, display, photo, out)
    assert seen["platform"] == "xcb"
    first, second = seen["strokes"]["strokes"]
    assert first["width"] == pytest.approx(15, abs=2)
    assert second["gap"] == first["width"]
    # It began as wide as the first and was pulled 6 px wider.
    assert second["width"] == pytest.approx(first["width"] + 6, abs=2)
    assert second["join"] == "mitre"
    (shadow,) = seen["lights"]["lights"]["shadows"]
    assert shadow["blur"] == pytest.approx(40, abs=5)
    # The lamp was carried from above to the upper left, far away: the shadow falls to the lower right.
    assert shadow["dx"] > 40
    assert 10 < shadow["dy"] < shadow["dx"]
    assert seen["feathered"]["edge"] == {"inset": 5.0, "feather": 600.0}
    assert seen["edge"]["edge"] == {"inset": 5.0, "feather": 8.0}
    edge = seen["done"]["edge"]
    assert edge["rough"]["amount"] == pytest.approx(8, abs=2)
    assert edge["mask"]["x"] == pytest.approx(0.25, abs=0.02)
    assert seen["done"]["lights"]["bevel"]["width"] == pytest.approx(18, abs=3)
    # Margins begin as 30 px (4.5 % of 600, round), a heavy bottom is 3.5 times that.
    assert seen["done"]["mount"]["bottom"] == 105
    assert seen["whole"]["content"]["adjustments"]["exposure_ev"] > 0
    assert seen["whole"]["opacity"] == pytest.approx(0.8, abs=0.05)
    assert seen["backdrop"]["paint"] == "colour"
    assert seen["set"]["strokes"] and seen["set"] != seen["done"]
    assert seen["reopened"]
    command = tmp_path / "command.png"
    call = ["render", str(out / "dressed.glasscap"), "--cutout", "Blue plate", "-o", str(command)]
    assert main(call) == 0
    assert Path(seen["written"]).read_bytes() == command.read_bytes()
    assert np.array_equal(
        read_pixels(command), cv2.cvtColor(cv2.imread(seen["written"], -1), cv2.COLOR_BGRA2RGBA)
    )


def _disc_photo() -> bytes:
    """A light disc of radius 180 about (350, 300) on a dark, noisy ground, 700 x 600."""
    rng = np.random.default_rng(3)
    y, x = np.mgrid[:600, :700] + 0.5
    share = np.clip(180 - np.hypot(x - 350, y - 300) + 0.5, 0, 1)
    rgba = np.full((600, 700, 4), 255, np.uint8)
    rgba[..., :3] = np.clip(50 + 150 * share + rng.normal(0, 4, share.shape), 0, 255)[..., None]
    return write_png(rgba)


@pytest.mark.screen
def test_every_way_to_a_shape_by_hand(display: str, tmp_path: Path) -> None:
    photo = tmp_path / "disc.png"
    photo.write_bytes(_disc_photo())
    out = tmp_path / "out"
    out.mkdir()
    seen = played(SHAPES, display, photo, out)
    first = seen["first"]
    steps = ("library", "drawn", "edited", "rim", "followed", "around", "combined", "letters")
    # No shape ever moves the photo.
    assert all(seen[name]["content"] == first["content"] for name in steps)
    assert seen["library"]["shape"]["name"] == "heart"
    assert seen["drawn"]["shape"]["kinds"] == "cccc"
    assert seen["drawn"]["place"]["width"] == pytest.approx(320, abs=4)
    assert seen["edited"]["place"]["width"] == pytest.approx(350, abs=4)
    for name in ("rim", "followed", "around"):
        place = seen[name]["place"]
        assert (place["x"], place["y"]) == pytest.approx((350, 300), abs=3), name
        assert (place["width"], place["height"]) == pytest.approx((360, 360), abs=5), name
    assert seen["followed"]["shape"]["way"]
    assert [p.get("does", "add") for p in seen["combined"]["shape"]["parts"]] == ["add", "subtract"]
    assert seen["combined"]["shape"]["parts"][1]["width"] == pytest.approx(80)
    assert seen["letters"]["shape"]["letters"]["text"] == "POT\nluck"
    assert seen["reopened"]
    command = tmp_path / "command.png"
    assert main(["render", str(out / "shapes.glasscap"), "--cutout", "POT luck", "-o", str(command)]) == 0
    assert Path(seen["written"]).read_bytes() == command.read_bytes()


@pytest.mark.screen
def test_the_main_job_by_hand(display: str, tmp_path: Path) -> None:
    photo = tmp_path / "blue-plate.png"
    photo.write_bytes(png_photo(400, 300))
    out = tmp_path / "out"
    out.mkdir()
    seen = played(SCENARIO, display, photo, out)
    assert seen["platform"] == "xcb"
    assert seen["dropped"] == [200, 150, 200, 150, 300]
    moved, shaped, both, typed = seen["photo"], seen["shape"], seen["both"], seen["typed"]
    assert moved[:2] == pytest.approx([230, 170], abs=4)
    assert moved[2:] == seen["dropped"][2:]
    assert shaped[:2] == moved[:2]
    assert shaped[2:4] == pytest.approx([180, 160], abs=8)
    assert both[0] - shaped[0] == both[2] - shaped[2] == pytest.approx(15, abs=6)
    assert both[1] - shaped[1] == both[3] - shaped[3]
    assert typed[4] == 168
    assert seen["undone"]
    assert seen["steps"] == 4
    assert seen["redone"]
    assert seen["saved"]
    assert seen["reopened"]
    assert seen["closed"]
    assert "written and read back: 168 × 168 px" in seen["said"].replace("\N{NO-BREAK SPACE}", " ")
    _check_written(Path(seen["written"]), out)


def _check_written(written: Path, out: Path) -> None:
    """The file equals the command line's for the same job, as two other libraries read it."""
    command = out / "command.png"
    assert main(["render", str(out / "cards.glasscap"), "--cutout", "Blue plate", "-o", str(command)]) == 0
    assert written.read_bytes() == command.read_bytes()
    one = read_pixels(written)
    assert np.array_equal(one, read_pixels(command))
    other = cv2.imread(str(written), cv2.IMREAD_UNCHANGED)
    assert np.array_equal(cv2.cvtColor(other, cv2.COLOR_BGRA2RGBA), one)
    assert one.shape == (168, 168, 4)


@pytest.mark.screen
def test_every_format_is_written_and_the_picture_handed_out_by_hand(display: str, tmp_path: Path) -> None:
    photo = tmp_path / "blue-plate.png"
    photo.write_bytes(png_photo(500, 420))
    out = tmp_path / "out"
    out.mkdir()
    seen = played(EXPORT, display, photo, out)
    endings = [Path(p).suffix for p in seen["written"]]
    assert endings == [".png", ".png", ".webp", ".avif", ".tif", ".svg", ".pdf", ".ora", ".jpg"]
    whole = glasscap.cut(photo.read_bytes()).array
    for path in map(Path, seen["written"]):
        pixels = read_back(path.read_bytes(), path.name, whole.shape[1::-1]).pixels
        assert pixels.shape == whole.shape
        if path.suffix in (".tif", ".ora") or path.name == "blue-plate.png":
            assert np.array_equal(pixels, whole)
    # What another toolkit's window was given is the picture itself, alpha and all.
    for key in ("pasted", "dropped_bytes"):
        data = np.frombuffer(bytes.fromhex(seen[key]), np.uint8)
        found = cv2.cvtColor(cv2.imdecode(data, cv2.IMREAD_UNCHANGED), cv2.COLOR_BGRA2RGBA)
        assert np.array_equal(found, whole)
    assert Path(seen["dropped"]).name == "blue-plate.png"
    assert seen["closed"]


@pytest.mark.screen
def test_a_card_set_by_hand(display: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    photo = tmp_path / "blue-plate.png"
    photo.write_bytes(png_photo(600, 500))
    out = tmp_path / "out"
    out.mkdir()
    seen = played(CARDS, display, photo, out)
    assert seen["waiting"] == ["KILN", True]
    assert seen["inner"] == [True, True, 2]
    assert seen["tree"] == [[["Group 2", [["Group", ["Blue plate", "KILN"]]]]]]
    assert seen["open"]
    assert seen["typed"] == "KILNS"
    assert seen["closed"] == [True, True]
    assert (seen["versions"], seen["faint"], seen["full"]) == (["Version 1", "Version 2"], 0.4, 1.0)
    assert (seen["sheets"], seen["mockup"]) == (2, "badge")
    assert seen["reopened"]
    assert (out / "client.pdf").read_bytes().startswith(b"%PDF-1.4")
    assert main(["info", str(out / "cards.glasscap"), "--json"]) == 0
    (outer,) = json.loads(capsys.readouterr().out)["sheets"][0]["cutouts"]
    assert outer["items"][0]["items"][1]["text"] == "KILNS"
    again = tmp_path / "again.pdf"
    assert main(["mockup", str(out / "cards.glasscap"), "-o", str(again), "--all-versions"]) == 0
    assert again.read_bytes() == (out / "client.pdf").read_bytes()


@pytest.mark.screen
def test_a_series_by_hand(display: str, tmp_path: Path) -> None:
    out, again = tmp_path / "out", tmp_path / "again"
    for folder in (out, again):
        folder.mkdir()
    photos = [tmp_path / name for name in ("blue-plate.png", "tall-jug.png", "shelf.png", "tile.png")]
    for seed, path in enumerate(photos):
        path.write_bytes(png_photo(300 + 100 * (seed % 2), 500 - 100 * seed, seed=seed))
    seen = played(SERIES, display, photos[0], out, *photos[1:])
    assert (seen["cards"], seen["drawn"]) == (["Tall jug", "Shelf", "Tile"], True)
    assert seen["sheets"] == [["Blue plate"], ["Tall jug", "Shelf"]]
    assert seen["undo"] == "Make a series"
    assert [Path(p).name for p in seen["written"]] == ["tall-jug.png", "shelf.png"]
    call = ["series", str(out / "one.glasscap"), *map(str, photos[1:3]), "--cutout", "Blue plate"]
    assert main([*call, "--placing", "alike", "-o", str(again)]) == 0
    for path in map(Path, seen["written"]):
        assert path.read_bytes() == (again / path.name).read_bytes()


@pytest.mark.screen
def test_random_input_raises_nothing(display: str) -> None:
    """The short form of `script/shake`."""
    environment = {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb", "PYTHONPATH": ROOT}
    done = subprocess.run(
        [sys.executable, str(SHAKEN), "6", "7"],
        env=environment, capture_output=True, text=True, timeout=300, check=False,
    )  # fmt: skip
    seen = json.loads(done.stdout.splitlines()[-1])
    assert seen["faults"] == []
    assert seen["events"] > 10
