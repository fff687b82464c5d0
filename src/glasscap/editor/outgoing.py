"""What goes out: one picture chosen for export, its plan and its preview."""

import dataclasses
from dataclasses import dataclass

from glasscap.core.document.model import Job, PhotoRecord
from glasscap.core.document.query import find_item, find_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.geometry.types import PixelBox
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan import Crop, Plan, plan_cutout, plan_sheet
from glasscap.core.render.screen import Frame
from glasscap.editor.frames import ScreenPhotos, frame_of


@dataclass(frozen=True)
class Outgoing:
    """A cutout (or with None the whole sheet), its crop and scale."""

    job: Job
    sheet_id: str
    cutout_id: str | None
    crop: Crop
    scale: float


@dataclass(frozen=True, eq=False)
class OutgoingPreview:
    """The picture to come, fitted to the screen: exact `size` in px, `box` and `frame` in device px."""

    outgoing: Outgoing
    size: tuple[int, int]
    box: PixelBox
    frame: Frame | None
    note: str = ""
    problem: str = ""
    drafts: tuple[PhotoRecord, ...] = ()


def plan_outgoing(outgoing: Outgoing, factor: float = 1.0) -> Plan:
    """Return the plan of the picture, `factor` times its size. Raises ExportError."""
    sheet = find_sheet(outgoing.job, outgoing.sheet_id)
    scale = outgoing.scale * factor
    if outgoing.cutout_id is None:
        return plan_sheet(outgoing.job, sheet, crop=outgoing.crop, scale=scale)
    item = find_item(outgoing.job, outgoing.cutout_id)
    return plan_cutout(outgoing.job, sheet, item, crop=outgoing.crop, scale=scale)


def outgoing_preview(
    outgoing: Outgoing, room: tuple[int, int], photos: ScreenPhotos, cache: ValueCache
) -> OutgoingPreview:
    """Return exact size and a preview no larger than `room` device px. Errors become words."""
    photos.begin()
    nothing = PixelBox(0, 0, 0, 0)
    try:
        whole = plan_outgoing(outgoing)
        box = picture_box(whole, photos, cache)
        if box.is_empty:
            return OutgoingPreview(outgoing, (0, 0), nothing, None, problem="Nothing of it is visible")
        factor = min(1.0, room[0] / box.width, room[1] / box.height)
        small = plan_outgoing(outgoing, factor)
        shown = picture_box(small, photos, cache)
        plan = dataclasses.replace(small, box=shown, quality="preview", is_trimmed=False)
        frame = frame_of(render(plan, photos, cache))
        size = (box.width, box.height)
        return OutgoingPreview(
            outgoing, size, shown, frame, _note(whole), photos.problem, tuple(photos.used_drafts)
        )
    except GlassCapError as error:
        return OutgoingPreview(outgoing, (0, 0), nothing, None, problem=error.line)


def _note(plan: Plan) -> str:
    """Say when a photo would be enlarged."""
    densest = min((abs(p.region.photo_to_output.determinant) ** -0.5 for p in plan.parts), default=1.0)
    if densest >= 1 - 1e-9:
        return ""
    return f"The photo is enlarged: {densest:.2f} photo px per px"
