"""Pictures of the cutouts a series would make, one a photo."""

from msgspec import Struct

from glasscap.core.document.edits.items import add_photo
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import locate
from glasscap.core.document.outputs.series import Placing, in_series
from glasscap.core.errors import GlassCapError
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos, frame_of


class SeriesRequest(Struct, frozen=True):
    """One cutout with another photo in it, within `size` device px."""

    job: Job
    item_id: str
    photo: PhotoRecord
    placing: Placing
    size: tuple[int, int]


class SeriesCard(Struct, frozen=True, eq=False):
    """The answer; no picture for one that shows nothing."""

    request: SeriesRequest
    frame: Frame | None


def series_card(request: SeriesRequest, photos: ScreenPhotos, cache: ValueCache) -> SeriesCard:
    """Render what a series makes of one photo."""
    photos.begin()
    job = add_photo(request.job, request.photo)
    sheet, item, _ = locate(job, request.item_id)
    try:
        made = in_series(job, item, request.photo, request.placing)
        box = plan_cutout(job, sheet, made).box
        scale = min(request.size[0] / box.width, request.size[1] / box.height)
        picture = render(plan_cutout(job, sheet, made, scale=scale), photos, cache)
    except GlassCapError:
        return SeriesCard(request, None)
    return SeriesCard(request, frame_of(picture))
