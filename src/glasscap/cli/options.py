"""Option values shared by subcommands."""

import argparse
import math
from collections.abc import Iterator
from contextlib import contextmanager

from glasscap.core.errors import CallError, GlassCapError


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


@contextmanager
def of_the_call() -> Iterator[None]:
    """Tell what is wrong with a value of the call as that: the exit status is 2 then. Raises CallError."""
    try:
        yield
    except GlassCapError as error:
        raise CallError(error.what, error.why, error.remedy) from error
