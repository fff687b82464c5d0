"""Figures of finishes: rendered pictures against the 2D library and memory, frames while a slider moves."""

from __future__ import annotations

import statistics
import tracemalloc
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
import skia
from msgspec.structs import replace

from bench_tools import Figure, circle_job, cold_fill, compare, timed
from glasscap.core.document.model.finishes import (
    Bevel,
    Edge,
    Finishes,
    Glow,
    Lights,
    Mount,
    PictureMask,
    Rough,
    Shadow,
    Stroke,
)
from glasscap.core.document.model.job import Job, PhotoContent
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop, TexturePaint
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.geometry.types import Box, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.gaussian import SoftPlane, soften
from glasscap.core.raster.scan import cover
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.shapes.library.ellipse import ellipse_polygon
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.viewport import Viewport

SIDE = 3800
# Rows of a blur taken at a time.
_STRIP_ROWS = 384
_STROKE, _DROP, _BLUR, _FEATHER = 60, 40, 80, 40
_SHADOW = Shadow(0, _DROP, _BLUR, opacity=0.5)
SOLID = Finishes(strokes=(Stroke(_STROKE, ColourPaint("#f4e9d8")),), lights=Lights(shadows=(_SHADOW,)))
FEATHERED = replace(SOLID, edge=Edge(feather=_FEATHER))


def skia_finished(rgba: np.ndarray, *, by_image_filter: bool, feather: float) -> np.ndarray:
    """The same job by the 2D library: shadow, stroke, clipped (or softly masked) photo, straight pixels out."""
    margin = 260
    size = SIDE + 2 * margin
    surface = skia.Surface(size, size)
    canvas = surface.getCanvas()
    canvas.translate(margin, margin)
    shadow = skia.Paint(AntiAlias=True, Color=skia.Color(0, 0, 0, 128))
    if by_image_filter:
        shadow.setImageFilter(skia.ImageFilters.Blur(_BLUR / 2, _BLUR / 2))
    else:
        shadow.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, _BLUR / 2))
    centre, radius = SIDE / 2, SIDE / 2
    canvas.drawCircle(centre, centre + _DROP, radius + _STROKE, shadow)
    ring = skia.Paint(AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeWidth=_STROKE, Color=0xFFF4E9D8)
    canvas.drawCircle(centre, centre, radius + _STROKE / 2, ring)
    image = skia.Image.fromarray(rgba, copy=False)
    if feather:
        canvas.saveLayer(None, None)
        canvas.drawImage(image, -1100, -100)
        soft = skia.Paint(AntiAlias=True, BlendMode=skia.BlendMode.kDstIn)
        if by_image_filter:
            soft.setImageFilter(skia.ImageFilters.Blur(feather / 2, feather / 2))
        else:
            soft.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, feather / 2))
        canvas.drawCircle(centre, centre, radius, soft)
        canvas.restore()
    else:
        path = skia.Path()
        path.addCircle(centre, centre, radius)
        canvas.clipPath(path, doAntiAlias=True)
        canvas.drawImage(image, -1100, -100)
    out = np.empty((size, size, 4), np.uint8)
    info = skia.ImageInfo.Make(
        size, size, skia.ColorType.kRGBA_8888_ColorType, skia.AlphaType.kUnpremul_AlphaType
    )
    surface.readPixels(skia.Pixmap(info, out, size * 4))
    return out


def finish_figures(data: bytes) -> list[Figure]:
    """Rendered pictures and the memory they take."""
    job, sheet, store = circle_job(data)
    rgba = store.pyramid(job.photos[0]).photo.rgba.copy()
    found = []
    for finishes, name, feather, reach in (
        (SOLID, "stroke 60 outside, shadow 40 / blur 80", 0, (1 / 32, 1 / 12, 3.5, 1.15)),
        (FEATHERED, "the same with feather 40", _FEATHER, (1 / 36, 1 / 14, 6.0, 1.4)),
    ):
        item = replace(sheet.items[0], finishes=finishes)
        dressed = replace(job, sheets=(replace(sheet, items=(item,)),))
        plan = plan_cutout(dressed, dressed.sheets[0], item)

        def ours(plan: Any = plan) -> Any:
            return render(plan, store, ValueCache(1 << 25))

        for by_image_filter, call, most in (
            (True, "ImageFilters.Blur", reach[0]),
            (False, "MaskFilter.MakeBlur", reach[1]),
        ):
            one, two = compare(
                ours, partial(skia_finished, rgba, by_image_filter=by_image_filter, feather=feather), 3
            )
            found.append(
                Figure(f"24 MP, 3800 px circle, {name}", f"2D library, {call}", one / two, most, one, two)
            )
        picture = ours()
        size = picture.rgba.shape
        one, two = compare(ours, lambda size=size: np.full(size, 7, np.uint8), 5)
        found.append(Figure("the same", "allocating and filling the result cold", one / two, reach[2], one, two))
        tracemalloc.start()
        result = ours().rgba.nbytes
        peak = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        found.append(
            Figure(
                "memory of it, result included",
                "bytes of the result",
                peak / result,
                reach[3],
                peak / 1e6,
                result / 1e6,
                "MB",
            )
        )
    return [*found, *blur_figures()]


def blur_figures() -> list[Figure]:
    """A wide Gaussian of a circle's mask, strip by strip as the renderer takes it, and as one plane nobody asks for."""
    flat = tuple(p + np.array([2000.0, 2000.0]) for p in ellipse_polygon(SIDE, SIDE, {}, 1 / 512))
    box = PixelBox(-200, -200, 6200, 4200)

    def soft() -> SoftPlane:
        return soften(lambda cells, k: cover(tuple(p / k for p in flat), cells).plane(cells), box, 50.0, "final")

    def in_strips() -> None:
        plane = soft()
        for y0 in range(box.y0, box.y1, _STRIP_ROWS):
            plane.band(PixelBox(box.x0, y0, box.x1, min(y0 + _STRIP_ROWS, box.y1)))

    def at_once() -> object:
        return soft().band(box)

    found = []
    for call, most in (("ImageFilters.Blur on N32", 1 / 70), ("MaskFilter.MakeBlur on A8", 1 / 14)):
        paint = skia.Paint(AntiAlias=True)
        if "Image" in call:
            surface = skia.Surface(box.width, box.height)
            paint.setImageFilter(skia.ImageFilters.Blur(50, 50))
        else:
            surface = skia.Surface.MakeRaster(skia.ImageInfo.MakeA8(box.width, box.height))
            paint.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, 50))
        canvas = surface.getCanvas()
        for ours, how in ((in_strips, "in strips"), (at_once, "as one plane in fresh memory (own)")):
            one, two = compare(
                ours, lambda canvas=canvas, paint=paint: canvas.drawCircle(2200, 2200, SIDE / 2, paint), 3
            )
            name = f"Gaussian sigma 50 of a 24 MP circle mask, {how}"
            found.append(Figure(name, f"2D library, {call}", one / two, most, one, two))
    return found


def slider_figures(data: bytes) -> list[Figure]:
    """Frames of a 900 x 700 bench, 24 MP photo, while one number after another moves."""
    job, sheet, store = circle_job(data)
    photos, cache = ScreenPhotos(store), ValueCache(1 << 27)
    store.pyramid(job.photos[0]).halved(2)
    view = Viewport().resized(900, 700).fitted(Box(0, 0, sheet.width, sheet.height))
    s = view.to_device.a
    item = sheet.items[0]
    base = Finishes(
        edge=Edge(feather=20 / s), strokes=(Stroke(10 / s),), lights=Lights(shadows=(Shadow(0, 10 / s, 30 / s),))
    )

    def shown(changed: Any) -> Job:
        return replace(job, sheets=(replace(sheet, items=(changed,)),))

    def frame(changed: Any) -> object:
        return bench_frame(
            BenchRequest(shown(changed), sheet.id, view.to_device, view.box, is_moving=True), photos, cache
        )

    def dressed(finishes: Finishes) -> Any:
        return replace(item, finishes=finishes)

    def resized(step: int) -> Any:
        side = float(SIDE - 3 * step)
        return replace(item, finishes=base, shape_placement=ShapePlacement(3000, 2000, side, side))

    def adjusted(step: int) -> Any:
        assert isinstance(item.content, PhotoContent)
        changes = replace(item.content.adjustments, exposure_ev=step / 40)
        return replace(item, finishes=base, content=replace(item.content, adjustments=changes))

    def blurred(step: int) -> Any:
        assert isinstance(item.content, PhotoContent)
        changes = replace(item.content.adjustments, blur=(5 + step / 4) / s)
        return replace(item, finishes=base, content=replace(item.content, adjustments=changes))

    plain = Finishes(strokes=base.strokes, lights=base.lights)
    gradient = GradientPaint((Stop(0, "#b4532c"), Stop(1, "#f4e9d8")))
    own = job.photos[0].sha256
    sliders: dict[str, Callable[[int], Any]] = {
        "inset": lambda n: dressed(replace(base, edge=replace(base.edge, inset=n / s / 4))),
        "feather 6": lambda n: dressed(replace(plain, edge=Edge(feather=6 + n / 50))),
        "feather 600": lambda n: dressed(replace(plain, edge=Edge(feather=600 + n))),
        "stroke width": lambda n: dressed(replace(base, strokes=(Stroke((6 + n / 8) / s),))),
        "shadow blur": lambda n: dressed(
            replace(base, lights=Lights(shadows=(Shadow(0, 10 / s, (10 + n) / s),)))
        ),
        "inner glow": lambda n: dressed(replace(plain, lights=Lights(inner_glow=Glow((10 + n) / s)))),
        "mount margin": lambda n: dressed(replace(plain, mount=Mount(n / s, 9, 9, 9))),
        "exposure": adjusted,
        "inset over a mount": lambda n: dressed(
            replace(base, edge=replace(base.edge, inset=n / s / 4), mount=Mount())
        ),
        "strength": lambda n: dressed(replace(base, edge=replace(base.edge, strength=1 + n / 20))),
        "feather outside": lambda n: dressed(
            replace(base, edge=Edge(feather=(20 + n / 4) / s, feather_side="outside"))
        ),
        "torn edge amount": lambda n: dressed(
            replace(base, edge=Edge(rough=Rough("torn", amount=(2 + n / 8) / s)))
        ),
        "gradient stroke width": lambda n: dressed(replace(base, strokes=(Stroke((6 + n / 8) / s, gradient),))),
        "texture stroke width": lambda n: dressed(
            replace(base, strokes=(Stroke((6 + n / 8) / s, TexturePaint("linen")),))
        ),
        "dashed stroke width": lambda n: dressed(
            replace(base, strokes=(Stroke((6 + n / 8) / s, dashes=(20 / s, 10 / s)),))
        ),
        "chalk stroke width": lambda n: dressed(
            replace(base, strokes=(Stroke((6 + n / 8) / s, texture="chalk"),))
        ),
        "shadow spread": lambda n: dressed(
            replace(base, lights=Lights(shadows=(Shadow(0, 10 / s, 30 / s, spread=n / 4 / s),)))
        ),
        "inner shadow": lambda n: dressed(
            replace(base, lights=replace(base.lights, inner_shadow=Shadow(4 / s, 4 / s, (10 + n) / s)))
        ),
        "bevel width": lambda n: dressed(
            replace(plain, lights=replace(base.lights, bevel=Bevel(width=(5 + n / 4) / s)))
        ),
        "photo blur": blurred,
        "opacity": lambda n: replace(dressed(base), opacity=0.3 + n / 100),
        "round dashes": lambda n: dressed(
            replace(base, strokes=(Stroke((6 + n / 8) / s, dashes=(20 / s, 14 / s), cap="round"),))
        ),
        "brush stroke width": lambda n: dressed(
            replace(base, strokes=(Stroke((16 + n / 8) / s, texture="brush"),))
        ),
        "spread of a narrow shadow": lambda n: dressed(
            replace(base, lights=Lights(shadows=(Shadow(0, 10 / s, 8 / s, spread=n / 4 / s),)))
        ),
        "narrow inner shadow": lambda n: dressed(
            replace(base, lights=replace(base.lights, inner_shadow=Shadow(2 / s, 2 / s, (2 + n / 10) / s)))
        ),
        "stroke along the edge": lambda n: dressed(
            replace(base, strokes=(Stroke((6 + n / 8) / s, replace(gradient, way="along")),))
        ),
        "mask across": lambda n: dressed(
            replace(base, edge=replace(base.edge, mask=PictureMask(own, x=n / 100)))
        ),
        "inset under a mask": lambda n: dressed(
            replace(base, edge=replace(base.edge, mask=PictureMask(own), inset=n / s / 4))
        ),
        "inset of a hole": lambda n: replace(
            item,
            shape=replace(item.shape, keeps="outside"),
            finishes=replace(base, edge=replace(base.edge, inset=n / s / 4)),
        ),
    }
    empties: list[float] = []
    fills: list[float] = []

    def p95(change: Callable[[int], Any], count: int) -> float:
        """Time frames, the references in between as the work leaves the memory."""
        for step in range(4):
            frame(change(step))
        found = []
        for step in range(4, 4 + count):
            found.append(timed(partial(frame, change(step))))
            empties.append(timed(lambda: np.zeros((700, 900, 4), np.uint8).fill(7)))
            if step % 8 == 0:
                fills.append(cold_fill())
        return float(np.percentile(found, 95))

    found = []
    times = {name: p95(change, 40) for name, change in sliders.items()}
    most = 2 * float(np.percentile(empties, 95)) + 12
    for name, time_ in times.items():
        found.append(
            Figure(
                f"frame while the {name} slider moves, p95",
                "2 empty repaints + 12 ms",
                time_ / most,
                1.0,
                time_,
                most,
            )
        )
    ratio = times["feather 600"] / times["feather 6"]
    found.append(
        Figure(
            "frame with feather 600", "frame with feather 6", ratio, 1.5, times["feather 600"], times["feather 6"]
        )
    )
    size = p95(resized, 60)
    fill = statistics.median(fills) * 15
    found.append(
        Figure(
            "frame while resizing, feather 20, stroke 10, shadow 30, p95",
            "cold fill of 1 MP times 15",
            size / fill,
            1.2,
            size,
            fill,
        )
    )
    return found
