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
from glasscap.cli.shape_options import add_shape_options, chosen_shape
from glasscap.cli.streams import check_output, read_input, say_written, write_output
from glasscap.core.formats.photo import photo_facts
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.doorway import Look, cut

HELP = "cut a photo by a shape"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("photo", metavar="PHOTO", help="a picture file, or - for standard input")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="a .png file, or -")
    parser.add_argument("--box", type=options.box, metavar="X,Y,W,H", help="where the shape lies, px")
    add_shape_options(parser)
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
    facts = photo_facts(data, name, pixel_limit=call.pixel_limit)
    picture = cut(
        data,
        name,
        shape=chosen_shape(call, facts.width, facts.height),
        box=call.box,
        keeps="outside" if call.invert else "inside",
        crop=call.crop,
        scale=call.scale,
        pixel_limit=call.pixel_limit,
        look=Look(finishes_of(call), adjustments_of(call), opacity_of(call), backdrop_of(call)),
    )
    write_output(call.output, picture)
    if facts.note:
        print(f"glasscap: {name}: {facts.note}", file=sys.stderr)
    say_written(call.output, picture, call.scale, as_json=call.json)
