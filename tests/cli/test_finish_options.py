"""Finishes on the command line: each option seen in the picture, each fault one line naming the option."""

from pathlib import Path

import numpy as np
import pytest

import glasscap
from glasscap.cli.finish_options import colour
from glasscap.cli.main import main
from tests.core.render.finished_samples import PHOTO, flat_photo
from tests.samples import read_pixels


@pytest.fixture
def photo(tmp_path: Path) -> str:
    path = tmp_path / "flat.png"
    path.write_bytes(flat_photo((40, 160, 220), (200, 160)))
    return str(path)


def cut(photo: str, tmp_path: Path, *options: str) -> np.ndarray:
    out = tmp_path / "out.png"
    assert main(["cut", photo, "-o", str(out), "--box", "50,30,100,100", *options]) == 0
    return read_pixels(out)


@pytest.mark.parametrize(
    ("options", "size"),
    [
        ((), (100, 100)),
        (("--inset", "10"), (80, 80)),
        (("--inset", "-10"), (120, 120)),
        (("--inset", "0"), (100, 100)),
        (("--stroke", "8,red"), (116, 116)),
        (("--stroke", "8,red,inside"), (100, 100)),
        (("--stroke", "8,red,centre"), (108, 108)),
        (("--stroke", "8,red,gap=4", "--stroke", "3,#00ff00"), (124, 124)),
        (("--stroke", "none"), (100, 100)),
        (("--shadow", "-8,12,0,black"), (108, 112)),
        (("--shadow", "0,0,0,black,spread=5"), (110, 110)),
        (("--shadow", "0"), (100, 100)),
        (("--feather", "20,inside"), (98, 98)),
        (("--mount", "5,6,20,7,#fffdf6"), (113, 125)),
        (("--bevel", "10,45,30,outer,softness=0"), (120, 120)),
        (("--inner-shadow", "2,2,6,black"), (100, 100)),
        (("--opacity", "0.5"), (100, 100)),
        (("--backdrop", "teal"), (100, 100)),
        (("--exposure", "-1"), (100, 100)),
    ],
    ids=lambda v: " ".join(v) if v and isinstance(v[0], str) else None,
)  # fmt: skip
def test_the_picture_is_as_large_as_its_finishes(
    photo: str, tmp_path: Path, options: tuple[str, ...], size: tuple[int, int]
) -> None:
    pixels = cut(photo, tmp_path, *options)
    assert (pixels.shape[1], pixels.shape[0]) == pytest.approx(size, abs=2 if "--feather" in options else 1)


def test_colours_are_named_or_written(photo: str, tmp_path: Path) -> None:
    pixels = cut(
        photo, tmp_path, "--shape", "rectangle", "--stroke", "8,rebeccapurple,inside", "--stroke", "6,#11223380"
    )
    assert tuple(pixels[56, 10]) == (0x66, 0x33, 0x99, 255)
    assert tuple(pixels[56, 2]) == (0x11, 0x22, 0x33, 0x80)


def test_a_backdrop_fills_the_picture(photo: str, tmp_path: Path) -> None:
    pixels = cut(photo, tmp_path, "--backdrop", "#102030", "--shadow", "0,6,10,black")
    assert (pixels[..., 3] == 255).all() and tuple(pixels[0, 0, :3]) == (0x10, 0x20, 0x30)


def test_a_set_may_be_begun_with_and_changed(photo: str, tmp_path: Path) -> None:
    plain = cut(photo, tmp_path, "--finishes", "Die cut")
    changed = cut(photo, tmp_path, "--finishes", "Die cut", "--shadow", "none", "--stroke", "4,red")
    assert plain.shape[0] > 136 and changed.shape[0] == 108


def test_strength_and_rough_are_seen(photo: str, tmp_path: Path) -> None:
    soft = cut(photo, tmp_path, "--feather", "20", "--crop", "sheet")
    strong = cut(photo, tmp_path, "--feather", "20", "--strength", "3", "--crop", "sheet")
    assert strong[..., 3].astype(int).sum() < soft[..., 3].astype(int).sum()
    one, two = (cut(photo, tmp_path, "--rough", f"torn,6,{seed}", "--crop", "sheet") for seed in (1, 2))
    assert not np.array_equal(one, two)


def test_python_gives_the_same_pixels(photo: str, tmp_path: Path) -> None:
    picture = glasscap.cut(photo, box=(50, 30, 100, 100), stroke=(8, "#ff0000"), opacity=0.5)
    assert np.array_equal(picture.array, cut(photo, tmp_path, "--stroke", "8,red", "--opacity", "0.5"))


@pytest.mark.parametrize(
    "options",
    [
        ("--inset", "nan"),
        ("--feather", "-3"),
        ("--feather", "5,sideways"),
        ("--strength", "12"),
        ("--rough", "velvet,3"),
        ("--rough", "torn"),
        ("--stroke", "8"),
        ("--stroke", "8,ochreish"),
        ("--stroke", "8,red,dash=0 0"),
        ("--stroke", "8,red,join=sharp"),
        ("--stroke", "8,red,glow=3"),
        ("--shadow", "1,2,red"),
        ("--shadow", "1,2,inf,red"),
        ("--inner-shadow", "1,2,-3,red"),
        ("--glow", "5,gold,outside"),
        ("--bevel", "x"),
        ("--mount", "1,2,3,red"),
        ("--backdrop", "nowhere"),
        ("--opacity", "1.2"),
        ("--exposure", "99"),
        ("--finishes", "velvet"),
    ],
    ids=" ".join,
)
def test_a_fault_is_one_line_naming_the_option(
    photo: str, tmp_path: Path, options: tuple[str, ...], capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "out.png"
    assert main(["cut", photo, "-o", str(out), *options]) == 2
    said = capsys.readouterr().err
    assert said.count("\n") == 1 and options[0] in said and not out.exists()


def test_nothing_left_is_said_and_nothing_written(
    photo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "out.png"
    assert main(["cut", photo, "-o", str(out), "--inset", "500"]) == 1
    assert "nothing" in capsys.readouterr().err and not out.exists()


def test_artwork_is_cut_like_a_photo(tmp_path: Path) -> None:
    drawing = tmp_path / "sign.svg"
    drawing.write_bytes(
        b'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><rect width="40" height="40" fill="#28a0dc"/></svg>'
    )
    out = tmp_path / "out.png"
    assert main(["cut", str(drawing), "-o", str(out), "--scale", "3", "--stroke", "2,black"]) == 0
    pixels = read_pixels(out)
    assert pixels.shape[:2] == (132, 132) and tuple(pixels[66, 66, :3]) == PHOTO


def test_a_colour_by_name_is_known_however_often_it_is_asked_for() -> None:
    assert [colour("Tomato") for _ in range(3)] == ["#ff6347"] * 3
    with pytest.raises(ValueError, match="no colour"):
        colour("tomatoe")


@pytest.mark.parametrize(
    ("options", "is_told"),
    [
        (("--feather", "20"), True),
        (("--feather", "20", "--box", "60,40,80,80"), False),
        (("--feather", "20,inside"), False),
        (("--feather", "8", "--stroke", "14,red"), False),
        ((), False),
    ],
    ids=["to the end", "within", "inside", "beneath a stroke", "crisp"],
)
def test_a_photo_that_ends_within_its_soft_edge_is_told_of(
    photo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], options: tuple[str, ...], is_told: bool
) -> None:
    assert main(["cut", photo, "-o", str(tmp_path / "out.png"), *options]) == 0
    assert ("ends within the edge" in capsys.readouterr().err) == is_told
