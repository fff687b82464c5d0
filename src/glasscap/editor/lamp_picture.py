"""The small picture under the lamp: one cutout with all its light, alone."""

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import locate
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.plan.plan import Plan, part_of
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos, alone


class LampRequest(Struct, frozen=True):
    """A cutout in the middle of `size` device px, its longer side `side` device px long."""

    job: Job
    cutout_id: str
    size: tuple[int, int]
    side: float


class LampPicture(Struct, frozen=True, eq=False):
    """The answer; no frame for a cutout that shows nothing."""

    request: LampRequest
    frame: Frame | None


def lamp_picture(request: LampRequest, photos: ScreenPhotos, cache: ValueCache) -> LampPicture:
    """Render the picture."""
    return LampPicture(request, alone(lambda: _plan(request), photos, cache))


def _plan(request: LampRequest) -> Plan | None:
    sheet, item, _ = locate(request.job, request.cutout_id)
    box = item_box(request.job, item)
    if box is None:
        return None
    width, height = request.size
    middle = Affine.translation(width / 2, height / 2)
    x, y = box.centre
    scale = request.side / max(box.width, box.height)
    to_output = middle.after(Affine.scaling(scale)).after(Affine.translation(-x, -y))
    alone = replace(item, id=f"{item.id} lamp", is_hidden=False)
    part = part_of(request.job, sheet, alone, to_output)
    return None if part is None else Plan(PixelBox(0, 0, width, height), (part,), "preview")
