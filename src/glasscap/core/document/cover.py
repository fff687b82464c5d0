"""Does the photo cover the shape, and what would make it."""

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model import Cutout, PhotoRecord
from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.region import photo_quad, polygons_on_sheet
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import clip_convex, extent_along, total_area
from glasscap.core.geometry.types import cosine_sine

# In sheet px: what a cover may miss without a whole level of alpha being lost.
SLACK = 1e-3
_TOLERANCE = 1 / 64


def _polygons(cutout: Cutout) -> tuple[Points, ...]:
    assert cutout.shape is not None and cutout.shape_placement is not None
    return polygons_on_sheet(cutout.shape, cutout.shape_placement, tolerance=_TOLERANCE)


def bare_share(cutout: Cutout, photo: PhotoRecord | None) -> float | None:
    """Return the share (0 to 1) of the shape's area with no photo behind it.

    None where the question has no meaning: no photo, no shape, or a hole.
    """
    if photo is None or cutout.shape is None or cutout.content_placement is None:
        return None
    if cutout.shape.keeps == "outside":
        return None
    quad = photo_quad(cutout.content_placement.to_sheet(photo.width, photo.height), (photo.width, photo.height))
    shape = _polygons(cutout)
    whole = total_area(shape)
    share = 1.0 - total_area(tuple(clip_convex(p, quad) for p in shape)) / whole
    return 0.0 if share < 1e-6 else share


def _axes(rotation: float) -> Points:
    c, s = cosine_sine(rotation)
    return np.array([[c, s], [-s, c]])


def _gaps(cutout: Cutout, photo: PhotoRecord, content: ContentPlacement) -> tuple[Points, Points, Points]:
    """Return axes, and the low and high sides of the shape less those of the photo, along the photo's axes."""
    axes = _axes(content.rotation)
    low, high = extent_along(_polygons(cutout), axes)
    half = np.array([photo.width * content.scale_x, photo.height * content.scale_y]) / 2
    centre = axes @ np.array([content.x, content.y])
    return axes, low - (centre - half), high - (centre + half)


def _needed_shift(low_gap: Points, high_gap: Points) -> Points | None:
    """Return the smallest shift of the photo along its axes that covers, or None if it is too small."""
    if np.any(high_gap - low_gap > 2 * SLACK):
        return None
    return np.minimum(low_gap, 0.0) + np.maximum(high_gap, 0.0)


def covered_by_moving(cutout: Cutout, photo: PhotoRecord) -> ContentPlacement | None:
    """Return the nearest position of the photo, same scale, that covers the shape; None if it is too small."""
    content = cutout.content_placement
    if content is None or cutout.shape is None:
        return content
    axes, low_gap, high_gap = _gaps(cutout, photo, content)
    shift = _needed_shift(low_gap, high_gap)
    return None if shift is None else content.moved(*(axes.T @ shift).tolist())


def covered(cutout: Cutout, photo: PhotoRecord) -> ContentPlacement | None:
    """Return the photo's placement that covers the shape: moved if that is enough, else also enlarged."""
    content = cutout.content_placement
    if content is None or cutout.shape is None or cutout.shape_placement is None:
        return content
    moved = covered_by_moving(cutout, photo)
    if moved is not None:
        return moved
    low, high = extent_along(_polygons(cutout), _axes(content.rotation))
    size = np.array([photo.width * content.scale_x, photo.height * content.scale_y])
    factor = float(np.max((high - low) / size))
    axes = _axes(content.rotation)
    larger = replace(content, scale_x=content.scale_x * factor, scale_y=content.scale_y * factor)
    axes, low_gap, high_gap = _gaps(cutout, photo, larger)
    shift = _needed_shift(low_gap, high_gap)
    return larger if shift is None else larger.moved(*(axes.T @ shift).tolist())


def shape_held_inside(cutout: Cutout, photo: PhotoRecord) -> ShapePlacement | None:
    """Return the nearest position of the shape over the photo; None if the shape is too large for it."""
    content, placement = cutout.content_placement, cutout.shape_placement
    if content is None or placement is None:
        return placement
    axes, low_gap, high_gap = _gaps(cutout, photo, content)
    shift = _needed_shift(low_gap, high_gap)
    return None if shift is None else placement.moved(*(-(axes.T @ shift)).tolist())
