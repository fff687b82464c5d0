"""``glasscap mockup``: a sheet or cutout in a place, as a picture or as one page."""

import argparse
import json
from pathlib import Path

from glasscap.cli import options
from glasscap.cli.job_options import add_subject_options, subject_id
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.mockups import FITS, Mockup, OwnPlace
from glasscap.core.document.model.query import named
from glasscap.core.errors import CallError
from glasscap.files.jobs import open_for_output
from glasscap.files.mockup_files import all_versions, write_mockup
from glasscap.files.place_book import PLACES

HELP = "put a sheet or cutout of a job into a place"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="a picture file, or .pdf for a page")
    add_subject_options(parser)
    parser.add_argument("--place", metavar="NAME", help=f"{', '.join(PLACES)}, or a mock-up of the job by name")
    parser.add_argument("--fit", choices=FITS, help="how it lies in the place (default contain)")
    parser.add_argument("--all-versions", action="store_true", help="every version: side by side on a page")
    parser.add_argument("--scale", type=options.positive, default=1.0, metavar="S", help="px per px of the place")
    parser.add_argument("--json", action="store_true", help="print one line of JSON")


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    if call.version and call.all_versions:
        raise CallError("--version", "it does not go with --all-versions", "leave one out")
    opened = open_for_output(call.job)
    mockup = _mockup(opened.job, call)
    versions = all_versions(opened.job, mockup) if call.all_versions else (call.version or "",)
    written = write_mockup(Path(call.output), opened.job, mockup, opened.photos, versions, scale=call.scale)
    if call.json:
        print(json.dumps({"paths": [str(p) for p in written], "place": call.place, "versions": list(versions)}))
    else:
        for path in written:
            print(path)


def _mockup(job: Job, call: argparse.Namespace) -> Mockup:
    """Return the mock-up asked for: one of the job's, or a shipped place with what is named."""
    own = {m.name: m.id for m in job.mockups}
    place = call.place or (job.mockups[0].name if job.mockups else next(iter(PLACES)))
    if place in PLACES:
        return Mockup("m", PLACES[place], subject_id(job, call), place, call.fit or "contain")
    found = next(m for m in job.mockups if m.id == named("Place", place, own | {k: k for k in PLACES}))
    subject = subject_id(job, call) if call.sheet or call.cutout else found.subject_id
    kept: str | OwnPlace = found.place
    return Mockup(found.id, found.name, subject, kept, call.fit or found.fit)
