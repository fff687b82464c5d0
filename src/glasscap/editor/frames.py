"""The render service's work for the screen: frozen requests in, frozen answers out."""

from collections.abc import Callable
from threading import Event

import numpy as np
from msgspec import Struct

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import find_item, find_sheet, locate, photo_of
from glasscap.core.errors import GlassCapError, PhotoError
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.raster.pixels import Bytes, PhotoPixels, Picture, premultiplied
from glasscap.core.raster.resample import Pyramid, Quality
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import Plan, PlanMemory, part_of, plan_view
from glasscap.core.render.screen.frames import Frame, ghost_frame, screen_frame

_MISSING_GREY = 150
# A draft may have this much fewer px than are shown before the whole is decoded.
_ENOUGH = 1.05


class BenchRequest(Struct, frozen=True):
    """One frame of the bench: a sheet through a map, and whose hidden photo to show as a ghost.

    Photos of the items in `whole_ids` are wanted with all their pixels, others as far as they are seen. While
    something is moving photos may lie an eighth of a px off, outlines a 64th: the next frame puts them right.
    """

    job: Job
    sheet_id: str
    to_device: Affine
    box: PixelBox
    ghost_id: str | None = None
    whole_ids: tuple[str, ...] = ()
    is_moving: bool = False


class BenchFrame(Struct, frozen=True, eq=False):
    """The answer: the sheet, the ghost (both possibly None), and photos that were only drafts."""

    request: BenchRequest
    sheet: Frame | None
    ghost: Frame | None
    drafts: tuple[PhotoRecord, ...] = ()
    problem: str = ""


class ScreenPhotos:
    """Photos for the screen: a quick draft until the whole is decoded, grey for one that is not to be had."""

    def __init__(self, store: PhotoStore) -> None:
        self.store = store
        self._plates: dict[str, Pyramid] = {}
        self.used_drafts: list[PhotoRecord] = []
        self.problem = ""

    def begin(self) -> None:
        """Forget what the last frame used."""
        self.used_drafts, self.problem = [], ""

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return the photo as well as it is at hand."""
        try:
            found = self.store.quick(photo)
        except PhotoError as error:
            self.problem = error.line
            size = (photo.width, photo.height)
            return self._plates.setdefault(photo.sha256, Pyramid(_plate(), size))
        if found.is_draft and photo not in self.used_drafts:
            self.used_drafts.append(photo)
        return found


def _plate() -> PhotoPixels:
    plate = np.full((2, 2, 4), _MISSING_GREY, np.uint8)
    plate[..., 3] = 255
    return PhotoPixels(plate, is_opaque=True)


def bench_frame(request: BenchRequest, photos: ScreenPhotos, cache: ValueCache) -> BenchFrame:
    """Render one frame of the bench. Errors become words in the answer."""
    photos.begin()
    sheet = find_sheet(request.job, request.sheet_id)
    try:
        memory = cache.get(("plan", sheet.id), PlanMemory, lambda kept: 64)
        quality: Quality = "moving" if request.is_moving else "preview"
        plan = plan_view(request.job, sheet, request.to_device, request.box, quality, memory)
        ghost = _ghost(request, plan, photos, cache)
        picture = screen_frame(plan, photos, cache)
    except GlassCapError as error:
        return BenchFrame(request, None, None, (), error.line)
    return BenchFrame(request, picture, ghost, _too_coarse(request, plan, photos), photos.problem)


def _too_coarse(request: BenchRequest, plan: Plan, photos: ScreenPhotos) -> tuple[PhotoRecord, ...]:
    """Return the photos of a frame whose drafts have fewer px than are shown, or are wanted whole."""
    if not photos.used_drafts:
        return ()
    whole = {p.sha256 for i in request.whole_ids if (p := photo_of(request.job, find_item(request.job, i)))}
    scales: dict[str, float] = {}
    for part in plan.parts:
        _note_scales(part, scales)
    wanted = []
    for photo in photos.used_drafts:
        held = photos.store.quick(photo).photo.size[0] / photo.width
        if photo.sha256 in whole or scales.get(photo.sha256, 1.0) > held * _ENOUGH:
            wanted.append(photo)
    return tuple(wanted)


def _note_scales(part: Part, scales: dict[str, float]) -> None:
    """Note the largest scale (device px per photo px) at which each photo is shown."""
    if part.photo is not None:
        scale = abs(part.region.photo_to_output.determinant) ** 0.5
        scales[part.photo.sha256] = max(scale, scales.get(part.photo.sha256, 0.0))
    for inner in part.inside:
        _note_scales(inner, scales)
    # A mask or a texture is laid out by itself: its whole is wanted.
    scales.update((picture.sha256, 1.0) for picture in part.pictures)


def alone(plan_of: Callable[[], Plan | None], photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    """Return a small picture beside the bench, or None where its plan shows nothing or cannot be drawn."""
    photos.begin()
    try:
        plan = plan_of()
        return None if plan is None else screen_frame(plan, photos, cache)
    except GlassCapError:
        return None


def frame_of(picture: Picture) -> Frame | None:
    """Return a picture ready for the screen, or None for an empty one."""
    if picture.width == 0 or picture.height == 0:
        return None
    return Frame(premultiplied_sparsely(picture.rgba), picture.x, picture.y)


def premultiplied_sparsely(rgba: Bytes) -> Bytes:
    """Return straight RGBA premultiplied; only pixels that are neither empty nor full are computed."""
    alpha = rgba[..., 3]
    partial = np.flatnonzero((alpha - 1).ravel() < 254)
    out = rgba.copy()
    flat = out.reshape(-1, 4)
    flat[partial] = premultiplied(flat[partial])
    return out


def _ghost(request: BenchRequest, plan: Plan, photos: ScreenPhotos, cache: ValueCache) -> Frame | None:
    """Return the hidden part of one photo: its box less its shape."""
    if request.ghost_id is None:
        return None
    sheet, item, _ = locate(request.job, request.ghost_id)
    if item.shape is None or not item.is_masked:
        return None
    planned = next((part for part in plan.parts if part.cutout_id == item.id), None)
    part = planned or part_of(request.job, sheet, item, request.to_device)
    return None if part is None else ghost_frame(part, request.box, photos, cache, plan.quality)


def decode_fully(photos: tuple[PhotoRecord, ...], store: PhotoStore, stop: Event) -> list[str]:
    """Decode photos into the store; return messages for those that cannot be."""
    problems = []
    for photo in photos:
        if stop.is_set():
            break
        try:
            store.pyramid(photo).halved(1)
        except PhotoError as error:
            problems.append(error.line)
    return problems
