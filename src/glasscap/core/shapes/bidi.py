"""Which way text runs: the bidirectional algorithm of Unicode Standard Annex 9 (UAX 9)."""

from typing import Literal

from bidi.algorithm import (
    explicit_embed_and_overrides,
    get_base_level,
    get_embedding_levels,
    get_empty_storage,
    resolve_implicit_levels,
    resolve_neutral_types,
    resolve_weak_types,
)

Direction = Literal["ltr", "rtl"]
# The library knows no isolates (LRI, RLI, FSI, PDI); as boundary neutrals (U+200B) they change nothing.
_ISOLATES = dict.fromkeys(range(0x2066, 0x206A), "\u200b")


def paragraph_direction(text: str) -> Direction:
    """Return the direction of the first strong character: rules P2 and P3 of UAX 9."""
    return "rtl" if get_base_level(text) else "ltr"


def _levels(text: str) -> list[int]:
    """Return the embedding level of every character: rules X1 to I2 of UAX 9."""
    base = get_base_level(text)
    storage = get_empty_storage() | {"base_level": base, "base_dir": "LR"[base]}
    get_embedding_levels(text.translate(_ISOLATES), storage)
    entries = list(storage["chars"])
    explicit_embed_and_overrides(storage)
    resolve_weak_types(storage)
    resolve_neutral_types(storage, debug=False)
    resolve_implicit_levels(storage, debug=False)
    # Characters that rule X9 takes out keep the level they were found with.
    return [entry["level"] for entry in entries]


def directed_runs(text: str) -> list[tuple[int, int, int]]:
    """Cut a line into runs of one level: first, after the last, level."""
    runs: list[tuple[int, int, int]] = []
    for n, level in enumerate(_levels(text)):
        if runs and runs[-1][2] == level:
            runs[-1] = (runs[-1][0], n + 1, level)
        else:
            runs.append((n, n + 1, level))
    return runs
