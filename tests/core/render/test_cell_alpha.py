"""What casts a shadow, told on cells from what is known of its outlines, is what painting it as small gives."""

import numpy as np
import pytest
from scipy import ndimage

from glasscap.core.document.model.finishes import Edge, Finishes, Stroke
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.pixels import Plane
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.offsets.edges import Edges
from glasscap.core.render.offsets.silhouette import shrunk
from glasscap.core.render.plan.bands import OffsetKey
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.quick.cell_alpha import alpha_on_cells
from glasscap.core.render.shares.shares import Weights
from glasscap.core.shapes.kinds import Keeps, library_shape
from tests.core.render.finished_samples import STORE, job_with
from tests.samples import cache

CREAM = ColourPaint("#f4e9d8")
BODIES = {
    "stroke": Finishes(strokes=(Stroke(9, CREAM),)),
    "gaps": Finishes(strokes=(Stroke(5.5, CREAM, gap=3, side="inside"), Stroke(4, CREAM, gap=2.5))),
    "see-through": Finishes(strokes=(Stroke(12, CREAM, opacity=0.4),)),
    "see-through within": Finishes(strokes=(Stroke(12, CREAM, opacity=0.4, side="inside"), Stroke(8, CREAM))),
    "dashes": Finishes(strokes=(Stroke(9, CREAM, dashes=(14, 7)),)),
    "chalk over a stroke": Finishes(strokes=(Stroke(9, CREAM, texture="chalk"), Stroke(6, CREAM, side="centre"))),
    "dashes over a fade": Finishes(edge=Edge(feather=24), strokes=(Stroke(7, CREAM, dashes=(9, 5)),)),
    "fade": Finishes(edge=Edge(feather=30)),
    "fade beneath a stroke": Finishes(edge=Edge(feather=24, inset=3), strokes=(Stroke(7, CREAM),)),
    "narrow fade": Finishes(edge=Edge(feather=3)),
    "fade inside": Finishes(edge=Edge(feather=24, feather_side="inside"), strokes=(Stroke(7, CREAM),)),
    "fade outside": Finishes(edge=Edge(feather=24, feather_side="outside", strength=2)),
    "strong fade": Finishes(edge=Edge(feather=24, strength=3)),
}
PLACES = {"photo all over": ContentPlacement(120, 100, 2.0, 2.0), "photo ends": ContentPlacement(130, 90)}


def part_of(finishes: Finishes, shape: str, keeps: Keeps = "inside", **changes: object) -> Part:
    job = job_with(finishes, shape=library_shape(shape, keeps), **changes)
    return plan_cutout(job, job.sheets[0], job.sheets[0].items[0]).parts[0]


def weights_of(part: Part, window: PixelBox) -> Weights:
    return Weights(part, window, STORE, "preview", cache())


WINDOW = PixelBox(-20, -30, 260, 230)


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("shape", ["circle", "heart", "ring"])
@pytest.mark.parametrize("body", BODIES)
@pytest.mark.parametrize("keeps", ["inside", "outside"])
def test_it_is_what_painting_gives(body: str, shape: str, keeps: Keeps, place: str) -> None:
    part = part_of(BODIES[body], shape, keeps, content_placement=PLACES[place])
    k, shift, cells = 4, (2.4, 7.0), PixelBox(-14, -14, 80, 70)
    made = alpha_on_cells(weights_of(part, WINDOW), cells, k, shift)
    assert made is not None
    # By pixels, of the body moved as far; a mean over all those of a cell.
    moved, fine = shrunk(part, Affine.translation(*shift)), PixelBox(*(k * at for at in cells))
    alpha = FinishedPart(moved, fine, STORE, "final", cache()).alpha(fine)
    expected = alpha.reshape(cells.height, k, cells.width, k).mean(axis=(1, 3))
    # The narrowest blur of a shadow on such cells: between pixels, and within a fade, single cells may differ.
    soft = ndimage.gaussian_filter(np.array([made, expected]), (0, 3, 3))
    assert np.abs(soft[0] - soft[1]).max() < 1 / 255


@pytest.mark.parametrize(
    ("finishes", "window", "k"),
    [
        (BODIES["stroke"], WINDOW, 1),
        (BODIES["stroke"], PixelBox(0, 0, 130, 230), 4),
        (Finishes(), WINDOW, 4),
        (Finishes(edge=Edge(feather=6), strokes=(Stroke(9, CREAM),)), WINDOW, 4),
        (Finishes(edge=Edge(feather=24, feathers_strokes=True), strokes=(Stroke(9, CREAM),)), WINDOW, 4),
    ],
    ids=[
        "small cells",
        "more than is in the window",
        "a sharp edge",
        "a narrow fade",
        "strokes that fade",
    ],
)
def test_where_there_is_more_to_it_it_is_left_to_painting(finishes: Finishes, window: PixelBox, k: int) -> None:
    weights = weights_of(part_of(finishes, "circle"), window)
    assert alpha_on_cells(weights, PixelBox(-14, -14, 80, 70), k, (0.0, 0.0)) is None


def test_in_files_what_a_broken_stroke_casts_is_painted() -> None:
    broken = part_of(BODIES["dashes"], "circle")
    weights = Weights(broken, WINDOW, STORE, "final", cache())
    assert alpha_on_cells(weights, PixelBox(-14, -14, 80, 70), 4, (0.0, 0.0)) is None


@pytest.mark.parametrize("quality", ["preview", "final"])
def test_an_outline_drawn_for_the_screen_serves_every_feather_on_the_same_cells(
    quality: Quality, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn: list[float] = []
    drawing = Edges.cells

    def counted(edges: Edges, offset: OffsetKey, box: PixelBox, k: float) -> Plane:
        drawn.append(k)
        return drawing(edges, offset, box, k)

    monkeypatch.setattr(Edges, "cells", counted)
    kept = cache()
    found = [
        Weights(part_of(Finishes(edge=Edge(feather=radius)), "heart"), WINDOW, STORE, quality, kept).of(WINDOW)
        for radius in (30.0, 30.5)
    ]
    assert len(set(drawn)) == 1
    assert len(drawn) == (1 if quality == "preview" else 2)
    assert np.abs(found[0].content - found[1].content).max() > 1e-3
