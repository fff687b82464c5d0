"""A cutout with finishes, rendered, for the tests of this folder."""

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.finishes import NO_FINISHES, Finishes
from glasscap.core.document.model import Job
from glasscap.core.document.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.raster.pixels import Picture
from glasscap.core.render.photos import PhotoStore
from glasscap.core.render.picture import render
from glasscap.core.render.plan import plan_cutout
from glasscap.core.shapes.kinds import Shape, library_shape
from tests.samples import cache, photo_job

PHOTO = (40, 160, 220)


def flat_photo(colour: tuple[int, int, int] = PHOTO, size: tuple[int, int] = (240, 200)) -> bytes:
    """A photo of one colour, so that every mix is known."""
    rgba = np.full((size[1], size[0], 4), 255, np.uint8)
    rgba[..., :3] = colour
    return write_png(rgba)


JOB, STORE = photo_job(flat_photo())


def job_with(finishes: Finishes = NO_FINISHES, *, shape: Shape | None = None, **changes: object) -> Job:
    """The flat photo under a 120 px shape in its middle."""
    sheet = JOB.sheets[0]
    whole = {
        "shape": shape or library_shape("circle"),
        "shape_placement": ShapePlacement(120.3, 99.6, 120, 120),
        "content_placement": ContentPlacement(120, 100),
        "finishes": finishes,
    }
    item = replace(sheet.items[0], **(whole | changes))
    return replace(JOB, sheets=(replace(sheet, items=(item,)),))


def rendered(job: Job, scale: float = 1.0, store: PhotoStore = STORE, crop: str = "sheet") -> Picture:
    """The job's cutout, final."""
    sheet = job.sheets[0]
    return render(plan_cutout(job, sheet, sheet.items[0], crop=crop, scale=scale), store, cache())


def over(picture: Picture, backdrop: float) -> np.ndarray:
    """The picture laid over a grey, in float."""
    alpha = picture.rgba[..., 3:] / 255
    return picture.rgba[..., :3] * alpha + backdrop * (1 - alpha)
