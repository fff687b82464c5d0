"""Does the photo cover the shape, and what of it is seen beyond; and what would make it."""

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.arranging.seen_beyond import seen_beyond
from glasscap.core.document.model.job import Cutout, PhotoRecord
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.region import photo_quad, polygons_on_sheet
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.polygon import clip_convex, extent_along, total_area
from glasscap.core.geometry.types import Affine, Similarity, cosine_sine

# In sheet px: what a cover may miss without a whole level of alpha being lost, at 4x either.
SLACK = 1 / 4096
# In sheet px: a gap smaller than this comes from rounding alone.
_NEGLIGIBLE = 1e-6
# A share below which it may be no more than that.
_SLIGHT = 0.02
# So near are the curves whose extents are covered: less than a cover may miss.
_TOLERANCE = SLACK / 2


def _polygons(cutout: Cutout) -> tuple[Points, ...]:
    assert cutout.shape is not None and cutout.shape_placement is not None
    return polygons_on_sheet(cutout.shape, cutout.shape_placement, tolerance=_TOLERANCE)


def bare_share(cutout: Cutout, photo: PhotoRecord | None, reach: float = 0.0) -> float | None:
    """Return the share (0 to 1) of the shape's area with no photo behind it, or within `reach` px of its end.

    None where the question has no meaning: no photo, no shape, or a hole.
    """
    if photo is None or cutout.shape is None or cutout.content_placement is None:
        return None
    if cutout.shape.keeps == "outside":
        return None
    share = _bare_of(cutout, cutout.content_placement, photo, reach)
    # A gap no larger than the tolerance counts as covered.
    is_slight = 0 < share < _SLIGHT and _bare_of(cutout, cutout.content_placement, photo, reach - SLACK) == 0
    return 0.0 if is_slight else share


def _bare_of(cutout: Cutout, content: ContentPlacement, photo: PhotoRecord, reach: float) -> float:
    quad = _inner_quad(content, photo, reach)
    if quad is None:
        return 1.0
    shape = _polygons(cutout)
    whole = total_area(shape)
    share = 1.0 - total_area(tuple(clip_convex(p, quad) for p in shape)) / whole
    return 0.0 if share < 1e-6 else share


def ends_within_edge(cutout: Cutout, photo: PhotoRecord | None) -> bool:
    """Whether a photo covers the shape, but ends where its soft or rough edge, or one moved outwards, is seen."""
    reach = seen_beyond(cutout.finishes)
    return reach > 0 and bare_share(cutout, photo) == 0 and bool(bare_share(cutout, photo, reach))


def kept_reach(cutout: Cutout, photo: PhotoRecord) -> float | None:
    """Return how far beyond its shape a photo covers what is seen, or just the shape (0); None if it is bare."""
    if bare_share(cutout, photo):
        return None
    return 0.0 if ends_within_edge(cutout, photo) else seen_beyond(cutout.finishes)


def _inner_quad(content: ContentPlacement, photo: PhotoRecord, reach: float) -> Points | None:
    """Return what of a photo lies `reach` sheet px from its end at least, on the sheet; None for nothing."""
    x, y = reach / content.scale_x, reach / content.scale_y
    left = photo.width - 2 * x, photo.height - 2 * y
    if min(left) <= 0:
        return None
    to_sheet = content.to_sheet(photo.width, photo.height).after(Affine.translation(x, y))
    return photo_quad(to_sheet, left)


def _axes(rotation: float) -> Points:
    c, s = cosine_sine(rotation)
    return np.array([[c, s], [-s, c]])


def _extent(cutout: Cutout, axes: Points, reach: float) -> tuple[Points, Points]:
    """Return lows and highs of what is to be covered, along a photo's axes."""
    low, high = extent_along(_polygons(cutout), axes)
    return low - reach, high + reach


def _gaps(
    cutout: Cutout, photo: PhotoRecord, content: ContentPlacement, reach: float
) -> tuple[Points, Points, Points]:
    """Return axes, and the low and high sides of what is to be covered less the photo's, along its axes."""
    axes = _axes(content.rotation)
    low, high = _extent(cutout, axes, reach)
    half = np.array([photo.width * content.scale_x, photo.height * content.scale_y]) / 2
    centre = axes @ np.array([content.x, content.y])
    return axes, low - (centre - half), high - (centre + half)


def _needed_shift(low_gap: Points, high_gap: Points) -> Points | None:
    """Return the smallest shift of the photo along its axes that covers, or None if it is too small."""
    if np.any(high_gap - low_gap > 2 * SLACK):
        return None
    return np.minimum(low_gap, 0.0) + np.maximum(high_gap, 0.0)


def covered_by_moving(cutout: Cutout, photo: PhotoRecord, reach: float) -> ContentPlacement | None:
    """Return the nearest position of the photo, same scale, that covers the shape and `reach` px beyond.

    None if it is too small.
    """
    content = cutout.content_placement
    if content is None or cutout.shape is None:
        return content
    axes, low_gap, high_gap = _gaps(cutout, photo, content, reach)
    shift = _needed_shift(low_gap, high_gap)
    return None if shift is None else content.moved(*(axes.T @ shift).tolist())


def just_covering(cutout: Cutout, photo: PhotoRecord) -> ContentPlacement | None:
    """Return a photo just large enough to cover all that is seen, scaled about the shape's centre.

    What of the photo lies in the shape's centre stays there as nearly as a cover lets it.
    """
    content, placement = cutout.content_placement, cutout.shape_placement
    if content is None or cutout.shape is None or placement is None:
        return content
    reach = seen_beyond(cutout.finishes)
    low, high = _extent(cutout, _axes(content.rotation), reach)
    size = np.array([photo.width * content.scale_x, photo.height * content.scale_y])
    factor = float(np.max((high - low) / size))
    fitted = content.under(Similarity(placement.x, placement.y, scale=factor))
    return covered_by_moving(replace(cutout, content_placement=fitted), photo, reach) or fitted


def fitted_inside(cutout: Cutout, photo: PhotoRecord) -> ContentPlacement | None:
    """Return a photo as large as it can be with all of it in the shape's frame, in the frame's middle."""
    content, placement = cutout.content_placement, cutout.shape_placement
    if content is None or cutout.shape is None or placement is None:
        return content
    axes = _axes(content.rotation)
    low, high = _extent(cutout, axes, 0.0)
    size = np.array([photo.width * content.scale_x, photo.height * content.scale_y])
    factor = float(np.min((high - low) / size))
    x, y = (axes.T @ (low + high) / 2).tolist()
    return replace(content, x=x, y=y, scale_x=content.scale_x * factor, scale_y=content.scale_y * factor)


def centred_cover(cutout: Cutout, photo: PhotoRecord, reach: float) -> ContentPlacement:
    """Return a photo centred on the shape, just large enough to cover it and `reach` px beyond.

    The turn and mirror of the photo there is stay; a distorted one becomes even.
    """
    content = cutout.content_placement or ContentPlacement(0, 0)
    axes = _axes(content.rotation)
    low, high = _extent(cutout, axes, reach)
    x, y = (axes.T @ (low + high) / 2).tolist()
    scale = float(np.max((high - low) / np.array([photo.width, photo.height])))
    return replace(content, x=x, y=y, scale_x=scale, scale_y=scale)


def shape_held_inside(cutout: Cutout, photo: PhotoRecord, reach: float) -> ShapePlacement | None:
    """Return the nearest position of the shape at which it lies over the photo, and `reach` px beyond it do.

    None if it is too large.
    """
    content, placement = cutout.content_placement, cutout.shape_placement
    if content is None or placement is None:
        return placement
    axes, low_gap, high_gap = _gaps(cutout, photo, content, reach)
    shift = _needed_shift(low_gap, high_gap)
    return None if shift is None else placement.moved(*(-(axes.T @ shift)).tolist())


def held_over(before: Cutout, after: Cutout, photo: PhotoRecord | None) -> Cutout:
    """Return `after`, the cutout with its shape moved a little, its photo over all that it covered `before`.

    The photo is moved and enlarged no more than that takes; one that left something bare stays where it is.
    """
    content = after.content_placement
    if photo is None or content is None or not before.is_masked or bare_share(before, photo) != 0:
        return after
    reach = kept_reach(before, photo) or 0.0
    axes, low_gap, high_gap = _gaps(after, photo, content, reach)
    if low_gap.min() >= -_NEGLIGIBLE and high_gap.max() <= _NEGLIGIBLE:
        return after
    size = np.array([photo.width * content.scale_x, photo.height * content.scale_y])
    factor = float(np.max(1 + (high_gap - low_gap) / size, initial=1.0))
    larger = replace(content, scale_x=content.scale_x * factor, scale_y=content.scale_y * factor)
    axes, low_gap, high_gap = _gaps(after, photo, larger, reach)
    shift = np.minimum(low_gap, 0.0) + np.maximum(high_gap, 0.0)
    return replace(after, content_placement=larger.moved(*(axes.T @ shift).tolist()))
