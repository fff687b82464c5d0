"""Any finishes at all: nothing is cut off, the picture is as small as can be, the screen agrees with the file."""

import numpy as np
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.finishes import (
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
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, TexturePaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.pixels import visible_box
from glasscap.core.render.picture import picture_box, render
from glasscap.core.render.plan.plan import plan_cutout, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import STORE, job_with, over
from tests.samples import cache

# Shrinking a counterexample of this size would take minutes.
QUICK = settings(phases=[Phase.explicit, Phase.reuse, Phase.generate])
FAR = PixelBox(-300, -300, 540, 500)


def quarters(low: int, high: int) -> st.SearchStrategy[float]:
    """Return numbers in steps of a quarter, as a hand types them."""
    return st.integers(4 * low, 4 * high).map(lambda n: n / 4)


share, small = st.integers(0, 20).map(lambda n: n / 20), quarters(0, 24)
# Narrower than 3 px a feather on the screen is of the pixels' coverage, in the file of the outline itself.
feathers = st.one_of(st.just(0.0), quarters(3, 40))
colours = st.sampled_from(["#e01020", "#10c04080", "#000000", "#fbf6ec"])
sides = st.sampled_from(["inside", "centre", "outside"])
joins = st.sampled_from(["mitre", "round", "bevel"])
edges = st.builds(
    Edge,
    st.one_of(st.just(0.0), quarters(-15, 15)),
    joins,
    feathers,
    st.sampled_from(["centred", "inside", "outside"]),
    quarters(1, 4),
    st.booleans(),
    st.one_of(
        st.none(), st.builds(Rough, st.sampled_from(["brushed", "torn", "deckled", "stamped"]), quarters(0, 8))
    ),
)
paints = st.one_of(
    st.builds(ColourPaint, colours),
    st.sampled_from(["linear", "radial", "around", "along"]).map(lambda way: GradientPaint(way=way)),
    st.just(TexturePaint("linen", 1.5, 20.0)),
)
strokes = st.builds(
    Stroke,
    small,
    paints,
    sides,
    quarters(0, 12),
    share,
    joins,
    quarters(1, 6),
    st.sampled_from([(), (9.0, 5.0), (0.0, 8.0)]),
    quarters(-9, 9),
    st.sampled_from(["butt", "round", "square"]),
    st.booleans(),
    st.sampled_from(["smooth", "smooth", "brush", "chalk", "crayon"]),
)
shadows = st.builds(
    Shadow, quarters(-30, 30), quarters(-30, 30), small, quarters(-6, 10), colours, share, st.booleans()
)
glows = st.builds(Glow, small, quarters(-4, 8), colours, share)
bevels = st.builds(Bevel, small, quarters(0, 10), quarters(-180, 180), side=st.sampled_from(["inner", "outer"]))
lights = st.builds(
    Lights,
    st.lists(shadows, max_size=2).map(tuple),
    st.one_of(st.none(), shadows),
    st.one_of(st.none(), glows),
    st.one_of(st.none(), glows),
    st.one_of(st.none(), bevels),
)
mounts = st.one_of(
    st.none(), st.builds(Mount, small, small, small, small, small, st.builds(ColourPaint, colours))
)
finishes = st.builds(Finishes, edges, st.lists(strokes, max_size=3).map(tuple), lights, mounts)
shapes = st.builds(
    lambda name, keeps: library_shape(name, keeps),
    st.sampled_from(["circle", "ellipse", "rectangle"]),
    st.sampled_from(["inside", "outside"]),
)
frames = st.builds(
    ShapePlacement,
    quarters(110, 130),
    quarters(90, 110),
    st.integers(40, 130),
    st.integers(40, 130),
    st.sampled_from([0.0, 0.0, 30.0, 211.5]),
    st.booleans(),
)
scales = st.sampled_from([1.0, 1.0, 0.5, 1.7])
photos = st.builds(ContentPlacement, st.integers(60, 180), st.integers(60, 140), st.just(1.0), st.just(1.0))


@settings(QUICK, max_examples=25)
@given(finishes, shapes, frames, photos, share, scales)
def test_nothing_is_cut_off_and_nothing_empty_is_written(look, shape, frame, photo, opacity, scale) -> None:
    opacity = max(opacity, 0.05)
    job = job_with(look, shape=shape, shape_placement=frame, content_placement=photo, opacity=opacity)
    sheet = job.sheets[0]
    plan = plan_cutout(job, sheet, sheet.items[0], scale=scale)
    picture = render(plan, STORE, cache())
    assert picture_box(plan, STORE, cache()) == picture.box
    whole = render(
        replace(plan, box=PixelBox(*(round(v * scale) for v in FAR)), is_trimmed=False), STORE, cache()
    )
    seen = visible_box(whole)
    assert (seen.is_empty and picture.box.is_empty) or seen == picture.box
    if not seen.is_empty:
        assert np.abs(whole.cut(seen).rgba.astype(int) - picture.rgba)[..., 3].max() <= 1


@settings(QUICK, max_examples=25)
@given(finishes, shapes, frames, photos)
def test_the_screen_agrees_with_the_file(look, shape, frame, photo) -> None:
    job = job_with(look, shape=shape, shape_placement=frame, content_placement=photo)
    plan = plan_view(job, job.sheets[0], Affine(), FAR, "preview")
    shown = screen_frame(plan, STORE, cache())
    written = render(plan_view(job, job.sheets[0], Affine(), FAR, "final"), STORE, cache())
    seen = np.zeros((FAR.height, FAR.width, 4), np.uint8)
    if shown is not None:
        y, x = shown.y - FAR.y0, shown.x - FAR.x0
        seen[y : y + shown.rgba.shape[0], x : x + shown.rgba.shape[1]] = shown.rgba
    for backdrop in (0, 255):
        bench = seen[..., :3] + backdrop * (1 - seen[..., 3:] / 255)
        assert float(np.abs(bench - over(written, backdrop)).max()) <= 5
