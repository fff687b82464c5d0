"""PNG files read by two other libraries."""

import io
import struct
import zlib

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from glasscap.core.formats.png import PngOptions, adler32_combined, write_png
from tests.samples import noise_rgba


@pytest.mark.parametrize("is_small", [False, True], ids=["fast", "small"])
@pytest.mark.parametrize("size", [(1, 1), (3, 1), (1, 300), (257, 129), (700, 500)], ids=str)
def test_two_other_libraries_read_the_pixels(size: tuple[int, int], is_small: bool) -> None:
    rgba = noise_rgba(*size, alpha=True)
    data = write_png(rgba, PngOptions(is_small=is_small))
    with Image.open(io.BytesIO(data)) as image:
        assert image.mode == "RGBA"
        assert np.array_equal(np.asarray(image), rgba)
    other = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    assert np.array_equal(cv2.cvtColor(other, cv2.COLOR_BGRA2RGBA), rgba)


def test_parts_of_larger_pictures_can_be_written() -> None:
    rgba = noise_rgba(60, 50)[5:40, 10:33]
    assert np.array_equal(np.asarray(Image.open(io.BytesIO(write_png(rgba)))), rgba)


def chunks(data: bytes) -> dict[bytes, bytes]:
    """W3C PNG Specification, 5.3: length, type, data, CRC over type and data."""
    found, place = {}, 8
    while place < len(data):
        (length,) = struct.unpack(">I", data[place : place + 4])
        kind, body = data[place + 4 : place + 8], data[place + 8 : place + 8 + length]
        (check,) = struct.unpack(">I", data[place + 8 + length : place + 12 + length])
        assert check == zlib.crc32(kind + body)
        found[kind] = found.get(kind, b"") + body
        place += 12 + length
    return found


def test_tags() -> None:
    found = chunks(write_png(noise_rgba(9, 9), PngOptions(pixels_per_inch=300)))
    assert found[b"sRGB"] == b"\0"
    assert struct.unpack(">I", found[b"gAMA"]) == (45455,)
    # 300 ppi is 11811 px per metre (1 in = 0.0254 m).
    assert struct.unpack(">IIB", found[b"pHYs"]) == (11811, 11811, 1)
    assert len(zlib.decompress(found[b"IDAT"])) == 9 * (1 + 9 * 4)


def test_small_is_smaller() -> None:
    rgba = np.zeros((200, 200, 4), np.uint8)
    rgba[..., :3] = np.add.outer(np.arange(200), np.arange(200))[..., None] // 2
    rgba[..., 3] = 255
    assert len(write_png(rgba, PngOptions(is_small=True))) < len(write_png(rgba)) * 0.8


@given(st.binary(max_size=300), st.binary(max_size=300))
def test_adler_of_joined_strings(first: bytes, second: bytes) -> None:
    joined = adler32_combined(zlib.adler32(first), zlib.adler32(second), len(second))
    assert joined == zlib.adler32(first + second)


def test_progress_ends_at_one_and_may_stop() -> None:
    shares: list[float] = []
    write_png(noise_rgba(40, 300), progress=shares.append)
    assert shares[-1] == 1.0

    def stop(share: float) -> None:
        raise InterruptedError

    with pytest.raises(InterruptedError):
        write_png(noise_rgba(900, 700), progress=stop)
