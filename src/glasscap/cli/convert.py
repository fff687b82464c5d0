"""``glasscap convert``: a job file written anew, its photos embedded or linked."""

import argparse
import json
import sys
from pathlib import Path

from glasscap.core.document.model.job import Job
from glasscap.core.errors import CallError
from glasscap.core.formats.job import ENDING
from glasscap.files.jobs import OpenedJob, job_preview, open_job, relinked, save_job
from glasscap.files.locks import refuse_held
from glasscap.files.photo_links import embedded, linked

HELP = "write a job file in today's version, with photos embedded or linked"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file of any version")
    parser.add_argument("-o", "--output", metavar="OUT", required=True, help="the .glasscap file to write")
    ways = parser.add_mutually_exclusive_group()
    ways.add_argument("--embed", action="store_true", help="put every photo into the file")
    ways.add_argument("--link", action="store_true", help="put every photo into a folder beside the file")
    parser.add_argument("--json", action="store_true", help="print one line of JSON")


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    source, target = Path(call.job), Path(call.output)
    if target.suffix != ENDING:
        raise CallError("--output", f"{target.name} does not end in {ENDING}", f"write {target.stem}{ENDING}")
    refuse_held(target)
    opened = open_job(source)
    for problem in opened.problems:
        print(f"glasscap: {problem.line}", file=sys.stderr)
    job = _with_photos(opened, source, target, call)
    save_job(target, job, opened.photos, job_preview(job, opened.photos))
    if call.json:
        links = sum(p.link is not None for p in job.photos)
        print(json.dumps({"path": call.output, "embedded": len(job.photos) - links, "linked": links}))


def _with_photos(opened: OpenedJob, source: Path, target: Path, call: argparse.Namespace) -> Job:
    if call.embed:
        return embedded(opened.job, opened.photos)
    if call.link:
        return linked(opened.job, opened.photos, target)
    return relinked(opened.job, source.parent, target.parent)
