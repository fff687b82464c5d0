"""SVG drawn by a process of its own: the drawing library holds the interpreter as long as it draws."""

import subprocess
import sys
from threading import get_ident

import resvg_py

# A drawing smaller than both is drawn here: it takes no longer than a process would to start.
_SMALL_PX, _SMALL_BYTES = 60_000, 16_384
# A drawing may take long, but not for ever (seconds).
_LONGEST = 120
# The process each thread waits for.
_running: dict[int, "subprocess.Popen[bytes]"] = {}
_PROGRAM = """
import sys, resvg_py
try:
    drawn = resvg_py.svg_to_bytes(svg_string=sys.stdin.buffer.read().decode(), width=int(sys.argv[1]))
except (ValueError, RuntimeError, OverflowError) as error:
    sys.exit(str(error) or "unknown")
sys.stdout.buffer.write(bytes(drawn))
"""


def drawn_png(svg: bytes, width: int, height: int) -> bytes:
    """Return a clean drawing as a PNG file `width` px wide, its `height` as the drawing has it.

    Raises ValueError with the cause where it cannot be drawn.
    """
    if width * height <= _SMALL_PX and len(svg) <= _SMALL_BYTES:
        return _drawn_here(svg, width)
    command = [sys.executable, "-I", "-c", _PROGRAM, str(width)]
    try:
        code, drawn, complaint = _run(command, svg)
    except subprocess.TimeoutExpired:
        raise ValueError(f"it takes more than {_LONGEST} s") from None
    except OSError as error:
        raise ValueError(f"no process could be started for it: {error.strerror}") from error
    if code:
        words = complaint.decode(errors="replace").strip().splitlines()
        raise ValueError(words[-1] if words else "the drawing library gave up")
    return drawn


def give_up_drawing(thread: int) -> None:
    """Stop what a thread (its `ident`) waits for; to that the drawing library has then given up."""
    process = _running.get(thread)
    if process is not None:
        process.kill()


def _run(command: list[str], given: bytes) -> tuple[int, bytes, bytes]:
    pipe = subprocess.PIPE
    with subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=pipe) as process:
        _running[get_ident()] = process
        try:
            drawn, complaint = process.communicate(given, timeout=_LONGEST)
        except BaseException:
            process.kill()
            raise
        finally:
            del _running[get_ident()]
    return process.returncode, drawn, complaint


def _drawn_here(svg: bytes, width: int) -> bytes:
    try:
        return bytes(resvg_py.svg_to_bytes(svg_string=svg.decode(), width=width))
    except (RuntimeError, OverflowError) as error:
        raise ValueError(str(error)) from error
