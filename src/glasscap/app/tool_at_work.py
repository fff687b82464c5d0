"""Which tool has the bench's clicks: one at a time, or none."""

from typing import Literal

from msgspec import Struct

from glasscap.editor.sketches.sketch import SketchKind
from glasscap.editor.tools.aim import Aim


class Drawing(Struct, frozen=True):
    """The next drag draws a shape of the library."""

    shape: str


# The library lies over the bench, or clicks set points, or keys are letters.
Standing = Literal["library", "points", "typing"]
ToolAtWork = Drawing | Aim | SketchKind | Standing | None


def is_for_one_cutout(tool: ToolAtWork) -> bool:
    """Whether a tool works on the selected cutout, and ends when another is selected."""
    return tool is not None and tool != "library" and not isinstance(tool, Drawing)
