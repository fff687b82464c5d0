"""Finished pictures on the disk: written whole, read again and checked before "written" is said."""

import io
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image

from glasscap.core.errors import ExportError
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.raster.pixels import Picture
from glasscap.files.atomic import read_bytes, write_atomically

_CHECKED_ROWS = 64


@dataclass(frozen=True)
class WrittenPicture:
    """A picture file that was written and read again."""

    path: Path
    width: int
    height: int
    x: int
    y: int
    nbytes: int


def _go_on(share_done: float) -> None:
    """Report progress to nobody."""


def write_picture(
    path: Path,
    picture: Picture,
    options: PngOptions | None = None,
    progress: Callable[[float], None] = _go_on,
) -> WrittenPicture:
    """Encode, write atomically, read again with another decoder and compare.

    Raises
    ------
    ExportError
        If the ending is not ``.png``, or the file read again differs.
    FileProblemError
        If the disk says no; nothing is left behind.
    """
    check_ending(path)
    data = write_png(picture.rgba, options, progress)
    check_png(data, picture, path.name)
    write_atomically(path, data)
    if read_bytes(path) != data:
        raise ExportError(path.name, "the disk gave back other bytes", "write it to another place")
    return WrittenPicture(path, picture.width, picture.height, picture.x, picture.y, len(data))


def check_ending(path: Path) -> None:
    """Refuse a name that is not a PNG's. Raises ExportError."""
    if path.suffix.lower() != ".png":
        raise ExportError(path.name, "pictures are written as PNG", "give a name ending in .png")


def check_png(data: bytes, picture: Picture, name: str) -> None:
    """Read a PNG with another decoder; compare size, profile tag and every pixel. Raises ExportError."""
    with Image.open(io.BytesIO(data)) as image:
        if image.size != (picture.width, picture.height) or image.mode != "RGBA":
            raise ExportError(name, f"it was read back as {image.size} {image.mode}", "report this")
        if "srgb" not in image.info:
            raise ExportError(name, "it was read back without its sRGB tag", "report this")
        pixels = np.asarray(image)
    for y in range(0, picture.height, _CHECKED_ROWS):
        if not np.array_equal(pixels[y : y + _CHECKED_ROWS], picture.rgba[y : y + _CHECKED_ROWS]):
            raise ExportError(name, "it was read back with other pixels", "report this")
