"""``-`` for standard input and output, and the one JSON line."""

import json
import sys
from pathlib import Path

from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.raster.pixels import Picture
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.pictures import check_ending

STANDARD = "-"


def read_input(path: str) -> tuple[bytes, str]:
    """Return bytes and a name for messages. Raises FileProblemError."""
    if path == STANDARD:
        return sys.stdin.buffer.read(), "standard input"
    return read_bytes(Path(path)), Path(path).name


def check_output(path: str) -> None:
    """Refuse an unusable output name before any work. Raises ExportError."""
    if path != STANDARD:
        check_ending(Path(path))


def write_output(path: str, picture: Picture, pixels_per_inch: float | None = None) -> None:
    """Write a picture as PNG. Raises FileProblemError."""
    data = write_png(picture.rgba, PngOptions(pixels_per_inch=pixels_per_inch))
    if path != STANDARD:
        write_atomically(Path(path), data)
        return
    sys.stdout.buffer.write(data)
    sys.stdout.buffer.flush()


def say_written(path: str, picture: Picture, scale: float, *, as_json: bool) -> None:
    """Print what was written; on standard error when the picture itself went to standard output."""
    stream = sys.stderr if path == STANDARD else sys.stdout
    x, y = _sheet_px(picture.x, scale), _sheet_px(picture.y, scale)
    if as_json:
        facts = {"path": path, "width": picture.width, "height": picture.height, "x": x, "y": y}
        print(json.dumps(facts), file=stream)
    elif path != STANDARD:
        print(f"{path}  {picture.width} x {picture.height} px at {x}, {y}", file=stream)


def _sheet_px(output_px: int, scale: float) -> float:
    """Return output px in sheet px, a whole number as one."""
    place = output_px / scale
    return int(place) if place == int(place) else place
