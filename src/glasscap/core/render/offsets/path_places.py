"""Places along a part's outline of the pixels near it: brushes and gradients along an edge follow them."""

import math

from glasscap.core.geometry.beginning import begun_on_top
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Plane, view_of
from glasscap.core.render.offsets.edges import Edges
from glasscap.core.render.offsets.path_field import path_field
from glasscap.core.render.plan.part import Part

# Px; the fields around an outline reach so many whole steps.
_STEP = 16


class PathPlaces:
    """The places along an outline of what lies within `reach` output px of it."""

    def __init__(self, part: Part, edges: Edges, reach: float) -> None:
        self._part, self._edges, self._margin = part, edges, math.ceil(reach) + 2

    def within(self, box: PixelBox) -> tuple[Plane, Plane]:
        """Return the place of each pixel of a box, and its distance from the outline; see `path_field`.

        Not to be written to.
        """
        # While a stroke grows around the same outline, they stay, too.
        wide = -(-self._margin // _STEP) * _STEP
        kept = self._edges.kept_near(("path field", wide), wide, lambda where: self._made(where, wide))
        if kept is None or not kept[0].holds(box):
            return self._made(box, self._margin)
        around, (share, distance) = kept
        return view_of(share, around, box), view_of(distance, around, box)

    def _made(self, box: PixelBox, margin: int) -> tuple[Plane, Plane]:
        return path_field(begun(self._part, self._edges.polygons()), box, margin)


def begun(part: Part, polygons: tuple[Points, ...]) -> tuple[Points, ...]:
    """Return outlines that begin on top of a part's shape, however it is turned, or else of its photo."""
    region = part.region
    to_output = region.photo_to_output
    if region.shape is not None and region.placement is not None:
        to_output = region.sheet_to_output.after(region.placement.to_sheet)
    to_frame = to_output.inverse()
    return tuple(begun_on_top(polygon, to_frame) for polygon in polygons)
