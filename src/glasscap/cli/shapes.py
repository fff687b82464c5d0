"""``glasscap shapes``: the library."""

import argparse
import json

from glasscap.core.shapes.library.spec import ShapeSpec
from glasscap.core.shapes.library.table import SHAPES

HELP = "list the shapes and their parameters"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("--json", action="store_true", help="print JSON")


def run(call: argparse.Namespace) -> None:
    """Do it."""
    if call.json:
        print(json.dumps([_facts(spec) for spec in SHAPES.values()]))
        return
    for spec in SHAPES.values():
        numbers = ", ".join(f"{p.name} {p.low:g} to {p.high:g} (default {p.default:g})" for p in spec.parameters)
        print(f"{spec.name:12} {spec.group:12} {numbers}".rstrip())


def _facts(spec: ShapeSpec) -> dict[str, object]:
    parameters = [
        {"name": p.name, "range": [p.low, p.high], "default": p.default, "unit": p.unit} for p in spec.parameters
    ]
    return {"name": spec.name, "group": spec.group, "words": list(spec.words), "parameters": parameters}
