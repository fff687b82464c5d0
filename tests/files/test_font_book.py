"""The system's fonts, as a stand-in for fontconfig lists them."""

import os
import time
from collections.abc import Callable
from pathlib import Path

import pytest

from glasscap.files import font_book
from glasscap.files.font_book import FontBook, list_ahead

Program = Callable[[str], Path]
_LINES = (
    "/f/Kiln-Bold.ttf\t0\tKiln Sans\tBold\t200\t0\tFalse\tTrueType",
    "/f/Kiln.ttf\t0\tKiln Sans\tRegular\t80\t100\tFalse\tTrueType",
    "/f/Trail.ttf\t0\tTrail\tRegular\t[40 210]\t0\tTrue\tTrueType",
    # An instance of that one, a bitmap font, a line cut short.
    "/f/Trail.ttf\t65536\tTrail\tBold\t200\t0\tFalse\tTrueType",
    "/f/dots.pcf\t0\tDots\tRegular\t80\t0\tFalse\tPCF",
    "/f/odd",
)


@pytest.fixture
def program(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Program:
    """Make a program that lists fonts, and notes each time it is called."""
    monkeypatch.setenv("PATH", f"{tmp_path}{os.pathsep}{os.environ['PATH']}")
    font_book._all_listed.cache_clear()

    def make(body: str) -> Path:
        calls = tmp_path / "calls"
        made = tmp_path / "fc-list"
        made.write_text(f"#!/bin/sh\necho called >> {calls}\n{body}\n")
        made.chmod(0o755)
        return calls

    yield make
    font_book._all_listed.cache_clear()


def test_families_of_the_system_come_after_the_shipped_ones(program: Program) -> None:
    program("cat <<'END'\n" + "\n".join(_LINES) + "\nEND")
    families = FontBook().families
    shipped = FontBook(has_system=False).families
    assert list(families) == [*shipped, "Kiln Sans", "Trail"]
    bold, italic = families["Kiln Sans"]
    # fontconfig's 200 and 80 are the CSS weights 700 and 400 (FcWeightToOpenTypeDouble).
    assert (bold.weight, bold.is_italic, italic.weight, italic.is_italic) == (700, False, 400, True)
    (trail,) = families["Trail"]
    assert trail.is_variable


@pytest.mark.parametrize("body", ["exit 1", "echo nonsense", "printf '\\377\\t0'"])
def test_what_does_not_list_fonts_leaves_the_shipped_ones(program: Program, body: str) -> None:
    program(body)
    assert FontBook().families == FontBook(has_system=False).families


def test_who_asks_while_fonts_are_listed_waits_for_the_one_answer(program: Program) -> None:
    calls = program(f"sleep 0.2\necho '{_LINES[0]}'")
    list_ahead()
    while not calls.exists():
        time.sleep(0.005)
    assert "Kiln Sans" in FontBook().families
    assert "Kiln Sans" in FontBook().families
    assert calls.read_text().count("called") == 1
