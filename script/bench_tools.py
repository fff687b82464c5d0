"""What the benchmarks share: a figure, timing, the 24 MP photo and its circle."""

from __future__ import annotations

import io
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image

from glasscap.core.document.model.job import Job, Sheet
from glasscap.core.photos.store import PhotoStore
from glasscap.files.one_cutout import job_for

SIDE = 3800
ROOT = Path(__file__).parent.parent


@dataclass
class Figure:
    """One line: `ratio` is ours over the reference's; `reach` the most it may be."""

    name: str
    reference: str
    ratio: float
    reach: float
    ours: float
    theirs: float
    unit: str = "ms"


def timed(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return (time.perf_counter() - start) * 1000


def cold_fill() -> float:
    """Return the ms to allocate and fill 1 MP: a result's worth of memory nobody has touched, scaled."""
    return timed(lambda: np.full((SIDE, SIDE), 7, np.uint32)) / (SIDE * SIDE / 1e6)


def compare(ours: Callable[[], object], theirs: Callable[[], object], runs: int = 7) -> tuple[float, float]:
    ours()
    theirs()
    pairs = [(timed(ours), timed(theirs)) for _ in range(runs)]
    return statistics.median(p[0] for p in pairs), statistics.median(p[1] for p in pairs)


def photo_24mp() -> bytes:
    """A 6000 x 4000 JPEG with detail and grain: the demo's evening sky, or noise of its kind."""
    path = ROOT / "src" / "glasscap" / "demo" / "data" / "evening-sky.jpg"
    with Image.open(path) as image:
        pixels = np.asarray(image.convert("RGB"))
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "JPEG", quality=90)
    return out.getvalue()


def circle_job(data: bytes) -> tuple[Job, Sheet, PhotoStore]:
    job, store = job_for(data, "photo.jpg", box=(1100, 100, SIDE, SIDE))
    return job, job.sheets[0], store
