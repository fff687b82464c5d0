"""``glasscap export``: everything a job's export list holds."""

import argparse
import json
from collections.abc import Callable, Sequence
from pathlib import Path

from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.outputs.rows import live_outputs, subject_name
from glasscap.core.errors import CallError, ExportError
from glasscap.core.photos.store import PhotoStore
from glasscap.files.atomic import make_folder
from glasscap.files.exporting import POLICIES, RowResult, Target, export_rows, targets_of
from glasscap.files.jobs import open_for_output

HELP = "write everything on a job's export list"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file")
    add_writing_options(parser)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError; ExportError at the end where a row could not be written."""
    opened = open_for_output(call.job)
    rows = live_outputs(opened.job)
    if not rows:
        raise CallError(call.job, "its export list is empty", "add rows in the window, or use glasscap render")
    write_rows(call, opened.job, rows, opened.photos)


def add_writing_options(parser: argparse.ArgumentParser) -> None:
    """Declare where files go and how that is told."""
    parser.add_argument("-o", "--output", metavar="FOLDER", help="where to (default: beside the job)")
    parser.add_argument("--if-there", choices=POLICIES, help="what becomes of a file that is there already")
    parser.add_argument("--json", action="store_true", help="print one line of JSON a file")


def write_rows(
    call: argparse.Namespace,
    job: Job,
    rows: Sequence[Output],
    photos: PhotoStore,
    is_done: Callable[[Target], bool] | None = None,
) -> None:
    """Write rows of a job and print a line for each. Raises ExportError where one could not be written.

    Where `is_done` is given it tells which files that are there are left; the others are written anew.
    """
    folder = Path(call.output) if call.output else Path(call.job).parent
    make_folder(folder)
    targets = targets_of(job, rows, photos, folder)
    there = [t.path.name for t in targets if t.is_there]
    if there and call.if_there is None and is_done is None:
        raise ExportError(there[0], "it is there already", "say --if-there replace, number or skip")
    is_left = [is_done is not None and t.is_there and not t.problem and is_done(t) for t in targets]
    anew = [t for t, left in zip(targets, is_left, strict=True) if not left]
    written = iter(export_rows(job, anew, photos, call.if_there or "replace"))
    results = [
        RowResult(t.output, t.path, t.size, is_skipped=True) if left else next(written)
        for t, left in zip(targets, is_left, strict=True)
    ]
    for result in results:
        _say(result, subject_name(job, result.output.item_id), as_json=call.json)
    failed = [r for r in results if r.problem]
    if failed:
        raise ExportError(
            f"{len(failed)} of {len(results)} files", "they could not be written", failed[0].problem
        )


def _say(result: RowResult, name: str, *, as_json: bool) -> None:
    width, height = result.size
    state = "written" if result.is_written else "skipped" if result.is_skipped else "failed"
    if as_json:
        facts = {"path": str(result.path), "what": name, "state": state, "width": width, "height": height}
        print(json.dumps({**facts, "bytes": result.nbytes, "problem": result.problem}))
    else:
        print(f"{result.path}  {width} x {height} px  {state}")
