"""The object within a rough box of a photo, as a shape."""

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.points import followed_shape
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.outline import Outline, Points, transform
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import Hint, cut_object
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.kinds import ObjectDrawing, ObjectStroke, PointsShape
from glasscap.core.shapes.traced import level_lines, trace_mask
from glasscap.core.work.ticket import Ticket

_SMOOTHNESS = 1.3

RoughBox = tuple[float, float, float, float]


class FoundObject(Struct, frozen=True, eq=False):
    """An object's outline in photo px, the level lines it was fitted to, and the tolerance of that fit."""

    outline: Outline
    ways: tuple[Points, ...]
    tolerance: float

    def shape(self, to_sheet: Affine) -> tuple[PointsShape, ShapePlacement]:
        """Return it as a shape that is fitted anew later, with its place. Raises ShapeError."""
        placed = tuple(transform(way, to_sheet) for way in self.ways)
        scale = abs(to_sheet.determinant) ** 0.5
        return followed_shape(placed, self.tolerance * scale, made_by="Cut-out object")


def object_drawing(photo: str, box: RoughBox, hints: tuple[Hint, ...]) -> ObjectDrawing:
    """Return what was drawn on a photo (its SHA-256) as it is kept in a shape, rounded to 0.1 px."""
    strokes = tuple(
        ObjectStroke(
            " ".join(f"{x:.1f},{y:.1f}" for x, y in hint.points.tolist()), round(hint.radius, 2), hint.is_object
        )
        for hint in hints
    )
    x0, y0, x1, y1 = (round(v, 1) for v in box)
    return ObjectDrawing(photo, (x0, y0, x1, y1), strokes)


def hints_of(drawing: ObjectDrawing) -> tuple[Hint, ...]:
    """Return the strokes of a kept drawing as the cut takes them."""
    return tuple(Hint(_points_of(s.points), s.radius, s.is_object) for s in drawing.strokes)


def _points_of(words: str) -> Points:
    return np.array([pair.split(",") for pair in words.split()], np.float64)


def find_object(
    rgba: Bytes, box: RoughBox, hints: tuple[Hint, ...] = (), ticket: Ticket | None = None
) -> FoundObject | None:
    """Return the object in a rough box (x0, y0, x1, y1 in photo px), or None where there is none.

    Raises CancelledError once the ticket says stop.
    """
    window, mask = cut_object(rgba, box, hints, ticket)
    to_photo = Affine.translation(window.x, window.y).after(Affine.scaling(1 / window.scale))
    try:
        outline = trace_mask(mask, smoothness=_SMOOTHNESS).transformed(to_photo)
    except ShapeError:
        return None
    ways = tuple(transform(line, to_photo) for line in level_lines(mask))
    return FoundObject(outline, ways, _SMOOTHNESS / window.scale)


def object_shape(rgba: Bytes, box: RoughBox, photo: str) -> tuple[PointsShape, ShapePlacement]:
    """Return the object in a rough box as a shape on a photo of that SHA-256.

    Raises ShapeError where there is none.
    """
    found = find_object(rgba, box)
    if found is None:
        where = ", ".join(f"{v:g}" for v in (box[0], box[1], box[2] - box[0], box[3] - box[1]))
        raise ShapeError(
            f"Around {where}", "no object stands out there", "draw the box close around it, all of it within"
        )
    shape, placement = found.shape(Affine())
    return replace(shape, drawn=object_drawing(photo, box, ())), placement
