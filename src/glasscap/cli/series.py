"""``glasscap series``: the steps of one cutout of a job, run over many photos."""

import argparse
from pathlib import Path

from glasscap.cli.export import add_writing_options, write_rows
from glasscap.cli.options import of_the_call
from glasscap.core.document.model.query import items_of, named
from glasscap.core.document.outputs.series import PLACINGS
from glasscap.core.errors import PhotoError
from glasscap.core.render.plan.spill import roomy_series
from glasscap.files.jobs import open_for_output
from glasscap.files.photo_reading import read_photos

HELP = "run the steps of one cutout over many photos"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file")
    parser.add_argument("photos", metavar="PHOTO", nargs="+", help="photos, each written as the cutout is")
    parser.add_argument("--cutout", required=True, metavar="NAME", help="whose shape and finishes they get")
    words = "centred and just covering the shape (default), or lying as the cutout's own photo does"
    parser.add_argument("--placing", choices=PLACINGS, default=PLACINGS[0], help=words)
    add_writing_options(parser)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError; PhotoError at the end where a photo could not be read."""
    opened = open_for_output(call.job)
    cutouts = {i.name: i.id for _, i in items_of(opened.job)}
    with of_the_call():
        item_id = named("Cutout", call.cutout, cutouts)
    found, problems = read_photos([Path(p) for p in call.photos], opened.photos)
    if found:
        job, _ = roomy_series(opened.job, item_id, [photo.record for photo in found], call.placing)
        write_rows(call, job, job.outputs[len(opened.job.outputs) :], opened.photos)
    if problems:
        told = problems[0].line
        raise PhotoError(f"{len(problems)} of {len(call.photos)} photos", "they could not be read", told)
