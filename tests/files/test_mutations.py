"""Files damaged in every way are opened or refused in words; nothing is written beside them."""

import random
import struct
from pathlib import Path

import pytest

from glasscap.files.font_book import SHIPPED
from glasscap.files.jobs import save_job
from tests.files.mutations import (
    damaged,
    damaged_drawing,
    drawings,
    mutated,
    photographs,
    try_file,
    try_font,
    try_photo,
)
from tests.samples import photo_job, png_photo


def test_damaged_job_files_are_opened_or_refused(tmp_path: Path) -> None:
    path, chance = tmp_path / "job" / "trail.glasscap", random.Random(3)
    path.parent.mkdir()
    save_job(path, *photo_job(png_photo(60, 40)))
    whole = path.read_bytes()
    became = [try_file(path, mutated(whole, chance), draws=True) for _ in range(150)]
    assert {b for b in became if b not in ("opened", "refused")} == set()
    assert became.count("opened") > 5
    assert became.count("refused") > 50
    assert [p for p in tmp_path.rglob("*") if p not in (path, path.parent)] == []


def outcomes(became: list[str]) -> tuple[int, int]:
    """Count what was opened and what was refused; there is nothing else."""
    assert {b for b in became if b not in ("opened", "refused")} == set()
    return became.count("opened"), became.count("refused")


@pytest.mark.filterwarnings("ignore::UserWarning:PIL")
def test_damaged_photographs_are_read_or_refused(tmp_path: Path) -> None:
    chance, whole = random.Random(5), photographs()
    chosen = [chance.choice(whole) for _ in range(400)]
    became = [try_photo(tmp_path / name, damaged(data, chance)) for name, data in chosen]
    assert min(outcomes(became)) > 50


def test_damaged_drawings_are_drawn_or_refused(tmp_path: Path) -> None:
    chance, whole = random.Random(6), drawings()
    chosen = [chance.choice(whole) for _ in range(60)]
    became = [try_photo(tmp_path / name, damaged_drawing(data, chance)) for name, data in chosen]
    assert min(outcomes(became)) > 10


def test_damaged_fonts_are_used_or_refused(tmp_path: Path) -> None:
    chance, whole = random.Random(7), sorted(SHIPPED.glob("*.ttf"))
    became = []
    for number in range(150):
        source = chance.choice(whole)
        became.append(try_font(tmp_path / f"{number}.ttf", damaged(source.read_bytes(), chance)))
    assert min(outcomes(became)) > 10


@pytest.mark.parametrize("tag", [284, 338, 262])
def test_tags_of_a_deep_tiff_that_are_no_numbers_are_no_fault(tag: int, tmp_path: Path) -> None:
    """Of PlanarConfiguration, ExtraSamples, PhotometricInterpretation (TIFF 6.0)."""
    data = next(data for name, data in photographs() if name == "planar rgba16.tif")
    at = data.index(struct.pack("<HH", tag, 3))
    for kind in (2, 5, 7, 12):
        spoilt = data[:at] + struct.pack("<HH", tag, kind) + data[at + 4 :]
        outcomes([try_photo(tmp_path / "planar.tif", spoilt)])
