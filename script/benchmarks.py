"""The figures: name, ratio, what is to be reached. References are measured alternately, medians of both."""

from __future__ import annotations

import argparse
import io
import json
import os
import statistics
import subprocess
import sys
import tempfile
import tracemalloc
from collections.abc import Callable
from dataclasses import asdict
from functools import partial
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import cv2
import numpy as np
import skia
from isal import isal_zlib
from msgspec.structs import replace
from PIL import Image

from bench_tools import ROOT, SIDE, Figure, circle_job, cold_fill, compare, photo_24mp, timed
from export_benchmarks import export_figures
from finish_benchmarks import finish_figures, slider_figures
from glasscap.app.services.memory import keep_freed_memory
from glasscap.core.document.model.job import Cutout
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.region import shape_polygons
from glasscap.core.formats import png
from glasscap.core.formats.photo import read_draft, read_photo
from glasscap.core.formats.png import write_png
from glasscap.core.formats.png_filters import up_filtered
from glasscap.core.geometry.types import Affine, Box, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.scan import cover
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.viewport import Viewport
from object_benchmarks import around_figures, soft_figures
from shape_benchmarks import shape_figures
from sheet_benchmarks import sheet_figures
from window_benchmarks import memory_figures, window_figures


def skia_circle(rgba: np.ndarray) -> np.ndarray:
    """The same job by the 2D library: clip to a circle, draw the photo, straight pixels out."""
    image = skia.Image.fromarray(rgba, copy=False)
    surface = skia.Surface(SIDE, SIDE)
    canvas = surface.getCanvas()
    path = skia.Path()
    path.addCircle(SIDE / 2, SIDE / 2, SIDE / 2)
    canvas.clipPath(path, doAntiAlias=True)
    canvas.drawImage(image, -1100, -100)
    out = np.empty((SIDE, SIDE, 4), np.uint8)
    info = skia.ImageInfo.Make(
        SIDE, SIDE, skia.ColorType.kRGBA_8888_ColorType, skia.AlphaType.kUnpremul_AlphaType
    )
    surface.readPixels(skia.Pixmap(info, out, SIDE * 4))
    return out


def render_figures(data: bytes) -> list[Figure]:
    job, sheet, store = circle_job(data)
    plan = plan_cutout(job, sheet, sheet.items[0])
    rgba = store.pyramid(job.photos[0]).photo.rgba.copy()

    def ours() -> object:
        return render(plan, store, ValueCache(1 << 24))

    def fill() -> object:
        return np.full((SIDE, SIDE, 4), 7, np.uint8)

    one, two = compare(ours, lambda: skia_circle(rgba))
    a, b = compare(ours, fill)
    tracemalloc.start()
    picture = render(plan, store, ValueCache(1 << 24))
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    result = picture.rgba.nbytes
    return [
        Figure(
            "render of a 24 MP photo under a 3800 px circle",
            "2D library (clip and draw)",
            one / two,
            1.0,
            one,
            two,
        ),
        Figure("the same", "allocating and filling the result cold", a / b, 3.5, a, b),
        Figure(
            "memory of that render, result included",
            "bytes of the result",
            peak / result,
            1.15,
            peak / 1e6,
            result / 1e6,
            "MB",
        ),
        *png_figures(picture.rgba),
    ]


def png_figures(rgba: np.ndarray) -> list[Figure]:
    filtered = up_filtered(rgba, 0, len(rgba))
    found = []
    for cores, write, most in (
        ("two cores", lambda: write_png(rgba), 0.70),
        ("one core", partial(_on_one_core, rgba), 1.05),
    ):
        one, two = compare(write, lambda: isal_zlib.compress(filtered, 1), 5)
        reference = "bare deflate of the filtered bytes, one core"
        found.append(Figure(f"fast PNG of the result, {cores}", reference, one / two, most, one, two))
    return found


def _on_one_core(rgba: np.ndarray) -> bytes:
    least = png._MIN_SPLIT_BYTES
    png._MIN_SPLIT_BYTES = rgba.nbytes + 1
    try:
        return write_png(rgba)
    finally:
        png._MIN_SPLIT_BYTES = least


def coverage_figure() -> Figure:
    side = 6000
    placement = ShapePlacement(side / 2 + 10, side / 2 + 10, side, side)
    box = PixelBox(0, 0, side + 20, side + 20)
    buffer = np.zeros((side + 20, side + 20), np.uint8)
    info = skia.ImageInfo.MakeA8(side + 20, side + 20)
    canvas = skia.Canvas.MakeRasterDirect(info, buffer, side + 20)
    path = skia.Path()
    path.addCircle(side / 2 + 10, side / 2 + 10, side / 2)
    paint = skia.Paint(AntiAlias=True)

    def ours() -> object:
        return cover(shape_polygons(library_shape("circle"), placement, Affine(), tolerance=1 / 512), box)

    one, two = compare(ours, lambda: canvas.drawPath(path, paint))
    return Figure(
        "exact coverage of a 6000 px circle, sparse",
        "2D library, drawPath into an 8-bit mask",
        one / two,
        0.4,
        one,
        two,
    )


def frame_figures(data: bytes) -> list[Figure]:
    job, sheet, store = circle_job(data)
    photos, cache = ScreenPhotos(store), ValueCache(1 << 27)
    pyramid = store.pyramid(job.photos[0])
    view = Viewport().resized(900, 700).fitted(Box(0, 0, sheet.width, sheet.height))
    item = sheet.items[0]
    level = pyramid.halved(2)

    def dragged(across: float, down: float) -> BenchRequest:
        assert item.content_placement is not None
        return asked(replace(item, content_placement=item.content_placement.moved(across, down)))

    def asked(moved: Cutout) -> BenchRequest:
        now = replace(job, sheets=(replace(sheet, items=(moved,)),))
        return BenchRequest(now, sheet.id, view.to_device, view.box, item.id, is_moving=True)

    # As the pointer moves it: by whole px of the bench, rounded to whole px of the sheet.
    px = 1 / view.to_device.a
    there = [dragged(round(2 * n * px), round(n // 4 * px)) for n in range(40)]
    by_pointer = [*there, *reversed(there)]
    between = [dragged(2.0 * n, n) for n in range(80)]
    resized = [
        asked(replace(item, shape_placement=ShapePlacement(3000, 2000, SIDE - 3.0 * n, SIDE - 3.0 * n)))
        for n in range(80)
    ]

    def frame(request: BenchRequest) -> None:
        bench_frame(request, photos, cache)

    def bare(step: int) -> None:
        m = view.to_device.after(ContentPlacement(3000 + 2.0 * step, 2000 + step).to_sheet(6000, 4000)).after(
            Affine.scaling(4.0)
        )
        matrix = np.array([[m.a, m.c, m.e], [m.b, m.d, m.f]])
        cv2.warpAffine(level, matrix, (900, 700), flags=cv2.INTER_LINEAR)

    def drag_figure(name: str, requests: list[BenchRequest], reach: float) -> Figure:
        drags, warps = [], []
        for step, request in enumerate(requests):
            drags.append(timed(partial(frame, request)))
            warps.append(timed(partial(bare, step)))
        drag, warp = float(np.percentile(drags, 95)), float(np.percentile(warps, 95))
        return Figure(name, "bare linear warp of that frame, p95", drag / warp, reach, drag, warp)

    found = [
        drag_figure("frame while dragging the photo, 900 x 700, p95", by_pointer, 1.25),
        drag_figure("the same by fractions of a px, as when zoomed (own)", between, 2.5),
    ]
    sizes: list[float] = []
    fills: list[float] = []
    for step, request in enumerate(resized):
        sizes.append(timed(partial(frame, request)))
        if step % 8 == 0:
            fills.append(cold_fill() * 15)
    size, fill = float(np.percentile(sizes, 95)), statistics.median(fills)
    circle = Figure(
        "frame while resizing the circle, p95", "cold fill of 1 MP times 15", size / fill, 1.2, size, fill
    )
    return [*found, circle]


def opening_figure(data: bytes) -> Figure:
    def theirs() -> None:
        with Image.open(io.BytesIO(data)) as image:
            image.load()

    one, two = compare(lambda: read_draft(data, "photo.jpg", 700), theirs, 5)
    return Figure("first pixels after opening a 24 MP JPEG", "full decode by Pillow", one / two, 0.40, one, two)


def decode_figure(data: bytes) -> Figure:
    def theirs() -> None:
        with Image.open(io.BytesIO(data)) as image:
            image.load()

    one, two = compare(lambda: read_photo(data, "photo.jpg"), theirs, 5)
    return Figure("whole decode of a 24 MP JPEG", "full decode by Pillow", one / two, 1.0, one, two)


BARE_WINDOW = """
import sys
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
window = QMainWindow()
window.resize(1280, 800)
window.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""
OUR_WINDOW = """
import sys
from glasscap.app.main import start_window
from PySide6.QtCore import QTimer
app, window = start_window()
QTimer.singleShot(0, app.quit)
app.exec()
"""
SKIA_CUT = """
import sys, skia
image = skia.Image.open(sys.argv[1])
side = min(image.width(), image.height())
surface = skia.Surface(side, side)
path = skia.Path(); path.addCircle(side / 2, side / 2, side / 2)
canvas = surface.getCanvas()
canvas.clipPath(path, doAntiAlias=True)
canvas.drawImage(image, (side - image.width()) / 2, (side - image.height()) / 2)
surface.makeImageSnapshot().save(sys.argv[2], skia.kPNG)
"""


def process(*arguments: str) -> Callable[[], object]:
    return lambda: subprocess.run([sys.executable, *arguments], check=True, capture_output=True, cwd=ROOT)


def process_figures(data: bytes) -> list[Figure]:
    folder = Path(tempfile.mkdtemp())
    photo, out = folder / "photo.jpg", folder / "out.png"
    photo.write_bytes(data)
    cut, other = compare(
        process("-m", "glasscap", "cut", str(photo), "-o", str(out)),
        process("-c", SKIA_CUT, str(photo), str(folder / "skia.png")),
        3,
    )
    start, bare = compare(process("-c", OUR_WINDOW), process("-c", BARE_WINDOW), 5)
    load, plain = compare(
        process("-c", "import glasscap.cli.main, glasscap.cli.cut"), process("-c", "import numpy"), 5
    )
    return [
        Figure(
            "whole cut process, 24 MP JPEG to PNG",
            "plain 2D-library script doing the same",
            cut / other,
            0.10,
            cut,
            other,
        ),
        Figure("start to a usable window", "bare toolkit window", start / bare, 2.0, start, bare),
        Figure("import of the command line and its cut", "import of numpy alone", load / plain, 2.0, load, plain),
    ]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--json", action="store_true")
    groups: dict[str, Callable[[bytes], list[Figure]]] = {
        "render": render_figures,
        "finishes": finish_figures,
        "coverage": lambda data: [coverage_figure()],
        "frames": frame_figures,
        "sliders": slider_figures,
        "shapes": shape_figures,
        "around": around_figures,
        "soft": soft_figures,
        "export": lambda data: export_figures(),
        "opening": lambda data: [opening_figure(data), decode_figure(data)],
        "processes": process_figures,
        "sheets": sheet_figures,
        "window": lambda data: window_figures(),
        "memory": lambda data: memory_figures(),
    }
    parser.add_argument("groups", nargs="*", help=f"which figures, all unless said: {', '.join(groups)}")
    call = parser.parse_args()
    unknown = set(call.groups) - set(groups)
    if unknown:
        parser.error(f"no figures are called {', '.join(sorted(unknown))}: there are {', '.join(groups)}")
    data = photo_24mp()
    figures: list[Figure] = []
    for name in call.groups or groups:
        if name not in ("render", "finishes"):
            # As the window does.
            keep_freed_memory()
        figures += groups[name](data)
    if call.json:
        print(json.dumps([asdict(f) for f in figures]))
        return
    for f in figures:
        mark = "reached" if f.ratio <= f.reach else "MISSED"
        print(
            f"{f.ratio:7.3f}  (<= {f.reach:g}, {mark})  {f.name}: {f.ours:.1f} {f.unit} / {f.reference}: {f.theirs:.1f} {f.unit}"
        )


if __name__ == "__main__":
    main()
