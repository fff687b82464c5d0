"""Finished pictures of a photo full of detail: its bytes are copied where it lies on whole pixels."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge, Finishes
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.raster.planar import STRAIGHT
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import Plan, plan_cutout
from glasscap.core.render.quick.writers import writer_of
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.test_crisp import FADES, LOOKS, wide
from tests.samples import cache, photo_job


def noisy_photo() -> bytes:
    rgba = np.random.default_rng(7).integers(0, 256, (410, 520, 4), np.uint8)
    rgba[..., 3] = 255
    return write_png(rgba)


JOB, STORE = photo_job(noisy_photo())
# On whole pixels, where the photo's bytes are copied; between them, and beyond the photo, where they are made.
PLACES = {
    "on pixels": ContentPlacement(260, 205),
    "between": ContentPlacement(260.4, 205.3),
    "beyond": ContentPlacement(330, 205),
}


def plan_of(finishes: Finishes, shape: str, place: str = "on pixels") -> Plan:
    sheet = JOB.sheets[0]
    item = replace(
        sheet.items[0],
        shape=library_shape(shape),
        shape_placement=ShapePlacement(260, 205.5, 300, 290),
        content_placement=PLACES[place],
        finishes=finishes,
    )
    job = replace(JOB, sheets=(replace(sheet, items=(item,)),))
    return plan_cutout(job, job.sheets[0], job.sheets[0].items[0])


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("shape", ["circle", "heart", "ring"])
@pytest.mark.parametrize("look", [*LOOKS, *FADES])
def test_a_picture_is_what_composing_gives(look: str, shape: str, place: str) -> None:
    plan = plan_of(wide((LOOKS | FADES)[look]), shape, place)
    picture = render(plan, STORE, cache())
    part = FinishedPart(plan.parts[0], plan.box, STORE, "final", cache())
    expected = premultiplied(STRAIGHT.planes(composed([part], picture.box)))
    assert np.abs(premultiplied(picture.rgba).astype(int) - expected).max() <= 1


def test_pixels_are_a_view_only_where_the_photo_is_copied_whole() -> None:
    inside, beyond = PixelBox(20, 20, 200, 180), PixelBox(-5, 20, 200, 180)
    for place, box, is_view in (
        ("on pixels", inside, True),
        ("on pixels", beyond, False),
        ("between", inside, False),
        ("beyond", inside, False),
    ):
        plan = plan_of(Finishes(edge=Edge(feather=20)), "circle", place)
        part = FinishedPart(plan.parts[0], plan.box, STORE, "final", cache())
        copied = part.content.copied
        assert (copied is not None and copied.holds(box)) == is_view, (place, box)
        assert writer_of(part).is_copied == (place != "between")
