"""The placement of a shape that took another's place: its own proportions, the old scale and place."""

from msgspec.structs import replace

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.shapes.kinds import ParametricShape, Shape
from glasscap.core.shapes.library.table import usual_ratio
from glasscap.core.shapes.outlines import has_equal_sides, natural_ratio, own_box, own_to_frame

# Width and height may be this far from their natural ratio, in px, and still be it: sizes are whole numbers.
_RATIO_SLACK = 0.75


def is_natural(shape: Shape, placement: ShapePlacement) -> bool:
    """Whether nothing of a shape is stretched (False too where no ratio is its own)."""
    ratio = natural_ratio(shape)
    return ratio is not None and abs(placement.width - placement.height * ratio) <= _RATIO_SLACK * max(1, ratio)


def refitted(placement: ShapePlacement, before: Shape, after: Shape) -> ShapePlacement:
    """Return the placement for another shape in the same place, at its own proportions if it has any.

    After a shape at its own proportions the longer side stays; else the new one fits into the old frame.
    """
    ratio = natural_ratio(after)
    keeps = ratio is not None and not has_equal_sides(after)
    if ratio is None:
        return _in_usual_ratio(placement, before, after)
    if is_natural(before, placement):
        side = max(placement.width, placement.height)
        width, height = (side, side / ratio) if ratio >= 1 else (side * ratio, side)
    else:
        width = min(placement.width, placement.height * ratio)
        height = min(placement.height, placement.width / ratio)
    size = (float(max(1, round(width))), float(max(1, round(height))))
    return replace(placement, width=size[0], height=size[1], keeps_ratio=keeps)


def _in_usual_ratio(placement: ShapePlacement, before: Shape, after: Shape) -> ShapePlacement:
    """Return the frame for a shape without proportions of its own: as it was, unless those of another made it."""
    if isinstance(after, ParametricShape) and is_natural(before, placement):
        ratio, side = usual_ratio(after.name), max(placement.width, placement.height)
        width, height = (side, side / ratio) if ratio >= 1 else (side * ratio, side)
        size = (float(max(1, round(width))), float(max(1, round(height))))
        placement = replace(placement, width=size[0], height=size[1])
    return replace(placement, keeps_ratio=False)


def regrown(placement: ShapePlacement, before: Shape, after: Shape, *, is_whole: bool = True) -> ShapePlacement:
    """Return the placement after a change of form: the origin of the shape's own units and its scale stay."""
    old, new = own_box(before), own_box(after)
    if old is None or new is None or has_equal_sides(after) or not is_natural(before, placement):
        return placement
    scale = placement.width / old.width
    to_frame = own_to_frame(before, placement.width, placement.height)
    x, y = placement.to_sheet.apply(*to_frame.apply(*new.centre))
    grown = replace(placement, x=x, y=y, width=new.width * scale, height=new.height * scale)
    if not is_whole:
        return grown
    size = (float(max(1, round(grown.width))), float(max(1, round(grown.height))))
    return replace(grown, width=size[0], height=size[1]).on_whole_pixels()


def reshaped(placement: ShapePlacement, before: Shape, after: Shape) -> ShapePlacement:
    """Return the placement of a shape that became another by whatever way."""
    is_same_kind = type(before) is type(after)
    if isinstance(before, ParametricShape) and isinstance(after, ParametricShape):
        is_same_kind = before.name == after.name
    return regrown(placement, before, after) if is_same_kind else refitted(placement, before, after)
