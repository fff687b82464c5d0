"""``glasscap series``: the steps of one cutout of a job, run over many photos."""

import argparse
from collections.abc import Sequence
from pathlib import Path

from glasscap.cli.export import add_writing_options, write_rows
from glasscap.core.document.model import PhotoRecord
from glasscap.core.document.query import items_of, named
from glasscap.core.document.series import PLACINGS
from glasscap.core.errors import GlassCapError, PhotoError
from glasscap.core.render.photos import PhotoStore
from glasscap.core.render.spill import roomy_series
from glasscap.doorway import open_file
from glasscap.files.atomic import read_bytes
from glasscap.files.photos import photo_from_bytes

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
    opened = open_file(call.job)
    cutouts = {i.name: i.id for _, i in items_of(opened.job)}
    item_id = named("Cutout", call.cutout, cutouts)
    photos, problems = _read([Path(p) for p in call.photos], opened.photos)
    if photos:
        job, _ = roomy_series(opened.job, item_id, photos, call.placing)
        write_rows(call, job, job.outputs[len(opened.job.outputs) :], opened.photos)
    if problems:
        told = problems[0].line
        raise PhotoError(f"{len(problems)} of {len(call.photos)} photos", "they could not be read", told)


def _read(paths: Sequence[Path], store: PhotoStore) -> tuple[list[PhotoRecord], list[GlassCapError]]:
    """Put photos into the store; return those that can be read, and what is wrong with the others."""
    found: list[PhotoRecord] = []
    problems: list[GlassCapError] = []
    for path in paths:
        try:
            photo = photo_from_bytes(read_bytes(path), path.name)
            store.add(photo.data, photo.record.sha256)
            found.append(photo.record)
        except GlassCapError as error:
            problems.append(error)
    return found, problems
