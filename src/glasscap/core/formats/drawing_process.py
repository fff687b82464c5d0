"""SVG drawn by a process of its own: the drawing library holds the interpreter, and may crash."""

import json
from pathlib import Path

from glasscap.core.work.own_process import answer_of

# A drawing may take long, but not for ever (seconds of the processor, and of waiting), nor all the memory.
_LONGEST, _LONGEST_WAIT, _MOST_MEMORY = 10, 60, 6 << 30
# Text without a font that is there is set in these, which come with the program: the same on every machine.
_PACKAGE = Path(__file__).parents[2]
_FONT_FILES = [
    *(_PACKAGE / "app/theme/data/fonts" / f"HankenGrotesk-{weight}.ttf" for weight in ("Regular", "Strong")),
    _PACKAGE / "files/fonts/AbrilFatface-Regular.ttf",
]
_SANS, _SERIF = "Hanken Grotesk", "Abril Fatface"
_FAMILIES = {
    "font_family": _SANS, "sans_serif_family": _SANS, "serif_family": _SERIF, "monospace_family": _SANS,
    "cursive_family": _SANS, "fantasy_family": _SERIF,
}  # fmt: skip
_PROGRAM = """
import json, resource, sys
most, seconds = int(sys.argv[2]), int(sys.argv[3])
resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 5))
resource.setrlimit(resource.RLIMIT_AS, (most, most))
resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
import resvg_py
try:
    drawn = resvg_py.svg_to_bytes(svg_string=sys.stdin.buffer.read().decode(), **json.loads(sys.argv[1]))
except (ValueError, RuntimeError, OverflowError, MemoryError) as error:
    sys.exit(str(error) or "unknown")
sys.stdout.buffer.write(bytes(drawn))
"""


def drawn_png(svg: bytes, width: int) -> bytes:
    """Return a clean drawing as a PNG file `width` px wide.

    Raises GaveUpError with the cause where it cannot be drawn.
    """
    how: dict[str, object] = {"width": width, "skip_system_fonts": True}
    if b"text" in svg:
        # To look through all fonts takes longer than most drawings.
        how |= {"skip_system_fonts": False, "font_files": [str(path) for path in _FONT_FILES], **_FAMILIES}
    arguments = [json.dumps(how), str(_MOST_MEMORY), str(_LONGEST)]
    return answer_of(_PROGRAM, arguments, [svg], longest_wait=_LONGEST_WAIT)
