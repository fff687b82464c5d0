"""The Python entrance: the same calls as the command line, with the same pixels.

Examples
--------
>>> from glasscap import doorway
>>> picture = doorway.cut(open("plate.jpg", "rb").read(), shape="circle")  # doctest: +SKIP
>>> doorway.write(picture, "plate.png")  # doctest: +SKIP
"""

from collections.abc import Mapping
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.edits.intake import job_of_photos
from glasscap.core.document.model.finishes import AS_SHOT, NO_FINISHES, Adjustments, Finishes
from glasscap.core.document.model.job import Cutout, Job, PhotoContent
from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.document.model.paint import Paint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_sheet, items_of
from glasscap.core.errors import CallError
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Picture
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan.plan import Crop, on_backdrop, plan_cutout, plan_sheet
from glasscap.core.shapes.kinds import Keeps, Shape, library_shape
from glasscap.core.shapes.outlines import has_equal_sides, shape_name
from glasscap.files.jobs import OpenedJob, new_store, open_job
from glasscap.files.photos import photo_from_bytes
from glasscap.files.pictures import WrittenPicture, write_picture


class Look(Struct, frozen=True):
    """How a cutout is finished: finishes, photo adjustments, opacity, and a paint behind it all."""

    finishes: Finishes = NO_FINISHES
    adjustments: Adjustments = AS_SHOT
    opacity: float = 1.0
    backdrop: Paint | None = None


_CACHE_BYTES = 64 << 20
Box = tuple[float, float, float, float]
PlacedShape = tuple[Shape, ShapePlacement | None]


def job_for(
    data: bytes,
    name: str = "photo",
    *,
    shape: str | PlacedShape = "circle",
    box: Box | None = None,
    params: Mapping[str, float] | None = None,
    keeps: Keeps = "inside",
    pixel_limit: int = DEFAULT_PIXEL_LIMIT,
    look: "Look | None" = None,
) -> tuple[Job, PhotoStore]:
    """Return a job of one sheet, the photo's own pixel frame, with one cutout.

    `shape` is a name of the library, or any shape with its placement (None: the largest centred fit). `box` is
    (x, y, width, height) in px; without it a shape of the library is the largest centred fit. Raises
    PhotoError, ShapeError, PlacementError.
    """
    found = photo_from_bytes(data, name, pixel_limit=pixel_limit)
    job = job_of_photos([found.record])
    sheet = job.sheets[0]
    placed, placement = (
        (library_shape(shape, "inside", **(params or {})), None) if isinstance(shape, str) else shape
    )
    width, height = found.record.width, found.record.height
    if box is not None:
        placement = _placement_in(box, placed)
    elif placement is None:
        placement = largest_centred(placed, width, height, width / 2, height / 2)
    look = look or Look()
    cutout = replace(
        sheet.items[0],
        content=PhotoContent(found.record.sha256, look.adjustments),
        shape=replace(placed, keeps=keeps),
        shape_placement=placement,
        opacity=look.opacity,
        finishes=look.finishes,
    )
    store = new_store(for_screen=False)
    store.add(data, found.record.sha256)
    return replace(job, sheets=(replace(sheet, items=(cutout,)),)), store


def _placement_in(box: Box, shape: Shape) -> ShapePlacement:
    x, y, width, height = box
    if has_equal_sides(shape) and width != height:
        why = f"a {shape_name(shape)} is as wide as high"
        raise CallError(f"--box {x:g},{y:g},{width:g},{height:g}", why, "use ellipse")
    return ShapePlacement(x + width / 2, y + height / 2, width, height)


def cut(
    data: bytes,
    name: str = "photo",
    *,
    shape: str | PlacedShape = "circle",
    box: Box | None = None,
    params: Mapping[str, float] | None = None,
    keeps: Keeps = "inside",
    crop: Crop = "visible",
    scale: float = 1.0,
    pixel_limit: int = DEFAULT_PIXEL_LIMIT,
    look: "Look | None" = None,
) -> Picture:
    """Cut a photo's bytes by a shape. Raises GlassCapError."""
    job, store = job_for(
        data, name, shape=shape, box=box, params=params, keeps=keeps, pixel_limit=pixel_limit, look=look
    )
    sheet = job.sheets[0]
    plan, cache = plan_cutout(job, sheet, sheet.items[0], crop=crop, scale=scale), new_cache()
    if look is not None and look.backdrop is not None:
        plan = on_backdrop(plan, look.backdrop, picture_box(plan, store, cache))
    return render(plan, store, cache)


def new_cache() -> ValueCache:
    """Return the memory of a render."""
    return ValueCache(_CACHE_BYTES)


def open_file(path: Path | str) -> OpenedJob:
    """Open a job file. Raises JobFileError, FileProblemError."""
    return open_job(Path(path), new_store(for_screen=False))


def render_sheet(opened: OpenedJob, sheet_id: str, *, crop: Crop = "sheet", scale: float = 1.0) -> Picture:
    """Render a sheet of a job. Raises GlassCapError, KeyError for an unknown id."""
    plan = plan_sheet(opened.job, find_sheet(opened.job, sheet_id), crop=crop, scale=scale)
    return render(plan, opened.photos, new_cache())


def render_cutout(opened: OpenedJob, cutout_id: str, *, crop: Crop = "visible", scale: float = 1.0) -> Picture:
    """Render one cutout of a job alone. Raises GlassCapError, KeyError for an unknown id."""
    sheet, cutout = next(((s, i) for s, i in items_of(opened.job) if i.id == cutout_id), (None, None))
    if sheet is None or not isinstance(cutout, Cutout):
        raise KeyError(cutout_id)
    plan = plan_cutout(opened.job, sheet, cutout, crop=crop, scale=scale)
    return render(plan, opened.photos, new_cache())


def write(picture: Picture, path: Path | str, options: FileOptions | None = None) -> WrittenPicture:
    """Write a picture atomically and check it. Raises ExportError, FileProblemError."""
    return write_picture(Path(path), picture, options)
