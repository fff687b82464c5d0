"""Pictures of finish sets on the designer's own photo."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Finishes
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import locate
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import Affine, PixelBox, Similarity
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.plan.bounds import outline_box
from glasscap.core.render.plan.plan import Plan, part_of
from glasscap.core.render.screen.frames import Frame, screen_frame
from glasscap.editor.frames import ScreenPhotos

# Sheet px the outline's longer side is taken to be, so that finishes show on any cutout.
_LOOKED_AT = 300.0
_SHARE = 0.74


class SetRequest(Struct, frozen=True):
    """One set on one cutout, within `size` device px."""

    job: Job
    cutout_id: str
    name: str
    finishes: Finishes
    size: tuple[int, int]


class SetCard(Struct, frozen=True, eq=False):
    """The answer."""

    request: SetRequest
    frame: Frame | None


def set_card(request: SetRequest, photos: ScreenPhotos, cache: ValueCache) -> SetCard:
    """Render a set; None for a cutout that shows nothing."""
    photos.begin()
    try:
        return SetCard(request, _card(request, photos, cache))
    except GlassCapError:
        return SetCard(request, None)


def _card(request: SetRequest, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    sheet, item, _ = locate(request.job, request.cutout_id)
    dressed = replace(
        item, id=f"{item.id} {request.name}", finishes=request.finishes, is_hidden=False, opacity=1.0
    )
    plain = part_of(request.job, sheet, replace(dressed, finishes=Finishes()), Affine())
    if plain is None:
        return None
    box = outline_box(plain)
    factor = _LOOKED_AT / max(box.width, box.height)
    width, height = request.size
    scale = _SHARE * min(width, height) / _LOOKED_AT
    grown = Similarity(scale=factor)
    content, shape = item.content_placement, item.shape_placement
    placed = replace(
        dressed,
        content_placement=None if content is None else content.under(grown),
        shape_placement=None if shape is None else shape.under(grown),
    )
    x, y = (v * factor for v in box.centre)
    to_output = (
        Affine.translation(width / 2, height / 2).after(Affine.scaling(scale)).after(Affine.translation(-x, -y))
    )
    part = part_of(request.job, sheet, placed, to_output)
    return (
        None
        if part is None
        else screen_frame(Plan(PixelBox(0, 0, width, height), (part,), "preview"), photos, cache)
    )
