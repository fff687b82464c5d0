"""Which pixels of a photo a job shows: what lies outside can be cut away without a trace."""

import math
from collections.abc import Iterable

from glasscap.core.document.finishing.at_work import working, working_adjustments
from glasscap.core.document.model.job import Cutout, Job, PhotoContent, pictures_of
from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.query import items_of, photo_of
from glasscap.core.document.model.region import cutout_region
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.render.plan.bounds import outer_reach, outline_box
from glasscap.core.render.plan.part import Part

# Reductions halve the photo up to this often: a crop on their lines leaves every level as it was.
_ALIGN = 64
# Photo px that filters look beyond a place, at full size and at the coarsest level.
_FILTER_PX, _COARSE_PX = 16, 8


def shown_box(job: Job, cutout: Cutout, sheet_size: tuple[int, int], margin: float = 0.0) -> PixelBox | None:
    """Return the photo px a cutout may show, `margin` sheet px around; None where that may be the whole photo."""
    photo = photo_of(job, cutout)
    shape = cutout.shape
    if photo is None or photo.is_drawing or not cutout.is_masked or shape is None or shape.keeps == "outside":
        return None
    assert isinstance(cutout.content, PhotoContent)
    size = (photo.width, photo.height)
    region = cutout_region(cutout, size, sheet_size, Affine())
    if region is None:
        return None
    finishes, adjustments = working(cutout.finishes), working_adjustments(cutout.content.adjustments)
    part = Part(photo, region, finishes=finishes, adjustments=adjustments)
    frame = outline_box(part)
    # A shadow within and a glow within lie on the content; what they blur is the outline, not the photo.
    by = outer_reach(part) + margin + 2 * adjustments.blur
    to_photo = region.photo_to_output.inverse()
    corners = frame_box(to_photo, frame.x0 - by, frame.y0 - by, frame.width + 2 * by, frame.height + 2 * by)
    return _aligned(corners.rounded_out(), _levels(region.photo_to_output)).intersection(PixelBox(0, 0, *size))


def _levels(to_output: Affine) -> int:
    """Return how often the photo is halved where it is shown at half size and a little further."""
    scale = math.sqrt(abs(to_output.determinant))
    return min(6, max(0, math.ceil(-math.log2(max(scale, 1e-6)))) + 1)


def _aligned(box: PixelBox, levels: int) -> PixelBox:
    by = _FILTER_PX + (_COARSE_PX << levels)
    x0, y0 = ((v - by) // _ALIGN * _ALIGN for v in (box.x0, box.y0))
    x1, y1 = (-(-(v + by) // _ALIGN) * _ALIGN for v in (box.x1, box.y1))
    return PixelBox(x0, y0, x1, y1)


def crops_of(job: Job, item_ids: Iterable[str] | None = None, margin: float = 0.0) -> dict[str, PixelBox]:
    """Return for each photo (SHA-256) the px that are shown, where that is less than the whole.

    With `item_ids` those cutouts alone count. A photo that is also a mask, texture or backdrop stays whole.
    """
    meant = None if item_ids is None else set(item_ids)
    records = {p.sha256: p for p in job.photos}
    boxes: dict[str, PixelBox | None] = {}
    for sheet, item in items_of(job):
        if not isinstance(item.content, PhotoContent) or (meant is not None and item.id not in meant):
            continue
        key = item.content.sha256
        box = shown_box(job, item, (sheet.width, sheet.height), margin)
        known = boxes.get(key, PixelBox(0, 0, 0, 0))
        boxes[key] = None if box is None or known is None else known.union(box)
    elsewhere = _other_uses(job)
    return {
        key: box
        for key, box in boxes.items()
        if box is not None
        and not box.is_empty
        and key not in elsewhere
        and box != PixelBox(0, 0, records[key].width, records[key].height)
    }


def _other_uses(job: Job) -> set[str]:
    """Return photos that are shown otherwise than as a cutout's content."""
    uses: dict[str, int] = {}
    for _, key in pictures_of(job):
        uses[key] = uses.get(key, 0) + 1
    for _, item in items_of(job):
        if isinstance(item.content, PhotoContent):
            uses[item.content.sha256] -= 1
    return {key for key, count in uses.items() if count > 0}
