"""Figures of scale: a sheet of 200 cutouts from 20 photos of 24 MP, a photo of 100 MP, a group of 50 tiles."""

from __future__ import annotations

import io
import statistics
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image

from bench_tools import Figure, timed
from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.model.job import Cutout, Job, PaintContent, PhotoContent, PhotoRecord, Sheet
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.geometry.types import Affine, Box, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import DEFAULT_BUDGET, PhotoStore
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_sheet, plan_view
from glasscap.core.render.screen.frames import screen_frame
from glasscap.core.shapes.kinds import library_shape
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.viewport import Viewport
from glasscap.files.jobs import new_store, open_job, save_job
from glasscap.files.photos import photo_from_bytes

_PHOTOS, _CUTOUTS, _SIDE = 20, 200, 1600
_VIEW = (900, 700)


def _photo(data: bytes, number: int) -> bytes:
    """The photo with a corner of its own, so that its bytes and its SHA-256 are its own."""
    with Image.open(io.BytesIO(data)) as image:
        changed = image.convert("RGB")
    changed.paste((number * 12, 255 - number * 12, 90), (0, 0, 64, 64))
    out = io.BytesIO()
    changed.save(out, "JPEG", quality=88)
    return out.getvalue()


def many_job(data: bytes, cutouts: int = _CUTOUTS, photos: int = _PHOTOS) -> tuple[Job, PhotoStore]:
    """A sheet of small round cutouts in rows, the photos taken in turn."""
    store, records = new_store(), []
    for number in range(photos):
        own = _photo(data, number)
        store.add(own)
        records.append(photo_from_bytes(own, f"photo-{number}.jpg").record)
    across = 20
    cell = _SIDE / across
    items = []
    for n in range(cutouts):
        x, y = (n % across + 0.5) * cell, (n // across + 0.5) * cell
        photo = records[n % photos]
        scale = cell / photo.height
        items.append(
            Cutout(
                f"i{n + 1}",
                f"Cutout {n + 1}",
                PhotoContent(photo.sha256),
                ContentPlacement(x, y, scale, scale),
                library_shape("circle"),
                ShapePlacement(x, y, cell - 4, cell - 4),
            )
        )
    sheet = Sheet("s1", "Sheet 1", _SIDE, _SIDE * 2 // 3, items=tuple(items))
    return Job((sheet,), tuple(records)), store


def _dragged(job: Job, step: int) -> Job:
    """The middle cutout a step further."""
    sheet = job.sheets[0]
    at = len(sheet.items) // 2
    item = sheet.items[at]
    moved = replace(
        item,
        content_placement=item.content_placement.moved(step * 1.5, step),
        shape_placement=item.shape_placement.moved(step * 1.5, step),
    )
    items = (*sheet.items[:at], moved, *sheet.items[at + 1 :])
    return replace(job, sheets=(replace(sheet, items=items),))


def _frames(job: Job, store: PhotoStore) -> Callable[[int], float]:
    """Return what times one frame of a drag."""
    photos, cache = ScreenPhotos(store), ValueCache(512 << 20)
    view = Viewport().resized(*_VIEW).fitted(Box(0, 0, _SIDE, _SIDE * 2 // 3))

    def frame(step: int) -> float:
        moved = _dragged(job, step)
        request = BenchRequest(moved, "s1", view.to_device, view.box, None)
        return timed(lambda: bench_frame(request, photos, cache))

    return frame


def _drag_figure(many: Job, store: PhotoStore) -> Figure:
    sheet = many.sheets[0]
    single = replace(many, sheets=(replace(sheet, items=(sheet.items[len(sheet.items) // 2],)),))
    ours, theirs = _frames(many, store), _frames(single, store)
    for step in range(5):
        ours(step)
        theirs(step)
    pairs = [(ours(step), theirs(step)) for step in range(5, 65)]
    p95 = [statistics.quantiles([p[n] for p in pairs], n=20)[18] for n in (0, 1)]
    return Figure("drag one of 200 cutouts, p95", "the same on a sheet with one", p95[0] / p95[1], 2.0, *p95)


def _opening_figure(many: Job, store: PhotoStore, one: bytes) -> Figure:
    """The first frame of a job just opened, against decoding one of its photos whole."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "many.glasscap"
        save_job(path, many, store, b"")

        def first() -> None:
            opened = open_job(path)
            _frames(opened.job, opened.photos)(0)

        ours = statistics.median(timed(first) for _ in range(3))

    def decoded() -> None:
        with Image.open(io.BytesIO(one)) as image:
            image.load()

    theirs = statistics.median(timed(decoded) for _ in range(3)) * _PHOTOS
    return Figure(
        "open 200 cutouts to the first frame", "decoding the 20 photos", ours / theirs, 1.0, ours, theirs
    )


def _memory_figure(many: Job, store: PhotoStore) -> Figure:
    """What decoded photos hold after the whole sheet was rendered, against the stated budget."""
    render(plan_sheet(many, many.sheets[0]), store, ValueCache(64 << 20))
    held = store.decoded_bytes / 1e6
    whole = sum(p.width * p.height * 4 for p in many.photos) / 1e6
    print(f"  (the 20 photos would take {whole:.0f} MB)")
    return Figure("decoded photos held by 20 x 24 MP", "the stated budget", held / (DEFAULT_BUDGET / 1e6), 1.0, held,
                  DEFAULT_BUDGET / 1e6, "MB")  # fmt: skip


def _tall(rgb: np.ndarray, times: int) -> bytes:
    out = io.BytesIO()
    Image.fromarray(np.tile(rgb, (times, 1, 1))).save(out, "JPEG", quality=88)
    return out.getvalue()


def _large_figures(data: bytes) -> list[Figure]:
    """Opening, dragging and rendering 96 MP against 24 MP: four times the pixels."""
    with Image.open(io.BytesIO(data)) as image:
        rgb = np.asarray(image.convert("RGB"))
    times: dict[str, list[float]] = {"open": [], "frame": [], "render": []}
    for factor in (1, 4):
        large = data if factor == 1 else _tall(rgb, factor)
        record = photo_from_bytes(large, "large.jpg").record
        runs: dict[str, list[float]] = {key: [] for key in times}
        for _ in range(3):
            job, store = _one(record, large)
            photos, cache = ScreenPhotos(store), ValueCache(256 << 20)
            view = Viewport().resized(*_VIEW).fitted(Box(0, 0, record.width, record.height))

            def frame(
                step: int, job: Job = job, photos: ScreenPhotos = photos, cache: ValueCache = cache
            ) -> float:
                request = BenchRequest(_dragged(job, step), "s1", view.to_device, view.box, None)  # noqa: B023
                return timed(lambda: bench_frame(request, photos, cache))

            runs["open"].append(timed(lambda store=store: store.pyramid(record)))  # noqa: B023
            frame(0)
            runs["frame"].append(statistics.median(frame(n) for n in range(1, 12)))
            plan = plan_sheet(job, job.sheets[0])
            runs["render"].append(timed(lambda plan=plan, store=store: render(plan, store, ValueCache(64 << 20))))
        for key, found in runs.items():
            times[key].append(statistics.median(found))
    return [
        Figure("open 96 MP", "open 24 MP, times 4", times["open"][1] / times["open"][0] / 4, 1.25,
               times["open"][1], times["open"][0]),
        Figure("drag frame with 96 MP", "with 24 MP", times["frame"][1] / times["frame"][0], 1.5,
               times["frame"][1], times["frame"][0]),
        Figure("render 96 MP", "render 24 MP, times 4", times["render"][1] / times["render"][0] / 4, 1.25,
               times["render"][1], times["render"][0]),
    ]  # fmt: skip


def _one(record: PhotoRecord, data: bytes) -> tuple[Job, PhotoStore]:
    store = new_store()
    store.add(data)
    width, height = record.width, record.height
    item = Cutout(
        "i1",
        "Large",
        PhotoContent(record.sha256),
        ContentPlacement(width / 2, height / 2),
        library_shape("ellipse"),
        ShapePlacement(width / 2, height / 2, width - 40, height - 40),
    )
    return Job((Sheet("s1", "Sheet 1", width, height, items=(item,)),), (record,)), store


def _group_figure() -> Figure:
    """A frame of 50 tiles under one shape, against the same tiles on the sheet."""
    items = []
    for n in range(50):
        x, y = (n % 10) * 80.3 + 40.1, (n // 10) * 96.7 + 48.3
        colour = PaintContent(ColourPaint(f"#{(n * 5) % 256:02x}{255 - n:02x}80"))
        placed = ShapePlacement(x, y, 80.3, 96.7)
        items.append(Cutout(f"i{n}", f"T{n}", colour, shape=library_shape("rectangle"), shape_placement=placed))
    mask = Cutout(
        "i90", "Mask", shape=library_shape("circle"), shape_placement=ShapePlacement(400, 240, 460, 460)
    )
    loose = Job((Sheet("s1", "Sheet 1", 800, 480, items=tuple(items)),))
    held, key = group_items(
        Job((Sheet("s1", "S", 800, 480, items=(*items, mask)),)), [i.id for i in (*items, mask)]
    )
    store, box = new_store(), PixelBox(0, 0, 800, 480)
    caches = ValueCache(256 << 20), ValueCache(256 << 20)

    def frame(job: Job, cache: ValueCache) -> float:
        return timed(lambda: screen_frame(plan_view(job, job.sheets[0], Affine(), box, "preview"), store, cache))

    def moved(step: int) -> Job:
        group = held.sheets[0].items[0]
        there = replace(group, shape_placement=group.shape_placement.moved(step, 0))
        return replace(held, sheets=(replace(held.sheets[0], items=(there,)),))

    frame(held, caches[0])
    frame(loose, caches[1])
    assert key
    ours = statistics.median(frame(moved(n), caches[0]) for n in range(1, 16))
    theirs = statistics.median(frame(_dragged_tile(loose, n), caches[1]) for n in range(1, 16))
    return Figure(
        "frame: the mask moves over a group of 50",
        "one of the 50 moves, no group",
        ours / theirs,
        2.0,
        ours,
        theirs,
    )


def _dragged_tile(job: Job, step: int) -> Job:
    sheet = job.sheets[0]
    first = sheet.items[0]
    moved = replace(first, shape_placement=first.shape_placement.moved(step, 0))
    return replace(job, sheets=(replace(sheet, items=(moved, *sheet.items[1:])),))


def sheet_figures(data: bytes) -> list[Figure]:
    """Return the figures of scale."""
    many, store = many_job(data)
    found = [_drag_figure(many, store), _opening_figure(many, store, data), _memory_figure(many, store)]
    del many, store
    return [*found, *_large_figures(data), _group_figure()]
