"""Shapes from the command line: drawings, paths, letters, rims; refusals on one line."""

import json
from pathlib import Path

import numpy as np
import pytest

from glasscap.cli.main import main
from glasscap.core.formats.png import write_png
from glasscap.core.formats.svg_shapes import svg_shapes
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import signed_area
from tests.core.raster.known_mattes import known_matte
from tests.samples import png_photo, read_pixels


@pytest.fixture
def photo(tmp_path: Path) -> str:
    path = tmp_path / "photo.png"
    path.write_bytes(png_photo(400, 300))
    return str(path)


def _cut(photo: str, tmp_path: Path, *options: str) -> np.ndarray:
    out = tmp_path / "out.png"
    assert main(["cut", photo, "-o", str(out), "--crop", "sheet", *options]) == 0
    return read_pixels(out)[..., 3] / 255


def test_path_data_lies_where_it_says(photo: str, tmp_path: Path) -> None:
    alpha = _cut(photo, tmp_path, "--shape-path", "M100 50h80v60h-80z")
    assert alpha[50:110, 100:180].min() == 1
    assert alpha.sum() == 4800


def test_a_drawing_is_fitted_or_boxed(photo: str, tmp_path: Path) -> None:
    drawing = tmp_path / "pot.svg"
    drawing.write_text('<svg xmlns="http://www.w3.org/2000/svg"><rect width="20" height="10"/></svg>')
    assert _cut(photo, tmp_path, "--shape-file", str(drawing)).sum() == pytest.approx(400 * 200)
    assert _cut(photo, tmp_path, "--shape-file", str(drawing), "--box", "10,10,100,60").sum() == pytest.approx(
        6000
    )


def test_letters(photo: str, tmp_path: Path) -> None:
    plain = _cut(photo, tmp_path, "--letters", "KILN", "--size", "120")
    heavy = _cut(photo, tmp_path, "--letters", "KILN", "--font", "Oswald", "--weight", "700", "--size", "120")
    light = _cut(photo, tmp_path, "--letters", "KILN", "--font", "Oswald", "--weight", "200", "--size", "120")
    assert heavy.sum() > light.sum() > 500
    rows = np.flatnonzero(plain.any(axis=1))
    assert rows[-1] - rows[0] + 1 == pytest.approx(120 * 0.86, abs=2)
    two = _cut(photo, tmp_path, "--letters", "A\\nB", "--line", "1", "--tracking", "40")
    assert two.any()


def test_rims_and_rounding(photo: str, tmp_path: Path) -> None:
    alpha = _cut(photo, tmp_path, "--rim", "100,150", "200,50", "300,150")
    assert alpha.sum() == pytest.approx(np.pi * 100**2, rel=1e-4)
    ellipse = ["320,150", "200,220", "80,150", "200,80", f"{200 + 120 * 0.6},{150 + 70 * 0.8}"]
    assert _cut(photo, tmp_path, "--rim-ellipse", *ellipse).sum() == pytest.approx(np.pi * 120 * 70, rel=1e-3)
    square = _cut(photo, tmp_path, "--shape", "square", "--box", "50,50,100,100", "--round", "20")
    assert square.sum() == pytest.approx(10000 - (4 - np.pi) * 400, rel=1e-4)


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--shape", "blub"], "there is no such shape"),
        (["--shape-path", "nonsense"], "there is no shape in it"),
        (["--shape-file", "/nowhere/x.svg"], "x.svg"),
        (["--letters", "   "], "nothing to see"),
        (["--letters", "A", "--font", "Nowhere"], "no such font"),
        (["--font", "Anton"], "belongs to --letters"),
        (["--letters", "A", "--rim", "1,1"], "exclude each other"),
        (["--rim", "0,0", "1,1", "2,2"], "lie on a line"),
        (["--rim", "0,0", "x"], "not X,Y"),
        (["--round", "-3"], "out of range"),
        (["--shape-path", "M0 0h5v5z", "--param", "a=1"], "belongs to --shape"),
    ],
)
def test_refusals_are_one_line(photo: str, tmp_path: Path, capsys, options: list[str], words: str) -> None:
    try:
        status = main(["cut", photo, "-o", str(tmp_path / "o.png"), *options])
    except SystemExit as end:
        status = end.code
    said = capsys.readouterr().err
    assert status in (1, 2)
    assert words in said
    assert said.count("\n") == 1
    assert not (tmp_path / "o.png").exists()


def test_fonts_are_listed(capsys) -> None:
    assert main(["fonts", "--json"]) == 0
    fonts = {f["name"]: f for f in json.loads(capsys.readouterr().out)}
    assert sum(f["shipped"] for f in fonts.values()) >= 6
    assert fonts["Oswald"]["weights"] == [200, 700]
    assert main(["fonts"]) == 0
    assert "Pacifico" in capsys.readouterr().out


def test_a_shape_is_written_and_read_again(tmp_path: Path, capsys) -> None:
    out = tmp_path / "star.svg"
    assert main(["shape", "star", "-o", str(out), "--param", "points=7", "--width", "300"]) == 0
    (part,) = svg_shapes(out.read_bytes(), "star.svg")
    assert len(flatten(part.outline, tolerance=1)[0]) == 14
    again = tmp_path / "again.svg"
    assert main(["shape", str(out), "-o", str(again), "--round", "8"]) == 0
    (rounded,) = svg_shapes(again.read_bytes(), "again.svg")
    assert sum(len(c) // 3 for c in rounded.outline.contours) > 14
    assert signed_area(flatten(rounded.outline, tolerance=0.1)[0]) > 0
    assert main(["shape", "star", "-o", str(tmp_path / "star.png")]) == 2


def test_around_an_object_with_a_soft_contour(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    truth = known_matte("hair")
    path = tmp_path / "pot.png"
    path.write_bytes(write_png(np.dstack([truth.rgb, np.full(truth.rgb.shape[:2], 255, np.uint8)])))
    hard = _cut(str(path), tmp_path, "--around", "60,60,280,280")
    assert (hard > 0.5).sum() == pytest.approx((truth.alpha > 0.5).sum(), rel=0.06)
    soft = _cut(str(path), tmp_path, "--around", "60,60,280,280", "--soft", "48", "--clean-rim")
    assert np.abs(soft - truth.alpha).mean() < np.abs(hard - truth.alpha).mean() / 2
    for options, words in (
        (["--around", "60,60,9,9", "--shape", "heart"], "exclude each other"),
        (["--around", "60,60,9,9", "--box", "1,1,9,9"], "exclude each other"),
        (["--around", "60,60,9,9", "--round", "4"], "exclude each other"),
        (["--clean-rim"], "there is no soft contour"),
        (["--soft", "-3"], "Soft contour"),
        (["--soft", "9", "--invert"], "it has no soft contour"),
        (["--around", "900,900,20,20"], "no object stands out there"),
    ):
        assert main(["cut", str(path), "-o", str(tmp_path / "no.png"), *options]) != 0
        assert words in capsys.readouterr().err
    assert not (tmp_path / "no.png").exists()
