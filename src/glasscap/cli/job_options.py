"""Options that name a sheet, a cutout and a version of a job."""

import argparse

from glasscap.cli.options import of_the_call
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import items_of, named


def add_subject_options(parser: argparse.ArgumentParser) -> None:
    """Declare them."""
    parser.add_argument("--sheet", metavar="NAME", help="which sheet (default: the first)")
    parser.add_argument("--cutout", metavar="NAME", help="one cutout or group alone")
    parser.add_argument("--version", metavar="NAME", help="which version of it (default: the one shown)")


def subject_id(job: Job, call: argparse.Namespace) -> str:
    """Return the id of the sheet or cutout asked for. Raises CallError listing the names there are."""
    sheets = {s.name: s.id for s in reversed(job.sheets)}
    with of_the_call():
        sheet_id = named("Sheet", call.sheet, sheets) if call.sheet else job.sheets[0].id
        if not call.cutout:
            return sheet_id
        found = {i.name: i.id for s, i in items_of(job) if not call.sheet or s.id == sheet_id}
        return named("Cutout", call.cutout, found)
