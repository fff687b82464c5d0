"""``glasscap render``: sheets and cutouts of a job as pictures."""

import argparse
from pathlib import Path

from glasscap.cli import options
from glasscap.cli.streams import check_output, say_written, write_output
from glasscap.core.document.model import Sheet
from glasscap.core.document.query import find_sheet, items_of, locate, named
from glasscap.core.errors import CallError, FileProblemError
from glasscap.core.raster.pixels import Picture
from glasscap.doorway import open_file, render_cutout, render_sheet
from glasscap.files.jobs import OpenedJob
from glasscap.files.names import free_name

HELP = "render a sheet or cutout of a job"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("job", metavar="JOB", help="a .glasscap file")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="a .png file, - or a folder")
    parser.add_argument("--sheet", metavar="NAME", help="which sheet (default: the first)")
    parser.add_argument("--cutout", metavar="NAME", help="one cutout alone")
    parser.add_argument("--all", action="store_true", help="every sheet and cutout into the folder OUT")
    options.add_crop_and_scale(parser, default_crop=None)


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    if call.all and (call.sheet or call.cutout):
        raise CallError("--all", "it does not go with --sheet or --cutout", "leave one out")
    if not call.all:
        check_output(call.output)
    opened = open_file(call.job)
    if call.all:
        _render_all(opened, call)
        return
    sheet, picture = _chosen(opened, call)
    write_output(call.output, picture, sheet.resolution_ppi * call.scale)
    say_written(call.output, picture, call.scale, as_json=call.json)


def _chosen(opened: OpenedJob, call: argparse.Namespace) -> tuple[Sheet, Picture]:
    sheets = {s.name: s.id for s in reversed(opened.job.sheets)}
    sheet_id = named("Sheet", call.sheet, sheets) if call.sheet else opened.job.sheets[0].id
    if not call.cutout:
        picture = render_sheet(opened, sheet_id, crop=call.crop or "sheet", scale=call.scale)
        return find_sheet(opened.job, sheet_id), picture
    found = {i.name: i.id for s, i in items_of(opened.job) if not call.sheet or s.id == sheet_id}
    cutout_id = named("Cutout", call.cutout, found)
    picture = render_cutout(opened, cutout_id, crop=call.crop or "visible", scale=call.scale)
    return locate(opened.job, cutout_id)[0], picture


def _render_all(opened: OpenedJob, call: argparse.Namespace) -> None:
    folder = Path(call.output)
    if not folder.is_dir():
        raise FileProblemError(str(folder), "there is no such folder", "make it first")
    taken: set[str] = set()
    for sheet in opened.job.sheets:
        picture = render_sheet(opened, sheet.id, crop=call.crop or "sheet", scale=call.scale)
        _write_named(call, sheet, free_name(sheet.name, taken), picture)
    for sheet, item in items_of(opened.job):
        if item.content is not None:
            picture = render_cutout(opened, item.id, crop=call.crop or "visible", scale=call.scale)
            _write_named(call, sheet, free_name(item.name, taken), picture)


def _write_named(call: argparse.Namespace, sheet: Sheet, name: str, picture: Picture) -> None:
    path = str(Path(call.output) / f"{name}.png")
    write_output(path, picture, sheet.resolution_ppi * call.scale)
    say_written(path, picture, call.scale, as_json=call.json)
