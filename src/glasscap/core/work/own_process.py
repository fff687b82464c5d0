"""Libraries that may crash, or take all memory, work in a process of their own: a crash is one line here."""

import contextlib
import signal
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from io import BufferedReader
from threading import Event, Timer, get_ident
from typing import TYPE_CHECKING, cast

if TYPE_CHECKING:
    # The window's first view comes before any arrays.
    from glasscap.core.raster.pixels import Bytes

# The process each thread waits for.
_running: dict[int, "subprocess.Popen[bytes]"] = {}


class GaveUpError(ValueError):
    """A process ended without an answer."""


def answer_of(
    program: str,
    arguments: Sequence[str],
    given: Sequence[bytes | memoryview],
    *,
    longest_wait: float,
    into: "Bytes | None" = None,
) -> bytes:
    """Run a Python program that reads all that is `given` before it answers; return its answer.

    The program may import installed libraries, but not this package. With `into`, the answer fills that array
    and must be as large.

    Raises
    ------
    GaveUpError
        With the cause in words: the last line of what it complained of, a limit, or a crash.
    """
    command = [sys.executable, "-I", "-c", program, *arguments]
    with tempfile.TemporaryFile() as complaints:
        try:
            process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=complaints)
        except OSError as error:
            raise GaveUpError(f"no process could be started for it: {error.strerror}") from error
        is_late = Event()

        def end() -> None:
            is_late.set()
            process.kill()

        timer = Timer(longest_wait, end)
        timer.start()
        _running[get_ident()] = process
        try:
            answer, is_whole = _talk(process, given, into)
        finally:
            timer.cancel()
            del _running[get_ident()]
            if process.poll() is None:
                process.kill()
            process.wait()
        complaints.seek(0)
        words = complaints.read().decode(errors="replace").strip().splitlines()
    code = process.returncode
    if is_late.is_set():
        raise GaveUpError(f"it takes more than {longest_wait:g} s")
    if code == -signal.SIGXCPU:
        raise GaveUpError("it takes more time than it may")
    if code > 0 and words:
        raise GaveUpError(words[-1])
    if code or not is_whole:
        raise GaveUpError("the library gave up")
    return answer


def _talk(
    process: "subprocess.Popen[bytes]", given: Sequence[bytes | memoryview], into: "Bytes | None"
) -> tuple[bytes, bool]:
    assert process.stdin is not None
    assert process.stdout is not None
    # A process that ends early says why itself.
    with contextlib.suppress(BrokenPipeError), process.stdin:
        for part in given:
            process.stdin.write(part)
    with process.stdout:
        if into is None:
            answer = process.stdout.read()
            process.wait()
            return answer, True
        source, view, filled = cast("BufferedReader", process.stdout), into.data.cast("B"), 0
        while filled < len(view):
            count = source.readinto(view[filled:])
            if not count:
                break
            filled += count
        process.wait()
        return b"", filled == len(view)


def give_up(thread: int) -> None:
    """Stop the process that a thread (its `ident`) waits for; the thread is told that the library gave up."""
    process = _running.get(thread)
    if process is not None:
        process.kill()
