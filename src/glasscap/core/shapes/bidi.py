"""Which way text runs: the bidirectional algorithm of Unicode Standard Annex 9, without explicit embeddings."""

import unicodedata
from typing import Literal

Direction = Literal["ltr", "rtl"]
# Bidirectional classes: Unicode Standard Annex 9, table 4.
_RIGHT, _LEFT, _NUMBERS = ("R", "AL"), ("L",), ("EN", "AN")


def paragraph_direction(text: str) -> Direction:
    """Return the direction of the first strong character: rules P2 and P3 of UAX 9."""
    for character in text:
        kind = unicodedata.bidirectional(character)
        if kind in _RIGHT:
            return "rtl"
        if kind in _LEFT:
            return "ltr"
    return "ltr"


def _levels(text: str) -> list[int]:
    """Return the embedding level of every character.

    UAX 9 without explicit embeddings: rules W7 (numbers after a left-to-right letter are part of it), N1 and N2
    (neutrals between two of a kind join them, numbers counting as right-to-left), I1 and I2.
    """
    base = 1 if paragraph_direction(text) == "rtl" else 0
    left = base + base % 2
    last: Direction = "rtl" if base else "ltr"
    ways: list[Direction | None] = []
    levels: list[int] = []
    for character in text:
        kind = unicodedata.bidirectional(character)
        if kind in _RIGHT or kind in _LEFT:
            last = "rtl" if kind in _RIGHT else "ltr"
            ways.append(last)
            levels.append(1 if last == "rtl" else left)
        elif kind in _NUMBERS:
            is_plain = last == "ltr" and kind == "EN"
            ways.append("ltr" if is_plain else "rtl")
            levels.append(left if is_plain else 2)
        else:
            ways.append(None)
            levels.append(base)
    edge: Direction = "rtl" if base else "ltr"
    for n, way in enumerate(ways):
        if way is None:
            before = next((w for w in reversed(ways[:n]) if w), edge)
            after = next((w for w in ways[n:] if w), edge)
            if before == after:
                levels[n] = 1 if before == "rtl" else left
    return levels


def directed_runs(text: str) -> list[tuple[int, int, int]]:
    """Cut a line into runs of one level: first, last, level."""
    runs: list[tuple[int, int, int]] = []
    for n, level in enumerate(_levels(text)):
        if runs and runs[-1][2] == level:
            runs[-1] = (runs[-1][0], n + 1, level)
        else:
            runs.append((n, n + 1, level))
    return runs
