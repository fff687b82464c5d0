"""What is drawn small is the picture reduced: no stroke, edge, texture or dash makes patterns of its own."""

import cv2
import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Edge, Finishes, Rough, Stroke
from glasscap.core.document.model.job import Job, PaintContent, Sheet
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet
from glasscap.core.shapes.kinds import library_shape
from glasscap.core.textures.tiles import TEXTURES
from tests.core.render.finished_samples import JOB, STORE
from tests.samples import cache

CREAM, INK = ColourPaint("#f4e9d8"), ColourPaint("#203040")
SIDE = 1800

LOOKS = {
    "smooth": Finishes(strokes=(Stroke(60, INK),)),
    "brush": Finishes(strokes=(Stroke(60, INK, texture="brush"),)),
    "chalk": Finishes(strokes=(Stroke(60, INK, texture="chalk"),)),
    "crayon": Finishes(strokes=(Stroke(60, INK, texture="crayon"),)),
    "narrow brush": Finishes(strokes=(Stroke(30, INK, texture="brush"),)),
    "dashes": Finishes(strokes=(Stroke(20, INK, dashes=(30.0, 20.0)),)),
    "round dashes": Finishes(strokes=(Stroke(40, INK, dashes=(0.1, 60.0), cap="round"),)),
    "dashed brush": Finishes(strokes=(Stroke(60, INK, texture="brush", dashes=(150.0, 60.0)),)),
    "gradient": Finishes(strokes=(Stroke(80, GradientPaint((Stop(0, "#d04010"), Stop(1, "#1060a0")), way="along")),)),
    **{f"rough: {kind}": Finishes(Edge(rough=Rough(kind, 12.0))) for kind in ("torn", "brushed", "deckled", "stamped")},
    **{f"stroke of {name}": Finishes(strokes=(Stroke(100, TexturePaint(name)),)) for name in ("linen", "hatch")},
}  # fmt: skip


def job_of(finishes: Finishes, paint=CREAM) -> Job:
    item = replace(
        JOB.sheets[0].items[0],
        content=PaintContent(paint),
        content_placement=None,
        shape=library_shape("circle"),
        shape_placement=ShapePlacement(SIDE / 2 + 0.3, SIDE / 2, 1500, 1500),
        finishes=finishes,
    )
    return replace(JOB, sheets=(Sheet("s1", "Sheet", SIDE, SIDE, items=(item,)),))


def drawn(job: Job, scale: float) -> np.ndarray:
    picture = render(plan_sheet(job, job.sheets[0], scale=scale), STORE, cache())
    return premultiplied(picture.rgba).astype(np.float32)


def assert_reduced(job: Job) -> None:
    whole = drawn(job, 1.0)
    for share in (2, 9, 20):
        small = drawn(job, 1 / share)
        wanted = cv2.resize(whole, small.shape[1::-1], interpolation=cv2.INTER_AREA)
        away, shown = np.abs(small - wanted), (small[..., 3] > 0) | (wanted[..., 3] > 0)
        assert away.mean() < 1.5, share
        assert away[shown].mean() < 3, share


@pytest.mark.parametrize("look", LOOKS)
def test_every_look_drawn_small_is_the_picture_reduced(look: str) -> None:
    assert_reduced(job_of(LOOKS[look]))


@pytest.mark.parametrize("name", TEXTURES)
def test_every_texture_drawn_small_is_the_picture_reduced(name: str) -> None:
    assert_reduced(job_of(Finishes(), TexturePaint(name)))
