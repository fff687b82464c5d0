"""Pictures of shapes cutting the designer's own photo."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.edits.intake import add_waiting_shape
from glasscap.core.document.model.finishes import Finishes
from glasscap.core.document.model.job import Cutout, Job, PaintContent
from glasscap.core.document.model.paint import ColourPaint
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

# The paint of a shape without a photo, a grey that is seen on light and dark cards.
_FILLED = ColourPaint("#8a949c")
# Height to width of shapes without proportions of their own, where nothing gives them any.
_FREE_RATIO = 0.7


class ShapeRequest(Struct, frozen=True):
    """One shape on one cutout, within `size` device px; `key` names it.

    Without a cutout, or where its shape waits for a photo, the shape is shown filled.
    """

    job: Job
    cutout_id: str | None
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
    if request.cutout_id is None:
        # Wider than high: an ellipse and a capsule do not look like circles.
        placement = largest_centred(request.shape, request.size[0], _FREE_RATIO * request.size[0], 0.0, 0.0)
        job, key = add_waiting_shape(request.job, request.job.sheets[0].id, request.shape, placement)
    else:
        job, key = take_shape(request.job, request.cutout_id, request.shape), request.cutout_id
    sheet, item, _ = locate(job, key)
    placed = item.shape_placement
    if placed is None:
        return None
    if item.content is None:
        item = replace(item, content=PaintContent(_FILLED))
    part = part_of(job, sheet, _bare(item, request.key), _to_card(placed, request.size))
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
