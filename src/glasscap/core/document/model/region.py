"""The region of a cutout as polygons: shape, photo box, hole, mask off."""

from functools import lru_cache

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.job import Cutout, GroupContent, PaintContent
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.outline import Outline, Points, transform
from glasscap.core.geometry.polygon import clip_convex, oriented
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.kinds import Shape
from glasscap.core.shapes.outlines import outline_of, polygons_of_shape

# Output px a shape may stand over its photo's border before that is clipped: a third of a level.
_SLACK = 1e-3
# Half the side of the plane a paint fills, sheet px.
_EVERYWHERE = 1 << 24


class Region(Struct, frozen=True):
    """A cutout's visible region in output px; hashable, so that results can be kept under it.

    `photo_to_output` with the photo's size gives the photo's box; `shape_to_output` maps sheet px. Without
    a shape (or with the mask off) the photo's whole box shows.
    """

    photo_to_output: Affine
    photo_size: tuple[int, int]
    shape: Shape | None
    placement: ShapePlacement | None
    sheet_to_output: Affine

    @property
    def is_hole(self) -> bool:
        """Whether what lies around the shape shows rather than what lies within."""
        return self.shape is not None and self.shape.keeps == "outside"


def shape_polygons(
    shape: Shape, placement: ShapePlacement, sheet_to_output: Affine, *, tolerance: float
) -> tuple[Points, ...]:
    """Return the outline of a placed shape as polygons in output px within `tolerance` output px.

    Outer contours are clockwise on screen, holes the other way.
    """
    scale = abs(sheet_to_output.determinant) ** 0.5
    flat = polygons_of_shape(shape, placement.width, placement.height, tolerance=tolerance / scale)
    to_output = sheet_to_output.after(placement.to_sheet)
    placed = tuple(transform(polygon, to_output) for polygon in flat)
    return placed if to_output.determinant > 0 else tuple(polygon[::-1] for polygon in placed)


@lru_cache(maxsize=64)
def polygons_on_sheet(shape: Shape, placement: ShapePlacement, *, tolerance: float) -> tuple[Points, ...]:
    """Return `shape_polygons` in sheet px, read-only and kept: tools ask at every move of the pointer."""
    made = shape_polygons(shape, placement, Affine(), tolerance=tolerance)
    for polygon in made:
        polygon.flags.writeable = False
    return made


def shape_outline(shape: Shape, placement: ShapePlacement) -> Outline:
    """Return the outline of a placed shape as cubics in sheet px."""
    return outline_of(shape, placement.width, placement.height).transformed(placement.to_sheet)


def covers_shape(region: Region, grown: float = 0.0) -> bool:
    """Whether a shape's frame, grown by some output px, lies on the content (but for what no level shows)."""
    placement = region.placement
    if region.shape is None or placement is None:
        return grown <= 0
    scale = abs(region.sheet_to_output.determinant) ** 0.5
    half_width, half_height = placement.width / 2 + grown / scale, placement.height / 2 + grown / scale
    to_output = region.sheet_to_output.after(placement.to_sheet)
    to_photo = region.photo_to_output.inverse().after(to_output)
    slack = _SLACK / abs(region.photo_to_output.determinant) ** 0.5
    width, height = region.photo_size
    corners = [to_photo.apply(u * half_width, v * half_height) for u in (-1, 1) for v in (-1, 1)]
    return all(-slack <= x <= width + slack and -slack <= y <= height + slack for x, y in corners)


def photo_quad(photo_to_output: Affine, size: tuple[float, float]) -> Points:
    """Return the four corners of a photo's box in output px, shape (4, 2)."""
    width, height = size
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], float)
    return transform(corners, photo_to_output)


def region_polygons(region: Region, *, tolerance: float) -> tuple[Points, ...]:
    """Return the visible region as polygons that do not overlap, holes wound the other way.

    A hole is the complement of the shape within the photo's box.
    """
    quad = photo_quad(region.photo_to_output, region.photo_size)
    if region.shape is None or region.placement is None:
        return (oriented(quad),)
    flat = shape_polygons(region.shape, region.placement, region.sheet_to_output, tolerance=tolerance)
    inside = tuple(clipped for p in flat if len(clipped := clip_convex(p, quad)))
    if region.shape.keeps == "inside":
        return inside
    return (oriented(quad), *(polygon[::-1] for polygon in inside))


def cutout_region(
    cutout: Cutout, photo_size: tuple[int, int] | None, sheet: tuple[int, int], sheet_to_output: Affine
) -> Region | None:
    """Return what a cutout shows, or None when it has nothing to show.

    A paint, and what a group holds, fills any shape; with the mask off, or around a hole, it fills the sheet.
    """
    if isinstance(cutout.content, PaintContent | GroupContent):
        return _painted_region(cutout, sheet, sheet_to_output)
    if cutout.content_placement is None or photo_size is None:
        return None
    to_output = sheet_to_output.after(cutout.content_placement.to_sheet(*photo_size))
    shows_all = not cutout.is_masked or cutout.shape is None
    return Region(
        to_output,
        photo_size,
        None if shows_all else cutout.shape,
        None if shows_all else cutout.shape_placement,
        sheet_to_output,
    )


def _painted_region(cutout: Cutout, sheet: tuple[int, int], sheet_to_output: Affine) -> Region:
    shape = cutout.shape if cutout.is_masked else None
    if shape is not None and shape.keeps == "inside":
        return filled_region(shape, cutout.shape_placement, sheet_to_output)
    placement = None if shape is None else cutout.shape_placement
    return Region(sheet_to_output, sheet, shape, placement, sheet_to_output)


def filled_region(shape: Shape, placement: ShapePlacement | None, sheet_to_output: Affine) -> Region:
    """Return a shape over content that lies everywhere."""
    far = Affine.translation(-_EVERYWHERE, -_EVERYWHERE)
    return Region(
        sheet_to_output.after(far), (2 * _EVERYWHERE, 2 * _EVERYWHERE), shape, placement, sheet_to_output
    )


def sheet_region(size: tuple[int, int], sheet_to_output: Affine, bleed: int = 0) -> Region:
    """Return the whole of a sheet; with a bleed, `size` holds it and begins that much before the sheet."""
    corner = sheet_to_output.after(Affine.translation(-bleed, -bleed))
    return Region(corner, size, None, None, sheet_to_output)
