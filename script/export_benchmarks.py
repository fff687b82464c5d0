"""Figures of export: small PNG against fast, forty files on all cores, palettes against another library's."""

from __future__ import annotations

import os
import tempfile
import time
import tracemalloc
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image

from bench_tools import Figure, compare
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output, OutputSize
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.quantise import premultiplied_floats, quantised
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.demo.job import demo_job
from glasscap.files import exporting
from glasscap.files.exporting import export_rows, targets_of

_FILES = 40


def export_figures() -> list[Figure]:
    """All of them, on the demo job."""
    job, store = demo_job()
    pictures = {
        item.name: render(plan_cutout(job, sheet, item), store, ValueCache(1 << 26)).rgba
        for sheet in job.sheets
        for item in sheet.items
        if item.content is not None
    }
    plate = pictures["Blue plate"]
    return [*_png_figures(plate), *_many_files(job, store), _palette_figure(pictures)]


def _png_figures(rgba: Bytes) -> list[Figure]:
    fast, small = write_png(rgba), write_png(rgba, PngOptions(is_small=True))
    slow, quick = compare(lambda: write_png(rgba, PngOptions(is_small=True)), lambda: write_png(rgba), 3)
    return [
        Figure(
            "small PNG, bytes", "fast PNG", len(small) / len(fast), 1.0, len(small) / 1e3, len(fast) / 1e3, "KB"
        ),
        Figure("small PNG, time", "fast PNG", slow / quick, 100.0, slow, quick),
    ]


def _many_files(job: Job, store: PhotoStore) -> list[Figure]:
    item = next(i for s in job.sheets for i in s.items if i.name == "Kiln door")
    rows = tuple(
        Output(f"o{n}", item.id, OutputSize(scale=1.0 + n / 100), name="{number}") for n in range(_FILES)
    )
    alike = tuple(Output(f"o{n}", item.id, name="{number}") for n in range(_FILES))
    whole = replace(job, outputs=rows)

    def written(count: int, cores: int, rows: tuple[Output, ...] = rows) -> float:
        real = os.cpu_count
        exporting.os.cpu_count = lambda: cores  # type: ignore[assignment]
        try:
            with tempfile.TemporaryDirectory() as folder:
                targets = targets_of(whole, rows[:count], store, Path(folder))
                start = time.perf_counter()
                results = export_rows(whole, targets, store, "replace")
                took = time.perf_counter() - start
        finally:
            exporting.os.cpu_count = real
        assert all(r.is_written for r in results)
        return took * 1000

    written(4, 2)
    cores = os.cpu_count() or 1
    alone, together = written(_FILES, 1), written(_FILES, cores)
    peaks = []
    for count in (_FILES // 4, _FILES):
        tracemalloc.start()
        written(count, cores, alike)
        peaks.append(tracemalloc.get_traced_memory()[1])
        tracemalloc.stop()
    return [
        Figure(f"{_FILES} files on {cores} cores", "on one core", together / alone, 1.0, together, alone),
        Figure(
            f"memory of {_FILES} files",
            f"of {_FILES // 4}",
            peaks[1] / peaks[0],
            1.25,
            peaks[1] / 1e6,
            peaks[0] / 1e6,
            "MB",
        ),
    ]


def _palette_figure(pictures: dict[str, Bytes]) -> Figure:
    """The mean error of 256 colours over the demo's cutouts, premultiplied levels."""
    ours, theirs = [], []
    for rgba in pictures.values():
        wanted = premultiplied_floats(rgba.reshape(-1, 4))
        other = np.asarray(Image.fromarray(rgba).quantize(256, Image.Quantize.FASTOCTREE).convert("RGBA"))
        for found, into in ((quantised(rgba, 256).rgba, ours), (other, theirs)):
            into.append(float(np.sqrt(((premultiplied_floats(found.reshape(-1, 4)) - wanted) ** 2).mean())))
    one, two = float(np.mean(ours)), float(np.mean(theirs))
    return Figure("error of 256 colours", "another library's octree", one / two, 1.0, one, two, "levels")
