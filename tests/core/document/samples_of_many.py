"""Jobs of several plain cutouts for tests of groups, versions and arranging."""

from collections.abc import Sequence

from glasscap.core.document.model.job import Cutout, Job, PaintContent, Sheet
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import Shape, library_shape

RECTANGLE, CIRCLE = library_shape("rectangle"), library_shape("circle")
COLOURS = ("#b4532c", "#0b7a75", "#e8c9a0", "#22262a", "#5b6f7d", "#c7691f")


def painted(key: str, box: Box, colour: str = COLOURS[0], shape: Shape = RECTANGLE) -> Cutout:
    """A colour under a shape that fills a box."""
    placement = ShapePlacement(*box.centre, box.width, box.height)
    return Cutout(key, f"Tile {key}", PaintContent(ColourPaint(colour)), shape=shape, shape_placement=placement)


def waiting(key: str, box: Box, shape: Shape = CIRCLE) -> Cutout:
    """A shape that waits for a photo."""
    return Cutout(
        key, f"Shape {key}", shape=shape, shape_placement=ShapePlacement(*box.centre, box.width, box.height)
    )


def job_of(items: Sequence[Cutout], width: int = 400, height: int = 300) -> Job:
    """One sheet with these on it, back to front."""
    return Job((Sheet("s1", "Sheet 1", width, height, items=tuple(items)),))


def row_of(*lefts: float, size: float = 40.0) -> Job:
    """Squares i1, i2 ... with these left edges, at the top."""
    boxes = [Box(x, 0, x + size, size) for x in lefts]
    return job_of([painted(f"i{n}", box, COLOURS[n % 6]) for n, box in enumerate(boxes, 1)])
