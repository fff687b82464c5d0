"""Option values shared by subcommands."""

import argparse
import math

from glasscap.core.render.plan import CROPS


def add_crop_and_scale(parser: argparse.ArgumentParser, *, default_crop: str | None) -> None:
    """Add ``--crop``, ``--scale`` and ``--json``."""
    parser.add_argument("--crop", choices=CROPS, default=default_crop, help="what the picture's box holds")
    parser.add_argument("--scale", type=positive, default=1.0, metavar="S", help="output px per sheet px")
    parser.add_argument("--json", action="store_true", help="print one line of JSON")


def number(text: str) -> float:
    """Return a finite number."""
    value = float(text)
    if not math.isfinite(value):
        raise argparse.ArgumentTypeError(f"{text!r} is not a finite number")
    return value


def positive(text: str) -> float:
    """Return a finite number above 0."""
    value = number(text)
    if value <= 0:
        raise argparse.ArgumentTypeError(f"{text!r} is not above 0")
    return value


def box(text: str) -> tuple[float, float, float, float]:
    """Return X,Y,W,H with W and H above 0."""
    parts = text.split(",")
    if len(parts) != 4:
        raise argparse.ArgumentTypeError(f"{text!r} is not X,Y,W,H")
    try:
        x, y, width, height = (number(p) for p in parts)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not four numbers") from None
    if width <= 0 or height <= 0:
        raise argparse.ArgumentTypeError(f"{text!r} has a size that is not above 0")
    return x, y, width, height


def place(text: str) -> tuple[float, float]:
    """Return X,Y."""
    parts = text.split(",")
    try:
        x, y = (number(p) for p in parts)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not X,Y") from None
    return x, y


def param(text: str) -> tuple[str, float]:
    """Return (name, value) of NAME=VALUE."""
    name, equals, value = text.partition("=")
    if not equals or not name:
        raise argparse.ArgumentTypeError(f"{text!r} is not NAME=VALUE")
    try:
        return name, number(value)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} has a value that is no number") from None
