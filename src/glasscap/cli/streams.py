"""``-`` for standard input and output, and the one JSON line."""

import json
import sys
from pathlib import Path

from glasscap.core.formats.outgoing import Encoded
from glasscap.core.formats.read_back import check_file
from glasscap.core.render.outputs import OutputPlan
from glasscap.files.atomic import read_bytes, write_atomically

STANDARD = "-"


def read_input(path: str) -> tuple[bytes, str]:
    """Return bytes and a name for messages. Raises FileProblemError."""
    if path == STANDARD:
        return sys.stdin.buffer.read(), "standard input"
    return read_bytes(Path(path)), Path(path).name


def write_output(path: str, data: bytes) -> None:
    """Write a file whole, or to standard output. Raises FileProblemError."""
    if path != STANDARD:
        write_atomically(Path(path), data)
        return
    sys.stdout.buffer.write(data)
    sys.stdout.buffer.flush()


def write_checked(path: str, encoded: Encoded) -> None:
    """Read an encoded picture again with another decoder, compare, then write it like `write_output`.

    Raises ExportError for a file that differs from its picture, FileProblemError.
    """
    name = "standard output" if path == STANDARD else Path(path).name
    check_file(encoded.data, encoded.pixels, encoded.file, encoded.tags, name)
    write_output(path, encoded.data)


def say_written(path: str, planned: OutputPlan, *, as_json: bool) -> None:
    """Print what was written; on standard error when the picture itself went to standard output."""
    stream = sys.stderr if path == STANDARD else sys.stdout
    box, (width, height) = planned.plan.box, planned.size
    x, y = _sheet_px(box.x0, planned.scale), _sheet_px(box.y0, planned.scale)
    if as_json:
        facts = {"path": path, "width": width, "height": height, "x": x, "y": y}
        print(json.dumps(facts), file=stream)
    elif path != STANDARD:
        print(f"{path}  {width} x {height} px at {x}, {y}", file=stream)


def _sheet_px(output_px: int, scale: float) -> float:
    """Return output px in sheet px, a whole number as one."""
    place = output_px / scale
    return int(place) if place == int(place) else place
