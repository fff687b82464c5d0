"""``glasscap check``: what a picture file holds."""

import argparse
import json

from msgspec.structs import asdict

from glasscap.cli.streams import read_input
from glasscap.core.formats.read_back import file_facts

HELP = "tell what a picture file holds"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("file", metavar="FILE", help="a picture file, or - for standard input")
    parser.add_argument("--json", action="store_true", help="print one line of JSON")


def run(call: argparse.Namespace) -> None:
    """Do it. Raises GlassCapError."""
    data, name = read_input(call.file)
    facts = {**asdict(file_facts(data, name)), "bytes": len(data)}
    if call.json:
        print(json.dumps({"path": call.file, **facts}))
        return
    for key, value in facts.items():
        print(f"{key.replace('_', ' '):20} {'' if value is None else value}".rstrip())
