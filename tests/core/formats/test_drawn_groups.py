"""Groups in SVG and PDF: what they hold stays paths and text, drawn by engines that did not write them."""

import io
from xml.etree import ElementTree

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace

from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Edge, Finishes, Glow, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Cutout, Job, PaintContent
from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.formats.outgoing import Encoded, encode_output
from glasscap.core.formats.pdf_read import draw_pdf
from glasscap.core.geometry.types import Box
from glasscap.core.render.plan.plan import plan_sheet
from glasscap.core.render.vector_scene import pixel_reasons
from glasscap.core.shapes.kinds import Letters, LettersShape
from glasscap.core.shapes.typesetting import set_type
from glasscap.files.font_book import FontBook
from tests.core.document.samples_of_many import CIRCLE, COLOURS, RECTANGLE, painted, waiting
from tests.core.formats.test_drawn_formats import apart, rim_share
from tests.samples import cache, photo_job, png_photo

PHOTOS, STORE = photo_job(png_photo(240, 200))
MASK = Box(30, 20, 230, 180)
CREAM = ColourPaint("#f4e9d8")


def word() -> Cutout:
    made = set_type(Letters("KILN", "Oswald", weight=600), FontBook(has_system=False))
    shape = LettersShape(made.letters, made.path)
    return Cutout(
        "i3", "Word", PaintContent(CREAM), shape=shape, shape_placement=ShapePlacement(128, 104, 150, 60)
    )


def held(**finishes: Finishes) -> list[Cutout]:
    """A photo under a circle, a tile beside it, letters in front."""
    (photo,) = PHOTOS.sheets[0].items
    photo = replace(
        photo,
        id="i1",
        shape=CIRCLE,
        shape_placement=ShapePlacement(90, 90, 150, 150),
        content_placement=ContentPlacement(100, 96),
    )
    items = [photo, painted("i2", Box(120, 70, 260, 150)), word()]
    return [replace(i, finishes=finishes.get(i.id, Finishes())) for i in items]


def grouped(items: list[Cutout], *, has_mask: bool = True, **changes: object) -> tuple[Job, str]:
    sheet = replace(PHOTOS.sheets[0], items=(*items, *([waiting("i90", MASK)] if has_mask else [])))
    job, group_id = group_items(replace(PHOTOS, sheets=(sheet,)), [i.id for i in sheet.items])
    return update_item(job, group_id, lambda i: replace(i, **changes)), group_id


def encoded(job: Job, item_id: str, kind: str, *, is_live: bool = False) -> Encoded:
    file = FileOptions(kind, has_live_letters=is_live)
    return encode_output(job, Output("o1", item_id, OutputSize(scale=1.5), file=file), STORE, cache())


LOOKS = {
    "plain": {},
    "strokes": {"i1": Finishes(strokes=(Stroke(5, CREAM), Stroke(3, gap=7)))},
    "translucent": {"i2": Finishes(strokes=(Stroke(6, CREAM, opacity=0.5),))},
}
GROUPS = {
    "masked": {},
    "not masked": {"has_mask": False, "opacity": 0.6},
    "faint": {"opacity": 0.5},
    "stroke of its own": {"finishes": Finishes(strokes=(Stroke(6, CREAM),))},
}


@pytest.mark.parametrize("look", LOOKS)
@pytest.mark.parametrize("group", GROUPS)
@pytest.mark.parametrize("kind", ["svg", "pdf"])
def test_a_group_is_the_picture_but_for_an_engines_rims(kind: str, group: str, look: str) -> None:
    made = encoded(*grouped(held(**LOOKS[look]), **GROUPS[group]), kind)
    size = made.pixels.shape[1::-1]
    found = draw_artwork(made.data, "x.svg").rgba if kind == "svg" else draw_pdf(made.data, size, "x.pdf")
    away = apart(found, made.pixels)
    assert (away > 3).mean() <= rim_share(made.pixels)


def test_soft_members_are_as_they_are_alone() -> None:
    soft = {"i2": Finishes(Edge(feather=10), lights=Lights(shadows=(Shadow(3, 5, 12),)))}
    made = encoded(*grouped(held(**soft)), "svg")
    away = apart(draw_artwork(made.data, "x.svg").rgba, made.pixels)
    assert (away <= 9).mean() >= 0.98


@pytest.mark.parametrize("kind", ["svg", "pdf"])
def test_a_group_s_own_inner_shade_lies_on_what_it_holds(kind: str) -> None:
    look = Finishes(lights=Lights(inner_shadow=Shadow(6, 8, 14, opacity=0.8), inner_glow=Glow(10)))
    made = encoded(*grouped(held(), finishes=look), kind)
    size = made.pixels.shape[1::-1]
    found = draw_artwork(made.data, "x.svg").rgba if kind == "svg" else draw_pdf(made.data, size, "x.pdf")
    assert (apart(found, made.pixels) > 3).mean() <= rim_share(made.pixels)
    if kind == "svg":
        assert len(elements(made.data, "title")) == 4


def elements(data: bytes, kind: str) -> list[ElementTree.Element]:
    return [e for e in ElementTree.fromstring(data).iter() if e.tag.endswith(f"}}{kind}")]


def test_what_it_holds_stays_apart() -> None:
    data = encoded(*grouped(held()), "svg").data
    (image,) = elements(data, "image")
    # The photo alone, cropped to its circle of 150 px at 1.5 times, and a hair.
    assert int(image.get("width")) <= 229
    titles = [t.text for t in elements(data, "title")]
    assert titles == ["Group", "Sample 1", "Tile i2", "Word"]
    pdf = encoded(*grouped(held()), "pdf").data
    with pikepdf.open(io.BytesIO(pdf)) as opened:
        forms = opened.pages[0].Resources.XObject["/G0"].Resources.XObject
        assert [f.Subtype for f in forms.values()] == ["/Form"] * 3


def test_letters_in_a_group_are_text_on_request() -> None:
    items = held()
    letters = replace(items[2], content=items[0].content, content_placement=items[0].content_placement)
    data = encoded(*grouped([*items[:2], letters]), "svg", is_live=True).data
    assert [t.text for t in elements(data, "text")] == ["KILN"]


def test_groups_within_groups_are_nested() -> None:
    job, inner = grouped(held())
    around = waiting("i95", Box(40, 30, 200, 170), RECTANGLE)
    sheet = replace(job.sheets[0], items=(*job.sheets[0].items, around))
    job, outer = group_items(replace(job, sheets=(sheet,)), [inner, "i95"])
    data = encoded(job, outer, "svg").data
    assert [t.text for t in elements(data, "title")][:2] == ["Group 2", "Group"]
    made = encoded(job, outer, "pdf")
    away = apart(draw_pdf(made.data, made.pixels.shape[1::-1], "x.pdf"), made.pixels)
    assert (away > 3).mean() <= rim_share(made.pixels)


@pytest.mark.parametrize("kind", ["svg", "pdf"])
def test_where_edges_are_shared_there_is_no_seam(kind: str) -> None:
    """Tiles that touch, and one whose edge is the group's: pixels, each covered once."""
    tiles = [painted(f"i{n}", Box(30 + 66.3 * n, 20, 96.3 + 66.3 * n, 180), COLOURS[n]) for n in range(3)]
    job, group_id = grouped(tiles)
    made = encoded(job, group_id, kind)
    size = made.pixels.shape[1::-1]
    found = draw_artwork(made.data, "x.svg").rgba if kind == "svg" else draw_pdf(made.data, size, "x.pdf")
    inside = made.pixels[..., 3] == 255
    assert found[..., 3][inside].min() >= 252
    assert apart(found, made.pixels)[inside].max() <= 4


def test_what_is_drawn_as_pixels_within_a_group_is_told_of() -> None:
    brush = {"i2": Finishes(strokes=(Stroke(6, texture="brush"),))}
    job, _ = grouped(held(**brush))
    assert pixel_reasons(plan_sheet(job, job.sheets[0]).parts) == {"a brush stroke"}


def test_a_soft_group_fades_as_a_whole() -> None:
    made = encoded(*grouped(held(), finishes=Finishes(Edge(feather=12))), "pdf")
    away = apart(draw_pdf(made.data, made.pixels.shape[1::-1], "x.pdf"), made.pixels)
    assert np.percentile(away, 99) <= 4
