"""``glasscap cut``: one photo, one shape, one picture."""

import argparse
import sys

from glasscap.cli import options
from glasscap.cli.file_options import add_file_options, format_name, output_of, say_losses
from glasscap.cli.finish_options import (
    add_finish_options,
    adjustments_of,
    backdrop_of,
    finishes_of,
    opacity_of,
)
from glasscap.cli.shape_options import add_shape_options, chosen_shape
from glasscap.cli.streams import read_input, say_written, write_checked
from glasscap.core.document.arranging.cover import ends_within_edge
from glasscap.core.formats.outgoing import encode_output
from glasscap.core.formats.photo import photo_facts
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.photos.cache import new_cache
from glasscap.files.one_cutout import Look, job_for

HELP = "cut a photo by a shape"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("photo", metavar="PHOTO", help="a picture file, or - for standard input")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="a picture file, or - for PNG")
    parser.add_argument("--box", type=options.box, metavar="X,Y,W,H", help="where the shape lies, px")
    add_shape_options(parser)
    parser.add_argument("--invert", action="store_true", help="keep the outside: a hole")
    parser.add_argument(
        "--pixel-limit", type=int, default=DEFAULT_PIXEL_LIMIT, metavar="N", help="refuse larger photos"
    )
    add_file_options(parser, default_crop="visible")
    add_finish_options(parser)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    format_name(call.output, call)
    data, name = read_input(call.photo)
    facts = photo_facts(data, name, pixel_limit=call.pixel_limit)
    job, store = job_for(
        data,
        name,
        shape=chosen_shape(call, facts.width, facts.height),
        box=call.box,
        around=call.around,
        keeps="outside" if call.invert else "inside",
        pixel_limit=call.pixel_limit,
        look=Look(finishes_of(call), adjustments_of(call), opacity_of(call)),
    )
    output = output_of(call, job.sheets[0].items[0].id, call.output, backdrop_of(call))
    encoded = encode_output(job, output, store, new_cache())
    write_checked(call.output, encoded)
    if facts.note:
        print(f"glasscap: {name}: {facts.note}", file=sys.stderr)
    if ends_within_edge(job.sheets[0].items[0], job.photos[0]):
        remedy = "use a smaller --box, or --feather R,inside"
        print(f"glasscap: {name}: the photo ends within the edge, in a straight line; {remedy}", file=sys.stderr)
    say_losses(output, encoded)
    say_written(call.output, encoded.planned, as_json=call.json)
