"""Every pixel format over random colours, profiles, densities, depths and metadata, read by two libraries."""

import io

import cv2
import numpy as np
import pytest
import tifffile
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.document.model.paint import rgba_of
from glasscap.core.formats.profiles import p3_profile
from glasscap.core.formats.read_back import check_file, read_back
from glasscap.core.formats.registry import encode_pixels
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import premultiplied

COLOURS = st.integers(0, 0xFFFFFF).map(lambda n: f"#{n:06x}")
SIDE, FLAT = 96, slice(32, 64)


def exif_of(words: str) -> bytes:
    made = Image.Exif()
    made[0x010E], made[0x011A], made[0x011B] = words, 72.0, 72.0
    return made.tobytes()


TAGS = st.builds(
    Tags,
    st.sampled_from([b"", p3_profile()]),
    st.none() | st.sampled_from([72.0, 96.0, 300.0]) | st.floats(10, 1200),
    st.sampled_from([b"", exif_of("Pellowick Kiln Trail")]),
)


def picture(colour: str, bits: int, alpha: int) -> np.ndarray:
    """A clear picture with a flat square of a colour in the middle, its rim soft."""
    deep = np.zeros((SIDE, SIDE, 4), np.uint16)
    red, green, blue = (channel * 257 for channel in rgba_of(colour)[:3])
    deep[...] = (red, green, blue, 0)
    deep[16:80, 16:80, 3] = alpha * 257 // 2
    deep[20:76, 20:76, 3] = alpha * 257
    return deep if bits == 16 else (deep >> 8).astype(np.uint8)


def by_pillow(data: bytes) -> np.ndarray:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGBA"))


def by_opencv(data: bytes) -> np.ndarray:
    found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    return cv2.cvtColor(found, cv2.COLOR_BGR2RGBA if found.shape[2] == 3 else cv2.COLOR_BGRA2RGBA)


def by_tifffile(data: bytes) -> np.ndarray:
    return tifffile.imread(io.BytesIO(data))


@settings(max_examples=200, deadline=None)
@given(COLOURS, COLOURS, st.integers(10, 100), st.booleans(), TAGS)
def test_jpeg_has_its_colours_in_every_reader(ground: str, colour: str, quality: int, is_small: bool, tags: Tags):
    options = FileOptions("jpeg", background=ground, quality=quality, is_small=is_small)
    rgba = picture(colour, 8, 255)
    data = encode_pixels(rgba, options, tags)
    for read in (by_pillow, by_opencv):
        found = read(data).astype(int)
        assert np.abs(found[:8, :8, :3] - rgba_of(ground)[:3]).max() <= 4, (read, ground)
        assert np.abs(found[FLAT, FLAT, :3] - rgba_of(colour)[:3]).max() <= 4, (read, colour)
    check_file(data, rgba, options, tags, "x.jpg")
    check_tags(data, tags)


def check_tags(data: bytes, tags: Tags, *, has_density: bool = True) -> None:
    """The file says what it was told: profile, density, metadata."""
    with Image.open(io.BytesIO(data)) as image:
        icc, dpi, exif = image.info.get("icc_profile") or b"", image.info.get("dpi"), image.getexif()
    assert icc == tags.icc
    if tags.ppi is not None and has_density:
        # JFIF and PNG round: to whole px an inch, to whole px a metre.
        assert float(dpi[0]) == pytest.approx(tags.ppi, abs=0.51)
    if tags.exif:
        assert exif[0x010E] == "Pellowick Kiln Trail"


KINDS = ("png", "indexed", "webp", "avif", "tiff")


@settings(max_examples=200, deadline=None)
@given(
    st.sampled_from(KINDS),
    COLOURS,
    st.integers(1, 255),
    st.booleans(),
    st.sampled_from([8, 16]),
    st.booleans(),
    st.integers(40, 100),
    TAGS,
)
def test_every_format_is_read_alike(kind, colour, alpha, is_lossless, bits, is_premultiplied, quality, tags):
    bits = bits if kind in ("png", "tiff") else 8
    options = FileOptions(
        kind, is_lossless=is_lossless, bits=bits, is_premultiplied=is_premultiplied, quality=quality
    )
    rgba = picture(colour, bits, alpha)
    data = encode_pixels(rgba, options, tags)
    check_file(data, rgba, options, tags, "x")
    most = 65535 if bits == 16 else 255
    wanted = premultiplied(rgba).astype(float) / most
    own = premultiplied(read_back(data, "x").pixels).astype(float) / most
    other = (by_tifffile if kind == "tiff" else by_opencv if kind != "avif" else by_pillow)(data)
    is_associated = kind == "tiff" and is_premultiplied
    other = (other if is_associated else premultiplied(other)).astype(float) / most
    slack = {"png": 0.0, "tiff": 1.01 / most}.get(kind, 4 / 255)
    slack = 0.0 if kind == "webp" and is_lossless else slack
    for found in (own, other):
        assert found.shape == wanted.shape
        assert np.abs(found[FLAT, FLAT] - wanted[FLAT, FLAT]).max() <= slack
        assert np.abs(found[:8, :8] - wanted[:8, :8]).max() <= slack
    # WebP and AVIF have no place for a density.
    check_tags(data, tags, has_density=kind not in ("webp", "avif"))
