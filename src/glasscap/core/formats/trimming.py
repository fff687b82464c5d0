"""Photos made smaller for good: cut to what is shown, or to the px that are needed. The job's look stays."""

import math
from collections.abc import Callable, Iterable
from typing import Protocol

import cv2
import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.edits.items import add_photo, drop_unused_photos, mapped
from glasscap.core.document.model.job import Cutout, Job, PhotoContent, PhotoRecord, Sheet
from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.document.model.query import items_of, photos_in_versions
from glasscap.core.errors import ExportError
from glasscap.core.formats.by_pillow import write_webp
from glasscap.core.formats.drawing import PhotoFiles
from glasscap.core.formats.png import PngOptions, write_png
from glasscap.core.formats.tags import Tags
from glasscap.core.geometry.types import PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import sha256_of
from glasscap.core.raster.pixels import Bytes, premultiplied
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.plan.shown_pixels import crops_of

_LARGEST_WEBP = 16_383
_CACHE_BYTES = 64 << 20


class Trimmed(Struct, frozen=True, eq=False):
    """A job with smaller photos, their files' bytes, how many bytes less the job file takes, how many px left."""

    job: Job
    files: tuple[bytes, ...]
    freed: int
    photos: int
    pixels: int = 0


class PhotoAdder(PhotoFiles, Protocol):
    """Photos that take further files."""

    def add(self, data: bytes, sha256: str | None = None) -> str:
        """Keep the bytes of a photo; return their SHA-256, which need not be reckoned anew where it is known."""


def hidden_removed(
    job: Job,
    photos: PhotoAdder,
    item_ids: Iterable[str] | None = None,
    margin: float = 0.0,
    report: Callable[[float], None] = lambda share: None,
) -> Trimmed:
    """Cut photos to what cutouts show of them (`margin` sheet px around).

    Every cutout concerned is rendered before and after. Where a crop would not leave it byte-equal (a reduced
    photo's grid begins at its corner) the photo keeps its size and what is hidden becomes black; where that
    does not either, it is left whole. That the pixels leave is the point, so they do also where the file does not
    get smaller for it.
    Raises PhotoError.
    """
    ids = None if item_ids is None else frozenset(item_ids)
    crops = crops_of(job, ids, margin)
    records = {p.sha256: p for p in job.photos}
    out, files, pixels_gone = job, [], 0
    for count, (key, box) in enumerate(crops.items()):
        record = records[key]
        if (box.width, box.height) == (record.width, record.height):
            continue
        whole = photos.pyramid(record).photo.rgba
        ways = (
            (whole[box.y0 : box.y1, box.x0 : box.x1], box),
            (_blanked(whole, box), PixelBox(0, 0, *_size(whole))),
        )
        for pixels, place in ways:
            report(count / len(crops))
            data = _lossless(pixels)
            fresh = PhotoRecord(sha256_of(data), record.name, *_size(pixels))
            photos.add(data, fresh.sha256)
            changed = _with_photo(out, key, fresh, place, ids)
            if _looks_the_same(out, changed, key, fresh.sha256, photos):
                out = changed
                files.append(data)
                pixels_gone += record.width * record.height - box.width * box.height
                break
    out = drop_unused_photos(out)
    return Trimmed(out, tuple(files), _freed(job, out, photos), len(files), pixels_gone)


def resampled(
    job: Job, photos: PhotoAdder, item_ids: Iterable[str] | None = None, density: float = 2.0
) -> Trimmed:
    """Reduce photos that have more than `density` px for each px they are shown at. Raises PhotoError."""
    ids = None if item_ids is None else frozenset(item_ids)
    needed: dict[str, float] = {}
    for _, item in items_of(job):
        if isinstance(item.content, PhotoContent) and item.content_placement is not None:
            placed = item.content_placement
            wanted = math.sqrt(placed.scale_x * placed.scale_y) * density
            needed[item.content.sha256] = max(needed.get(item.content.sha256, 0.0), wanted)
    chosen = [i for _, i in items_of(job) if ids is None or i.id in ids]
    meant = {i.content.sha256 for i in chosen if isinstance(i.content, PhotoContent)}
    out, files = job, []
    put_by = photos_in_versions(job)
    for record in job.photos:
        share = needed.get(record.sha256, 1.0)
        if record.sha256 not in meant or record.is_drawing or share >= 1.0 or record.sha256 in put_by:
            continue
        data, size = _reduced(photos.pyramid(record).photo.rgba, share)
        if len(data) >= len(photos.data(record)):
            continue
        fresh = PhotoRecord(sha256_of(data), record.name, *size)
        photos.add(data, fresh.sha256)
        files.append(data)
        out = _with_reduced(out, record, fresh)
    out = drop_unused_photos(out)
    return Trimmed(out, tuple(files), _freed(job, out, photos), len(files))


def _size(rgba: Bytes) -> tuple[int, int]:
    return rgba.shape[1], rgba.shape[0]


def _blanked(rgba: Bytes, box: PixelBox) -> Bytes:
    """Return a photo of the same size whose pixels outside a box are black: they take next to no bytes."""
    out = np.zeros_like(rgba)
    out[..., 3] = 255
    out[box.y0 : box.y1, box.x0 : box.x1] = rgba[box.y0 : box.y1, box.x0 : box.x1]
    return out


def _lossless(rgba: Bytes) -> bytes:
    """Return the smaller way to keep pixels as they are."""
    if max(rgba.shape[:2]) > _LARGEST_WEBP:
        return write_png(np.ascontiguousarray(rgba), PngOptions(is_small=True))
    return write_webp(np.ascontiguousarray(rgba), FileOptions("webp", is_lossless=True), Tags())


def _reduced(rgba: Bytes, share: float) -> tuple[bytes, tuple[int, int]]:
    height, width = rgba.shape[:2]
    size = (max(1, round(width * share)), max(1, round(height * share)))
    small = np.asarray(cv2.resize(premultiplied(rgba), size, interpolation=cv2.INTER_AREA), np.uint8)
    alpha = small[..., 3:].astype(np.float32)
    straight = small.copy()
    straight[..., :3] = np.clip(small[..., :3] * (255 / np.maximum(alpha, 1)) + 0.5, 0, 255)
    return _lossless(straight), size


def _with_photo(job: Job, key: str, fresh: PhotoRecord, box: PixelBox, ids: frozenset[str] | None) -> Job:
    """Return the job with cutouts showing a photo's crop in place of the photo; nothing moves."""
    old = next(p for p in job.photos if p.sha256 == key)

    def swapped(item: Cutout) -> Cutout:
        content, placement = item.content, item.content_placement
        is_meant = ids is None or item.id in ids
        if not isinstance(content, PhotoContent) or content.sha256 != key or not is_meant:
            return item
        assert placement is not None
        x, y = placement.to_sheet(old.width, old.height).apply((box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2)
        moved = replace(placement, x=x, y=y)
        return replace(item, content=replace(content, sha256=fresh.sha256), content_placement=moved)

    return _each(add_photo(job, fresh), swapped)


def _with_reduced(job: Job, old: PhotoRecord, fresh: PhotoRecord) -> Job:
    """Return the job with a smaller photo shown at the same size."""
    grow_x, grow_y = old.width / fresh.width, old.height / fresh.height

    def swapped(item: Cutout) -> Cutout:
        content, placement = item.content, item.content_placement
        if not isinstance(content, PhotoContent) or content.sha256 != old.sha256:
            return item
        assert placement is not None
        scaled = replace(placement, scale_x=placement.scale_x * grow_x, scale_y=placement.scale_y * grow_y)
        return replace(item, content=replace(content, sha256=fresh.sha256), content_placement=scaled)

    return _each(add_photo(job, fresh), swapped)


def _each(job: Job, change: Callable[[Cutout], Cutout]) -> Job:
    def whole(sheet: Sheet) -> Sheet:
        return replace(sheet, items=tuple(mapped(i, change) for i in sheet.items))

    return replace(job, sheets=tuple(whole(s) for s in job.sheets))


def _looks_the_same(before: Job, after: Job, key: str, fresh: str, photos: PhotoAdder) -> bool:
    """Whether every cutout of a photo gives the very same bytes."""
    now = {i.id: (s, i) for s, i in items_of(after)}
    for sheet, item in items_of(before):
        there, changed = now[item.id]
        if not isinstance(changed.content, PhotoContent) or changed.content.sha256 != fresh:
            continue
        try:
            one = render(plan_cutout(before, sheet, item), photos, ValueCache(_CACHE_BYTES))
            other = render(plan_cutout(after, there, changed), photos, ValueCache(_CACHE_BYTES))
        except ExportError:
            continue
        if one.box != other.box or not np.array_equal(one.rgba, other.rgba):
            return False
    return True


def _freed(before: Job, after: Job, photos: PhotoFiles) -> int:
    """Return by how many bytes the embedded photos became less."""
    sizes = [sum(len(photos.data(p)) for p in job.photos if p.link is None) for job in (before, after)]
    return sizes[0] - sizes[1]
