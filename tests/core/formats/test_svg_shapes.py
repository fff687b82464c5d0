"""Shapes out of SVG files: transforms, use, viewBox, fill rules, clip paths; hostile files."""

import io
import math

import numpy as np
import pytest
import resvg_py
from PIL import Image

from glasscap.core.errors import GlassCapError
from glasscap.core.formats.svg_shapes import read_transform, svg_shapes
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import signed_area


def _svg(body: str, attributes: str = 'width="200" height="200"') -> bytes:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {attributes}>{body}</svg>'
    ).encode()


def _area(body: str, attributes: str = 'width="200" height="200"') -> float:
    parts = svg_shapes(_svg(body, attributes), "t.svg")
    return sum(signed_area(p) for part in parts for p in flatten(part.outline, tolerance=1e-3))


CASES = {
    "rect": ('<rect x="10" y="20" width="50" height="30"/>', 1500),
    "rounded rect": ('<rect x="0" y="0" width="100" height="60" rx="10"/>', 6000 - (4 - math.pi) * 100),
    "circle": ('<circle cx="50" cy="50" r="40"/>', math.pi * 1600),
    "ellipse": ('<ellipse cx="50" cy="50" rx="40" ry="20"/>', math.pi * 800),
    "polygon": ('<polygon points="0,0 100,0 50,80"/>', 4000),
    "open path is closed": ('<path d="M0 0 H100 V50 H0"/>', 5000),
    "nonzero": ('<path d="M0 0h100v100h-100z M25 25h50v50h-50z"/>', 10000),
    "evenodd": ('<path fill-rule="evenodd" d="M0 0h100v100h-100z M25 25h50v50h-50z"/>', 7500),
    "evenodd in style, inherited": ('<g style="fill-rule:evenodd"><path d="M0 0h100v100h-100z M25 25h50v50h-50z"/></g>', 7500),
    "translate and scale": ('<g transform="translate(10 10) scale(2)"><rect width="10" height="10"/></g>', 400),
    "rotate about": ('<rect transform="rotate(30 50 50)" width="40" height="40"/>', 1600),
    "skew keeps the area": ('<rect transform="skewX(30)" width="40" height="40"/>', 1600),
    "use": ('<defs><rect id="a" width="10" height="10"/></defs><use href="#a" x="5"/><use xlink:href="#a" y="30" transform="scale(2)"/>', 500),
    "symbol": ('<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol><use href="#s" width="50" height="50"/>', 2500),
    "clip": ('<clipPath id="c"><rect width="50" height="200"/></clipPath><rect clip-path="url(#c)" width="100" height="100"/>', 5000),
    "clip in shares": ('<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width=".5" height=".5"/></clipPath><rect clip-path="url(#c)" x="20" width="100" height="100"/>', 2500),
    "hidden is left out": ('<rect width="10" height="10"/><rect display="none" width="90" height="90"/><rect style="visibility:hidden" width="90" height="90"/>', 100),
    "self-crossing": ('<path d="M0 0L100 100L100 0L0 100Z"/>', 5000),
}  # fmt: skip


@pytest.mark.parametrize("name", list(CASES))
def test_areas(name: str) -> None:
    body, expected = CASES[name]
    assert _area(body) == pytest.approx(expected, rel=1e-4)


def test_view_box_scales_and_centres() -> None:
    assert _area(
        '<rect width="10" height="10"/>', 'width="200" height="100" viewBox="0 0 10 10"'
    ) == pytest.approx(10000)
    part = svg_shapes(
        _svg('<rect width="10" height="10"/>', 'width="200" height="100" viewBox="0 0 10 10"'), "t.svg"
    )[0]
    assert part.outline.contours[0][:, 0].min() == pytest.approx(50)
    stretched = 'width="200" height="100" viewBox="0 0 10 10" preserveAspectRatio="none"'
    assert _area('<rect width="10" height="10"/>', stretched) == pytest.approx(20000)


@pytest.mark.parametrize("name", list(CASES))
def test_an_independent_renderer_fills_the_same(name: str) -> None:
    drawn = resvg_py.svg_to_bytes(svg_string=_svg(CASES[name][0]).decode(), width=400)
    alpha = np.asarray(Image.open(io.BytesIO(bytes(drawn))).convert("RGBA"))[..., 3]
    found = sum(_clipped_area(p.outline) for p in svg_shapes(_svg(CASES[name][0]), "t.svg"))
    if name != "use":
        assert alpha.sum() / 255 / 4 == pytest.approx(found, rel=5e-3)


def _clipped_area(outline) -> float:
    from glasscap.core.geometry.polygon import clip_convex

    sheet = np.array([[0, 0], [200, 0], [200, 200], [0, 200]], float)
    return sum(signed_area(clip_convex(p, sheet)) for p in flatten(outline, tolerance=1e-3))


def test_transforms_multiply_from_left_to_right() -> None:
    affine = read_transform("translate(10,0) rotate(90) scale(2)")
    assert affine.apply(1, 0) == pytest.approx((10, 2))
    assert read_transform("matrix(1 2 3 4 5 6)").apply(1, 1) == (9, 12)


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"not xml", "no whole SVG"),
        (b"<html/>", "no SVG drawing"),
        (
            b'<!DOCTYPE s [<!ENTITY a "b"><!ENTITY c "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg">&c;</svg>',
            "entities",
        ),
        (_svg("<text>Hello</text>"), "no closed shape"),
        (_svg('<path d="M0 0L100 0"/>'), "no closed shape"),
        (_svg('<path d="M0 0 L1e9 0 L0 5Z"/>'), "beyond"),
        (_svg('<rect width="1e12" height="5"/>'), "beyond"),
        (_svg('<path d="M NaN 0 L1 1Z"/>'), "no shape in it"),
        (_svg('<rect width="10" height="10" transform="scale(0)"/>'), "no closed shape"),
        (_svg('<path d="M0 0' + "h1v1" * 40_000 + 'Z"/>'), "segments"),
        (_svg("<g>" * 300 + '<rect width="1" height="1"/>' + "</g>" * 300), "200 deep"),
    ],
)
def test_hostile_drawings_are_refused_in_words(data: bytes, word: str) -> None:
    with pytest.raises(GlassCapError, match=word):
        svg_shapes(data, "t.svg")


def test_copies_of_copies_end() -> None:
    bomb = "".join(f'<g id="a{n}"><use href="#a{n + 1}"/><use href="#a{n + 1}"/></g>' for n in range(30))
    with pytest.raises(GlassCapError, match="too many"):
        svg_shapes(_svg(bomb + '<rect id="a30" width="1" height="1"/>'), "t.svg")
    with pytest.raises(GlassCapError, match="too many"):
        svg_shapes(_svg('<g id="a"><use href="#a"/></g>'), "t.svg")


def test_an_outline_that_crosses_itself_everywhere_is_refused() -> None:
    rng = np.random.default_rng(0)
    points = " ".join(f"{x:.1f},{y:.1f}" for x, y in rng.uniform(0, 1000, (6000, 2)))
    with pytest.raises(GlassCapError, match="crosses itself too often"):
        svg_shapes(_svg(f'<polygon points="{points}"/>'), "t.svg")
