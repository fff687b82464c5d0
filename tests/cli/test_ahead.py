"""The photo of a call decoded ahead: which, and that nothing else comes of it than without."""

from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from glasscap.cli import ahead
from glasscap.cli.main import main
from glasscap.core.errors import PhotoError
from glasscap.core.formats import photo_jpeg
from glasscap.core.formats.photo import read_photo
from tests.samples import encoded, noise_rgba, read_pixels


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    path = tmp_path / "plate.jpg"
    path.write_bytes(encoded(Image.fromarray(noise_rgba(40, 30)).convert("RGB"), "JPEG"))
    return path


@pytest.fixture(autouse=True)
def nothing_begun(monkeypatch: pytest.MonkeyPatch) -> list:
    begun: list[tuple[bytes, object]] = []
    monkeypatch.setattr(photo_jpeg, "_BEGUN", begun)
    return begun


def begin(*arguments: str | Path) -> None:
    ahead.begin([str(a) for a in arguments])


@pytest.mark.parametrize(
    "arguments", ["{}", "-o out.png {}", "--output out.jpg {}", "--shape heart {} -o out.jpg"]
)
def test_the_photo_is_found_among_the_arguments(arguments: str, photo: Path, nothing_begun: list) -> None:
    begin("cut", *arguments.format(photo).split())
    assert [data for data, _ in nothing_begun] == [photo.read_bytes()]


@pytest.mark.parametrize("arguments", ["", "-o {}", "{}.png", "--output {} plate.png", "-x.jpg", "missing.jpg"])
def test_nothing_else_is(arguments: str, photo: Path, nothing_begun: list) -> None:
    begin("cut", *arguments.format(photo).split())
    assert nothing_begun == []


def test_it_is_taken_once_and_is_the_same(photo: Path, nothing_begun: list) -> None:
    wanted = read_photo(photo.read_bytes(), "plate.jpg").rgba
    begin("cut", photo)
    assert len(nothing_begun) == 1
    assert np.array_equal(read_photo(photo.read_bytes(), "plate.jpg").rgba, wanted)
    assert nothing_begun == []


def test_a_damaged_file_is_told_when_it_is_read(photo: Path) -> None:
    photo.write_bytes(photo.read_bytes()[:-400])
    with pytest.raises(PhotoError, match="plate") as without:
        read_photo(photo.read_bytes(), "plate.jpg")
    begin("cut", photo)
    with pytest.raises(PhotoError, match="plate") as found:
        read_photo(photo.read_bytes(), "plate.jpg")
    assert found.value.line == without.value.line


def test_one_with_too_many_pixels_is_not_decoded(photo: Path, nothing_begun: list) -> None:
    photo_jpeg.decode_ahead(photo.read_bytes(), pixel_limit=40 * 30 - 1)
    assert nothing_begun == []
    photo_jpeg.decode_ahead(photo.read_bytes(), pixel_limit=40 * 30)
    assert len(nothing_begun) == 1


def test_what_is_no_jpeg_is_left_alone(photo: Path, nothing_begun: list) -> None:
    photo.write_bytes(b"no picture")
    begin("cut", photo)
    assert nothing_begun == []


def test_a_cut_takes_it(photo: Path, tmp_path: Path, nothing_begun: list) -> None:
    out = tmp_path / "out.png"
    assert main(["cut", str(photo), "-o", str(out)]) == 0
    assert nothing_begun == []
    whole = read_photo(photo.read_bytes(), "plate.jpg").rgba
    assert np.array_equal(read_pixels(out)[15, 15], whole[15, 20])


@pytest.mark.parametrize("error", [OSError("no driver"), RuntimeError("odd"), MemoryError()])
def test_whatever_goes_wrong_ahead_is_told_where_the_photo_is_asked_for(photo: Path, monkeypatch, error) -> None:
    def fail(data: bytes) -> None:
        raise error

    data = photo.read_bytes()
    monkeypatch.setattr(photo_jpeg, "_whole", fail)
    photo_jpeg.decode_ahead(data, pixel_limit=10**9)
    with pytest.raises(type(error)):
        photo_jpeg.decode_jpeg(data, "jug.jpg")
