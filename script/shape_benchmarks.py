"""Figures of shapes: letters rendered, a point dragged, the library's first cards, letters set anew, the live wire."""

from __future__ import annotations

import math
import statistics
from functools import partial
from typing import Any

import cv2
import numpy as np
import skia
from msgspec.structs import replace

from bench_tools import Figure, circle_job, cold_fill, compare, timed
from glasscap.core.document.model.finishes import Edge, Finishes, Lights, Shadow, Stroke
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.points import nodes_on_sheet, placed_points, set_nodes
from glasscap.core.geometry.types import Box
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.live_wire import LiveWire, window_around
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.shapes.kinds import Letters, LettersShape, library_shape
from glasscap.core.shapes.library.table import SHAPES
from glasscap.core.shapes.nodes import Node, Nodes, changed
from glasscap.core.shapes.outlines import outline_of, own_box
from glasscap.core.shapes.typesetting import set_type
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.shape_cards import ShapeRequest, shape_card
from glasscap.editor.viewport import Viewport
from glasscap.files.font_book import FontBook

_WORDS, _STROKE, _DROP, _BLUR = "KILN TRAIL\nOPEN DOORS", 20, 40, 80
_TEXT = "The quick brown fox jumps over the lazy dog. " * 4 + "Twenty more letters."
_FIRST_CARDS, _CARD = 24, 66


def letters_figures(data: bytes) -> list[Figure]:
    """A 24 MP photo in letters with stroke and shadow, offsets cached."""
    job, sheet, store = circle_job(data)
    made = set_type(Letters(_WORDS, "Oswald", weight=700), FontBook(has_system=False))
    shape = LettersShape(made.letters, made.path)
    box = own_box(shape)
    assert box is not None
    size = 5600 / box.width
    placement = ShapePlacement(3000, 2000, box.width * size, box.height * size)
    look = Finishes(
        strokes=(Stroke(_STROKE, ColourPaint("#f4e9d8")),), lights=Lights(shadows=(Shadow(0, _DROP, _BLUR),))
    )
    item = replace(sheet.items[0], shape=shape, shape_placement=placement, finishes=look)
    dressed = replace(job, sheets=(replace(sheet, items=(item,)),))
    plan, cache = plan_cutout(dressed, dressed.sheets[0], item), ValueCache(1 << 28)
    rgba = store.pyramid(job.photos[0]).photo.rgba.copy()
    outline = outline_of(shape, placement.width, placement.height)
    path = skia.Path()
    for contour in outline.contours:
        path.moveTo(*(contour[0] + np.array([3000, 2000])))
        for points in (contour[1:] + np.array([3000, 2000])).reshape(-1, 6).tolist():
            path.cubicTo(*points)
        path.close()
    found = []
    for is_filter, call, most in ((True, "ImageFilters.Blur", 1 / 10), (False, "MaskFilter.MakeBlur", 1 / 3.5)):
        one, two = compare(
            lambda: render(plan, store, cache), partial(_skia_letters, rgba, path, is_filter=is_filter), 3
        )
        name = f"24 MP in letters ({sum(len(c) // 3 for c in outline.contours)} cubics), stroke, shadow"
        found.append(Figure(name, f"2D library, {call}", one / two, most, one, two))
    return found


def _skia_letters(rgba: np.ndarray, path: Any, *, is_filter: bool) -> object:
    surface = skia.Surface(6000, 4000)
    canvas = surface.getCanvas()
    shadow = skia.Paint(AntiAlias=True, Color=skia.Color(0, 0, 0, 128))
    if is_filter:
        shadow.setImageFilter(skia.ImageFilters.Blur(_BLUR / 2, _BLUR / 2))
    else:
        shadow.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, _BLUR / 2))
    canvas.save()
    canvas.translate(0, _DROP)
    canvas.drawPath(path, shadow)
    canvas.restore()
    ring = skia.Paint(AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeWidth=2 * _STROKE, Color=0xFFF4E9D8)
    canvas.drawPath(path, ring)
    canvas.clipPath(path, doAntiAlias=True)
    canvas.drawImage(skia.Image.fromarray(rgba, copy=False), 0, 0)
    out = np.empty((4000, 6000, 4), np.uint8)
    info = skia.ImageInfo.Make(
        6000, 4000, skia.ColorType.kRGBA_8888_ColorType, skia.AlphaType.kUnpremul_AlphaType
    )
    surface.readPixels(skia.Pixmap(info, out, 6000 * 4))
    return out


def _ring_of_points(count: int) -> Nodes:
    nodes = []
    for n in range(count):
        a = 2 * math.pi * n / count
        r = 1700 + 120 * math.cos(7 * a)
        x, y = 3000 + r * math.cos(a), 2000 + r * math.sin(a)
        reach = r * 2 * math.pi / count / 3
        u, v = -math.sin(a) * reach, math.cos(a) * reach
        nodes.append(Node(x, y, (x - u, y - v), (x + u, y + v), "smooth"))
    return (tuple(nodes),)


def point_figure(data: bytes) -> Figure:
    """A frame while a point of a 200-point outline with feather, stroke and shadow is dragged."""
    job, sheet, store = circle_job(data)
    photos, cache = ScreenPhotos(store), ValueCache(1 << 27)
    store.pyramid(job.photos[0]).halved(2)
    view = Viewport().resized(900, 700).fitted(Box(0, 0, sheet.width, sheet.height))
    s = view.to_device.a
    shape, placement = placed_points(_ring_of_points(200), None)
    look = Finishes(
        edge=Edge(feather=20 / s), strokes=(Stroke(10 / s),), lights=Lights(shadows=(Shadow(0, 10 / s, 30 / s),))
    )
    item = replace(sheet.items[0], shape=shape, shape_placement=placement, finishes=look)
    dressed: Job = replace(job, sheets=(replace(sheet, items=(item,)),))
    nodes = nodes_on_sheet(item)

    def frame(step: int) -> object:
        moved = changed(nodes, {(0, 40): nodes[0][40].moved(step * 4.0, step * 3.0)})
        shown = set_nodes(dressed, item.id, moved)
        return bench_frame(BenchRequest(shown, sheet.id, view.to_device, view.box, is_moving=True), photos, cache)

    for step in range(4):
        frame(step)
    times, fills = [], []
    for step in range(4, 54):
        times.append(timed(partial(frame, step)))
        if step % 8 == 0:
            fills.append(cold_fill())
    ours, fill = float(np.percentile(times, 95)), statistics.median(fills) * 15
    name = "frame dragging one of 200 points, feather 20, stroke 10, shadow 30, p95"
    return Figure(name, "cold fill of 1 MP times 15", ours / fill, 1.5, ours, fill)


def library_figure(data: bytes) -> Figure:
    """The library's first cards, beside as many bare pictures of the photo."""
    job, sheet, store = circle_job(data)
    photos = ScreenPhotos(store)
    pyramid = store.pyramid(job.photos[0])
    pyramid.halved(4)
    names = list(SHAPES)[:_FIRST_CARDS]
    item = sheet.items[0]

    def cards() -> object:
        cache = ValueCache(1 << 26)
        size = (_CARD, _CARD)
        return [shape_card(ShapeRequest(job, item.id, n, library_shape(n), size), photos, cache) for n in names]

    def pictures() -> object:
        small = pyramid.photo.rgba[::16, ::16]
        return [cv2.resize(small, (_CARD, _CARD), interpolation=cv2.INTER_AREA) for _ in names]

    one, two = compare(cards, pictures, 5)
    return Figure(
        "the library's first 24 cards", "bare pictures + 150 ms", one / (two + 150), 1.0, one, two + 150
    )


def typing_figure(frame: float) -> Figure:
    """200 letters set anew, to the outline; `frame` is what other frames are held against, ms."""
    book = FontBook(has_system=False)
    step = iter(range(10_000))

    def ours() -> object:
        made = set_type(
            Letters(_TEXT[:199] + "abcdefghij"[next(step) % 10], "Oswald", tracking=next(step) % 7), book
        )
        return own_box(LettersShape(made.letters, made.path))

    one = float(np.percentile([timed(ours) for _ in range(48)], 95))
    return Figure(
        "200 letters set anew, box included, p95", "cold fill of 1 MP times 15", one / frame, 1.0, one, frame
    )


def wire_figures(data: bytes) -> list[Figure]:
    """The live wire on 24 MP: following the pointer, and (in a thread) beginning at an anchor."""
    job, _, store = circle_job(data)
    rgba = store.pyramid(job.photos[0]).photo.rgba
    window = window_around(rgba, 3000, 2000, 1.0)
    wire = LiveWire(window, 3000, 2000)
    spots = iter(range(100_000))

    def warp() -> object:
        return cv2.warpAffine(rgba, np.array([[0.15, 0, 0], [0, 0.15, 0]]), (900, 700), flags=cv2.INTER_LINEAR)

    one, two = compare(lambda: wire.way_to(2750 + next(spots) % 500, 1750 + (next(spots) * 7) % 500), warp, 15)
    begun, frame = compare(lambda: LiveWire(window_around(rgba, 3000, 2000, 1.0), 3000, 2000), warp, 5)
    return [
        Figure("live wire to the pointer, 24 MP", "linear warp of a frame", one / two, 1.0, one, two),
        Figure(
            "live wire from a new anchor, in a thread",
            "linear warp of a frame times 20",
            begun / (20 * frame),
            1.0,
            begun,
            20 * frame,
        ),
    ]


def shape_figures(data: bytes) -> list[Figure]:
    """All of them."""
    letters, point = letters_figures(data), point_figure(data)
    return [
        *letters,
        point,
        library_figure(data),
        # With less memory in use the fill would not be cold among them.
        typing_figure(point.theirs),
        *wire_figures(data),
    ]
