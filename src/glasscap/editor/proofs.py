"""The proofs and thumbnails the worker computes."""

import dataclasses
from dataclasses import dataclass

import numpy as np

from glasscap.core.document.model import Job
from glasscap.core.document.query import find_item, find_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan import Plan, plan_cutout
from glasscap.core.render.screen import Frame
from glasscap.core.render.weights import region_coverage
from glasscap.editor.frames import ScreenPhotos, frame_of


@dataclass(frozen=True)
class ProofRequest:
    """The proofs of one cutout: fitted into `card` device px, at small sizes, and its edge enlarged."""

    job: Job
    sheet_id: str
    cutout_id: str
    card: tuple[int, int]
    small: tuple[int, ...]
    loupe: tuple[int, int]


@dataclass(frozen=True, eq=False)
class Proofs:
    """The answer: premultiplied pictures, and the exact size of the written one in px."""

    request: ProofRequest
    card: Frame | None
    small: tuple[Frame | None, ...]
    loupe: Frame | None
    size: tuple[int, int] | None
    problem: str = ""


def proofs(request: ProofRequest, photos: ScreenPhotos, cache: ValueCache) -> Proofs:
    """Render the proofs of a cutout. Errors become words in the answer."""
    photos.begin()
    none = (None,) * len(request.small)
    try:
        sheet = find_sheet(request.job, request.sheet_id)
        item = find_item(request.job, request.cutout_id)
        whole = plan_cutout(request.job, sheet, item)
        box = picture_box(whole, photos, cache)
        if box.is_empty:
            return Proofs(request, None, none, None, None, "Nothing of it is visible")
        card = _at_size(request, min(request.card[0] / box.width, request.card[1] / box.height), photos, cache)
        small = tuple(_at_size(request, s / max(box.width, box.height), photos, cache) for s in request.small)
        return Proofs(request, card, small, _loupe(request, whole, box, photos, cache), (box.width, box.height))
    except GlassCapError as error:
        return Proofs(request, None, none, None, None, error.line)


def _at_size(
    request: "ProofRequest | ThumbRequest", scale: float, photos: ScreenPhotos, cache: ValueCache
) -> Frame | None:
    sheet = find_sheet(request.job, request.sheet_id)
    item = find_item(request.job, request.cutout_id)
    plan = plan_cutout(request.job, sheet, item, scale=min(scale, 1000.0))
    return frame_of(render(dataclasses.replace(plan, quality="preview"), photos, cache))


def _loupe(
    request: ProofRequest, plan: Plan, box: PixelBox, photos: ScreenPhotos, cache: ValueCache
) -> Frame | None:
    """Return a few px of the written picture where its edge runs, lower right of the middle."""
    width, height = request.loupe
    part = plan.parts[0].mount or plan.parts[0]
    cover = region_coverage(part.region, plan.box, cache)
    if len(cover.cell_y) == 0:
        y, x = box.y1 - height // 2, box.x1 - width // 2
    else:
        wanted = (box.x0 + 0.86 * box.width, box.y0 + 0.86 * box.height)
        away = (cover.cell_x - wanted[0]) ** 2 + (cover.cell_y - wanted[1]) ** 2
        nearest = int(np.argmin(away))
        x, y = int(cover.cell_x[nearest]), int(cover.cell_y[nearest])
    window = PixelBox(x - width // 2, y - height // 2, x - width // 2 + width, y - height // 2 + height)
    return frame_of(render(Plan(window, plan.parts, "preview"), photos, cache))


@dataclass(frozen=True)
class ThumbRequest:
    """The tray's picture of one cutout within `size` device px."""

    job: Job
    sheet_id: str
    cutout_id: str
    size: tuple[int, int]


def thumbnail(request: ThumbRequest, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    """Render a thumbnail; None for a cutout that shows nothing."""
    photos.begin()
    try:
        sheet = find_sheet(request.job, request.sheet_id)
        plan = plan_cutout(request.job, sheet, find_item(request.job, request.cutout_id))
        scale = min(request.size[0] / plan.box.width, request.size[1] / plan.box.height)
        return _at_size(request, scale, photos, cache)
    except GlassCapError:
        return None
