"""Display P3 against published numbers, and profiles against a colour management library."""

import io
from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms

from glasscap.core.formats.icc import D65, P3_PRIMARIES, SRGB_PRIMARIES, rgb_to_xyz, to_d50
from glasscap.core.formats.metadata import photo_exif
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.formats.profiles import from_srgb, p3_profile, photo_icc, to_p3
from tests.samples import encoded, noise_rgba

# CSS Color 4, 19 (sample code): lin_sRGB_to_XYZ and lin_P3_to_XYZ.
CSS_SRGB = [
    [506752 / 1228815, 87881 / 245763, 12673 / 70218],
    [87098 / 409605, 175762 / 245763, 12673 / 175545],
    [7918 / 409605, 87881 / 737289, 1001167 / 1053270],
]
CSS_P3 = [
    [608311 / 1250200, 189793 / 714400, 198249 / 1000160],
    [35783 / 156275, 247089 / 357200, 198249 / 2500400],
    [0, 32229 / 714400, 5220557 / 5000800],
]
# CSS Color 4, 19: D65_to_D50 (Bradford).
CSS_D50 = [
    [1.0479297925449969, 0.022946870601609652, -0.05019226628920524],
    [0.02962780877005599, 0.9904344267538799, -0.017073799063418826],
    [-0.009243040646204504, 0.015055191490298152, 0.7518742814281371],
]


def test_matrices_are_the_published_ones() -> None:
    assert np.abs(rgb_to_xyz(SRGB_PRIMARIES) - CSS_SRGB).max() < 1e-6
    assert np.abs(rgb_to_xyz(P3_PRIMARIES) - CSS_P3).max() < 1e-6
    assert np.abs(to_d50(D65) - CSS_D50).max() < 2e-4


def test_the_profiles_header_is_as_published() -> None:
    # ICC.1:2010, 7.2 and table 17: size 0, version 8, class 12, space 16, connection space 20, signature 36,
    # rendering intent 64, the connection space's illuminant 68 (D50: F6D6, 10000, D32D), creator 80.
    icc = p3_profile()
    assert int.from_bytes(icc[:4]) == len(icc)
    assert (icc[8], icc[12:24], icc[36:40]) == (4, b"mntrRGB XYZ ", b"acsp")
    assert icc[64:68] == bytes(4)
    assert icc[68:80].hex() == "0000f6d6000100000000d32d"
    assert icc[80:128] == bytes(48)


def test_a_strict_png_reader_takes_the_profile(capfd: pytest.CaptureFixture[str]) -> None:
    pixels = np.zeros((4, 4, 4), np.uint8)
    data = write_png(pixels, PngOptions(icc=p3_profile()))
    assert cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED) is not None
    # libpng looks at profiles and says what is wrong with one.
    assert "iCCP" not in capfd.readouterr().err


def lab(rgb: np.ndarray, icc: bytes | None) -> np.ndarray:
    """CIELAB by LittleCMS, shape (n, 3), to a fraction of a unit."""
    source = ImageCms.createProfile("sRGB") if icc is None else ImageCms.ImageCmsProfile(io.BytesIO(icc))
    xyz = ImageCms.buildTransform(source, ImageCms.createProfile("LAB"), "RGB", "LAB", renderingIntent=1)
    found = np.asarray(ImageCms.applyTransform(Image.fromarray(rgb[None]), xyz))[0].astype(float)
    return found * [100 / 255, 1, 1] - [0, 128, 128]


def delta_e_2000(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    """CIEDE2000 (Sharma, Wu and Dalal 2005)."""
    (l1, a1, b1), (l2, a2, b2) = one.T, other.T
    mean_c = (np.hypot(a1, b1) + np.hypot(a2, b2)) / 2
    g = 0.5 * (1 - np.sqrt(mean_c**7 / (mean_c**7 + 25**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    dh = (h2 - h1 + 180) % 360 - 180
    dh = np.where(c1 * c2 == 0, 0, dh)
    big_h = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(dh / 2))
    mean_l, mean_cc = (l1 + l2) / 2, (c1 + c2) / 2
    mean_h = np.where(c1 * c2 == 0, h1 + h2, (h1 + dh / 2) % 360)
    t = (
        1
        - 0.17 * np.cos(np.radians(mean_h - 30))
        + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6))
        - 0.2 * np.cos(np.radians(4 * mean_h - 63))
    )
    sl = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    sc, sh = 1 + 0.045 * mean_cc, 1 + 0.015 * mean_cc * t
    rt = (
        -2
        * np.sqrt(mean_cc**7 / (mean_cc**7 + 25**7))
        * np.sin(np.radians(60 * np.exp(-(((mean_h - 275) / 25) ** 2))))
    )
    dl, dc, dhh = (l2 - l1) / sl, (c2 - c1) / sc, big_h / sh
    return np.sqrt(dl**2 + dc**2 + dhh**2 + rt * dc * dhh)


def test_the_difference_formula_gives_the_published_values() -> None:
    # Sharma, Wu and Dalal 2005, table 1, pairs 1, 7, 17, 25.
    one = np.array([(50, 2.6772, -79.7751), (50, 0, 0), (50, 2.5, 0), (60.2574, -34.0099, 36.2677)], float)
    two = np.array([(50, 0, -82.7485), (50, -1, 2), (73, 25, -18), (60.4626, -34.1751, 39.4387)], float)
    assert delta_e_2000(one, two) == pytest.approx([2.0425, 2.3669, 27.1492, 1.2644], abs=1e-4)


def lab_by_matrix(rgb: np.ndarray, to_xyz: list[list[float]]) -> np.ndarray:
    """CIELAB of encoded values 0 to 1, shape (n, 3), white D65 (CIE 15)."""
    light = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    xyz = light @ np.array(to_xyz).T / np.array(CSS_SRGB).sum(axis=1)
    f = np.where(xyz > (6 / 29) ** 3, np.cbrt(xyz), xyz * (29 / 6) ** 2 / 3 + 4 / 29)
    return np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], axis=1)


@pytest.mark.parametrize(("kind", "most"), [(np.uint8, 255), (np.uint16, 65535)])
def test_colours_in_p3_are_the_same_by_the_published_matrices(kind: type, most: int) -> None:
    steps = np.arange(0, 256, 15)
    grid = np.stack(np.meshgrid(steps, steps, steps), -1).reshape(1, -1, 3)
    rgba = np.concatenate([grid * (most // 255), np.full((1, grid.shape[1], 1), most)], axis=2).astype(kind)
    found = delta_e_2000(
        lab_by_matrix(to_p3(rgba)[0, :, :3] / most, CSS_P3), lab_by_matrix(grid[0] / 255, CSS_SRGB)
    )
    if kind is np.uint16:
        assert found.max() < 0.02
    else:
        # Rounding to eight bits alone, half a level, is up to a whole unit in dark colours.
        assert np.percentile(found, 95) <= 0.5
        assert found.max() < 1.5


def test_a_colour_library_reads_the_profile_the_same_way() -> None:
    steps = np.arange(0, 256, 17, dtype=np.uint8)
    grid = np.stack(np.meshgrid(steps, steps, steps), -1).reshape(1, -1, 3)
    rgba = np.concatenate([grid, np.full((1, grid.shape[1], 1), 255, np.uint8)], axis=2)
    found = delta_e_2000(lab(to_p3(rgba)[0, :, :3], p3_profile()), lab(grid[0], None))
    assert np.percentile(found, 95) <= 1.0
    assert np.median(found) < 0.3


def test_pure_red_is_the_published_p3_value() -> None:
    # CSS Color 4, 10.3, example: sRGB red is color(display-p3 0.917488 0.200287 0.138561).
    red = to_p3(np.array([[[65535, 0, 0, 65535]]], np.uint16))[0, 0] / 65535
    assert red[:3] == pytest.approx([0.917488, 0.200287, 0.138561], abs=2e-4)


def test_into_the_photos_own_profile_and_back() -> None:
    icc = Path("/usr/share/color/icc/colord/SwappedRedAndGreen.icc").read_bytes()
    rgba = noise_rgba(20, 10, alpha=True)
    rgba[0, :3] = 0
    found = from_srgb(rgba, icc)
    assert np.array_equal(found[..., 3], rgba[..., 3])
    assert np.abs(found[1:, :, 0].astype(int) - rgba[1:, :, 1]).mean() < 6
    assert not found[0, :3].any()
    photo = encoded(Image.fromarray(rgba[..., :3]), "JPEG", icc_profile=icc)
    assert photo_icc(photo) == icc
    assert photo_icc(b"nothing") == b""


def test_metadata_comes_upright() -> None:
    exif = Image.Exif()
    exif[0x010F], exif[0x0112] = "Pellowick", 6
    kept = Image.Exif()
    kept.load(photo_exif(encoded(Image.new("RGB", (4, 4)), "JPEG", exif=exif)))
    assert (kept[0x010F], kept[0x0112]) == ("Pellowick", 1)
    assert photo_exif(encoded(Image.new("RGB", (4, 4)), "JPEG")) == b""
