"""A photo's metadata: what is kept, and that two libraries find it in every file."""

import io
from pathlib import Path

import numpy as np
import pytest
import tifffile
from PIL import Image

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.formats.metadata import photo_exif, with_density
from glasscap.core.formats.registry import encode_pixels
from glasscap.core.formats.tags import Tags
from tests.samples import encoded, noise_rgba

# EXIF 2.32, tables 4, 5, 8 and 15: maker, camera's exposure time, its date, and the latitude.
MAKER, EXPOSURE, TAKEN, LATITUDE = 0x010F, 0x829A, 0x9003, 0x0002
EXIF, GPS, ORIENTATION, WIDTH = 0x8769, 0x8825, 0x0112, 0xA002


def camera_photo(**more: object) -> bytes:
    exif = Image.Exif()
    exif[MAKER], exif[ORIENTATION], exif[0x011A] = "Pellowick", 6, 72.0
    exif[EXIF] = {EXPOSURE: 0.008, TAKEN: "2026:05:02 10:30:00", WIDTH: 4000}
    exif[GPS] = {1: "N", LATITUDE: (50.0, 12.0, 3.5)}
    return encoded(Image.new("RGB", (40, 30), "#7a5"), "JPEG", exif=exif, **more)


def found_in(data: bytes) -> Image.Exif:
    with Image.open(io.BytesIO(data)) as image:
        image.load()
        return image.getexif()


@pytest.mark.parametrize("kind", ["png", "indexed", "webp", "avif", "jpeg", "tiff"])
def test_camera_and_location_are_in_every_format(kind: str) -> None:
    exif = with_density(photo_exif(camera_photo()), 300)
    data = encode_pixels(noise_rgba(33, 21, alpha=True), FileOptions(kind), Tags(ppi=300, exif=exif))
    found = found_in(data)
    # Without an orientation a picture is upright.
    assert (found[MAKER], found.get(ORIENTATION, 1), float(found[0x011A])) == ("Pellowick", 1, 300)
    assert float(found.get_ifd(EXIF)[EXPOSURE]) == pytest.approx(0.008)
    assert found.get_ifd(EXIF)[TAKEN] == "2026:05:02 10:30:00"
    assert [float(v) for v in found.get_ifd(GPS)[LATITUDE]] == [50, 12, 3.5]
    # The photo's own size is not the picture's.
    assert WIDTH not in found.get_ifd(EXIF)


def test_a_tiff_with_metadata_is_read_by_another_library() -> None:
    rgba = noise_rgba(33, 21, alpha=True)
    data = encode_pixels(rgba, FileOptions("tiff"), Tags(ppi=300, exif=photo_exif(camera_photo())))
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        assert len(file.pages) == 1
        tags = file.pages[0].tags
        assert np.array_equal(file.pages[0].asarray(), rgba)
        assert (tags["Make"].value, tags["ExifTag"].value["DateTimeOriginal"]) == (
            "Pellowick",
            "2026:05:02 10:30:00",
        )
        assert tags["GPSTag"].value["GPSLatitudeRef"] == "N"
        # TIFF 6.0, section 2: entries in the order of their tags.
        assert [t.code for t in tags] == sorted(t.code for t in tags)


@pytest.mark.parametrize("name", ["damaged_tags1.tif", "damaged_tags2.tif"])
def test_damaged_tags_are_left_out(name: str) -> None:
    data = (Path(__file__).parents[2] / "faults" / name).read_bytes()
    kept = Image.Exif()
    kept.load(photo_exif(data) or b"Exif\0\0II*\0\x08\0\0\0\0\0\0\0\0\0")
    assert set(kept) <= {0x010E, 0x011A, 0x011B, 0x0128, ORIENTATION}


def test_how_a_files_own_pixels_lie_is_no_metadata() -> None:
    tiff = encoded(Image.new("RGB", (9, 7)), "TIFF", tiffinfo={MAKER: "Pellowick"})
    assert {256, 257, 273} < set(found_in(tiff))
    kept = Image.Exif()
    kept.load(photo_exif(tiff))
    assert set(kept) == {MAKER, ORIENTATION}
    assert photo_exif(encoded(Image.new("RGB", (4, 4)), "JPEG")) == b""
    assert photo_exif(b"nothing") == b""
