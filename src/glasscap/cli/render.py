"""``glasscap render``: sheets and cutouts of a job as pictures."""

import argparse
from pathlib import Path

from msgspec.structs import replace

from glasscap.cli.file_options import add_file_options, format_name, output_of, say_losses
from glasscap.cli.job_options import add_subject_options, subject_id
from glasscap.cli.streams import say_written, write_checked
from glasscap.core.document.model.query import items_of
from glasscap.core.errors import CallError, FileProblemError
from glasscap.core.formats.outgoing import encode_output
from glasscap.core.photos.cache import new_cache
from glasscap.core.render.outputs import subject_of
from glasscap.files.jobs import OpenedJob, open_for_output
from glasscap.files.names import free_name

HELP = "render a sheet or cutout of a job"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file")
    parser.add_argument(
        "-o", "--output", required=True, metavar="OUT", help="a picture file, - for PNG, or a folder"
    )
    add_subject_options(parser)
    parser.add_argument("--all", action="store_true", help="every sheet and cutout into the folder OUT")
    add_file_options(parser, default_crop=None)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    if call.all and (call.sheet or call.cutout or call.version):
        raise CallError("--all", "it does not go with --sheet, --cutout or --version", "leave one out")
    if not call.all:
        format_name(call.output, call)
    opened = open_for_output(call.job)
    if call.all:
        _render_all(opened, call)
    else:
        _render_one(opened, call, subject_id(opened.job, call), call.output)


def _render_one(opened: OpenedJob, call: argparse.Namespace, item_id: str, path: str) -> None:
    output = output_of(call, item_id, path)
    if call.crop is None and subject_of(opened.job, item_id)[1] is None:
        output = replace(output, crop="sheet")
    if call.version:
        output = replace(output, version=call.version)
    encoded = encode_output(opened.job, output, opened.photos, new_cache())
    write_checked(path, encoded)
    say_losses(output, encoded)
    say_written(path, encoded.planned, as_json=call.json)


def _render_all(opened: OpenedJob, call: argparse.Namespace) -> None:
    folder = Path(call.output)
    if not folder.is_dir():
        raise FileProblemError(str(folder), "there is no such folder", "make it first")
    taken: set[str] = set()
    shown = [(i.id, i.name) for _, i in items_of(opened.job) if i.content is not None]
    for item_id, name in [(s.id, s.name) for s in opened.job.sheets] + shown:
        _render_one(opened, call, item_id, str(folder / f"{free_name(name, taken)}.png"))
