"""Every kind of picture of 16 bits is that of eight within rounding; an orientation is followed once."""

from pathlib import Path

import cv2
import numpy as np
import pytest
import tifffile

from glasscap.core.errors import ExportError, PhotoError
from glasscap.core.formats.photo import photo_facts, read_photo
from glasscap.core.formats.read_back import file_facts
from tests.samples import noise_rgba

FAULTS = Path(__file__).parents[2] / "faults"


def pixels(name: str) -> np.ndarray:
    path = FAULTS / name
    return read_photo(path.read_bytes(), path.name).rgba.astype(int)


TWINS = {
    "unassalpha16.tif": "planar rgba16.tif",
    "cmyk16.tif": "cmyk8.tif",
    "greyalpha16.tif": "greyalpha8.tif",
    "miniswhite16.tif": "miniswhite8.tif",
    "planar16.tif": "planar8.tif",
    "unspecified16.tif": "unspecified8.tif",
    "ga16.png": "ga8.png",
    "rgb jpeg.jpg": "bmp32.bmp",
}


@pytest.mark.parametrize("deep", TWINS)
def test_sixteen_bits_are_eight_within_rounding(deep: str) -> None:
    assert np.abs(pixels(f"deep/{deep}") - pixels(f"deep/{TWINS[deep]}")).max() <= 1


def test_premultiplied_alpha_is_undone() -> None:
    found, straight = pixels("deep/assocalpha16.tif"), pixels("deep/unassalpha16.tif")
    shown = straight[..., 3] > 8
    assert np.array_equal(found[..., 3], straight[..., 3])
    assert np.abs(found - straight)[shown].max() <= 1
    # And what this program writes itself.
    own = pixels("own_premultiplied16.tif")
    with tifffile.TiffFile(FAULTS / "own_premultiplied16.tif") as file:
        stored = file.pages[0].asarray() / 65535
    alpha = own[..., 3:] / 255
    assert np.abs(own[..., :3] * alpha / 255 - stored[..., :3]).max() < 1.5 / 255


def test_a_grey_that_is_said_to_be_clear_is_clear() -> None:
    eight, deep = pixels("deep/g8 tRNS.png"), pixels("deep/g16 tRNS.png")
    assert (eight[..., 3] == 0).sum() == (deep[..., 3] == 0).sum() > 0
    assert np.array_equal(eight[..., 3], deep[..., 3])


def test_a_tiff_is_turned_once() -> None:
    turned, wanted = pixels("orient/rotated6.tif"), pixels("orient/rotated6.jpg")
    assert turned.shape == wanted.shape
    assert np.abs(turned - wanted).mean() < 2
    facts = photo_facts((FAULTS / "orient/rotated6.tif").read_bytes(), "rotated6.tif")
    assert (facts.height, facts.width) == turned.shape[:2]


@pytest.mark.parametrize("bits", [8, 16])
@pytest.mark.parametrize("orientation", range(1, 9))
def test_every_orientation_of_a_tiff(orientation: int, bits: int, tmp_path: Path) -> None:
    stored = noise_rgba(31, 20)[..., :3]
    path = tmp_path / "a.tif"
    deep = stored.astype(np.uint16) * 257
    extra = [(274, 3, 1, orientation, True)]
    tifffile.imwrite(path, deep if bits == 16 else stored, photometric="rgb", extratags=extra, metadata=None)
    # EXIF 2.32, table 5: which side of the picture the first row and the first column of the file are.
    seen = {
        1: stored, 2: stored[:, ::-1], 3: stored[::-1, ::-1], 4: stored[::-1],
        5: stored.swapaxes(0, 1), 6: np.rot90(stored, -1), 7: stored[::-1, ::-1].swapaxes(0, 1),
        8: np.rot90(stored),
    }[orientation]  # fmt: skip
    data = path.read_bytes()
    assert np.array_equal(read_photo(data, "a.tif").rgba[..., :3], seen)
    facts = photo_facts(data, "a.tif")
    assert (facts.height, facts.width) == seen.shape[:2]


def test_lzw_is_read_by_another_library(tmp_path: Path) -> None:
    deep = noise_rgba(31, 20)[..., :3].astype(np.uint16) * 257
    path = str(tmp_path / "a.tif")
    cv2.imwrite(path, deep[..., ::-1], [cv2.IMWRITE_TIFF_COMPRESSION, 5])
    assert np.array_equal(read_photo(Path(path).read_bytes(), "a.tif").rgba[..., :3], deep // 257)


@pytest.mark.parametrize("name", ["int16.tif", "check_4887.tif", "check_1388.bmp", "damaged.avif"])
def test_what_is_damaged_is_said_in_words(name: str) -> None:
    data = (FAULTS / name).read_bytes()
    with pytest.raises(PhotoError, match=name):
        read_photo(data, name)
    with pytest.raises(ExportError, match=name) as told:
        file_facts(data, name)
    assert "BytesIO" not in str(told.value)
