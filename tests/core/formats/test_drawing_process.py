"""Drawings drawn by a process of their own: the same picture, and one clear cause where there is none."""

import contextlib
import time
from pathlib import Path
from threading import Thread

import pytest

from glasscap.core.errors import PhotoError
from glasscap.core.formats import drawing_process
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.formats.drawing_process import drawn_png
from glasscap.core.work import own_process
from glasscap.core.work.own_process import GaveUpError, answer_of, give_up

HALF = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><rect width="5" height="10" fill="#0b7a75"/></svg>'


def test_large_artwork_has_its_colours_at_its_size() -> None:
    rgba = draw_artwork(HALF, "half.svg", 600).rgba
    assert rgba.shape == (600, 600, 4)
    assert rgba[300, 150].tolist() == [0x0B, 0x7A, 0x75, 255]
    assert rgba[300, 450, 3] == 0


@pytest.mark.parametrize("width", [100, 400])
def test_what_cannot_be_drawn_says_why(width: int) -> None:
    with pytest.raises(ValueError, match=r"not have a root"):
        drawn_png(b"<svg", width)


def test_a_process_that_dies_or_takes_too_long_is_a_clear_problem(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import os; os.kill(os.getpid(), 9)")
    with pytest.raises(PhotoError, match="gave up"):
        draw_artwork(HALF, "half.svg", 600)
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    monkeypatch.setattr(drawing_process, "_LONGEST_WAIT", 0.2)
    with pytest.raises(PhotoError, match="takes more than"):
        draw_artwork(HALF, "half.svg", 600)


def test_a_drawing_is_given_up_for_the_thread_that_waits_for_it(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    causes: list[str] = []

    def draw() -> None:
        try:
            drawn_png(HALF, 400)
        except ValueError as error:
            causes.append(str(error))

    thread = Thread(target=draw)
    begun = time.monotonic()
    thread.start()
    while thread.is_alive() and time.monotonic() - begun < 300:
        give_up(thread.ident or 0)
        thread.join(0.02)
    assert causes == ["the library gave up"]
    assert time.monotonic() - begun < 300
    assert not own_process._running
    # Whoever waits for nothing is left alone.
    give_up(thread.ident or 0)


FAULTS = Path(__file__).parents[2] / "faults"


def test_groups_too_deep_in_one_another_are_refused() -> None:
    data = (FAULTS / "nested300.svg").read_bytes()
    with pytest.raises(PhotoError, match="more than 200 deep"):
        draw_artwork(data, "nested300.svg")
    deep = b"<g>" * 190 + b'<rect width="5" height="5"/>' + b"</g>" * 190
    assert draw_artwork(HALF.replace(b"<rect", deep + b"<rect"), "deep.svg").rgba.any()


@pytest.mark.parametrize("name", ["turb.svg", "url_regex.svg"])
def test_what_would_take_minutes_is_given_up(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(drawing_process, "_LONGEST", 1)
    begun = time.monotonic()
    # On a fast machine it may be drawn in time.
    with contextlib.suppress(PhotoError):
        draw_artwork((FAULTS / name).read_bytes(), name)
    assert time.monotonic() - begun < 60


@pytest.mark.parametrize("family", ["sans-serif", "serif", "monospace", "A Font Nobody Has", ""])
def test_text_without_a_font_that_is_there_is_set_in_a_shipped_one(family: str) -> None:
    text = (FAULTS / "text_sans.svg").read_text().replace("sans-serif", family)
    rgba = draw_artwork(text.encode(), "text.svg").rgba
    # Beside the rectangle there are letters.
    assert (rgba[:, :140, 3] > 128).sum() > 200


def test_a_drawing_that_crashes_is_one_line_and_the_next_one_works(monkeypatch: pytest.MonkeyPatch) -> None:
    program = drawing_process._PROGRAM
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import os; os.kill(os.getpid(), 11)")
    with pytest.raises(PhotoError, match="gave up"):
        draw_artwork(HALF, "half.svg", 60)
    monkeypatch.setattr(drawing_process, "_PROGRAM", program)
    assert draw_artwork(HALF, "half.svg", 60).rgba.any()


def test_a_process_that_reads_nothing_of_much_says_why_itself() -> None:
    with pytest.raises(GaveUpError, match="no room"):
        answer_of("import sys; sys.exit('no room')", [], [bytes(50_000_000), b"end"], longest_wait=60)
