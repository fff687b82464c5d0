"""``glasscap shape``: a shape as an SVG file."""

import argparse
from pathlib import Path

from msgspec.structs import replace

from glasscap.cli import options
from glasscap.cli.drawing_option import drawn_shape
from glasscap.cli.streams import STANDARD
from glasscap.core.errors import CallError
from glasscap.core.formats.shape_out import svg_file
from glasscap.core.geometry.fit import thinned
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import library_shape
from glasscap.core.shapes.outlines import natural_ratio, outline_of
from glasscap.files.atomic import write_atomically

HELP = "write a shape of the library, or of a drawing made one, as an SVG file"
_SIDE, _TOLERANCE = 512.0, 0.01


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("shape", metavar="NAME|FILE.svg", help="a shape of the library, or a drawing")
    parser.add_argument("-o", "--output", required=True, metavar="OUT.svg", help="an .svg file, or -")
    parser.add_argument("--param", type=options.param, action="append", default=[], metavar="NAME=VALUE")
    parser.add_argument("--width", type=options.positive, default=_SIDE, metavar="N", help="width in px")
    parser.add_argument(
        "--round", type=options.number, default=0.0, metavar="N", help="radius of every corner, px"
    )


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    if call.output != STANDARD and not call.output.lower().endswith(".svg"):
        raise CallError(f"-o {call.output}", "a shape is written as SVG", "use a name ending in .svg")
    is_drawing = call.shape.lower().endswith(".svg")
    shape = drawn_shape(call.shape) if is_drawing else library_shape(call.shape, **dict(call.param))
    ratio = natural_ratio(shape) or 4 / 3
    width, height = call.width, call.width / ratio
    outline = thinned(outline_of(replace(shape, round=call.round), width, height), tolerance=_TOLERANCE)
    data = svg_file(outline.transformed(Affine.translation(width / 2, height / 2)), width, height)
    if call.output == STANDARD:
        print(data.decode(), end="")
    else:
        write_atomically(Path(call.output), data)
        print(f"{call.output}  {width:g} x {height:g} px")
