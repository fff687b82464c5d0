"""What a mock-up shows, rendered as large as its place needs."""

from collections.abc import Callable

from msgspec.structs import replace

from glasscap.core.document.edits.versions import find_subject, in_version
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.mockups import Fit, Mockup
from glasscap.core.document.model.query import locate
from glasscap.core.errors import ExportError
from glasscap.core.mockup.picture import distortion, mockup, wanted_size
from glasscap.core.mockup.place import Place
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.pixels import Bytes, premultiplied
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan.plan import Plan, plan_cutout, plan_sheet
from glasscap.core.work.ticket import no_check


def mockup_picture(
    job: Job,
    wanted: Mockup,
    place: Place,
    photos: PhotoSource,
    cache: ValueCache,
    *,
    version: str = "",
    scale: float = 1.0,
    check: Callable[[], None] = no_check,
) -> Bytes:
    """Return a mock-up as opaque sRGB pixels, uint8 of shape (h, w, 4).

    `scale` is output px per px of the place; `version` names the version shown, "" the one that is.
    Raises ExportError for a subject that is gone or shows nothing, PlacementError for a version that is gone,
    PhotoError, CancelledError from `check`.
    """
    shown = in_version(_checked(job, wanted.subject_id), wanted.subject_id, version)
    plan = _settled(shown, wanted.subject_id, 1.0, photos, cache)
    size = wanted_size(place, plan.box.width / plan.box.height, wanted.fit, scale)
    factor = max(size[0] / plan.box.width, size[1] / plan.box.height)
    picture = render(_settled(shown, wanted.subject_id, factor, photos, cache), photos, cache, check)
    return mockup(place, premultiplied(picture.rgba), wanted.fit, scale, check)


def stretched_by(job: Job, wanted: Mockup, place: Place, photos: PhotoSource, cache: ValueCache) -> float:
    """Return by how much a mock-up stretches what it shows, 1 for not at all. Raises as `mockup_picture`."""
    plan = _settled(_checked(job, wanted.subject_id), wanted.subject_id, 1.0, photos, cache)
    fit: Fit = wanted.fit
    return distortion(plan.box.width / plan.box.height, place.aspect, fit)


def _checked(job: Job, subject_id: str) -> Job:
    try:
        find_subject(job, subject_id)
    except KeyError:
        raise ExportError("What the mock-up shows", "it is not in the job any more", "choose another") from None
    return job


def _settled(job: Job, subject_id: str, scale: float, photos: PhotoSource, cache: ValueCache) -> Plan:
    """Return the plan of a whole sheet, or of all that is visible of a cutout."""
    subject = find_subject(job, subject_id)
    if not isinstance(subject, Cutout):
        return plan_sheet(job, subject, scale=scale)
    plan = plan_cutout(job, locate(job, subject_id)[0], replace(subject, is_hidden=False), scale=scale)
    box = picture_box(plan, photos, cache)
    if box.is_empty:
        raise ExportError(subject.name, "nothing of it is visible", "check inset, opacity and place")
    return Plan(box, plan.parts, plan.quality)
