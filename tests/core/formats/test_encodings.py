"""Every pixel format written, then read by libraries that did not write it."""

import io
import struct
import subprocess
import sys
import zipfile
import zlib

import cv2
import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.errors import ExportError
from glasscap.core.formats.profiles import p3_profile
from glasscap.core.formats.read_back import check_file, file_facts, read_back
from glasscap.core.formats.registry import encode_pixels, format_of
from glasscap.core.formats.tags import Tags
from tests.core.formats.test_png import chunks
from tests.samples import noise_rgba

SOFT = noise_rgba(61, 47, alpha=True)
DEEP = (SOFT.astype(np.uint16) << 8) | np.random.default_rng(3).integers(0, 256, SOFT.shape).astype(np.uint16)
NONE = Tags()


def by_opencv(data: bytes) -> np.ndarray:
    found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    return cv2.cvtColor(found, cv2.COLOR_BGRA2RGBA)


def by_pillow(data: bytes) -> np.ndarray:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGBA"))


@pytest.mark.parametrize(
    "options",
    [
        FileOptions("png"),
        FileOptions("png", is_small=True),
        FileOptions("webp", is_lossless=True),
        FileOptions("tiff"),
    ],
    ids=lambda o: o.format,
)
def test_two_libraries_read_the_same_pixels(options: FileOptions) -> None:
    data = encode_pixels(SOFT, options, NONE)
    assert np.array_equal(by_pillow(data), SOFT)
    # The other library hands out eight-bit TIFF premultiplied.
    other = tifffile.imread(io.BytesIO(data)) if options.format == "tiff" else by_opencv(data)
    assert np.array_equal(other, SOFT)
    check_file(data, SOFT, options, NONE, "soft")


def test_png_of_16_bits_has_every_level() -> None:
    data = encode_pixels(DEEP, FileOptions("png", bits=16), Tags(ppi=300))
    assert np.array_equal(by_opencv(data), DEEP)
    # W3C PNG 3, 11.2.1: bit depth 16, colour type 6, in network order.
    found = chunks(data)
    assert found[b"IHDR"][8:10] == bytes([16, 6])
    rows = zlib.decompress(found[b"IDAT"])
    assert rows[0] == 2
    assert struct.unpack(">4H", rows[1:9]) == tuple(DEEP[0, 0])
    check_file(data, DEEP, FileOptions("png", bits=16), Tags(ppi=300), "deep")


@pytest.mark.parametrize("pixels", [SOFT, DEEP], ids=["8", "16"])
@pytest.mark.parametrize(("is_premultiplied", "mark"), [(False, 2), (True, 1)])
def test_tiff_marks_its_alpha(pixels: np.ndarray, is_premultiplied: bool, mark: int) -> None:
    options = FileOptions("tiff", bits=8 * pixels.itemsize, is_premultiplied=is_premultiplied)
    data = encode_pixels(pixels, options, Tags(p3_profile(), 300))
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        page = file.pages[0]
        # TIFF 6.0, section 18: ExtraSamples 1 is associated, 2 unassociated alpha.
        assert page.extrasamples == (mark,)
        assert page.tags["XResolution"].value == (300, 1)
        assert page.iccprofile == p3_profile()
        stored = page.asarray()
    if is_premultiplied:
        most = np.iinfo(pixels.dtype).max
        exact = pixels[..., :3] * (pixels[..., 3:] / most)
        assert np.abs(stored[..., :3] - exact).max() <= 0.5 + 1e-6
    else:
        assert np.array_equal(stored, pixels)
    check_file(data, pixels, options, Tags(p3_profile(), 300), "soft")


def soft_disc(side: int = 120) -> np.ndarray:
    """A disc with a wide soft rim over smooth colours."""
    y, x = np.mgrid[:side, :side] - side / 2 + 0.5
    rgba = np.zeros((side, side, 4), np.uint8)
    rgba[..., 0], rgba[..., 1], rgba[..., 2] = 90 + x, 120 + y / 2, 60
    rgba[..., 3] = np.clip((side / 2 - np.hypot(x, y)) / 20 * 255, 0, 255)
    rgba[rgba[..., 3] == 0] = 0
    return rgba


DISC = soft_disc()


def test_avif_keeps_alpha_whole_and_colour_nearly() -> None:
    data = encode_pixels(DISC, FileOptions("avif", quality=80), NONE)
    found = by_pillow(data)
    assert np.array_equal(found[..., 3], DISC[..., 3])
    solid = DISC[..., 3] == 255
    assert np.abs(found[solid].astype(int) - DISC[solid]).mean() < 2
    check_file(data, DISC, FileOptions("avif", quality=80), NONE, "disc")


def test_lossy_webp_keeps_alpha_whole() -> None:
    data = encode_pixels(DISC, FileOptions("webp", quality=70), NONE)
    assert np.array_equal(by_opencv(data)[..., 3], DISC[..., 3])
    assert len(data) < len(encode_pixels(DISC, FileOptions("webp", is_lossless=True), NONE))


@pytest.mark.parametrize("quality", [20, 60, 92])
@pytest.mark.parametrize("colour", ["#ffffff", "#b4532c", "#000000", "#7f8081", "#fb02f0"])
def test_jpeg_corners_are_exactly_the_colour(colour: str, quality: int) -> None:
    data = encode_pixels(DISC, FileOptions("jpeg", background=colour, quality=quality), NONE)
    wanted = [int(colour[n : n + 2], 16) for n in (1, 3, 5)]
    with Image.open(io.BytesIO(data)) as image:
        found = np.asarray(image.convert("RGB"))
    assert found[:8, :8].reshape(-1, 3).tolist() == [wanted] * 64
    other = cv2.cvtColor(cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR), cv2.COLOR_BGR2RGB)
    assert other[:8, :8].reshape(-1, 3).tolist() == [wanted] * 64
    check_file(data, DISC, FileOptions("jpeg", background=colour, quality=quality), NONE, "disc")


@pytest.mark.parametrize("count", [2, 3, 16, 17, 256])
def test_an_indexed_png_has_its_palette_and_bits(count: int) -> None:
    data = encode_pixels(DISC, FileOptions("indexed", colours=count, dither=0.0), Tags(ppi=72))
    found = chunks(data)
    entries = len(found[b"PLTE"]) // 3
    assert entries <= count
    # W3C PNG 3, 11.2.1 and 11.2.2: colour type 3, and no more entries than the bits can name.
    depth, kind = found[b"IHDR"][8:10]
    assert kind == 3
    assert entries <= 1 << depth <= 256
    assert len(found[b"tRNS"]) <= entries
    # 5.6: PLTE before tRNS, both before IDAT, the colour space before PLTE.
    order = list(found)
    assert order.index(b"sRGB") < order.index(b"PLTE") < order.index(b"tRNS") < order.index(b"IDAT")
    with Image.open(io.BytesIO(data)) as image:
        assert image.mode == "P"
    assert np.array_equal(by_pillow(data), by_opencv(data))
    check_file(data, DISC, FileOptions("indexed", colours=count), Tags(ppi=72), "disc")


@pytest.mark.parametrize("kind", ["png", "indexed", "webp", "avif", "tiff", "jpeg"])
def test_a_profile_is_written_and_found(kind: str) -> None:
    tags = Tags(p3_profile(), 150.0)
    options = FileOptions(kind, profile="p3")
    data = encode_pixels(DISC, options, tags)
    found = read_back(data, "disc")
    assert ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(found.icc))).strip() == "Display P3"
    check_file(data, DISC, options, tags, "disc")


def test_a_damaged_layered_file_is_refused_in_words() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mergedimage.png", encode_pixels(DISC, FileOptions("png"), Tags()))
        packed = archive.getinfo("mergedimage.png").compress_size
    whole, start = out.getvalue(), 30 + len("mergedimage.png")
    for at in range(start, start + packed - 9, 7):
        spoilt = whole[:at] + bytes(b ^ 0xFF for b in whole[at : at + 9]) + whole[at + 9 :]
        with pytest.raises(ExportError):
            read_back(spoilt, "disc.ora")


def test_an_independent_checker_finds_no_fault(tmp_path) -> None:
    for options in (FileOptions("png"), FileOptions("png", bits=16), FileOptions("indexed", colours=9)):
        pixels = DEEP if options.bits == 16 else DISC
        path = tmp_path / f"{options.format}{options.bits}.png"
        path.write_bytes(encode_pixels(pixels, options, Tags(p3_profile(), 300)))
        ran = subprocess.run(["pngcheck", "-q", str(path)], capture_output=True, text=True, check=False)
        assert (ran.returncode, ran.stdout) == (0, ""), ran.stdout


def test_what_differs_is_found() -> None:
    data, options = encode_pixels(DISC, FileOptions("png"), NONE), FileOptions("png")
    for wanted, why in ((DISC[1:], "120 x 120"), (np.where(DISC == 7, 8, DISC), "other pixels")):
        with pytest.raises(ExportError, match=why):
            check_file(data, wanted.astype(np.uint8), options, NONE, "disc")
    with pytest.raises(ExportError, match="another profile"):
        check_file(data, DISC, options, Tags(p3_profile()), "disc")
    clear = DISC.copy()
    clear[..., 3] //= 2
    with pytest.raises(ExportError, match="transparency"):
        check_file(data, clear, options, NONE, "disc")
    with pytest.raises(ExportError, match="no picture"):
        read_back(b"GIF89a nonsense", "x.gif")


def test_facts_tell_of_the_dark_fringe() -> None:
    bare = file_facts(encode_pixels(DISC, FileOptions("png"), Tags(ppi=300)), "disc.png")
    assert (bare.format, bare.width, bare.height, bare.bits, bare.alpha_low, bare.alpha_high) == (
        "PNG",
        120,
        120,
        8,
        0,
        255,
    )
    assert bare.partly_transparent == np.count_nonzero((DISC[..., 3] > 0) & (DISC[..., 3] < 255))
    assert bare.ppi == pytest.approx(300, abs=0.02)
    assert bare.profile == "sRGB"
    assert bare.fringe_risk == "some"
    filled = DISC.copy()
    filled[..., :3] = (100, 120, 60)
    assert file_facts(encode_pixels(filled, FileOptions("png"), NONE), "disc.png").fringe_risk == "none"


def test_endings_name_formats() -> None:
    assert format_of(".PNG").name == "png"
    assert format_of(".jpeg").name == "jpeg"
    with pytest.raises(ExportError, match=r"no format has this ending; end it in \.png"):
        format_of(".gif")
    with pytest.raises(ExportError, match="16383"):
        encode_pixels(np.zeros((1, 16400, 4), np.uint8), FileOptions("webp"), NONE)


def test_avif_is_the_same_whatever_processors_there_are() -> None:
    code = """
import hashlib, os, sys
import numpy as np, cv2
os.sched_setaffinity(0, list(os.sched_getaffinity(0))[: int(sys.argv[1])])
from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.formats.registry import encode_pixels
from glasscap.core.formats.tags import Tags
small = np.random.default_rng(1).integers(0, 255, (30, 40, 4)).astype(np.uint8)
rgba = cv2.resize(small, (700, 520), interpolation=cv2.INTER_CUBIC)
print(hashlib.sha256(encode_pixels(rgba, FileOptions("avif", quality=70), Tags())).hexdigest())
"""
    made = [
        subprocess.run([sys.executable, "-c", code, n], capture_output=True, text=True, check=True).stdout
        for n in ("1", "64")
    ]
    assert made[0] == made[1]
