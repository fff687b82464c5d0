"""``glasscap series``: the steps of one cutout of a job, run over many photos."""

import argparse
from collections.abc import Callable
from pathlib import Path

from glasscap.cli.export import add_writing_options, write_rows
from glasscap.cli.options import of_the_call
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item, items_of, named, photo_of
from glasscap.core.document.outputs.series import PLACINGS
from glasscap.core.errors import CallError, PhotoError
from glasscap.core.render.plan.spill import roomy_series
from glasscap.files.exporting import Target
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
    words = "leave files that are newer than their photo and the job: a run that was stopped goes on"
    parser.add_argument("--continue", dest="goes_on", action="store_true", help=words)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError; PhotoError at the end where a photo could not be read."""
    if call.goes_on and call.if_there is not None:
        raise CallError("--continue and --if-there", "they exclude each other", "give one of them")
    opened = open_for_output(call.job)
    cutouts = {i.name: i.id for _, i in items_of(opened.job)}
    with of_the_call():
        item_id = named("Cutout", call.cutout, cutouts)
    found, problems = read_photos([Path(p) for p in call.photos], opened.photos)
    if found:
        job, _ = roomy_series(opened.job, item_id, [photo.record for photo in found], call.placing)
        rows = job.outputs[len(opened.job.outputs) :]
        write_rows(call, job, rows, opened.photos, _done_check(call, job) if call.goes_on else None)
    if problems:
        told = problems[0].line
        raise PhotoError(f"{len(problems)} of {len(call.photos)} photos", "they could not be read", told)


def _done_check(call: argparse.Namespace, job: Job) -> Callable[[Target], bool]:
    """Return a check whether a file was written after its photo and the job: files are never half written."""
    job_time = Path(call.job).stat().st_mtime_ns
    times: dict[str, int] = {}
    for path in map(Path, call.photos):
        if path.is_file():
            # Of two photos of one name the newer counts for both.
            times[path.name] = max(times.get(path.name, job_time), path.stat().st_mtime_ns)

    def is_done(target: Target) -> bool:
        photo = photo_of(job, find_item(job, target.output.item_id))
        source = job_time if photo is None else times.get(photo.name, 1 << 63)
        return target.path.stat().st_mtime_ns >= max(job_time, source)

    return is_done
