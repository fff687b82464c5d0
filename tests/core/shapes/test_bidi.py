"""Levels of mixed text against cases worked by the rules of UAX 9."""

import pytest

from glasscap.core.shapes.bidi import directed_runs, paragraph_direction

# Capitals stand for Hebrew letters here, as the annex itself writes its examples.
HEBREW = {c: chr(0x05D0 + n) for n, c in enumerate("ABCDEFGHIJKLMNOPQRSTUVWXYZ"[:22])}


def _text(example: str) -> str:
    return "".join(HEBREW.get(c, c) for c in example)


@pytest.mark.parametrize(
    ("example", "levels"),
    [
        ("abc", "000"),
        ("ABC", "111"),
        ("abc DEF", "0000111"),
        ("ABC def", "1111222"),
        # N1: a neutral between two of a kind joins them; N2: else it takes the paragraph's direction.
        ("abc DE FG", "000011111"),
        ("AB cd ef", "11122222"),
        # W7: a number after a left-to-right letter is part of it; after a right-to-left one it is level 2.
        ("abc 12", "000000"),
        ("ABC 12", "111122"),
        ("abc DEF 12", "0000111122"),
        ("12", "00"),
        # W4: one separator between numbers is part of them, so that 12.5 is read as such in Hebrew text.
        ("ABC 12.5", "11112222"),
        ("ABC 1,234", "111122222"),
        # W5: a sign beside a number is part of it.
        ("AB 12% CD", "111222111"),
        # X2 and X7: an override (U+202E) holds up to its end (U+202C).
        ("abc \u202edef\u202c g", "0000111100"[:4] + "0111000"),
        ("", ""),
    ],
)
def test_levels(example: str, levels: str) -> None:
    runs = directed_runs(_text(example))
    assert "".join(str(level) * (last - first) for first, last, level in runs) == levels


def test_the_paragraph_follows_its_first_strong_character() -> None:
    # Rules P2 and P3.
    assert paragraph_direction(_text("12 ABC abc")) == "rtl"
    assert paragraph_direction(_text("12 abc ABC")) == "ltr"
    assert paragraph_direction("12") == "ltr"
