"""``glasscap cut``: one photo, one shape, one picture."""

import argparse
import sys

from glasscap.cli import options
from glasscap.cli.finish_options import (
    add_finish_options,
    adjustments_of,
    backdrop_of,
    finishes_of,
    opacity_of,
)
from glasscap.cli.streams import check_output, read_input, say_written, write_output
from glasscap.core.formats.photo import photo_facts
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.shapes.library.table import SHAPES
from glasscap.doorway import Look, cut

HELP = "cut a photo by a shape"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("photo", metavar="PHOTO", help="a picture file, or - for standard input")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="a .png file, or -")
    parser.add_argument("--shape", choices=tuple(SHAPES), default="circle")
    parser.add_argument("--box", type=options.box, metavar="X,Y,W,H", help="where the shape lies, px")
    parser.add_argument("--param", type=options.param, action="append", default=[], metavar="NAME=VALUE")
    parser.add_argument("--invert", action="store_true", help="keep the outside: a hole")
    parser.add_argument(
        "--pixel-limit", type=int, default=DEFAULT_PIXEL_LIMIT, metavar="N", help="refuse larger photos"
    )
    options.add_crop_and_scale(parser, default_crop="visible")
    add_finish_options(parser)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    check_output(call.output)
    data, name = read_input(call.photo)
    picture = cut(
        data,
        name,
        shape=call.shape,
        box=call.box,
        params=dict(call.param),
        keeps="outside" if call.invert else "inside",
        crop=call.crop,
        scale=call.scale,
        pixel_limit=call.pixel_limit,
        look=Look(finishes_of(call), adjustments_of(call), opacity_of(call), backdrop_of(call)),
    )
    write_output(call.output, picture)
    note = photo_facts(data, name, pixel_limit=call.pixel_limit).note
    if note:
        print(f"glasscap: {name}: {note}", file=sys.stderr)
    say_written(call.output, picture, call.scale, as_json=call.json)
