"""Stages of a plan: coverage, sampling, compositing, trimming; the picture."""

from collections.abc import Callable

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from glasscap.core.document.model.job import Job, Sheet
from glasscap.core.geometry.types import NOTHING, Box, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.composite import CoveredPixels, composite
from glasscap.core.raster.exact_copy import exact_view
from glasscap.core.raster.pixels import Bytes, Picture, Planar, visible_box
from glasscap.core.raster.planar import STRAIGHT, straight_words
from glasscap.core.raster.resample import Pyramid, Quality, sample
from glasscap.core.render.compose.finished import FinishedPart, composed
from glasscap.core.render.plan.bounds import part_bounds
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import Plan, plan_sheet
from glasscap.core.render.quick.writers import are_copied, are_runs, write_parts
from glasscap.core.render.shares.shares import region_coverage
from glasscap.core.work.ticket import no_check

# Rows at a time where pixels are resampled or composed in float.
_BAND_ROWS = 256
# Rows at a time with finishes: what is in work stays in the processor's cache; runs alone hardly need it.
_FINE_ROWS, _CRISP_ROWS = 128, 384
# Pixels that are there already take no memory either; so many are written in a twentieth of a second.
_COPIED_ROWS, _COPIED_PX = 2048, 8_500_000
_STRIP_LINES = 16
_SMALL_PICTURE_PX = 4_000_000
_SEEN_CACHE_BYTES = 64 << 20
# A decoded photo with its reductions; the px of a tile that is held in float.
_BYTES_PER_PHOTO_PX, _HELD_PX = 4 * 4 / 3, 8_000_000


def render(plan: Plan, photos: PhotoSource, cache: ValueCache, check: Callable[[], None] = no_check) -> Picture:
    """Render a plan.

    Parameters
    ----------
    plan : Plan
    photos : PhotoSource
    cache : ValueCache
        Holds coverages and preview warps between renders.
    check : callable
        Called between bands; raises CancelledError to stop.

    Returns
    -------
    Picture
        Straight alpha, sRGB.

    Raises
    ------
    PhotoError
        If a photo is missing or cannot be decoded.
    """
    if is_heavy(plan, photos):
        return _one_by_one(plan, photos, cache, check)
    if not all(part.is_plain for part in plan.parts):
        return _finished(plan, photos, cache, check)
    shown = [p for p in plan.parts if not part_bounds(p).intersection(plan.box).is_empty]
    box = trimmed_box(plan, cache)
    out = np.zeros((box.height, box.width, 4), np.uint8)
    stages = [_Stage(part, photos.pyramid(part.photo), box, plan.quality, cache) for part in shown if part.photo]
    for y0, y1 in _bands(box, stages):
        check()
        band = PixelBox(box.x0, y0, box.x1, y1)
        layers = [layer for s in stages if (layer := s.layer(band)) is not None]
        composite(out[y0 - box.y0 : y1 - box.y0], band, layers)
    picture = Picture(out, box.x0, box.y0)
    # One solid part's coverage tells its visible box already; own alpha is only known from the pixels.
    if not plan.is_trimmed or (len(stages) == 1 and stages[0].is_solid):
        return picture
    return picture.cut(visible_box(picture))


def is_heavy(plan: Plan, photos: PhotoSource) -> bool:
    """Whether a plan's photos decoded at once would take more than the photos' budget."""
    records = {photo.sha256: photo for part in plan.parts for photo in part.photos}
    needed = sum(photo.width * photo.height for photo in records.values()) * _BYTES_PER_PHOTO_PX
    return len(records) > 1 and needed > getattr(photos, "budget_bytes", needed)


def _one_by_one(plan: Plan, photos: PhotoSource, cache: ValueCache, check: Callable[[], None]) -> Picture:
    """Render part after part, so that photos are decoded on need and let go: the same sums, in larger steps."""
    shown = [p for p in plan.parts if not part_bounds(p).intersection(plan.box).is_empty]
    box = NOTHING
    for part in shown:
        box = box.union(part_bounds(part).intersection(plan.box))
    box = box if plan.is_trimmed else plan.box
    out = np.zeros((box.height, box.width, 4), np.uint8)
    rows = max(_FINE_ROWS, _HELD_PX // max(box.width, 1))
    for y0 in range(box.y0, box.y1, rows):
        tile = PixelBox(box.x0, y0, box.x1, min(y0 + rows, box.y1))
        out[y0 - box.y0 : tile.y1 - box.y0] = STRAIGHT.planes(_tile(shown, tile, plan, photos, cache, check))
    picture = Picture(out, box.x0, box.y0)
    return picture.cut(visible_box(picture)) if plan.is_trimmed else picture


def _tile(
    shown: list[Part],
    tile: PixelBox,
    plan: Plan,
    photos: PhotoSource,
    cache: ValueCache,
    check: Callable[[], None],
) -> Planar:
    """Return premultiplied planes of a tile, parts laid over one another from the back."""
    total = np.zeros((4, tile.height, tile.width), np.float32)
    for part in shown:
        wanted = part_bounds(part).intersection(tile)
        if wanted.is_empty:
            continue
        ready = FinishedPart(part, plan.box, photos, plan.quality, cache)
        for y0 in range(wanted.y0, wanted.y1, _FINE_ROWS):
            check()
            cache.pause()
            band = PixelBox(wanted.x0, y0, wanted.x1, min(y0 + _FINE_ROWS, wanted.y1))
            top = ready.planes(band)
            here = total[:, band.y0 - tile.y0 : band.y1 - tile.y0, band.x0 - tile.x0 : band.x1 - tile.x0]
            here *= 1 - top[3] * np.float32(1 / 255)
            here += top
    return total


def _finished(plan: Plan, photos: PhotoSource, cache: ValueCache, check: Callable[[], None]) -> Picture:
    """Render parts with finishes band by band."""
    shown = tuple(p for p in plan.parts if not part_bounds(p).intersection(plan.box).is_empty)
    parts = _prepared(shown, plan, photos, cache)
    box = _hull(plan, parts) if plan.is_trimmed else plan.box
    out = np.zeros((box.height, box.width, 4), np.uint8)
    rows = _CRISP_ROWS if are_runs(parts) else _FINE_ROWS
    if are_copied(parts):
        rows = max(_CRISP_ROWS, min(_COPIED_ROWS, _COPIED_PX // max(box.width, 1)))
    for y0 in () if box.is_empty else range(box.y0, box.y1, rows):
        check()
        cache.pause()
        y1 = min(y0 + rows, box.y1)
        write_parts(out[y0 - box.y0 : y1 - box.y0], box._replace(y0=y0, y1=y1), parts, STRAIGHT)
    picture = Picture(out, box.x0, box.y0)
    return picture.cut(_trimmed(box, lambda strip: picture.cut(strip).rgba)) if plan.is_trimmed else picture


def render_deep(
    plan: Plan, photos: PhotoSource, cache: ValueCache, check: Callable[[], None] = no_check
) -> NDArray[np.uint16]:
    """Render a plan's whole box with 16 bits a channel: straight RGBA, 0 to 65535, shape (h, w, 4).

    Edges, shadows and fades have all their steps; a photo of 8 bits has no more than it has.
    Raises PhotoError; CancelledError from `check`.
    """
    shown = tuple(p for p in plan.parts if not part_bounds(p).intersection(plan.box).is_empty)
    parts, box = _prepared(shown, plan, photos, cache), plan.box
    out = np.zeros((box.height, box.width, 4), np.uint16)
    for y0 in range(box.y0, box.y1, _FINE_ROWS) if parts else ():
        check()
        band = PixelBox(box.x0, y0, box.x1, min(y0 + _FINE_ROWS, box.y1))
        out[y0 - box.y0 : band.y1 - box.y0] = straight_words(composed(parts, band))
    return out


def _prepared(shown: tuple[Part, ...], plan: Plan, photos: PhotoSource, cache: ValueCache) -> list[FinishedPart]:
    return [FinishedPart(p, plan.box, photos, plan.quality, cache) for p in shown]


def _hull(plan: Plan, parts: list[FinishedPart]) -> PixelBox:
    """Return a box outside which every alpha rounds to 0, nearly the smallest."""
    box = PixelBox(plan.box.x0, plan.box.y0, plan.box.x0, plan.box.y0)
    for part in parts:
        box = box.union(part.hull())
    return box.intersection(plan.box)


def _seen_box(parts: list[FinishedPart], hull: PixelBox) -> PixelBox:
    """Return the smallest box outside which every alpha rounds to 0."""

    def drawn(strip: PixelBox) -> Bytes:
        out = np.zeros((strip.height, strip.width, 4), np.uint8)
        write_parts(out, strip, parts, STRAIGHT)
        return out

    return _trimmed(hull, drawn)


def _trimmed(hull: PixelBox, drawn: Callable[[PixelBox], Bytes]) -> PixelBox:
    """Return the smallest box outside which every alpha is 0: strips are looked at from each side."""

    def seen(strip: PixelBox, axis: int) -> np.ndarray:
        return np.asarray((drawn(strip)[..., 3] > 0).any(axis=axis))

    x0, y0, x1, y1 = hull
    y0 = _first_seen(y0, y1, lambda a, b: seen(PixelBox(x0, a, x1, b), 1))
    if y0 == y1:
        return PixelBox(x0, y0, x0, y0)
    y1 = -_first_seen(-y1, -y0, lambda a, b: seen(PixelBox(x0, -b, x1, -a), 1)[::-1])
    x0 = _first_seen(x0, x1, lambda a, b: seen(PixelBox(a, y0, b, y1), 0))
    x1 = -_first_seen(-x1, -x0, lambda a, b: seen(PixelBox(-b, y0, -a, y1), 0)[::-1])
    return PixelBox(x0, y0, x1, y1)


def _first_seen(start: int, end: int, look: Callable[[int, int], np.ndarray]) -> int:
    """Return the first line with something in it, looking at ever wider strips; `end` when there is none."""
    size = _STRIP_LINES
    while start < end:
        stop = min(start + size, end)
        found = np.flatnonzero(look(start, stop))
        if len(found):
            return start + int(found[0])
        start, size = stop, size * 2
    return end


def seen_box(job: Job, sheet: Sheet, photos: PhotoSource) -> Box:
    """Return the box of all that is seen on a sheet and beyond it, sheet px; empty if nothing is.

    Raises PhotoError.
    """
    plan = plan_sheet(job, sheet, crop="visible")
    return Box(*map(float, picture_box(plan, photos, ValueCache(_SEEN_CACHE_BYTES))))


def picture_box(plan: Plan, photos: PhotoSource, cache: ValueCache) -> PixelBox:
    """Return exactly the box `render` gives; renders only where own alpha must be seen. Raises PhotoError."""
    if not all(part.is_plain for part in plan.parts):
        final = replace(plan, quality="final")
        return cache.get(("box", final), lambda: _finished_box(final, photos, cache), lambda box: 64)
    opaque = all(photos.pyramid(part.photo).photo.is_opaque for part in plan.parts if part.photo)
    if not plan.is_trimmed or (opaque and len(plan.parts) == 1):
        return trimmed_box(plan, cache)
    final = replace(plan, quality="final")
    return cache.get(("box", final), lambda: render(final, photos, cache).box, lambda box: 64)


def _finished_box(plan: Plan, photos: PhotoSource, cache: ValueCache) -> PixelBox:
    shown = tuple(p for p in plan.parts if not part_bounds(p).intersection(plan.box).is_empty)
    if not plan.is_trimmed:
        return plan.box
    parts = _prepared(shown, plan, photos, cache)
    return _seen_box(parts, _hull(plan, parts))


def trimmed_box(plan: Plan, cache: ValueCache) -> PixelBox:
    """Return a plan's box, cut by coverage alone where it is trimmed: no memory goes to empty margins."""
    if not plan.is_trimmed:
        return plan.box
    box = PixelBox(plan.box.x0, plan.box.y0, plan.box.x0, plan.box.y0)
    # The faint edges of overlapping parts may add up to visible pixels.
    faintest = 0.5 / 255 if len(plan.parts) == 1 else 0.0
    for part in plan.parts:
        threshold = faintest / part.opacity
        box = box.union(region_coverage(part.region, plan.box, cache).visible_box(threshold))
    return box


def _bands(box: PixelBox, stages: "list[_Stage]") -> list[tuple[int, int]]:
    is_light = box.width * box.height <= _SMALL_PICTURE_PX or all(s.is_copied for s in stages)
    if is_light and (len(stages) == 1 or all(s.is_solid for s in stages)):
        return [(box.y0, box.y1)] if not box.is_empty else []
    return [(y, min(y + _BAND_ROWS, box.y1)) for y in range(box.y0, box.y1, _BAND_ROWS)]


class _Stage:
    """One part, ready to give its layer band by band."""

    def __init__(self, part: Part, pyramid: Pyramid, box: PixelBox, quality: Quality, cache: ValueCache) -> None:
        self._part, self._pyramid, self._quality, self._cache = part, pyramid, quality, cache
        self._coverage = region_coverage(part.region, box, cache)
        to_output = part.region.photo_to_output
        self.is_copied = not pyramid.is_draft and exact_view(pyramid.photo.rgba, to_output, box) is not None
        self.is_solid = pyramid.photo.is_opaque and part.opacity == 1.0
        self._bounds = part_bounds(part).intersection(box)

    def layer(self, band: PixelBox) -> CoveredPixels | None:
        """Return what the part adds to a band, or None for nothing."""
        wanted = self._bounds.intersection(band)
        if wanted.is_empty:
            return None
        pixels, where = self._pixels(wanted)
        if where.is_empty:
            return None
        coverage = self._coverage.rows(band.y0, band.y1)
        return CoveredPixels(coverage, pixels, where, self._part.opacity, self._pyramid.photo.is_opaque)

    def _pixels(self, wanted: PixelBox) -> tuple[Bytes, PixelBox]:
        to_output = self._part.region.photo_to_output
        if self._quality == "final" or self.is_copied:
            return sample(self._pyramid, to_output, wanted, self._quality)
        return self._cached_warp(wanted)

    def _cached_warp(self, wanted: PixelBox) -> tuple[Bytes, PixelBox]:
        """Return a preview's warp; kept, so that a frame in which the photo rests does not warp it again."""
        to_output = self._part.region.photo_to_output
        assert self._part.photo is not None
        key = ("warp", self._part.photo.sha256, id(self._pyramid), to_output)
        kept = self._cache.peek(key)
        if kept is not None and kept[1].holds(wanted):
            return kept[0], kept[1]
        made = sample(self._pyramid, to_output, wanted, self._quality)
        self._cache.put(key, made, made[0].nbytes)
        return made
