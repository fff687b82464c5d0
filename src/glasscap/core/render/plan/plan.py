"""The plan of a render: derived from the job and a view, nothing else; a flat list of parts."""

import math
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.arranging.cover import held_over
from glasscap.core.document.finishing.at_work import working, working_adjustments
from glasscap.core.document.finishing.mounts import mount_frame, on_pixel_lines
from glasscap.core.document.model.backdrop import PhotoBackdrop
from glasscap.core.document.model.boxes import content_box
from glasscap.core.document.model.finishes import AS_SHOT, NO_FINISHES, Adjustments, Edge, Finishes, Lights
from glasscap.core.document.model.job import (
    Cutout,
    Job,
    PaintContent,
    PhotoContent,
    PhotoRecord,
    Sheet,
    finish_pictures,
)
from glasscap.core.document.model.paint import Paint, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement, whole_pixel_shift
from glasscap.core.document.model.query import has_soft_contour, photo_of, photo_record
from glasscap.core.document.model.region import Region, cutout_region, filled_region, shape_polygons, sheet_region
from glasscap.core.document.shapes.joint import joint_outline
from glasscap.core.errors import ExportError
from glasscap.core.geometry.outline import bounds
from glasscap.core.geometry.types import Affine, Box, PixelBox
from glasscap.core.raster.resample import Quality
from glasscap.core.render.plan.bounds import part_bounds
from glasscap.core.render.plan.part import FLATNESS, Part
from glasscap.core.shapes.kinds import library_shape

Crop = Literal["visible", "shape", "sheet", "bleed"]

LARGEST_PICTURE_PX = 1_000_000_000


class Plan(Struct, frozen=True):
    """A plan: parts back to front, and the box of output px.

    `is_trimmed` asks for the picture to be cut to what is visible.
    """

    box: PixelBox
    parts: tuple[Part, ...]
    quality: Quality = "final"
    is_trimmed: bool = False


def parts_of(job: Job, sheet: Sheet, cutout: Cutout, sheet_to_output: Affine) -> tuple[Part, ...]:
    """Return the parts a cutout plays: one, or none when it shows nothing.

    A group that does nothing to what it holds plays theirs.
    """
    if cutout.is_group and not cutout.is_hidden and _passes(cutout):
        return _inside(job, sheet, cutout, sheet_to_output)
    part = part_of(job, sheet, cutout, sheet_to_output)
    return () if part is None else (part,)


def _passes(group: Cutout) -> bool:
    """Whether a group shows what it holds just as that would show without it."""
    has_mask = group.shape is not None and group.is_masked
    mount = group.finishes.mount
    is_mounted = mount is not None and mount.is_on and mount.opacity > 0
    return (
        not has_mask
        and not is_mounted
        and group.opacity == 1
        and working(group.finishes, can_be_soft=False) == NO_FINISHES
    )


def _inside(job: Job, sheet: Sheet, group: Cutout, sheet_to_output: Affine) -> tuple[Part, ...]:
    return tuple(p for item in group.items for p in parts_of(job, sheet, item, sheet_to_output))


def _group_part(job: Job, sheet: Sheet, group: Cutout, sheet_to_output: Affine) -> Part | None:
    """Return the part of a group that masks, finishes or fades what it holds."""
    inside = _inside(job, sheet, group, sheet_to_output)
    if not inside:
        return None
    finishes = working(group.finishes, _longest(sheet, group), can_be_soft=False)
    if group.shape is not None and group.is_masked:
        region = _masked_group(job, group, sheet_to_output)
    else:
        region = _whole_group(job, group, inside, finishes, sheet_to_output)
    return Part(
        None,
        region,
        group.opacity,
        group.id,
        finishes=finishes,
        pictures=tuple(photo_record(job, key) for key in finish_pictures(group)),
        mount=_mount_part(job, group, None, sheet_to_output, _longest(sheet, group)),
        inside=inside,
    )


def _masked_group(job: Job, group: Cutout, sheet_to_output: Affine) -> Region:
    """Return a group's own shape over what it holds; a hole lies in the box of that."""
    assert group.shape is not None
    box = None if group.shape.keeps == "inside" else content_box(job, group)
    if box is None:
        return filled_region(group.shape, group.shape_placement, sheet_to_output)
    held = box.rounded_out()
    place = sheet_to_output.after(Affine.translation(held.x0, held.y0))
    return Region(place, (held.width, held.height), group.shape, group.shape_placement, sheet_to_output)


def _whole_group(
    job: Job, group: Cutout, inside: tuple[Part, ...], finishes: Finishes, sheet_to_output: Affine
) -> Region:
    """Return all that shows of a group; what an edge and strokes follow is the outline of all together."""
    needs_outline = (
        finishes.edge != Edge() or finishes.strokes or replace(finishes.lights, shadows=()) != Lights()
    )
    outline = joint_outline(job, group.items) if needs_outline else None
    if outline is not None:
        return filled_region(*outline, sheet_to_output)
    box = PixelBox(0, 0, 0, 0)
    for part in inside:
        box = box.union(part_bounds(part))
    size = (max(box.width, 1), max(box.height, 1))
    return Region(Affine.translation(box.x0, box.y0), size, None, None, sheet_to_output)


def part_of(job: Job, sheet: Sheet, cutout: Cutout, sheet_to_output: Affine) -> Part | None:
    """Return the part a cutout plays, or None when it shows nothing."""
    photo = photo_of(job, cutout)
    if cutout.is_hidden or cutout.opacity == 0:
        return None
    if cutout.is_group:
        return _group_part(job, sheet, cutout, sheet_to_output)
    size = None if photo is None else (photo.width, photo.height)
    region = cutout_region(cutout, size, (sheet.width, sheet.height), sheet_to_output)
    if region is None:
        return None
    content, longest = cutout.content, _longest(sheet, cutout)
    return Part(
        photo,
        region,
        cutout.opacity,
        cutout.id,
        content.paint if isinstance(content, PaintContent) else None,
        working(cutout.finishes, longest, can_be_soft=has_soft_contour(cutout)),
        working_adjustments(content.adjustments, longest) if isinstance(content, PhotoContent) else AS_SHOT,
        tuple(photo_record(job, key) for key in finish_pictures(cutout)),
        _mount_part(job, cutout, photo, sheet_to_output, longest),
    )


def _longest(sheet: Sheet, cutout: Cutout) -> float:
    """Return the longest side of what a cutout's lights fall on, sheet px: its sheet's, or its own shape's."""
    placed = cutout.shape_placement
    sides = (sheet.width, sheet.height)
    return max(sides if placed is None else (*sides, placed.width, placed.height))


def _mount_part(
    job: Job, cutout: Cutout, photo: PhotoRecord | None, sheet_to_output: Affine, longest: float
) -> Part | None:
    """Return the plate behind a cutout: a painted rectangle with its own stroke and shadow."""
    mount = cutout.finishes.mount
    if mount is None or not mount.is_on or mount.opacity == 0:
        return None
    frame = mount_frame(mount, cutout, photo, content_box(job, cutout) if cutout.is_group else None)
    if frame is None:
        return None
    # A plate has crisp sides, whatever the size of what lies on it.
    frame = on_pixel_lines(frame, sheet_to_output)
    finishes = Finishes(
        strokes=() if mount.stroke is None else (mount.stroke,),
        lights=Lights(shadows=() if mount.shadow is None else (mount.shadow,)),
    )
    plate = Cutout(
        cutout.id,
        cutout.name,
        PaintContent(mount.paint),
        shape=library_shape("rectangle", corner=mount.corner),
        shape_placement=frame,
    )
    region = cutout_region(plate, None, (1, 1), sheet_to_output)
    assert region is not None
    pictures = tuple(photo_record(job, key) for key in finish_pictures(cutout))
    return Part(
        None, region, mount.opacity, cutout.id, mount.paint, working(finishes, longest), pictures=pictures
    )


def _backdrop_part(job: Job, sheet: Sheet, sheet_to_output: Affine) -> Part | None:
    """Return what lies beneath everything on a sheet; it runs on into the bleed."""
    backdrop, bleed = sheet.backdrop, sheet.bleed
    if backdrop is None:
        return None
    size = (sheet.width + 2 * bleed, sheet.height + 2 * bleed)
    if not isinstance(backdrop, PhotoBackdrop):
        pictures: tuple[PhotoRecord, ...] = ()
        if isinstance(backdrop, TexturePaint) and backdrop.is_own:
            pictures = (photo_record(job, backdrop.texture),)
        region = sheet_region(size, sheet_to_output, bleed)
        return Part(None, region, paint=backdrop, pictures=pictures)
    photo = photo_record(job, backdrop.sha256)
    scale = max(size[0] / photo.width, size[1] / photo.height) * backdrop.zoom
    placed = ContentPlacement(sheet.width / 2, sheet.height / 2, scale, scale)
    region = Region(
        sheet_to_output.after(placed.to_sheet(photo.width, photo.height)),
        (photo.width, photo.height),
        library_shape("rectangle"),
        ShapePlacement(sheet.width / 2, sheet.height / 2, *size),
        sheet_to_output,
    )
    return Part(
        photo, region, cutout_id=sheet.id, adjustments=Adjustments(blur=min(backdrop.blur, 2 * max(size)))
    )


def on_backdrop(plan: Plan, paint: Paint, box: PixelBox) -> Plan:
    """Return a plan over a paint that fills `box`, the picture's box from now on."""
    region = sheet_region((box.width, box.height), Affine.translation(box.x0, box.y0))
    return Plan(box, (Part(None, region, paint=paint), *plan.parts), plan.quality)


class PlanMemory:
    """The parts of the last plan of a sheet: items that are still the same objects play the same parts."""

    def __init__(self) -> None:
        self._for: tuple[object, ...] = ()
        self._kept: dict[str, tuple[Cutout, tuple[Part, ...]]] = {}

    def parts_of(self, job: Job, sheet: Sheet, sheet_to_output: Affine) -> list[Part]:
        """Return the parts of all items, made anew only where something changed."""
        now = (sheet.id, sheet.width, sheet.height, sheet_to_output)
        if self._for[1:] != now or self._for[0] is not job.photos:
            self._for, self._kept = (job.photos, *now), {}
        made: dict[str, tuple[Cutout, tuple[Part, ...]]] = {}
        for item in sheet.items:
            kept = self._kept.get(item.id)
            is_same = kept is not None and kept[0] is item
            made[item.id] = kept if is_same and kept else (item, parts_of(job, sheet, item, sheet_to_output))
        self._kept = made
        return [part for _, parts in made.values() for part in parts]


def plan_view(
    job: Job,
    sheet: Sheet,
    sheet_to_output: Affine,
    box: PixelBox,
    quality: Quality,
    memory: PlanMemory | None = None,
) -> Plan:
    """Plan any window of a sheet at any scale; `memory` makes the next plan of nearly the same job quick."""
    found = PlanMemory() if memory is None else memory
    parts = found.parts_of(job, sheet, sheet_to_output)
    backdrop = _backdrop_part(job, sheet, sheet_to_output)
    return Plan(box, (*parts,) if backdrop is None else (backdrop, *parts), quality)


def plan_sheet(job: Job, sheet: Sheet, *, crop: Crop = "sheet", scale: float = 1.0) -> Plan:
    """Plan a whole sheet: its own box exactly, that with its bleed, or everything visible on and beyond it.

    Raises
    ------
    ExportError
        For a scale that is no number above 0, or a picture too large or empty.
    """
    _check_scale(scale)
    to_output = Affine.scaling(scale)
    size = (math.ceil(sheet.width * scale - 1e-9), math.ceil(sheet.height * scale - 1e-9))
    plan = plan_view(job, sheet, to_output, PixelBox(0, 0, *size), "final")
    if crop == "sheet":
        return _checked(plan, sheet.name)
    if crop == "bleed":
        by = math.ceil(sheet.bleed * scale - 1e-9)
        grown = PixelBox(0, 0, *size).grown(by)
        return _checked(replace(plan, box=grown), sheet.name)
    box = PixelBox(0, 0, 0, 0)
    for part in plan.parts:
        box = box.union(part_bounds(part))
    return _checked(replace(plan, box=box, is_trimmed=True), sheet.name)


def plan_cutout(job: Job, sheet: Sheet, cutout: Cutout, *, crop: Crop = "visible", scale: float = 1.0) -> Plan:
    """Plan one cutout alone.

    *shape* gives exactly the shape's box; *visible* the smallest box that holds every visible pixel; *sheet*
    the sheet's box. For the first two a shape of whole size off the pixel lines is shifted onto them by at
    most half a pixel; the photo only where it would no longer cover what it covered.

    Raises
    ------
    ExportError
        For a scale that is no number above 0, a cutout that shows nothing, or a picture too large.
    """
    _check_scale(scale)
    shown = replace(cutout, is_hidden=False)
    to_output = Affine.scaling(scale)
    is_whole_sheet = crop in ("sheet", "bleed")
    if not is_whole_sheet:
        # The pixels the photo covered are covered where the shape is written, too.
        shown = held_over(shown, _on_pixel_lines(shown, scale), photo_of(job, cutout))
    part = part_of(job, sheet, shown, to_output)
    if part is None:
        raise ExportError(cutout.name, "there is no photo to show", "drop a photo on it")
    if is_whole_sheet:
        return _checked(replace(plan_sheet(job, sheet, crop=crop, scale=scale), parts=(part,)), cutout.name)
    if crop == "shape" and shown.shape_placement is not None:
        return _checked(Plan(_shape_box(shown, scale), (part,)), cutout.name)
    return _checked(Plan(part_bounds(part), (part,), is_trimmed=crop == "visible"), cutout.name)


def _check_scale(scale: float) -> None:
    if not (math.isfinite(scale) and 0 < scale <= 1000):
        raise ExportError(f"Scale {scale}", "it is not a number between 0 and 1000", "give for example 2")


def _checked(plan: Plan, name: str) -> Plan:
    if plan.box.is_empty:
        raise ExportError(name, "nothing of it is visible", "move the photo under the shape")
    if plan.box.width * plan.box.height > LARGEST_PICTURE_PX:
        size = f"{plan.box.width} x {plan.box.height} px"
        raise ExportError(name, f"{size} is more than a picture may have", "give a smaller scale")
    return plan


def _scaled_box(cutout: Cutout, scale: float) -> Box:
    assert cutout.shape_placement is not None
    return Box(*(v * scale for v in cutout.shape_placement.box))


def _on_pixel_lines(cutout: Cutout, scale: float) -> Cutout:
    placement = cutout.shape_placement
    if placement is None or not placement.is_upright:
        return cutout
    dx, dy = whole_pixel_shift(_scaled_box(cutout, scale))
    return replace(cutout, shape_placement=placement.moved(dx / scale, dy / scale))


def _shape_box(cutout: Cutout, scale: float) -> PixelBox:
    """Return the box of the shape's frame; of the curve itself when it is turned. Fractions round up."""
    placement = cutout.shape_placement
    assert cutout.shape is not None and placement is not None
    box = _scaled_box(cutout, scale)
    if not placement.is_upright:
        to_output = Affine.scaling(scale)
        flat = shape_polygons(cutout.shape, placement, to_output, tolerance=FLATNESS)
        return bounds(flat).rounded_out(slack=2 * FLATNESS)
    x0, y0 = math.floor(box.x0 + 0.5), math.floor(box.y0 + 0.5)
    return PixelBox(x0, y0, x0 + max(1, math.ceil(box.width - 1e-6)), y0 + max(1, math.ceil(box.height - 1e-6)))
