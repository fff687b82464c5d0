"""Every quick way gives what the one exact way gives, over random looks drawn so that each is reached often."""

from collections import Counter

import numpy as np
from hypothesis import Phase, given, settings
from hypothesis import strategies as st

from glasscap.core.document.model.finishes import Bevel, Edge, Finishes, Glow, Lights, Shadow, Stroke
from glasscap.core.document.model.paint import ColourPaint, GradientPaint
from glasscap.core.geometry.types import PixelBox
from glasscap.core.raster.pixels import Bytes, premultiplied
from glasscap.core.raster.planar import PREMULTIPLIED, STRAIGHT, Writing, for_screen
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.quick.columns import COPIED
from glasscap.core.render.quick.crisp_rows import CrispRows
from glasscap.core.render.quick.fading_rows import FadingRows
from glasscap.core.render.quick.lit_content import LitContent
from glasscap.core.render.quick.writers import only_exact, write_parts, writer_of
from glasscap.core.shapes.kinds import library_shape
from tests.core.render.finished_samples import STORE, job_with
from tests.samples import cache

WAYS = ("rows", "fading rows", "masks", "columns", "lit content", "laid over")
# Rows are reached by most looks, others by few.
DRAWN = ("fading rows", "laid over", "columns", "lit content", "lit content", "masks", "masks", "masks")
EXAMPLES, LEAST = 300, 30


def quarters(low: int, high: int) -> st.SearchStrategy[float]:
    return st.integers(4 * low, 4 * high).map(lambda n: n / 4)


colours = st.sampled_from(["#f4e9d8", "#203040", "#c2571a"])
plain = st.builds(ColourPaint, colours)
paints = plain | st.sampled_from(["linear", "along"]).map(lambda way: GradientPaint(way=way))
sides = st.sampled_from(["inside", "centre", "outside"])
solid = st.builds(Stroke, quarters(1, 10), plain, sides, quarters(0, 4))
dashed = st.builds(Stroke, quarters(2, 10), paints, sides, dashes=st.just((14.0, 9.0)))
# Their blurs are wide: narrow ones are no matter of single rows.
wide = st.builds(
    Shadow,
    quarters(-9, 9),
    quarters(-9, 9),
    quarters(14, 40),
    colour=colours,
    opacity=st.sampled_from([0.3, 0.7, 1.0]),
)
narrow = st.builds(Shadow, quarters(-9, 9), quarters(-9, 9), quarters(0, 6), colour=colours)


def some(of: st.SearchStrategy, least: int, most: int) -> st.SearchStrategy[tuple]:
    return st.lists(of, min_size=least, max_size=most).map(tuple)


def looks(way: str) -> st.SearchStrategy[tuple[Finishes, str]]:
    """Looks by which a way is mostly reached, and a shape."""
    edge, strokes, lights = st.just(Edge()), some(solid, 0, 2), st.builds(Lights, some(wide, 1, 2))
    shape = st.sampled_from(["circle", "heart", "rectangle"])
    if way in ("fading rows", "laid over"):
        edge = st.builds(
            Edge, quarters(-3, 6), feather=quarters(9, 30), strength=st.sampled_from([1.0, 1.0, 2.0])
        )
        strokes = some(dashed if way == "laid over" else solid, 1, 1)
    elif way == "masks":
        # Many runs in each row, or a shadow that is sharp.
        shape = st.sampled_from(["burst", "star", "gear", "ring"])
        lights = st.builds(Lights, some(narrow, 0, 1))
        strokes = some(solid, 1, 2)
    elif way == "columns":
        lights = st.builds(Lights, some(narrow, 0, 1), bevel=st.none() | st.builds(Bevel, width=quarters(3, 9)))
        strokes = some(dashed, 0, 1)
    elif way == "lit content":
        lights = st.builds(
            Lights, some(wide, 0, 1), inner_shadow=wide, inner_glow=st.none() | st.builds(Glow, quarters(14, 30))
        )
    return st.tuples(st.builds(Finishes, edge, strokes, lights), shape)


def reached(part: FinishedPart, for_file: FinishedPart, box: PixelBox) -> set[str]:
    """The ways by which a part is written, in a file and on the screen."""
    found = set()
    for one in (part, for_file):
        writer = writer_of(one)
        if isinstance(writer.in_rows, CrispRows):
            found.add("rows")
        elif isinstance(writer.in_rows, FadingRows):
            found.add("fading rows")
            if writer.in_rows._is_laid_over:
                found.add("laid over")
        elif writer.crisp is not None:
            found.add("masks")
        elif (
            writer.columns(PixelBox(box.x0, (box.y0 + box.y1) // 2, box.x1, (box.y0 + box.y1) // 2 + 8)) == COPIED
        ).any():
            found.add("columns")
        if writer._solid is not None and isinstance(writer._solid.content, LitContent):
            found.add("lit content")
    return found


def written(part: FinishedPart, box: PixelBox, writing: Writing) -> Bytes:
    out = np.zeros((box.height, box.width, 4), np.uint8)
    write_parts(out, box, [part], writing)
    return out


def test_each_quick_way_is_what_composing_gives() -> None:
    counts: Counter[str] = Counter()

    @settings(max_examples=EXAMPLES, phases=[Phase.explicit, Phase.generate])
    @given(st.sampled_from(DRAWN).flatmap(looks))
    def check(drawn: tuple[Finishes, str]) -> None:
        finishes, shape = drawn
        job = job_with(finishes, shape=library_shape(shape))
        plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
        ready = {q: FinishedPart(plan.parts[0], plan.box, STORE, q, cache()) for q in ("final", "preview")}
        # A box that is cut somewhere: what is written goes on beyond it.
        box = PixelBox(plan.box.x0 + 5, plan.box.y0 + 3, plan.box.x1 - 2, plan.box.y1 - 9)
        quick = written(ready["final"], box, STRAIGHT), written(ready["preview"], box, for_screen("preview"))
        with only_exact():
            exact = written(ready["final"], box, STRAIGHT), written(ready["preview"], box, PREMULTIPLIED)
        own, other = (premultiplied(pixels).astype(int) for pixels in (quick[0], exact[0]))
        assert np.abs(own - other).max() <= 1, drawn
        assert np.abs(quick[1].astype(int) - exact[1]).max() <= 2, drawn
        counts.update(reached(ready["preview"], ready["final"], box))

    check()
    assert min(counts[way] for way in WAYS) >= LEAST, counts


def test_the_switch_turns_all_ways_off_and_on_again() -> None:
    job = job_with(Finishes(strokes=(Stroke(6),)))
    plan = plan_cutout(job, job.sheets[0], job.sheets[0].items[0])
    quick = render(plan, STORE, cache()).rgba
    with only_exact():
        exact = render(plan, STORE, cache()).rgba
    assert np.abs(premultiplied(quick).astype(int) - premultiplied(exact)).max() <= 1
    assert np.array_equal(render(plan, STORE, cache()).rgba, quick)
