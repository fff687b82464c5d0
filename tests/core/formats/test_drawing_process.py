"""Drawings drawn by a process of their own: the same picture, and one clear cause where there is none."""

import subprocess
import time
from threading import Thread

import pytest

from glasscap.core.errors import PhotoError
from glasscap.core.formats import drawing_process
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.formats.drawing_process import drawn_png, give_up_drawing

HALF = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><rect width="5" height="10" fill="#0b7a75"/></svg>'


def test_a_large_drawing_is_the_small_one_drawn_elsewhere(monkeypatch: pytest.MonkeyPatch) -> None:
    large = drawn_png(HALF, 400, 400)
    monkeypatch.setattr(drawing_process, "_SMALL_PX", 10**9)
    assert drawn_png(HALF, 400, 400) == large


def test_a_small_drawing_starts_no_process(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(subprocess, "Popen", lambda *a, **k: pytest.fail("a process was started"))
    assert drawn_png(HALF, 100, 100).startswith(b"\x89PNG")


def test_large_artwork_has_its_colours_at_its_size() -> None:
    rgba = draw_artwork(HALF, "half.svg", 600).rgba
    assert rgba.shape == (600, 600, 4)
    assert rgba[300, 150].tolist() == [0x0B, 0x7A, 0x75, 255]
    assert rgba[300, 450, 3] == 0


@pytest.mark.parametrize("width", [100, 400])
def test_what_cannot_be_drawn_says_why(width: int) -> None:
    with pytest.raises(ValueError, match=r"not have a root"):
        drawn_png(b"<svg", width, width)


def test_a_process_that_dies_or_takes_too_long_is_a_clear_problem(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import os; os.kill(os.getpid(), 9)")
    with pytest.raises(PhotoError, match="gave up"):
        draw_artwork(HALF, "half.svg", 600)
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    monkeypatch.setattr(drawing_process, "_LONGEST", 0.2)
    with pytest.raises(PhotoError, match="takes more than"):
        draw_artwork(HALF, "half.svg", 600)


def test_a_drawing_is_given_up_for_the_thread_that_waits_for_it(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    causes: list[str] = []

    def draw() -> None:
        try:
            drawn_png(HALF, 400, 400)
        except ValueError as error:
            causes.append(str(error))

    thread = Thread(target=draw)
    begun = time.monotonic()
    thread.start()
    while thread.is_alive() and time.monotonic() - begun < 300:
        give_up_drawing(thread.ident or 0)
        thread.join(0.02)
    assert causes == ["the drawing library gave up"]
    assert time.monotonic() - begun < 300
    assert not drawing_process._running
    # Whoever waits for nothing is left alone.
    give_up_drawing(thread.ident or 0)
