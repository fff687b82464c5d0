"""``glasscap fonts``: the fonts letters can be set in."""

import argparse
import json

from glasscap.files.font_book import FontBook

HELP = "list the fonts for --letters"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """Declare the call."""
    parser.add_argument("--json", action="store_true", help="print JSON")


def run(call: argparse.Namespace) -> None:
    """Do it."""
    book = FontBook()
    facts = [
        {
            "name": name,
            "weights": list(book.weights(name)),
            "variable": book.is_variable(name),
            "italic": any(f.is_italic for f in files),
            "shipped": files[0].is_shipped,
        }
        for name, files in book.families.items()
    ]
    if call.json:
        print(json.dumps(facts))
        return
    for fact in facts:
        weights = " to ".join(f"{w:g}" for w in fact["weights"]) if fact["variable"] else ""  # type: ignore[attr-defined]
        print(f"{fact['name']:32} {weights}".rstrip())
