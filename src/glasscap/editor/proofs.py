"""The proofs and thumbnails the worker computes."""

import numpy as np
from msgspec import Struct, structs

from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item, find_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import which_are_drafts
from glasscap.core.raster.pixels import Bytes, Picture
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan.plan import Plan, plan_cutout, plan_sheet
from glasscap.core.render.screen.frames import Frame
from glasscap.core.render.shares.shares import region_coverage
from glasscap.editor.frames import ScreenPhotos, frame_of
from glasscap.editor.proof_pictures import (
    backdrop_picture,
    base_picture,
    base_scale,
    filtered_elsewhere,
    made_round,
    made_small,
    rim_near,
)

# How far other programs enlarge the edge, and how many px of colour the second picture carries on.
_ENLARGED, _CARRIED = 8, 2


class ProofRequest(Struct, frozen=True):
    """The proofs of a cutout, or of the sheet where `cutout_id` is the sheet's.

    Fitted into `card` device px, at small sizes, round, in a corner, its edge.
    """

    job: Job
    sheet_id: str
    cutout_id: str
    card: tuple[int, int]
    small: tuple[int, ...]
    loupe: tuple[int, int]
    corner: int = 28
    avatars: tuple[int, ...] = ()
    at: tuple[float, float] | None = None
    carry: int = 0


class Proofs(Struct, frozen=True, eq=False):
    """The answer: premultiplied pictures, and the exact size of the written one in px.

    `loupe` is the edge, px for px; `fringes` the same place enlarged as other programs do, as it is and with
    colour carried on.
    """

    request: ProofRequest
    card: Frame | None
    small: tuple[Frame | None, ...]
    loupe: Frame | None
    size: tuple[int, int] | None
    problem: str = ""
    backgrounds: tuple[Frame | None, ...] = ()
    corner: Frame | None = None
    avatars: tuple[Frame, ...] = ()
    fringes: tuple[Frame, ...] = ()


class LoupeView(Struct, frozen=True, eq=False):
    """The edge near the pointer, px for px, and enlarged as other programs do."""

    request: ProofRequest
    loupe: Frame | None
    fringes: tuple[Frame, ...]


def proofs(request: ProofRequest, photos: ScreenPhotos, cache: ValueCache) -> Proofs:
    """Render the proofs of a cutout. Errors become words in the answer."""
    photos.begin()
    none = (None,) * len(request.small)
    backgrounds = _backgrounds(request, photos, cache)
    try:
        whole = _plan(request)
        box = picture_box(whole, photos, cache)
        if box.is_empty:
            return Proofs(request, None, none, None, None, "Nothing of it is visible", backgrounds)
        size = (box.width, box.height)
        card = _at_size(request, min(request.card[0] / size[0], request.card[1] / size[1]), photos, cache)
        base = _base(request, size, photos, cache)
        return Proofs(
            request,
            card,
            tuple(made_small(base, s) for s in request.small),
            frame_of(_loupe(request, whole, box, photos, cache)),
            size,
            backgrounds=backgrounds,
            corner=made_small(base, request.corner),
            avatars=tuple(made_round(base, side) for side in request.avatars),
            fringes=_fringes(request, whole, box, base, photos, cache),
        )
    except GlassCapError as error:
        return Proofs(request, None, none, None, None, error.line, backgrounds)


def loupe_view(request: ProofRequest, photos: ScreenPhotos, cache: ValueCache) -> LoupeView:
    """Render the edge alone, as the pointer runs along it. Errors give nothing."""
    photos.begin()
    try:
        whole = _plan(request)
        box = picture_box(whole, photos, cache)
        if box.is_empty:
            return LoupeView(request, None, ())
        base = _base(request, (box.width, box.height), photos, cache)
        fringes = _fringes(request, whole, box, base, photos, cache)
        return LoupeView(request, frame_of(_loupe(request, whole, box, photos, cache)), fringes)
    except GlassCapError:
        return LoupeView(request, None, ())


def _plan(request: "ProofRequest | ThumbRequest", scale: float = 1.0) -> Plan:
    sheet = find_sheet(request.job, request.sheet_id)
    if request.cutout_id == sheet.id:
        return plan_sheet(request.job, sheet, scale=scale)
    return plan_cutout(request.job, sheet, find_item(request.job, request.cutout_id), scale=scale)


def _base(request: ProofRequest, size: tuple[int, int], photos: ScreenPhotos, cache: ValueCache) -> Bytes:
    plan = _plan(request, base_scale(size))
    is_draft = which_are_drafts((photo for part in plan.parts for photo in part.photos), photos)
    # The pointer runs along the edge of one picture: it is rendered once.
    return cache.get(
        ("proof base", plan, is_draft),
        lambda: base_picture(plan, picture_box(plan, photos, cache), photos, cache),
        lambda rgba: rgba.nbytes,
    )


def _backgrounds(request: ProofRequest, photos: ScreenPhotos, cache: ValueCache) -> tuple[Frame | None, ...]:
    found: list[Frame | None] = []
    for backdrop in request.job.proofs.backgrounds:
        try:
            found.append(backdrop_picture(request.job, backdrop, request.card, photos, cache))
        except GlassCapError:
            found.append(None)
    return tuple(found)


def _fringes(
    request: ProofRequest, plan: Plan, box: PixelBox, base: Bytes, photos: ScreenPhotos, cache: ValueCache
) -> tuple[Frame, ...]:
    """Return where the picture ends, near the pointer, enlarged as it is and with colour carried."""
    scale = base.shape[1] / box.width
    x, y = _wanted(request, box)
    rim_x, rim_y = rim_near(base, ((x - box.x0) * scale, (y - box.y0) * scale))
    width, height = (max(4, side // 2) for side in request.loupe)
    left, top = round(rim_x / scale) + box.x0 - width // 2, round(rim_y / scale) + box.y0 - request.loupe[1] // 2
    window = PixelBox(left, top, left + width, top + 2 * height)
    piece = render(Plan(window, plan.parts, "preview"), photos, cache)
    return tuple(filtered_elsewhere(piece.rgba, _ENLARGED, by) for by in (0, max(request.carry, _CARRIED)))


def _wanted(request: ProofRequest, box: PixelBox) -> tuple[float, float]:
    """Return where one looks: at the pointer, else lower right."""
    return request.at or (box.x0 + 0.86 * box.width, box.y0 + 0.86 * box.height)


def _at_size(
    request: "ProofRequest | ThumbRequest", scale: float, photos: ScreenPhotos, cache: ValueCache
) -> Frame | None:
    plan = _plan(request, min(scale, 1000.0))
    return frame_of(render(structs.replace(plan, quality="preview"), photos, cache))


def _loupe(request: ProofRequest, plan: Plan, box: PixelBox, photos: ScreenPhotos, cache: ValueCache) -> Picture:
    """Return a few px of the written picture where its edge runs: near the pointer, else lower right."""
    width, height = request.loupe
    wanted = _wanted(request, box)
    is_sheet = request.cutout_id == request.sheet_id
    part = None if is_sheet else plan.parts[0].mount or plan.parts[0]
    cells = None if part is None else region_coverage(part.region, plan.box, cache)
    if cells is None or len(cells.cell_y) == 0:
        y, x = box.y1 - height // 2, box.x1 - width // 2
    else:
        away = (cells.cell_x - wanted[0]) ** 2 + (cells.cell_y - wanted[1]) ** 2
        nearest = int(np.argmin(away))
        x, y = int(cells.cell_x[nearest]), int(cells.cell_y[nearest])
    window = PixelBox(x - width // 2, y - height // 2, x - width // 2 + width, y - height // 2 + height)
    return render(Plan(window, plan.parts, "preview"), photos, cache)


class ThumbRequest(Struct, frozen=True):
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
