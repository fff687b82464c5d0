"""What reading and writing a picture takes of memory, measured in a process of its own."""

import subprocess
import sys
from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.errors import ExportError, PhotoError
from glasscap.core.formats import avif_process
from glasscap.core.formats.by_pillow import write_avif
from glasscap.core.formats.photo import read_photo
from glasscap.core.formats.tags import Tags
from tests.samples import noise_rgba

WIDTH, HEIGHT = 3200, 2400
# A small photo of the same kind is read first: libraries are loaded then.
_MEASURE = """
import resource, sys
from pathlib import Path
from glasscap.core.formats.photo import read_photo
small, large = (Path(path).read_bytes() for path in sys.argv[1:])
read_photo(small, "small")
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
rgba = read_photo(large, "large").rgba
print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024 / rgba.nbytes)
"""


def picture(width: int, height: int, mode: str) -> Image.Image:
    """Rows of noise, each twice: large, and quickly packed."""
    few = noise_rgba(width, -(-height // 50), alpha=True)
    return Image.fromarray(np.tile(few, (50, 1, 1))[:height].copy()).convert("RGBA").convert(mode)


# 1.3 where the decoder needs nothing beside the pixels; a WebP decoder holds all of them a second time.
@pytest.mark.parametrize(
    ("ending", "mode", "how", "most"),
    [
        ("jpg", "RGB", {}, 1.3),
        ("png", "RGB", {"compress_level": 1}, 1.3),
        ("png", "RGBA", {"compress_level": 1}, 1.3),
        ("png", "L", {"compress_level": 1}, 1.5),
        ("tif", "RGB", {"compression": "tiff_lzw"}, 1.3),
        ("bmp", "RGB", {}, 1.3),
        ("gif", "P", {}, 1.5),
        ("webp", "RGBA", {"lossless": True, "method": 0, "quality": 0}, 2.25),
        ("avif", "RGB", {"speed": 10}, 1.3),
    ],
)
def test_reading_takes_little_more_than_the_pixels(
    ending: str, mode: str, how: dict[str, object], most: float, tmp_path: Path
) -> None:
    small, large = tmp_path / f"small.{ending}", tmp_path / f"large.{ending}"
    picture(400, 300, mode).save(small, **how)
    picture(WIDTH, HEIGHT, mode).save(large, **how)
    assert _measured(small, large) <= most


def test_reading_sixteen_bits_takes_four_times_the_pixels_at_most(tmp_path: Path) -> None:
    small, large = tmp_path / "small.png", tmp_path / "large.png"
    for path, (width, height) in ((small, (400, 300)), (large, (WIDTH, HEIGHT))):
        levels = np.asarray(picture(width, height, "RGB"), np.uint16) * 257
        cv2.imwrite(str(path), levels, [cv2.IMWRITE_PNG_COMPRESSION, 1])
    assert _measured(small, large) <= 17 / 4


def _measured(small: Path, large: Path) -> float:
    call = [sys.executable, "-c", _MEASURE, str(small), str(large)]
    return float(subprocess.run(call, capture_output=True, check=True, text=True).stdout)


def test_a_large_avif_is_the_same_through_a_process(monkeypatch: pytest.MonkeyPatch) -> None:
    rgba, options = noise_rgba(90, 70, alpha=True), FileOptions("avif", quality=80)
    tags = Tags(ppi=300)
    here = write_avif(rgba, options, tags)
    read_here = read_photo(here, "a").rgba
    monkeypatch.setattr(avif_process, "LARGE_PX", 1)
    assert write_avif(rgba, options, tags) == here
    assert np.array_equal(read_photo(here, "a").rgba, read_here)
    plain = write_avif(np.dstack((rgba[..., :3], np.full((70, 90), 255, np.uint8))), options, tags)
    assert (read_photo(plain, "a").rgba[..., 3] == 255).all()


def test_a_library_that_crashes_short_of_memory_is_one_line(monkeypatch: pytest.MonkeyPatch) -> None:
    rgba = np.full((2000, 3000, 4), 200, np.uint8)
    file = write_avif(rgba[:100], FileOptions("avif"), Tags())
    monkeypatch.setattr(avif_process, "LARGE_PX", 1)
    monkeypatch.setattr(avif_process, "memory", lambda: (1 << 34, 90 << 20))
    with pytest.raises(ExportError, match="cannot be encoded"):
        write_avif(rgba, FileOptions("avif"), Tags())
    monkeypatch.setattr(avif_process, "_DECODE", "import os; os.kill(os.getpid(), 11)")
    with pytest.raises(PhotoError, match="gave up"):
        read_photo(file, "a.avif")
