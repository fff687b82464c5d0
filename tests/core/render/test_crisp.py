"""Crisp bodies: what is written in runs is what composing every pixel gives."""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Bevel, Edge, Finishes, Glow, Lights, Shadow, Stroke
from glasscap.core.document.model.job import PaintContent
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, Planar, premultiplied
from glasscap.core.raster.planar import PREMULTIPLIED, STRAIGHT, Writing
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.quick import row_outlines
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.writers import writer_of
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import STORE, job_with
from tests.samples import cache

CREAM, INK = ColourPaint("#f4e9d8"), ColourPaint("#203040")
DROP, GLOW = Shadow(4, 7, 18, colour="#401020", opacity=0.7), Glow(12)
STROKES = (
    (Stroke(9, CREAM),),
    (Stroke(9, CREAM, side="inside"),),
    (Stroke(5.5, CREAM, gap=3, side="inside"), Stroke(4, INK, gap=2.5)),
    (Stroke(8, CREAM, side="centre", join="mitre"), Stroke(14, INK, side="centre")),
)
LOOKS = {
    "bare shadow": Finishes(lights=Lights(shadows=(DROP,))),
    "two shadows and a glow": Finishes(
        strokes=STROKES[0],
        lights=Lights(shadows=(DROP, Shadow(-6, -3, 5, is_clear_beneath=True)), outer_glow=GLOW),
    ),
    "inset": Finishes(strokes=STROKES[2], edge=Edge(inset=6.3), lights=Lights(shadows=(DROP,))),
} | {f"strokes {n}": Finishes(strokes=s, lights=Lights(shadows=(DROP,))) for n, s in enumerate(STROKES)}


def prepared(
    finishes: Finishes, shape: str, quality: Quality = "final", **changes: object
) -> tuple[FinishedPart, PixelBox]:
    job = job_with(finishes, shape=library_shape(shape), **changes)
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    return FinishedPart(plan.parts[0], plan.box, STORE, quality, cache()), plan.box


def written(part: FinishedPart, box: PixelBox, writing: Writing, *, in_rows: bool = False) -> tuple[Bytes, Bytes]:
    """Return what is written and what composing gives."""
    writer = writer_of(part).in_rows if in_rows else writer_of(part).crisp
    assert writer is not None
    out = np.zeros((box.height, box.width, 4), np.uint8)
    writer.write(out, box, writing)
    return out, writing.planes(planes_of(part, box))


@lru_cache(4)
def planes_of(part: FinishedPart, box: PixelBox) -> Planar:
    """Return what composing gives, made once for all that is held against it."""
    planes = composed([part], box)
    planes.flags.writeable = False
    return planes


def largest_difference(part: FinishedPart, box: PixelBox, writing: Writing, *, in_rows: bool = False) -> int:
    out, expected = written(part, box, writing, in_rows=in_rows)
    return int(np.abs(out.astype(int) - expected).max())


@pytest.mark.parametrize("shape", ["circle", "star", "heart", "ring"])
@pytest.mark.parametrize("look", LOOKS)
def test_runs_and_cells_are_what_composing_gives(look: str, shape: str) -> None:
    part, box = prepared(LOOKS[look], shape)
    # Straight colours of a faint pixel may round apart by one.
    assert largest_difference(part, box, STRAIGHT) <= 1
    assert largest_difference(part, box, PREMULTIPLIED) <= 1
    assert largest_difference(part, PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9), STRAIGHT) <= 1


def wide(finishes: Finishes) -> Finishes:
    """Return finishes whose shadows are wide enough to be held as cells of several px."""
    lights = finishes.lights
    shadows = tuple(replace(shadow, blur=80.0) for shadow in lights.shadows)
    glow = None if lights.outer_glow is None else replace(lights.outer_glow, blur=90.0)
    return replace(finishes, lights=replace(lights, shadows=shadows, outer_glow=glow))


@pytest.mark.parametrize("shape", ["circle", "star", "heart", "ring"])
@pytest.mark.parametrize("look", LOOKS)
def test_writing_whole_rows_is_what_composing_gives(look: str, shape: str) -> None:
    part, box = prepared(wide(LOOKS[look]), shape)
    inner = PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9)
    middle = (box.y0 + box.y1) // 2
    # A strip from the middle, where a round body fills whole columns.
    strip = PixelBox(box.x0, middle - 20, box.x1, middle + 20)
    for where in (box, inner, strip):
        assert largest_difference(part, where, STRAIGHT, in_rows=True) <= 1
    assert largest_difference(part, box, PREMULTIPLIED, in_rows=True) <= 1


RAINBOW = (Stop(0, "#b4532c"), Stop(0.4, "#f4e9d8"), Stop(1, "#203040"))
PAINTS = {way: GradientPaint(RAINBOW, way, angle=40) for way in ("linear", "radial", "around", "along")} | {
    "texture": TexturePaint("linen", scale=1.2, rotation=15),
    "letting something through": GradientPaint((Stop(0, "#b4532c80"), Stop(1, "#ffffff"))),
}
RUST = ColourPaint("#b4532c")
PIECES = {
    "see-through": Stroke(9, RUST, opacity=0.4),
    "see-through over the edge": Stroke(9, RUST, opacity=0.4, side="centre"),
    "dashes": Stroke(9, RUST, dashes=(14, 6), cap="round"),
    "chalk": Stroke(9, RUST, texture="chalk"),
    "brush": Stroke(12, RUST, texture="brush", side="inside"),
    "dashes of crayon": Stroke(9, PAINTS["linear"], dashes=(20, 8), texture="crayon", gap=2),
}
EDGES = pytest.mark.parametrize("edge", [Edge(), Edge(feather=30)], ids=["crisp", "fading"])


def assert_rows_are_what_composing_gives(look: Finishes) -> None:
    """Hold rows of a heart against composing, in files and for the screen."""
    part, box = prepared(look, "heart")
    for where in (box, PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9)):
        assert largest_difference(part, where, PREMULTIPLIED, in_rows=True) <= 1
        out, expected = (premultiplied(p).astype(int) for p in written(part, where, STRAIGHT, in_rows=True))
        assert np.abs(out - expected).max() <= 1
    screen, box = prepared(look, "heart", "moving")
    for where in (box, PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9)):
        assert largest_difference(screen, where, PREMULTIPLIED, in_rows=True) <= 1


@EDGES
@pytest.mark.parametrize("paint", PAINTS)
def test_strokes_of_many_colours_are_painted_in_rows_as_composing_gives(paint: str, edge: Edge) -> None:
    strokes = (Stroke(7, PAINTS[paint], side="inside"), Stroke(5, CREAM), Stroke(11, PAINTS[paint], gap=3))
    assert_rows_are_what_composing_gives(
        wide(Finishes(strokes=strokes, edge=edge, lights=Lights(shadows=(DROP,))))
    )


@EDGES
@pytest.mark.parametrize("piece", PIECES)
def test_strokes_that_are_not_all_there_are_laid_in_rows_as_composing_gives(piece: str, edge: Edge) -> None:
    strokes = (PIECES[piece], Stroke(16, CREAM, side="centre"))
    for shown in (strokes, strokes[:1]):
        look = wide(Finishes(strokes=shown, edge=edge, lights=Lights(shadows=(DROP,))))
        assert_rows_are_what_composing_gives(look)


@pytest.mark.parametrize(
    ("bevel", "edge"),
    [
        (Bevel(width=7), Edge()),
        (Bevel(width=24, softness=8, elevation=25), Edge()),
        (Bevel(width=7, side="outer"), Edge()),
        (Bevel(width=24, side="outer", direction=200), Edge()),
        (Bevel(width=9, side="outer"), Edge(feather=30)),
        (Bevel(width=9), Edge(feather=30)),
        (Bevel(width=24, softness=8), Edge(feather=24, feather_side="inside")),
    ],
    ids=["narrow", "wide", "outer", "wide outer", "outer of a fade", "of a fade", "of a fade inside"],
)
def test_a_bevel_is_laid_in_rows_as_composing_gives(bevel: Bevel, edge: Edge) -> None:
    lights = Lights(shadows=(DROP,), bevel=bevel)
    for strokes in ((), STROKES[2], (PIECES["dashes"], Stroke(16, CREAM, side="centre"))):
        assert_rows_are_what_composing_gives(wide(Finishes(strokes=strokes, edge=edge, lights=lights)))


SHADE = Shadow(5, 8, 60, colour="#203040", opacity=0.6)
INNER = {
    "shadow": Lights(shadows=(DROP,), inner_shadow=SHADE),
    "black shadow": Lights(shadows=(DROP,), inner_shadow=replace(SHADE, colour="#000000")),
    "glow": Lights(shadows=(DROP,), inner_glow=Glow(50, colour="#ffe0a0")),
    "shadow and glow": Lights(inner_shadow=SHADE, inner_glow=Glow(50, colour="#ffe0a0")),
}


@EDGES
@pytest.mark.parametrize("shape", ["heart", "star"])
@pytest.mark.parametrize("light", INNER)
def test_shade_on_the_content_is_laid_on_the_screen_as_composing_gives(
    light: str, shape: str, edge: Edge
) -> None:
    look = wide(Finishes(strokes=STROKES[2], edge=edge, lights=INNER[light]))
    screen, box = prepared(look, shape, "moving")
    for where in (box, PixelBox(box.x0 + 31, box.y0 + 17, box.x1 - 40, box.y1 - 9)):
        assert largest_difference(screen, where, PREMULTIPLIED, in_rows=True) <= 1
    assert writer_of(prepared(look, shape)[0]).in_rows is None


@EDGES
def test_narrow_shade_is_reckoned_pixel_by_pixel(edge: Edge) -> None:
    narrow = Lights(inner_shadow=Shadow(2, 2, 3), inner_glow=Glow(4, colour="#ffe0a0"))
    for look in (Finishes(edge=edge, lights=narrow), Finishes(edge=edge, strokes=STROKES[2], lights=narrow)):
        part, box = prepared(look, "heart", "moving")
        assert largest_difference(part, box, PREMULTIPLIED, in_rows=True) <= 1


def test_a_bevel_beside_a_cleared_shadow_is_composed() -> None:
    cleared = Finishes(lights=Lights(shadows=(replace(DROP, is_clear_beneath=True),), bevel=Bevel(side="outer")))
    part, _ = prepared(wide(cleared), "circle")
    assert writer_of(part).crisp is None and writer_of(part).in_rows is None


def test_many_pixels_of_a_painted_stroke_are_written_some_at_a_time(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(row_outlines, "_PAINTED_PX", 700)
    look = wide(Finishes(strokes=(Stroke(20, PAINTS["linear"]),), lights=Lights(shadows=(DROP,))))
    part, box = prepared(look, "circle")
    assert largest_difference(part, box, STRAIGHT, in_rows=True) <= 1


FADES = {
    "alone": Finishes(edge=Edge(feather=30)),
    "over a shadow": Finishes(edge=Edge(feather=24), lights=Lights(shadows=(DROP,))),
    "over a black shadow": Finishes(edge=Edge(feather=24), lights=Lights(shadows=(Shadow(4, 7, 18),))),
    "strong": Finishes(edge=Edge(feather=40, strength=3.5), lights=Lights(shadows=(DROP,))),
    "beneath a stroke": Finishes(edge=Edge(feather=30), strokes=STROKES[0], lights=Lights(shadows=(DROP,))),
    "beneath gaps": Finishes(edge=Edge(feather=30, inset=4), strokes=STROKES[2], lights=Lights(shadows=(DROP,))),
    "inside": Finishes(edge=Edge(feather=24, feather_side="inside"), lights=Lights(shadows=(DROP,))),
    "inside a stroke": Finishes(edge=Edge(feather=24, feather_side="inside"), strokes=STROKES[2]),
    "outside": Finishes(
        edge=Edge(feather=24, feather_side="outside", strength=2), lights=Lights(shadows=(DROP,))
    ),
    "outside strokes": Finishes(edge=Edge(feather=24, feather_side="outside"), strokes=STROKES[2]),
    "over a glow": replace(LOOKS["two shadows and a glow"], edge=Edge(feather=24)),
}
# Where the photo runs on beneath the fade, and where it ends within it.
PLACES = {
    "photo all over": ContentPlacement(120, 100, 2.0, 2.0),
    "photo ends": ContentPlacement(130, 90),
    "photo ends slanted": ContentPlacement(130, 90, rotation=20),
}


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("shape", ["circle", "heart", "ring"])
@pytest.mark.parametrize("look", FADES)
def test_a_fade_in_rows_is_what_composing_gives(look: str, shape: str, place: str) -> None:
    part, box = prepared(wide(FADES[look]), shape, content_placement=PLACES[place])
    assert isinstance(writer_of(part).in_rows, FadingRows)
    middle = (box.y0 + box.y1) // 2
    for where in (box, PixelBox(box.x0 + 31, box.y0, box.x1 - 40, box.y1), PixelBox(0, middle, 240, middle + 9)):
        assert largest_difference(part, where, PREMULTIPLIED, in_rows=True) <= 1
        # A share too faint to be seen may still turn the colour of an alpha of a few levels.
        out, expected = (premultiplied(p).astype(int) for p in written(part, where, STRAIGHT, in_rows=True))
        assert np.abs(out - expected).max() <= 1


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("shape", ["circle", "heart", "ring"])
@pytest.mark.parametrize("look", [*FADES, "clear beneath"])
def test_on_the_screen_a_fade_is_summed_on_cells_and_within_a_level(look: str, shape: str, place: str) -> None:
    clear = Finishes(edge=Edge(feather=24), lights=Lights(shadows=(replace(DROP, is_clear_beneath=True),)))
    finishes = wide(FADES.get(look, clear))
    part, box = prepared(finishes, shape, "preview", content_placement=PLACES[place])
    assert isinstance(writer_of(part).in_rows, FadingRows)
    middle = (box.y0 + box.y1) // 2
    strip = PixelBox(box.x0, middle, box.x1, middle + 9)
    for where in (box, PixelBox(box.x0 + 31, box.y0, box.x1 - 40, box.y1), strip):
        assert largest_difference(part, where, PREMULTIPLIED, in_rows=True) <= 1
        # Proofs are straight, as files are.
        out, expected = (premultiplied(p).astype(int) for p in written(part, where, STRAIGHT, in_rows=True))
        assert np.abs(out - expected).max() <= 1


@pytest.mark.parametrize(
    ("edge", "goes"),
    [(Edge(feather=30), True), (Edge(feather=30, feathers_strokes=True), False), (Edge(feather=8), False)],
    ids=["wide", "with its strokes", "narrow"],
)
def test_only_a_wide_fade_beneath_strokes_goes_in_rows(edge: Edge, goes: bool) -> None:
    part, _ = prepared(Finishes(edge=edge, strokes=STROKES[0]), "circle")
    assert (writer_of(part).in_rows is not None) == goes


def test_a_narrow_shadow_and_many_runs_go_through_masks() -> None:
    part, _ = prepared(LOOKS["bare shadow"], "circle")
    assert writer_of(part).crisp is not None and writer_of(part).in_rows is None


@pytest.mark.parametrize(
    "turn", [{"is_mirrored": True}, {"rotation": 90.0}, {"rotation": 33.0}, {"scale_x": 1.3}]
)
def test_any_placement_of_the_photo_will_do(turn: dict[str, float]) -> None:
    part, box = prepared(LOOKS["strokes 0"], "circle", content_placement=ContentPlacement(120, 100, **turn))
    assert largest_difference(part, box, STRAIGHT) <= 1


def test_a_paint_may_be_the_content() -> None:
    paint = PaintContent(ColourPaint("#88aa33"))
    part, box = prepared(LOOKS["strokes 2"], "star", content=paint, content_placement=None)
    assert largest_difference(part, box, STRAIGHT) <= 1


@pytest.mark.parametrize(
    "change",
    [
        lambda f: replace(f, edge=Edge(feather=8)),
        lambda f: replace(f, strokes=(Stroke(9, CREAM, opacity=0.5),)),
        lambda f: replace(f, strokes=(Stroke(9, ColourPaint("#f4e9d880")),)),
        lambda f: replace(f, strokes=(Stroke(9, CREAM, dashes=(8.0, 4.0)),)),
        lambda f: replace(f, strokes=(Stroke(9, CREAM, texture="chalk"),)),
        lambda f: replace(f, lights=Lights(inner_shadow=DROP)),
    ],
)
def test_what_is_more_than_outlines_decide_is_composed(change: Callable[[Finishes], Finishes]) -> None:
    assert writer_of(prepared(change(LOOKS["strokes 0"]), "circle")[0]).crisp is None
