"""Reading photographs, against Pillow, LittleCMS facts and the EXIF standard."""

import io
import struct
import zlib

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms

from glasscap.core.errors import PhotoError, PhotoTooBigError
from glasscap.core.formats import photo, row_bands
from glasscap.core.formats.orientation import upright
from glasscap.core.formats.photo import photo_facts, read_draft, read_photo
from tests import profiles
from tests.samples import encoded, noise_rgba, png_photo

RGB = Image.fromarray(noise_rgba(64, 48)[..., :3])
RGBA = Image.fromarray(noise_rgba(64, 48, alpha=True))


@pytest.mark.parametrize("kind", ["PNG", "TIFF", "BMP", "WEBP", "GIF"])
def test_lossless_formats_give_the_pixels(kind: str) -> None:
    source = RGB.quantize(64).convert("RGB") if kind == "GIF" else RGB
    found = read_photo(encoded(source, kind, **({"lossless": True} if kind == "WEBP" else {})), "a")
    assert found.is_opaque
    if kind == "GIF":
        assert found.size == (64, 48)
    else:
        assert np.array_equal(found.rgba[..., :3], np.asarray(source))


@pytest.mark.parametrize("kind", ["JPEG", "AVIF"])
def test_lossy_formats_come_close_to_another_decoder(kind: str) -> None:
    data = encoded(RGB, kind, quality=92)
    other = np.asarray(Image.open(io.BytesIO(data)).convert("RGB")).astype(int)
    assert np.abs(read_photo(data, "a").rgba[..., :3] - other).max() <= 2


def test_grey_and_cmyk_jpeg() -> None:
    grey = read_photo(encoded(RGB.convert("L"), "JPEG"), "a")
    assert np.array_equal(grey.rgba[..., 0], grey.rgba[..., 2])
    solid = Image.new("CMYK", (32, 32), (0, 255, 255, 0))
    red = read_photo(encoded(solid, "JPEG", quality=95), "a").rgba[16, 16]
    assert red[0] > 200
    assert red[1] < 60


@pytest.mark.parametrize("kind", ["PNG", "TIFF", "WEBP"])
def test_own_alpha_is_kept_straight(kind: str) -> None:
    options = {"lossless": True, "exact": True} if kind == "WEBP" else {}
    found = read_photo(encoded(RGBA, kind, **options), "a")
    assert not found.is_opaque
    assert np.array_equal(found.rgba, np.asarray(RGBA))


@pytest.mark.parametrize("mode", ["1", "L", "P", "LA", "RGBA", "RGB"])
def test_every_kind_of_png_is_read_as_pillow_reads_it(mode: str) -> None:
    image = (RGBA if mode in ("LA", "RGBA") else RGB).convert(mode)
    found = read_photo(encoded(image, "PNG"), "a")
    assert np.array_equal(found.rgba, np.asarray(image.convert("RGBA")))


def test_deep_grey_is_rounded() -> None:
    values = np.arange(0, 65536, 257 // 2, np.uint16)[:500].reshape(20, 25)
    found = read_photo(encoded(Image.fromarray(values), "PNG"), "a").rgba
    assert np.array_equal(found[..., 0], np.floor(values / 257 + 0.5))
    assert np.array_equal(found[..., 0], found[..., 2])


def test_the_first_frame_of_an_animation() -> None:
    frames = [Image.new("RGB", (12, 10), colour) for colour in ("red", "blue")]
    found = read_photo(encoded(frames[0], "GIF", save_all=True, append_images=frames[1:]), "a")
    assert found.rgba[5, 5].tolist() == [255, 0, 0, 255]


def test_floating_point_pictures_are_refused_with_a_remedy() -> None:
    done, data = cv2.imencode(".tiff", np.ones((8, 8), np.float32))
    assert done
    with pytest.raises(PhotoError, match="8 or 16 bits"):
        read_photo(data.tobytes(), "light.tif")


def test_palette_transparency() -> None:
    image = RGB.quantize(16)
    found = read_photo(encoded(image, "PNG", transparency=3), "a")
    assert (found.rgba[..., 3] == np.where(np.asarray(image) == 3, 0, 255)).all()


# EXIF 2.32 (CIPA DC-008), tag 274: where the stored row 0 and column 0 are to be seen.
@pytest.mark.parametrize("orientation", range(1, 9))
@pytest.mark.parametrize("kind", ["JPEG", "PNG"])
def test_orientation_as_another_library_reads_it(orientation: int, kind: str) -> None:
    from PIL import ImageOps

    exif = Image.Exif()
    exif[274] = orientation
    data = encoded(RGB, kind, exif=exif)
    other = np.asarray(ImageOps.exif_transpose(Image.open(io.BytesIO(data))).convert("RGB")).astype(int)
    found = read_photo(data, "a")
    assert np.abs(found.rgba[..., :3] - other).max() <= 2
    facts = photo_facts(data, "a")
    assert (facts.width, facts.height) == found.size


def test_stored_top_left_is_seen_top_right_at_6() -> None:
    pixels = np.arange(6, dtype=np.uint8).reshape(2, 3, 1)
    assert upright(pixels, 6)[..., 0].tolist() == [[3, 0], [4, 1], [5, 2]]
    assert np.array_equal(upright(pixels, 1), pixels)


def test_a_profile_is_converted_not_dropped(swapped_profile: bytes) -> None:
    """The profile with red and green swapped (colord-data, CC0) turns red pixels green."""
    red = Image.new("RGB", (8, 8), (255, 0, 0))
    found = read_photo(encoded(red, "PNG", icc_profile=swapped_profile), "a").rgba[4, 4]
    assert found[1] > 200
    assert found[0] < 60


@pytest.fixture
def swapped_profile() -> bytes:
    from pathlib import Path

    path = Path("/usr/share/color/icc/colord/SwappedRedAndGreen.icc")
    if not path.is_file():
        pytest.skip("the Debian package colord-data is not installed")
    return path.read_bytes()


def display_p3() -> bytes:
    from PySide6.QtGui import QColorSpace

    return bytes(QColorSpace(QColorSpace.NamedColorSpace.DisplayP3).iccProfile().data())


def test_display_p3_red_in_srgb() -> None:
    """P3 (200, 60, 50) is near sRGB (216, 50, 42).

    From the published primaries: SMPTE EG 432-1 to IEC 61966-2-1 by a 3 x 3 matrix in linear light
    (CSS Color 4, section 17 gives the matrices).
    """
    icc = display_p3()
    patch = Image.new("RGB", (8, 8), (200, 60, 50))
    found = read_photo(encoded(patch, "PNG", icc_profile=icc), "a").rgba[4, 4, :3]
    linear = _decoded(np.array([200, 60, 50]) / 255)
    to_srgb = np.array(
        [[1.2249401, -0.2249402, 0.0], [-0.0420570, 1.0420571, 0.0], [-0.0196376, -0.0786361, 1.0982735]]
    )
    assert np.abs(found - _encoded(to_srgb @ linear) * 255).max() <= 2
    assert photo_facts(encoded(patch, "PNG", icc_profile=icc), "a").profile


def _decoded(v: np.ndarray) -> np.ndarray:
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)


def _encoded(v: np.ndarray) -> np.ndarray:
    return np.where(v <= 0.0031308, v * 12.92, 1.055 * np.maximum(v, 0) ** (1 / 2.4) - 0.055)


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF", "16 bit"])
def test_a_grey_profile_is_converted(kind: str) -> None:
    """Half of linear light is 188 of 255 in sRGB: 1.055 * 0.502^(1 / 2.4) - 0.055 (IEC 61966-2-1)."""
    icc = profiles.linear_grey()
    if kind == "16 bit":
        data = encoded(Image.fromarray(np.full((8, 8), 128 * 257, np.uint16)), "PNG", icc_profile=icc)
    else:
        data = encoded(Image.new("L", (8, 8), 128), kind, icc_profile=icc)
    assert photo_facts(data, "a").note == ""
    assert photo_facts(data, "a").profile == "linear grey"
    assert np.abs(read_photo(data, "a").rgba[4, 4, :3].astype(int) - 188).max() <= 1


@pytest.mark.parametrize("kind", ["JPEG", "TIFF"])
def test_a_cmyk_profile_is_converted(kind: str) -> None:
    """Half black ink is L* 49.8, so Y = ((L* + 16) / 116)^3 (CIE 1976), which sRGB encodes as 118."""
    half_black = Image.new("CMYK", (16, 16), (0, 0, 0, 128))
    data = encoded(
        half_black, kind, icc_profile=profiles.four_inks(), **({"quality": 98} if kind == "JPEG" else {})
    )
    assert photo_facts(data, "a").note == ""
    found = read_photo(data, "a").rgba[8, 8, :3].astype(int)
    luminance = ((49.8 + 16) / 116) ** 3
    assert np.abs(found - _encoded(np.array(luminance)) * 255).max() <= 3
    plain = read_photo(encoded(half_black, kind), "a").rgba[8, 8, :3].astype(int)
    assert np.abs(plain - found).max() > 5


def test_magenta_ink_is_not_pure_magenta() -> None:
    """CIELAB (48, 74, -3) is near sRGB (206, 3, 124): far from the (255, 0, 255) of inks taken as light."""
    data = encoded(Image.new("CMYK", (16, 16), (0, 255, 0, 0)), "TIFF", icc_profile=profiles.four_inks())
    found = read_photo(data, "a").rgba[8, 8, :3].astype(int)
    assert np.abs(found - np.array([206, 3, 124])).max() <= 12


def test_an_srgb_profile_leaves_the_bytes_alone() -> None:
    icc = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert np.array_equal(read_photo(encoded(RGB, "PNG", icc_profile=icc), "a").rgba[..., :3], np.asarray(RGB))


def test_a_broken_profile_is_noted_and_the_photo_read() -> None:
    data = encoded(RGB, "PNG", icc_profile=b"this is no profile at all")
    assert "broken" in photo_facts(data, "a").note
    assert np.array_equal(read_photo(data, "a").rgba[..., :3], np.asarray(RGB))


def deep_png(values: np.ndarray) -> bytes:
    done, data = cv2.imencode(".png", values)
    assert done
    return data.tobytes()


@pytest.mark.parametrize("channels", [1, 3, 4])
def test_16_bit_is_rounded_not_cut(channels: int) -> None:
    rng = np.random.default_rng(5)
    values = rng.integers(0, 65536, (20, 30, channels), np.uint16)
    found = read_photo(deep_png(values), "a").rgba
    wanted = np.floor(values / 257 + 0.5).astype(int)
    if channels == 1:
        assert np.array_equal(found[..., 0], wanted[..., 0])
    else:
        assert np.array_equal(found[..., :3], wanted[..., 2::-1])
    assert photo_facts(deep_png(values), "a").bits == 16


def test_16_bit_tiff() -> None:
    values = np.random.default_rng(6).integers(0, 65536, (20, 30, 3), np.uint16)
    done, data = cv2.imencode(".tiff", values)
    assert done
    assert np.array_equal(read_photo(data.tobytes(), "a").rgba[..., :3], ((values + 128.0) // 257)[..., ::-1])


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "TIFF", "BMP", "GIF", "WEBP", "AVIF"])
@pytest.mark.parametrize("share", [0.3, 0.8])
def test_a_truncated_file_is_refused_by_name(kind: str, share: float) -> None:
    data = encoded(RGB.resize((200, 150)), kind)
    with pytest.raises(PhotoError, match=r"plate\.jpg"):
        read_photo(data[: int(len(data) * share)], "plate.jpg")


def test_a_truncated_deep_file_is_refused() -> None:
    data = deep_png(np.random.default_rng(6).integers(0, 65536, (60, 80, 3), np.uint16))
    with pytest.raises(PhotoError):
        read_photo(data[: len(data) // 2], "a")


@pytest.mark.parametrize(
    "data", [b"", b"hello", b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff\xe0"], ids=["empty", "text", "png", "jpeg"]
)
def test_what_is_no_picture_is_refused(data: bytes) -> None:
    with pytest.raises(PhotoError) as caught:
        read_photo(data, "note.txt")
    assert caught.value.line.startswith("note.txt: ")


def bomb(side: int) -> bytes:
    header = struct.pack(">IIBBBBB", side, side, 8, 6, 0, 0, 0)

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"0")) + chunk(b"IEND", b"")
    )


def test_a_huge_header_is_refused_before_memory_is_taken() -> None:
    with pytest.raises(PhotoTooBigError, match="3600 million"):
        read_photo(bomb(60_000), "bomb.png")
    with pytest.raises(PhotoTooBigError):
        read_photo(png_photo(100, 100), "a", pixel_limit=9_999)
    assert read_photo(png_photo(100, 100), "a", pixel_limit=10_000).size == (100, 100)


def test_drafts_are_small_and_upright() -> None:
    exif = Image.Exif()
    exif[274] = 6
    data = encoded(RGB.resize((1600, 1200)), "JPEG", exif=exif)
    draft = read_draft(data, "a", 300)
    assert draft is not None
    assert draft.size == (300, 400)
    assert read_draft(data, "a", 1600) is None
    assert read_draft(png_photo(), "a", 10) is None


@pytest.mark.parametrize("mode", ["RGB", "RGBA", "L", "LA", "P", "CMYK", "1"])
def test_a_photo_read_in_bands_is_the_same(mode: str, monkeypatch: pytest.MonkeyPatch) -> None:
    kind = "TIFF" if mode == "CMYK" else "PNG"
    data = encoded(Image.fromarray(noise_rgba(61, 47, alpha=True)).convert("RGB").convert(mode), kind)
    whole = read_photo(data, "a").rgba
    monkeypatch.setattr(row_bands, "_BAND_PX", 61 * 5)
    assert np.array_equal(read_photo(data, "a").rgba, whole)


def test_a_photo_there_is_no_memory_for_is_refused_with_the_figures(monkeypatch: pytest.MonkeyPatch) -> None:
    data = encoded(Image.new("1", (17_000, 17_000)), "PNG")
    monkeypatch.setattr(photo, "memory", lambda: (4 << 30, 1 << 30))
    with pytest.raises(
        PhotoTooBigError, match=r"17000 x 17000 px take 1.7 GB to read, and 1.1 GB of memory are free"
    ):
        read_photo(data, "wall.png")
