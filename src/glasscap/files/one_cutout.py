"""A job of one cutout, made from a photo's bytes and a shape."""

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.edits.intake import job_of_photos
from glasscap.core.document.model.finishes import AS_SHOT, NO_FINISHES, Adjustments, Finishes
from glasscap.core.document.model.job import Job, PhotoContent
from glasscap.core.document.model.paint import Paint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.found_object import object_shape
from glasscap.core.errors import CallError
from glasscap.core.formats.photo_header import DEFAULT_PIXEL_LIMIT
from glasscap.core.photos.store import PhotoStore
from glasscap.core.shapes.kinds import Keeps, Shape, library_shape
from glasscap.core.shapes.outlines import has_equal_sides, shape_name
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes


class Look(Struct, frozen=True):
    """The look of a cutout: finishes, photo adjustments, opacity, and a paint behind it all."""

    finishes: Finishes = NO_FINISHES
    adjustments: Adjustments = AS_SHOT
    opacity: float = 1.0
    backdrop: Paint | None = None


Box = tuple[float, float, float, float]
PlacedShape = tuple[Shape, ShapePlacement | None]


def job_for(
    data: bytes,
    name: str = "photo",
    *,
    shape: str | PlacedShape = "circle",
    box: Box | None = None,
    around: Box | None = None,
    params: Mapping[str, float] | None = None,
    keeps: Keeps = "inside",
    pixel_limit: int = DEFAULT_PIXEL_LIMIT,
    look: "Look | None" = None,
) -> tuple[Job, PhotoStore]:
    """Return a job of one sheet, the photo's own pixel frame, with one cutout.

    `shape` is a name of the library, or any shape with its placement (None: the largest centred fit). `box` is
    (x, y, width, height) in px; without it a shape of the library is the largest centred fit. `around` is such a
    box around an object, whose outline is the shape instead. Raises PhotoError, ShapeError, PlacementError.
    """
    found = photo_from_bytes(data, name, pixel_limit=pixel_limit)
    job = job_of_photos([found.record])
    sheet, store = job.sheets[0], new_store(for_screen=False)
    store.add(data, found.record.sha256)
    placed, placement = (
        (library_shape(shape, "inside", **(params or {})), None) if isinstance(shape, str) else shape
    )
    width, height = found.record.width, found.record.height
    if around is not None and (box is not None or params):
        raise CallError("around", "it excludes a box and numbers of a shape", "leave those out")
    if around is not None:
        x, y, across, down = around
        pixels = store.pyramid(found.record).photo.rgba
        placed, placement = object_shape(pixels, (x, y, x + across, y + down), found.record.sha256)
    elif box is not None:
        placement = _placement_in(box, placed)
    elif placement is None:
        placement = largest_centred(placed, width, height, width / 2, height / 2)
    look = look or Look()
    if look.finishes.edge.soft is not None and keeps == "outside":
        raise CallError("A hole", "it has no soft contour", "keep the inside, or leave the soft contour out")
    cutout = replace(
        sheet.items[0],
        content=PhotoContent(found.record.sha256, look.adjustments),
        shape=replace(placed, keeps=keeps),
        shape_placement=placement,
        opacity=look.opacity,
        finishes=look.finishes,
    )
    return replace(job, sheets=(replace(sheet, items=(cutout,)),)), store


def _placement_in(box: Box, shape: Shape) -> ShapePlacement:
    x, y, width, height = box
    if has_equal_sides(shape) and width != height:
        why = f"a {shape_name(shape)} is as wide as high"
        raise CallError(f"--box {x:g},{y:g},{width:g},{height:g}", why, "use ellipse")
    return ShapePlacement(x + width / 2, y + height / 2, width, height)
