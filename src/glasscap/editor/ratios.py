"""Common ratios of width to height, and reading one that is typed."""

import math

from glasscap.editor.numbers import NumberError, parse_number

RATIOS: tuple[tuple[str, float], ...] = (
    ("1 : 1", 1.0),
    ("5 : 4", 5 / 4),
    ("4 : 3", 4 / 3),
    ("3 : 2", 3 / 2),
    ("16 : 10", 16 / 10),
    ("16 : 9", 16 / 9),
    ("2 : 1", 2.0),
    ("Golden, 1.618 : 1", (1 + math.sqrt(5)) / 2),
    ("Paper, 1.414 : 1", math.sqrt(2)),
    ("4 : 5", 4 / 5),
    ("3 : 4", 3 / 4),
    ("2 : 3", 2 / 3),
    ("9 : 16", 9 / 16),
)


def parse_ratio(text: str) -> float:
    """Return width over height from "16:9", "16/9" or "1.78". Raises NumberError."""
    parts = text.replace("x", ":").replace("×", ":").split(":")
    if len(parts) > 2 or not all(p.strip() for p in parts):
        raise NumberError("type a ratio such as 16:9")
    values = [parse_number(p, unit="") for p in parts]
    if any(v <= 0 for v in values):
        raise NumberError("both sides of a ratio must be above 0")
    return values[0] / values[1] if len(values) == 2 else values[0]
