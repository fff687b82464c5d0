"""SVG and PDF of any look and place against the picture: covered, partly covered, see-through, groups."""

import subprocess
import tempfile
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Mount, Shadow, Stroke
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.formats.outgoing import Encoded, encode_output
from glasscap.core.formats.pdf_read import draw_pdf
from glasscap.core.formats.png import write_png
from glasscap.core.formats.read_back import check_file
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import library_shape
from tests.core.document.samples_of_many import waiting
from tests.core.formats.test_drawn_formats import apart, rims
from tests.samples import cache, photo_job


def smooth_photo(*, is_clear: bool) -> bytes:
    """A photo without grain, so that engines may place it by their own rules; one with clear corners, soft."""
    y, x = np.mgrid[0:150, 0:200] / np.array([150, 200]).reshape(2, 1, 1)
    rgba = np.stack([60 + 150 * x, 200 - 120 * y, 90 + 60 * x * y, np.full_like(x, 255)], -1)
    if is_clear:
        rgba[..., 3] = np.clip(700 * (0.5 - np.hypot(x - 0.5, y - 0.5)), 0, 255)
    return write_png(rgba.astype(np.uint8))


JOB, STORE = photo_job(smooth_photo(is_clear=False), smooth_photo(is_clear=True))
CREAM, INK = ColourPaint("#f4e9d8"), ColourPaint("#203040")


def by_resvg(made: Encoded) -> np.ndarray:
    return draw_artwork(made.data, "x.svg").rgba


def by_librsvg(made: Encoded) -> np.ndarray:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder, "a.svg")
        path.write_bytes(made.data)
        call = ["rsvg-convert", "--unlimited", str(path), "-o", str(path.with_suffix(".png"))]
        subprocess.run(call, check=True, capture_output=True)
        with Image.open(path.with_suffix(".png")) as image:
            return np.asarray(image.convert("RGBA"))


def by_pdfium(made: Encoded) -> np.ndarray:
    return draw_pdf(made.data, made.pixels.shape[1::-1], "x.pdf")


READERS = (("svg", by_resvg), ("svg", by_librsvg), ("pdf", by_pdfium))


@st.composite
def looks(draw: st.DrawFn) -> Finishes:
    sides = st.sampled_from(["outside", "inside", "centre"])
    paints = st.sampled_from([CREAM, INK])
    strokes = tuple(
        Stroke(draw(st.sampled_from([3.0, 6.0, 12.0])), draw(paints), side=draw(sides), gap=draw(st.sampled_from([0.0, 4.0, 9.0])))
        for _ in range(draw(st.integers(0, 2)))
    )  # fmt: skip
    shadows = draw(st.sampled_from([(), (), (Shadow(4, 6, 10, opacity=0.6),), (Shadow(9, 9, 0),)]))
    edge = draw(
        st.sampled_from([Edge(), Edge(), Edge(inset=5), Edge(feather=12), Edge(feather=9, feather_side="inside")])
    )
    mount = draw(st.sampled_from([None, None, Mount(10, 12, 30, 12, paint=CREAM, corner=6, opacity=0.5)]))
    return Finishes(edge, strokes, Lights(shadows=shadows), mount)


@st.composite
def cutouts(draw: st.DrawFn):
    number = draw(st.integers(0, 1))
    item = JOB.sheets[0].items[number]
    side = st.floats(50, 190)
    return replace(
        item,
        shape=library_shape(draw(st.sampled_from(["circle", "rectangle", "hexagon", "ellipse"]))),
        shape_placement=ShapePlacement(
            draw(st.floats(40, 160)), draw(st.floats(40, 110)), draw(side), draw(side),
            draw(st.sampled_from([0.0, 0.0, 20.0])),
        ),
        content_placement=ContentPlacement(100, 75, 1, 1, draw(st.sampled_from([0.0, 0.0, 15.0]))),
        finishes=draw(looks()),
    )  # fmt: skip


def has_blur(item) -> bool:
    finishes = item.finishes
    return finishes.edge.feather > 0 or any(s.blur for s in finishes.lights.shadows)


def assert_alike(job, item_id: str, *, is_blurred: bool) -> None:
    for kind, draw in READERS:
        output = Output("o1", item_id, OutputSize(scale=2.0), file=FileOptions(kind))
        made = encode_output(job, output, STORE, cache())
        away = apart(draw(made), made.pixels)
        assert (away <= 24).mean() >= 0.985, (draw.__name__, away.max())
        if not is_blurred:
            # On the rims engines have anti-aliasing of their own.
            levels = 3 if kind == "pdf" else 2
            assert (away <= levels)[~rims(made.pixels)].mean() >= 0.995, (draw.__name__, away.max())
        check_file(made.data, made.pixels, output.file, made.tags, f"x.{kind}")


@settings(max_examples=10, deadline=None)
@given(cutouts())
def test_any_cutout_is_drawn_as_the_picture_is(item) -> None:
    sheet = replace(JOB.sheets[0], items=(item,))
    assert_alike(replace(JOB, sheets=(sheet,)), item.id, is_blurred=has_blur(item))


@settings(max_examples=6, deadline=None)
@given(st.lists(cutouts(), min_size=1, max_size=3), looks())
def test_any_group_is_drawn_as_the_picture_is(items, finishes) -> None:
    named = [replace(item, id=f"i{n}") for n, item in enumerate(items)]
    sheet = replace(JOB.sheets[0], items=(*named, waiting("i90", Box(20, 10, 190, 140))))
    job, group_id = group_items(replace(JOB, sheets=(sheet,)), [i.id for i in sheet.items])
    job = update_item(job, group_id, lambda i: replace(i, finishes=finishes))
    blurred = any(has_blur(i) for i in items) or has_blur(replace(items[0], finishes=finishes))
    assert_alike(job, group_id, is_blurred=blurred)


@pytest.mark.parametrize("number", [0, 1])
@pytest.mark.parametrize(
    "finishes",
    [
        Finishes(strokes=(Stroke(12, ColourPaint("#ff0000")),)),
        Finishes(lights=Lights(shadows=(Shadow(8, 8, 6),))),
        Finishes(strokes=(Stroke(6, INK, side="inside", gap=5), Stroke(8, CREAM))),
        Finishes(),
    ],
    ids=["stroke", "shadow", "two strokes", "bare"],
)
def test_a_shape_that_reaches_beyond_its_photo(finishes: Finishes, number: int) -> None:
    item = JOB.sheets[0].items[number]
    shape = library_shape("rectangle" if finishes.lights.shadows else "circle")
    lies = ContentPlacement(100, 75)
    frame = ShapePlacement(30, 30, 120, 120)
    item = replace(item, shape=shape, shape_placement=frame, content_placement=lies, finishes=finishes)
    sheet = replace(JOB.sheets[0], items=(item,))
    assert_alike(replace(JOB, sheets=(sheet,)), item.id, is_blurred=has_blur(item))
