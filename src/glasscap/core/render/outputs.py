"""The picture of one row of the export list: its exact box and scale, and its pixels."""

import math
from collections.abc import Callable

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.edits.versions import in_version
from glasscap.core.document.model.backdrop import PhotoBackdrop
from glasscap.core.document.model.job import Cutout, Job, PhotoContent, Sheet
from glasscap.core.document.model.outputs import LARGEST_OUTPUT_SIDE, Output, OutputSize
from glasscap.core.document.model.query import items_of
from glasscap.core.errors import ExportError
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.carry import carried
from glasscap.core.raster.pixels import Levels
from glasscap.core.render.picture import picture_box, render, render_deep
from glasscap.core.render.plan.plan import Crop, Plan, on_backdrop, plan_cutout, plan_sheet, plan_view
from glasscap.core.work.ticket import no_check

_TRIES = 6
_HAS_16_BITS = ("png", "tiff")
# How far a photo behind a video is enlarged and blurred (share of the frame's height); common practice.
_BEHIND_ZOOM, _BEHIND_BLUR = 1.15, 0.05


class OutputPlan(Struct, frozen=True):
    """A plan with its box settled, and its output px per sheet px."""

    plan: Plan
    scale: float

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in px."""
        return self.plan.box.width, self.plan.box.height


def subject_of(job: Job, item_id: str) -> tuple[Sheet, Cutout | None]:
    """Return the sheet an output shows, and its cutout if it is one. Raises ExportError."""
    for sheet in job.sheets:
        if sheet.id == item_id:
            return sheet, None
    for sheet, item in items_of(job):
        if item.id == item_id:
            return sheet, item
    raise ExportError("What goes out", "it is not in the job any more", "remove the row")


def job_of(job: Job, output: Output) -> Job:
    """Return the job with the version shown that an output means. Raises ExportError, PlacementError."""
    if not output.version:
        return job
    subject_of(job, output.item_id)
    return in_version(job, output.item_id, output.version)


def plan_output(job: Job, output: Output, photos: PhotoSource, cache: ValueCache) -> OutputPlan:
    """Settle the picture of an output.

    Raises
    ------
    ExportError
        For an output that shows nothing, is gone, or is too large.
    PlacementError
        For a version that is gone.
    PhotoError
        Where what is visible can only be told from pixels that are not to be had.
    """
    job = job_of(job, output)
    framer = _Framer(job, output, photos, cache)
    found = _staged(job, output, photos, cache) if output.stage != "alone" else framer.settled()
    width, height = found.size
    if max(width, height) > LARGEST_OUTPUT_SIDE:
        raise ExportError(
            framer.name, f"{width} x {height} px is more than can be written", "give a smaller size"
        )
    if output.background is not None:
        found = replace(found, plan=on_backdrop(found.plan, output.background, found.plan.box))
    return found


def _staged(job: Job, output: Output, photos: PhotoSource, cache: ValueCache) -> OutputPlan:
    """Return a video's frame: the picture in its corner, or its photo enlarged and blurred."""
    width, height = output.size.width, output.size.height
    if output.stage == "behind":
        return OutputPlan(_behind(job, output.item_id, width, height), 1.0)
    video = output.corner
    inner = replace(
        output,
        stage="alone",
        size=OutputSize("height", height=max(1, round(video.height * height))),
        margin=0.0,
    )
    found = plan_output(job, inner, photos, cache)
    box, by = found.plan.box, round(video.margin * height)
    x0 = box.x0 - by if video.corner.endswith("left") else box.x1 + by - width
    y0 = box.y0 - by if video.corner.startswith("top") else box.y1 + by - height
    return replace(found, plan=replace(found.plan, box=PixelBox(x0, y0, x0 + width, y0 + height)))


def _behind(job: Job, item_id: str, width: int, height: int) -> Plan:
    """Return a cutout's own photo over a whole frame."""
    sheet, cutout = subject_of(job, item_id)
    content = None if cutout is None else cutout.content
    if not isinstance(content, PhotoContent):
        name = sheet.name if cutout is None else cutout.name
        raise ExportError(name, "there is no photo to lay behind", "choose a cutout with a photo")
    backdrop = PhotoBackdrop(content.sha256, blur=_BEHIND_BLUR * height, zoom=_BEHIND_ZOOM)
    frame = Sheet("behind", "Behind", width, height, backdrop=backdrop)
    return plan_view(job, frame, Affine(), PixelBox(0, 0, width, height), "final")


def render_output(
    planned: OutputPlan,
    output: Output,
    photos: PhotoSource,
    cache: ValueCache,
    check: Callable[[], None] = no_check,
) -> Levels:
    """Return straight sRGB RGBA of the plan's box: uint8, or uint16 where 16 bits are asked for and held.

    Raises PhotoError; CancelledError from `check`.
    """
    plan = planned.plan
    if output.file.bits == 16 and output.file.format in _HAS_16_BITS:
        return carried(render_deep(plan, photos, cache, check), output.carry)
    return carried(render(plan, photos, cache, check).rgba, output.carry)


class _Framer:
    """Finds box and scale of one output."""

    def __init__(self, job: Job, output: Output, photos: PhotoSource, cache: ValueCache) -> None:
        self._job, self._output, self._photos, self._cache = job, output, photos, cache
        self._sheet, self._cutout = subject_of(job, output.item_id)
        self.name = self._sheet.name if self._cutout is None else self._cutout.name

    def settled(self) -> OutputPlan:
        size = self._output.size
        if size.kind == "scale":
            return OutputPlan(self._framed(size.scale), size.scale)
        return self._fitted()

    def _framed(self, scale: float) -> Plan:
        """Return the plan at a scale, cropped and with its margin."""
        plan = self._cropped(scale)
        by = math.floor(self._output.margin * scale + 0.5)
        return replace(plan, box=plan.box.grown(by), is_trimmed=False)

    def _cropped(self, scale: float) -> Plan:
        crop = self._output.crop
        kind: Crop = "visible" if crop in ("square", "centred") else crop  # type: ignore[assignment]
        if self._cutout is None:
            plan = plan_sheet(
                self._job, self._sheet, crop=kind if kind in ("sheet", "bleed") else "visible", scale=scale
            )
        else:
            plan = plan_cutout(self._job, self._sheet, self._cutout, crop=kind, scale=scale)
        box = picture_box(plan, self._photos, self._cache)
        if box.is_empty:
            raise ExportError(self.name, "nothing of it is visible", "check inset, opacity and place")
        if crop == "square":
            box = _squared(box)
        elif crop == "centred":
            box = self._centred(box, scale)
        return replace(plan, box=box)

    def _centred(self, box: PixelBox, scale: float) -> PixelBox:
        """Return the smallest box that holds `box` and is symmetric about the shape's centre."""
        placement = None if self._cutout is None else self._cutout.shape_placement
        if placement is None:
            return box
        # Twice the centre: a whole number wherever the shape's box lies on pixel lines.
        u, v = round(2 * placement.x * scale), round(2 * placement.y * scale)
        x0, y0 = min(box.x0, u - box.x1), min(box.y0, v - box.y1)
        return PixelBox(x0, y0, u - x0, v - y0)

    def _fitted(self) -> OutputPlan:
        """Render the geometry at the scale that gives the stated px; a px that is left is padded."""
        scale = self._scale_for(self._framed(1.0).box)
        best: tuple[float, Plan] | None = None
        for _ in range(_TRIES):
            plan = self._framed(scale)
            ratio = self._scale_for(plan.box)
            if self._fits(plan.box):
                best = (scale, plan)
                if ratio - 1 < 0.5 / max(plan.box.width, plan.box.height):
                    break
                # Half a px of what is left is asked for, so that rounding does not go past it.
                scale *= ratio if ratio < 1.5 else ratio * 0.999
            else:
                scale *= ratio * (1 - 0.25 / max(plan.box.width, plan.box.height))
        if best is None:
            raise ExportError(self.name, "no scale gives that size", "ask for a larger one")
        return OutputPlan(replace(best[1], box=self._padded(best[1].box)), best[0])

    def _wanted(self) -> tuple[int | None, int | None]:
        size = self._output.size
        table: dict[str, tuple[int | None, int | None]] = {
            "width": (size.width, None),
            "height": (None, size.height),
            "longest": (size.width, size.width),
            "box": (size.width, size.height),
        }
        return table[size.kind]

    def _scale_for(self, box: PixelBox) -> float:
        width, height = self._wanted()
        return min(
            width / box.width if width is not None else math.inf,
            height / box.height if height is not None else math.inf,
        )

    def _fits(self, box: PixelBox) -> bool:
        width, height = self._wanted()
        return (width is None or box.width <= width) and (height is None or box.height <= height)

    def _padded(self, box: PixelBox) -> PixelBox:
        width, height = self._wanted()
        if self._output.size.kind == "longest":
            # Only the longer side is stated.
            width, height = (width, None) if box.width >= box.height else (None, height)
        return _grown(box, width or box.width, height or box.height)


def _squared(box: PixelBox) -> PixelBox:
    side = max(box.width, box.height)
    return _grown(box, side, side)


def _grown(box: PixelBox, width: int, height: int) -> PixelBox:
    """Return the box padded to a size, evenly; an odd px goes to the right and below."""
    left, top = (width - box.width) // 2, (height - box.height) // 2
    x0, y0 = box.x0 - left, box.y0 - top
    return PixelBox(x0, y0, x0 + width, y0 + height)
