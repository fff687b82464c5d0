"""SVG drawings: size, sharpness at any scale, nothing runs or is fetched."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.placement import ContentPlacement
from glasscap.core.errors import PhotoError
from glasscap.core.formats.artwork import cleaned, draw_artwork, is_artwork
from glasscap.core.formats.photo import photo_facts
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet
from glasscap.files.photos import photo_from_bytes
from tests.samples import cache, photo_job, png_photo

DISC = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 80"><circle cx="50" cy="40" r="30" fill="#0b7a75"/></svg>'


@pytest.mark.parametrize(
    ("head", "size"),
    [
        ('width="40" height="20"', (40, 20)),
        ('viewBox="0 0 100 80"', (100, 80)),
        ('width="25.4mm" viewBox="0 0 2 1"', (96, 48)),
        ('height="1in" viewBox="0 0 2 1"', (192, 96)),
        ("", (300, 150)),
    ],
)
def test_its_size_is_read_as_css_reads_it(head: str, size: tuple[int, int]) -> None:
    # CSS Values 4, 6.2; the default 300 x 150 is CSS 2.1, 10.3.2.
    assert cleaned(f'<svg xmlns="http://www.w3.org/2000/svg" {head}/>'.encode(), "a.svg")[1] == size


def test_a_disc_has_its_area_at_any_width() -> None:
    for width in (100, 700):
        pixels = draw_artwork(DISC, "a.svg", width)
        scale = width / 100
        assert pixels.size == (width, round(0.8 * width))
        assert pixels.rgba[..., 3].sum() / 255 == pytest.approx(np.pi * (30 * scale) ** 2, rel=2e-3)


def test_it_is_drawn_at_output_resolution() -> None:
    job, store = photo_job(png_photo())
    found = photo_from_bytes(DISC, "disc.svg")
    store.add(DISC)
    sheet = job.sheets[0]
    content = replace(sheet.items[0].content, sha256=found.record.sha256)
    item = replace(
        sheet.items[0],
        content=content,
        content_placement=ContentPlacement(80, 45),
        shape=None,
        shape_placement=None,
    )
    job = replace(job, photos=(*job.photos, found.record), sheets=(replace(sheet, items=(item,)),))
    alpha = render(plan_sheet(job, job.sheets[0], scale=6), store, cache()).rgba[..., 3]
    # A picture enlarged 6 times would be soft for 6 px around the rim.
    soft = ((alpha > 12) & (alpha < 243)).sum()
    assert soft < 2.2 * 2 * np.pi * 30 * 6


HOSTILE = {
    "script": b"<script>1</script>",
    "handler": b'<rect onclick="x()"/>',
    "outside picture": b'<image href="http://example.invalid/a.png"/>',
    "file": b'<image xlink:href="file:///etc/passwd" xmlns:xlink="http://www.w3.org/1999/xlink"/>',
    "style": b"<style>@import url(http://example.invalid/x.css);</style>",
    "filter": b'<rect style="fill:url(http://example.invalid/p)"/>',
    "nested drawing": b'<image href="data:image/svg+xml;base64,AAAA"/>',
    "foreign": b"<foreignObject><p/></foreignObject>",
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_runs_or_reaches_outside_is_left_out_and_said(name: str) -> None:
    data = b'<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">' + HOSTILE[name] + b"</svg>"
    clean, _, was_changed = cleaned(data, "a.svg")
    assert was_changed
    for word in (b"script", b"onclick", b"http://example", b"file:", b"svg+xml", b"foreign"):
        assert word not in clean
    assert "left out" in photo_facts(data, "a.svg").note
    assert draw_artwork(data, "a.svg").size == (9, 9)


ENTITIES = (
    b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg">&b;</svg>'
)
COPIES = (
    b'<svg xmlns="http://www.w3.org/2000/svg"><g id="a0"><rect/></g>'
    + b"".join(b'<g id="a%d">' % n + b'<use href="#a%d"/>' % (n - 1) * 10 + b"</g>" for n in range(1, 9))
    + b"</svg>"
)
LOOP = b'<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/></g></svg>'


@pytest.mark.parametrize(
    "data",
    [ENTITIES, COPIES, LOOP, b"<svg", b"<p/>", b'<svg xmlns="http://www.w3.org/2000/svg" width="0" height="9"/>'],
    ids=["entities", "copies of copies", "a loop", "cut short", "no drawing", "no width"],
)
def test_broken_and_hostile_drawings_are_refused_with_a_remedy(data: bytes) -> None:
    with pytest.raises(PhotoError) as caught:
        cleaned(data, "sign.svg")
    assert caught.value.what == "sign.svg" and caught.value.remedy


def test_inner_references_and_pictures_stay() -> None:
    data = (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"><defs><g id="a"><rect width="4" height="4"/></g></defs>'
        b'<use href="#a"/><image href="data:image/png;base64,AAAA"/></svg>'
    )
    assert not cleaned(data, "a.svg")[2]
    assert draw_artwork(data, "a.svg").rgba[2, 2, 3] == 255


def test_a_drawing_is_told_from_a_picture() -> None:
    assert is_artwork(b'\xef\xbb\xbf<?xml version="1.0"?>\n<svg/>')
    assert not is_artwork(png_photo())
    assert photo_from_bytes(png_photo(), "really.svg").record.is_drawing is False
    assert photo_from_bytes(DISC, "pasted").record.is_drawing
