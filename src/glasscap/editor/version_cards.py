"""Pictures of the versions of a cutout or a sheet, side by side at one scale."""

from msgspec import Struct

from glasscap.core.document.edits.versions import find_subject, in_version, version_names
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.query import find_sheet, locate
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import Plan, plan_cutout, plan_sheet
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos, frame_of


class VersionsRequest(Struct, frozen=True):
    """The versions of one subject, each within `size` device px."""

    job: Job
    subject_id: str
    size: tuple[int, int]


class VersionCards(Struct, frozen=True, eq=False):
    """The answer: (name, picture) in their order; no picture for one that shows nothing."""

    request: VersionsRequest
    cards: tuple[tuple[str, Frame | None], ...]


def version_cards(request: VersionsRequest, photos: ScreenPhotos, cache: ValueCache) -> VersionCards:
    """Render every version of a subject at the scale at which the largest fits."""
    photos.begin()
    jobs = {}
    for name in version_names(find_subject(request.job, request.subject_id)):
        jobs[name] = in_version(request.job, request.subject_id, name)
    boxes = {name: box for name, job in jobs.items() if (box := _box(job, request.subject_id)) is not None}
    width = max((box.width for box in boxes.values()), default=1)
    height = max((box.height for box in boxes.values()), default=1)
    scale = min(request.size[0] / width, request.size[1] / height)
    cards = tuple((name, _picture(job, request.subject_id, scale, photos, cache)) for name, job in jobs.items())
    return VersionCards(request, cards)


def _plan(job: Job, subject_id: str, scale: float) -> Plan:
    subject = find_subject(job, subject_id)
    if isinstance(subject, Cutout):
        return plan_cutout(job, locate(job, subject_id)[0], subject, crop="visible", scale=scale)
    return plan_sheet(job, find_sheet(job, subject_id), scale=scale)


def _box(job: Job, subject_id: str) -> PixelBox | None:
    try:
        return _plan(job, subject_id, 1.0).box
    except GlassCapError:
        return None


def _picture(job: Job, subject_id: str, scale: float, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    try:
        return frame_of(render(_plan(job, subject_id, scale), photos, cache))
    except GlassCapError:
        return None
