"""Figures of objects: their contour found in a photo of 24 MP, corrected, and its soft contour."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import replace

from bench_tools import Figure, circle_job, compare
from glasscap.core.document.model.finishes import Edge, Finishes, SoftContour
from glasscap.core.document.shapes.found_object import find_object
from glasscap.core.formats.photo import read_photo
from glasscap.core.geometry.types import Box
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.live_wire import Hint
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.viewport import Viewport

# The vase before the evening sky, and a stroke over its neck.
_BOX = (300.0, 1500.0, 2100.0, 3990.0)
_STROKE = np.array([(1200.0, 2000.0), (1200.0, 3000.0)])
_DECODE = "one decode of the photo"
# 1.5 s for a contour, 0.5 s for a correction, 2.5 s for a file, 0.7 s for a frame, over the 0.09 to 0.12 s of a decode.
_FIRST, _AGAIN, _FILE, _FRAME = 12.0, 5.5, 20.0, 6.0
_BAND = 60.0


def around_figures(data: bytes) -> list[Figure]:
    """The first contour, and a correction by one stroke."""
    rgba = read_photo(data, "photo.jpg").rgba
    decode = partial(read_photo, data, "photo.jpg")
    hint = (Hint(_STROKE, 40.0, is_object=True),)
    figures = []
    for name, hints, reach in (
        ("first contour in 24 MP", (), _FIRST),
        ("a correction of the contour", hint, _AGAIN),
    ):
        ours, theirs = compare(partial(find_object, rgba, _BOX, hints), decode, 5)
        figures.append(Figure(name, _DECODE, ours / theirs, reach, ours, theirs))
    return figures


def soft_figures(data: bytes) -> list[Figure]:
    """A circle of 3800 px in 24 MP with a soft contour: its picture, and a frame of its drag."""
    job, sheet, store = circle_job(data)
    soft = Finishes(edge=Edge(soft=SoftContour(_BAND, cleans_rim=True)))
    item = replace(sheet.items[0], finishes=soft)
    placed = replace(job, sheets=(replace(sheet, items=(item,)),))
    plan = plan_cutout(placed, placed.sheets[0], item)
    store.pyramid(job.photos[0])
    decode = partial(read_photo, data, "photo.jpg")
    ours, theirs = compare(lambda: render(plan, store, ValueCache(1 << 28)), decode, 3)
    figures = [Figure("soft contour, 3800 px", _DECODE, ours / theirs, _FILE, ours, theirs)]
    photos, view = ScreenPhotos(store), Viewport().resized(900, 700).fitted(Box(0, 0, sheet.width, sheet.height))
    request = BenchRequest(placed, sheet.id, view.to_device, view.box, is_moving=True)
    ours, theirs = compare(lambda: bench_frame(request, photos, ValueCache(1 << 28)), decode, 3)
    figures.append(Figure("soft contour, a frame of a drag", _DECODE, ours / theirs, _FRAME, ours, theirs))
    return figures
