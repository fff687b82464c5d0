"""Named sample photographs and jobs for all tests; made up, seeded, small."""

import io
from pathlib import Path

import numpy as np
from PIL import Image

from glasscap.core.document.edits.intake import job_of_photos
from glasscap.core.document.model.job import Job
from glasscap.core.formats.png import write_png
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.files.jobs import new_store
from glasscap.files.photos import photo_from_bytes


def noise_rgba(width: int, height: int, *, seed: int = 1, alpha: bool = False) -> np.ndarray:
    """Smooth colours with some noise; opaque unless `alpha`."""
    rng = np.random.default_rng(seed)
    small = rng.integers(0, 256, (8, 8, 3), np.uint8)
    smooth = np.asarray(Image.fromarray(small).resize((width, height), Image.Resampling.BICUBIC))
    rgba = np.full((height, width, 4), 255, np.uint8)
    rgba[..., :3] = np.clip(smooth + rng.integers(-8, 9, (height, width, 3)), 0, 255)
    if alpha:
        rgba[..., 3] = rng.integers(0, 256, (height, width))
    return rgba


def png_photo(width: int = 160, height: int = 90, *, seed: int = 1, alpha: bool = False) -> bytes:
    """A PNG whose pixels are exactly noise_rgba's."""
    return write_png(noise_rgba(width, height, seed=seed, alpha=alpha))


def encoded(image: Image.Image, kind: str, **options: object) -> bytes:
    """A picture written by Pillow."""
    out = io.BytesIO()
    image.save(out, kind, **options)
    return out.getvalue()


def read_pixels(path: Path) -> np.ndarray:
    """A picture file's pixels, read by Pillow."""
    with Image.open(path) as image:
        return np.asarray(image)


def photo_job(*photos: bytes) -> tuple[Job, PhotoStore]:
    """A job of one sheet with one cutout a photo, under its largest circle."""
    store = new_store()
    records = []
    for index, data in enumerate(photos or (png_photo(),)):
        store.add(data)
        records.append(photo_from_bytes(data, f"sample-{index + 1}.png").record)
    return job_of_photos(records), store


def cache() -> ValueCache:
    return ValueCache(64 << 20)
