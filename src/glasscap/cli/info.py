"""``glasscap info``: what a job or a photo holds."""

import argparse
import json
from pathlib import Path

from glasscap.cli.streams import read_input
from glasscap.core.document.edits.versions import shown_version, version_names
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.mockups import Mockup
from glasscap.core.document.model.query import photo_of, photo_record
from glasscap.core.document.outputs.rows import subject_name
from glasscap.core.formats.job import ENDING
from glasscap.core.formats.photo import photo_facts
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.outlines import shape_name
from glasscap.files.jobs import open_job

HELP = "tell what a job or a photo holds"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("file", metavar="FILE", help="a .glasscap file or a photo")
    parser.add_argument("--json", action="store_true", help="print one line of JSON")


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    facts = _job_facts(Path(call.file)) if call.file.lower().endswith(ENDING) else _photo_facts(call.file)
    if call.json:
        print(json.dumps(facts))
    else:
        _print_lines(facts)


def _photo_facts(path: str) -> dict[str, object]:
    data, name = read_input(path)
    facts = photo_facts(data, name)
    return {
        "kind": "photo",
        "name": name,
        "format": facts.format,
        "width": facts.width,
        "height": facts.height,
        "bits": facts.bits,
        "profile": facts.profile,
        "note": facts.note,
    }


def _job_facts(path: Path) -> dict[str, object]:
    opened = open_job(path)
    job = opened.job
    return {
        "kind": "job",
        "name": path.name,
        "sheets": [
            {
                "name": s.name,
                "width": s.width,
                "height": s.height,
                "resolution": s.resolution_ppi,
                "bleed": s.bleed,
                "versions": list(version_names(s)),
                "shown": shown_version(s),
                "cutouts": [_cutout_facts(job, i) for i in s.items],
            }
            for s in job.sheets
        ],
        "mockups": [_mockup_facts(job, m) for m in job.mockups],
        "photos": [{"name": p.name, "width": p.width, "height": p.height, "link": p.link} for p in job.photos],
        "problems": [p.line for p in opened.problems],
        "moved": list(opened.moved),
    }


def _cutout_facts(job: Job, cutout: Cutout) -> dict[str, object]:
    """Return what a cutout is, a group with what it holds; boxes are x, y, width, height in sheet px."""
    photo, box = photo_of(job, cutout), item_box(job, cutout)
    facts: dict[str, object] = {
        "name": cutout.name,
        "kind": "group" if cutout.is_group else "cutout",
        "photo": photo and photo.name,
        "shape": cutout.shape and shape_name(cutout.shape),
        "box": None if box is None else [box.x0, box.y0, box.width, box.height],
        "is_hidden": cutout.is_hidden,
        "versions": list(version_names(cutout)),
        "shown": shown_version(cutout),
    }
    if isinstance(cutout.shape, LettersShape):
        facts["text"] = cutout.shape.letters.text
    if cutout.is_group:
        facts["items"] = [_cutout_facts(job, i) for i in cutout.items]
    return facts


def _mockup_facts(job: Job, mockup: Mockup) -> dict[str, object]:
    place = mockup.place
    return {
        "name": mockup.name,
        "place": place if isinstance(place, str) else photo_record(job, place.sha256).name,
        "shows": subject_name(job, mockup.subject_id),
        "fit": mockup.fit,
    }


def _print_lines(facts: object, indent: str = "") -> None:
    pairs = (
        facts.items() if isinstance(facts, dict) else [("-", v) for v in facts] if isinstance(facts, list) else []
    )
    for key, value in pairs:
        if isinstance(value, dict) or (isinstance(value, list) and value and isinstance(value[0], dict)):
            print(f"{indent}{key}")
            _print_lines(value, indent + "  ")
        elif value not in (None, "", []):
            print(f"{indent}{key}: {value}")
