"""Finishes of a hole: what is kept lies around the shape, and its edge faces inwards."""

import math

import numpy as np
import pytest

from glasscap.core.document.model.finishes import Bevel, Edge, Finishes, Glow, Lights, Rough, Shadow, Stroke
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.raster.planar import PREMULTIPLIED, STRAIGHT
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.writers import writer_of
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import PHOTO, STORE, job_with, rendered
from tests.samples import cache

CREAM, RED = ColourPaint("#f4e9d8"), ColourPaint("#e01020")
WIDE = (Shadow(4, 7, 80, colour="#401020", opacity=0.7),)
TWO = (Stroke(5, CREAM, "inside", gap=3), Stroke(6, RED, "outside"))
LOOKS = {
    "shadow": Finishes(lights=Lights(shadows=WIDE)),
    "strokes": Finishes(strokes=TWO, edge=Edge(inset=3), lights=Lights(shadows=WIDE)),
    "dashes": Finishes(strokes=(Stroke(8, RED, dashes=(11, 6)), *TWO), lights=Lights(shadows=WIDE)),
    "bevel": Finishes(strokes=TWO, lights=Lights(shadows=WIDE, bevel=Bevel(width=9))),
    "outer bevel": Finishes(lights=Lights(shadows=WIDE, bevel=Bevel(width=9, side="outer"))),
    "torn": Finishes(edge=Edge(rough=Rough("torn", 5, scale=14)), strokes=TWO, lights=Lights(shadows=WIDE)),
    "fade": Finishes(edge=Edge(feather=24), lights=Lights(shadows=WIDE)),
    "strong fade": Finishes(edge=Edge(feather=24, strength=5), lights=Lights(shadows=WIDE)),
    "fade inside": Finishes(edge=Edge(feather=24, feather_side="inside"), lights=Lights(shadows=WIDE)),
    "fade outside": Finishes(edge=Edge(feather=24, feather_side="outside"), strokes=TWO),
    "fade beneath strokes": Finishes(edge=Edge(feather=24), strokes=TWO, lights=Lights(outer_glow=Glow(90))),
}
PLACES = {
    "in the photo": (ShapePlacement(120.3, 99.6, 70, 70), ContentPlacement(120, 100)),
    "across its end": (ShapePlacement(190.3, 120, 110, 90), ContentPlacement(130, 90)),
    "in a slanted photo": (ShapePlacement(120.3, 99.6, 70, 70), ContentPlacement(120, 100, rotation=20)),
}


def hole(
    finishes: Finishes, quality: Quality = "final", shape: str = "circle", place: str = "in the photo"
) -> tuple[FinishedPart, PixelBox]:
    placement, content = PLACES[place]
    job = job_with(
        finishes, shape=library_shape(shape, "outside"), shape_placement=placement, content_placement=content
    )
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    return FinishedPart(plan.parts[0], plan.box, STORE, quality, cache()), plan.box


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("shape", ["circle", "star"])
@pytest.mark.parametrize("look", LOOKS)
def test_rows_around_a_hole_are_what_composing_gives(look: str, shape: str, place: str) -> None:
    is_composed = place == "across its end" and LOOKS[look].edge.feather == 0 and LOOKS[look].strokes
    for quality in ("final", "moving"):
        part, box = hole(LOOKS[look], quality, shape, place)
        if writer_of(part).in_rows is None:
            assert is_composed or place == "across its end" or part.part.edge.feather > 0
            continue
        for where in (box, PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9)):
            out = np.zeros((where.height, where.width, 4), np.uint8)
            writer_of(part).in_rows.write(out, where, PREMULTIPLIED)
            made = PREMULTIPLIED.planes(composed([part], where))
            assert np.abs(out.astype(int) - made).max() <= 1
            if quality == "final":
                out[:] = 0
                writer_of(part).in_rows.write(out, where, STRAIGHT)
                straight = (premultiplied(p).astype(int) for p in (out, STRAIGHT.planes(composed([part], where))))
                assert np.abs(np.subtract(*straight)).max() <= 1


@pytest.mark.parametrize("look", LOOKS)
def test_a_hole_in_its_photo_goes_in_rows(look: str) -> None:
    part, _ = hole(LOOKS[look])
    assert writer_of(part).in_rows is not None
    assert isinstance(writer_of(part).in_rows, FadingRows) == (LOOKS[look].edge.feather > 0)


@pytest.mark.parametrize("strength", [1.0, 3.0])
def test_a_hole_fades_by_the_normal_distribution_and_the_photo_ends_sharply(strength: float) -> None:
    placement, content = ShapePlacement(0, 100, 240, 400), ContentPlacement(120, 100)
    job = job_with(
        Finishes(edge=Edge(feather=20, strength=strength)),
        shape=library_shape("rectangle", "outside"),
        shape_placement=placement,
        content_placement=content,
    )
    row = rendered(job).rgba[100, :, 3] / 255
    # The edge lies at 120; the feather's sigma is half its radius. Abramowitz & Stegun, 26.2.
    away = np.arange(240) + 0.5 - 120
    share = np.array([0.5 * (1 + math.erf(x / 10 / math.sqrt(2))) for x in away])
    assert np.abs(row - share**strength).max() < 1.5 / 255
    assert row[-1] == 1


def test_an_inner_bevel_of_a_hole_lies_on_the_photo_around_it() -> None:
    bevel = Bevel(width=10, softness=2, direction=180.0, elevation=30.0)
    plain, lit = (rendered(job_with(f, shape=library_shape("circle", "outside"))).rgba for f in (
        Finishes(), Finishes(lights=Lights(bevel=bevel)),
    ))  # fmt: skip
    assert np.array_equal(plain[..., 3], lit[..., 3])
    change = lit[..., :3].astype(int).sum(axis=-1) - plain[..., :3].astype(int).sum(axis=-1)
    y, x = np.mgrid[0:200, 0:240] + 0.5
    away = np.hypot(x - 120.3, y - 99.6) - 60
    assert not change[(away < -1) | (away > 16)].any()
    # The photo slopes down into the hole: on its right that faces the light from the left.
    row = change[99]
    assert row[185] > 60 and row[55] < -60
    assert not change[:, 0].any() and not change[:, -1].any() and not change[0].any() and not change[-1].any()


def test_a_bevel_of_a_hole_is_that_of_what_would_fill_it_turned_about() -> None:
    inner, outer = (
        rendered(
            job_with(
                Finishes(lights=Lights(bevel=Bevel(width=10, side=side, direction=direction))),
                shape=library_shape("circle", keeps),
            )
        ).rgba.astype(float)
        for side, keeps, direction in (("inner", "outside", 40.0), ("outer", "inside", 220.0))
    )
    ring = np.hypot(*(np.mgrid[0:200, 0:240] + 0.5 - np.array([99.6, 120.3])[:, None, None])) - 60
    on = (ring > 1.5) & (ring < 12)
    # Beside the shape light and shade lie by themselves, around the hole on the photo.
    share, colour = outer[..., 3:] / 255, outer[..., :3]
    expected = np.array(PHOTO) * (1 - share) + colour * share
    assert np.abs(inner[..., :3] - expected)[on].max() < 2


def test_strokes_that_fade_with_a_hole_do_so_at_its_edge() -> None:
    finishes = Finishes(edge=Edge(feather=8, feathers_strokes=True), strokes=(Stroke(20, RED),))
    picture = rendered(job_with(finishes, shape=library_shape("circle", "outside")))
    row = picture.rgba[99]
    # 20 px of stroke begin at the edge, 60 px from the middle; there all is half faded, farther out nothing.
    assert abs(int(row[180, 3]) - 128) < 16
    assert (row[192:200] == (0xE0, 0x10, 0x20, 255)).all() and (row[202:, :3] == PHOTO).all()
