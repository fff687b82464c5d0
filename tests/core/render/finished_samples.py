"""A cutout with finishes, rendered, for the tests of this folder."""

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
    NO_FINISHES,
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Picture
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.shapes.kinds import Shape, library_shape
from tests.samples import cache, photo_job

PHOTO = (40, 160, 220)
RED, GREEN = ColourPaint("#e01020"), ColourPaint("#10c040")


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


ANY_FINISH = {
    "inset": Finishes(edge=Edge(inset=4)),
    "feather": Finishes(edge=Edge(feather=24)),
    "rough": Finishes(edge=Edge(rough=Rough("torn", 5, 20))),
    "stroke": Finishes(strokes=(Stroke(6, RED), Stroke(3, GREEN, gap=9))),
    "dashes": Finishes(strokes=(Stroke(6, RED, dashes=(12, 7)),)),
    "brush": Finishes(strokes=(Stroke(9, RED, texture="brush"),)),
    "gradient": Finishes(strokes=(Stroke(9, GradientPaint(), "centre"),)),
    "texture": Finishes(strokes=(Stroke(9, TexturePaint("clay")),)),
    "shadow": Finishes(lights=Lights(shadows=(Shadow(),))),
    "inner shadow": Finishes(lights=Lights(inner_shadow=Shadow(4, 4, 12, opacity=0.9))),
    "glow": Finishes(lights=Lights(outer_glow=Glow(), inner_glow=Glow(10, 0, "#ff0000"))),
    "bevel": Finishes(lights=Lights(bevel=Bevel())),
    "outer bevel": Finishes(lights=Lights(bevel=Bevel(side="outer"))),
    "mount": Finishes(mount=Mount(8, 8, 30, 8, 4, stroke=Stroke(2), shadow=Shadow())),
}


def radius_field(picture: Picture, centre: tuple[float, float]) -> np.ndarray:
    """How far each pixel's middle lies from a point of the output."""
    y, x = np.mgrid[0 : picture.height, 0 : picture.width]
    return np.hypot(x + 0.5 + picture.x - centre[0], y + 0.5 + picture.y - centre[1])
