"""Pictures of shapes cutting the designer's own photo."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Finishes
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import locate
from glasscap.core.document.shapes.shaping import take_shape
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.plan.plan import Plan, part_of
from glasscap.core.render.screen.frames import Frame, screen_frame
from glasscap.core.shapes.kinds import Shape
from glasscap.editor.frames import ScreenPhotos


class ShapeRequest(Struct, frozen=True):
    """One shape on one cutout, within `size` device px; `key` names it."""

    job: Job
    cutout_id: str
    key: str
    shape: Shape
    size: tuple[int, int]


class ShapeCard(Struct, frozen=True, eq=False):
    """The answer; no frame where nothing shows."""

    request: ShapeRequest
    frame: Frame | None


def shape_card(request: ShapeRequest, photos: ScreenPhotos, cache: ValueCache) -> ShapeCard:
    """Render the cutout as the shape would cut it, without finishes."""
    photos.begin()
    try:
        return ShapeCard(request, _frame(request, photos, cache))
    except GlassCapError:
        return ShapeCard(request, None)


def _frame(request: ShapeRequest, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    sheet, before, _ = locate(request.job, request.cutout_id)
    job = take_shape(request.job, request.cutout_id, request.shape)
    _, item, _ = locate(job, request.cutout_id)
    if item.shape_placement is None or before.content is None:
        return None
    part = part_of(job, sheet, _bare(item, request.key), _to_card(item.shape_placement, request.size))
    if part is None:
        return None
    return screen_frame(Plan(PixelBox(0, 0, *request.size), (part,), "preview"), photos, cache)


def _bare(item: Cutout, key: str) -> Cutout:
    shape = None if item.shape is None else replace(item.shape, keeps="inside")
    return replace(
        item,
        id=f"{item.id} {key}",
        finishes=Finishes(),
        is_hidden=False,
        opacity=1.0,
        is_masked=True,
        shape=shape,
    )


def _to_card(placement: ShapePlacement, size: tuple[int, int]) -> Affine:
    """Return the map that fits the upright frame into a card."""
    width, height = size
    scale = min(width / placement.width, height / placement.height)
    middle = Affine.translation(width / 2, height / 2).after(Affine.scaling(scale))
    upright = Affine.rotation(-placement.rotation)
    return middle.after(upright).after(Affine.translation(-placement.x, -placement.y))
