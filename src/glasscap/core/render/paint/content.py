"""The content of a part: a photo's pixels at output resolution with its adjustments, or a paint."""

import math
from abc import ABC, abstractmethod
from functools import cached_property

import numpy as np

from glasscap.core.document.model.finishes import AS_SHOT
from glasscap.core.document.model.paint import is_opaque_paint
from glasscap.core.document.model.placement import frame_box
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.exact_copy import exact_view
from glasscap.core.raster.pixels import Bytes, Planar, Plane, edge_padded, view_of
from glasscap.core.raster.planar import planar_of, straight_bytes, weighted_planes
from glasscap.core.raster.resample import Pyramid, Quality, sample, sample_for_screen
from glasscap.core.render.paint.adjust import adjusted
from glasscap.core.render.paint.paints import PaintFrame, paint_bytes, paint_planes
from glasscap.core.render.paint.photo_blur import PhotoBlur
from glasscap.core.render.paint.soft_contour import pyramid_with_clean_rim
from glasscap.core.render.plan.bounds import outline_box
from glasscap.core.render.plan.part import Part

# Device px: how far off whole px a photo is moved by whole px (half of what a warp tells apart; more in a drag),
# and how far a drag may go on before it is warped again.
_SAME_PHASE, _MOVING_PHASE, _DRAG_ROOM = 1 / 64, 1 / 8, 96


class PhotoPart:
    """A part's photo as pixels."""

    def __init__(
        self, part: Part, photos: PhotoSource, window: PixelBox, quality: Quality, cache: ValueCache
    ) -> None:
        assert part.photo is not None
        self._part, self._window, self._quality, self._cache = part, window, quality, cache
        self._pyramid = pyramid_with_clean_rim(part, photos, window, quality, cache)
        self.is_opaque = self._pyramid.photo.is_opaque
        changes = part.adjustments
        self._is_changed = changes != AS_SHOT
        # Opaque pixels are the same premultiplied, so adjustments may come after.
        self._is_premultiplied = quality != "final" and (self.is_opaque or not self._is_changed)
        sigma = changes.blur * part.scale / 2
        self._blur = PhotoBlur(part, self._pyramid, window, sigma, quality, cache) if sigma > 0 else None

    def bytes(self, box: PixelBox) -> Bytes:
        """Return opaque pixels as they are written: uint8 RGBA, shape of the box."""
        if self._blur is not None:
            return self._blur.bytes(box)
        own = self._own
        return own.part(box) if own is not None and own.box.holds(box) else self._sampled(box)

    def weighted(self, box: PixelBox, weight: Plane) -> Planar:
        """Return premultiplied planes times a weight, shape (4, h, w)."""
        if self.is_opaque and self._blur is None:
            return weighted_planes(self._sampled(box), weight)
        return np.asarray(self.planes(box) * weight)

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""
        if self._blur is not None:
            return self._blur.planes(box)
        rgba = self._sampled(box)
        return planar_of(rgba, is_premultiplied=self._is_premultiplied, is_opaque=self.is_opaque)

    @property
    def copied(self) -> PixelBox | None:
        """The part in which the bytes are the photo's own; None where they are always computed."""
        return None if self._own is None else self._own.box

    @cached_property
    def _own(self) -> "Warp | None":
        """The photo's own pixels, where they are the bytes to be written."""
        if self._blur is not None or self._is_changed or self._is_premultiplied:
            return None
        region, rgba = self._part.region, self._pyramid.photo.rgba
        frame = frame_box(region.photo_to_output, 0, 0, *region.photo_size).rounded_out()
        if exact_view(rgba, region.photo_to_output, frame) is None:
            return None
        pixels, where = sample(self._pyramid, region.photo_to_output, frame, self._quality)
        return Warp(pixels, where) if np.may_share_memory(pixels, rgba) else None

    def _sampled(self, box: PixelBox) -> Bytes:
        to_output = self._part.region.photo_to_output
        if self._is_premultiplied:
            warped = screen_warp(self._part, self._pyramid, self._window, self._cache, self._quality).part(box)
            return adjusted(warped, self._part.adjustments) if self._is_changed else warped
        pixels, where = sample(self._pyramid, to_output, box, self._quality)
        if where != box:
            # A fade may reach beyond the photo, where it is next to invisible: the pixels stay opaque there.
            pixels = (edge_padded if self.is_opaque else _padded)(pixels, where, box)
        return adjusted(pixels, self._part.adjustments) if self._is_changed else pixels


def _padded(pixels: Bytes, where: PixelBox, box: PixelBox) -> Bytes:
    out = np.zeros((box.height, box.width, 4), np.uint8)
    if not where.is_empty:
        view_of(out, box, where)[:] = pixels
    return out


class Warp:
    """A photo's pixels of a box of output px: its own, or warped and premultiplied for the screen."""

    def __init__(self, pixels: Bytes, box: PixelBox) -> None:
        self.pixels, self.box = pixels, box

    def part(self, wanted: PixelBox) -> Bytes:
        """Return a box of it; it must lie inside."""
        return view_of(self.pixels, self.box, wanted)

    def moved(self, dx: int, dy: int) -> "Warp":
        """Return the same pixels elsewhere."""
        return Warp(self.pixels, self.box.moved(dx, dy))


def screen_warp(part: Part, pyramid: Pyramid, wanted: PixelBox, cache: ValueCache, quality: Quality) -> Warp:
    """Return a photo's pixels in (at least) a box; kept, for the ghost and for frames where it rests or is moved.

    A photo that has moved by whole px is not warped anew, nor, while something moves, one that lies nearly so.
    """
    assert part.photo is not None
    to_output = part.region.photo_to_output
    # One slot a cutout: what a drag leaves behind makes room for the next frame at once.
    # A photo with a cleaned rim is one of its own.
    soft = part.edge.soft
    own = pyramid if soft is not None and soft.cleans_rim else None
    key, stamp = ("warp", part.cutout_id), (part.photo.sha256, pyramid.is_draft, own)
    kept: tuple[object, Affine, Warp] | None = cache.peek(key)
    room = 1
    if kept is not None and kept[0] == stamp:
        shift = _whole_shift(kept[1], to_output, _MOVING_PHASE if quality == "moving" else _SAME_PHASE)
        moved = None if shift is None else kept[2].moved(*shift)
        if moved is not None and moved.box.holds(wanted):
            return moved
        room = 1 if shift in (None, (0, 0)) else _DRAG_ROOM
    cache.drop(key)
    box = _with_room(wanted, part, room)
    warp = Warp(sample_for_screen(pyramid, to_output, box), box)
    cache.put(key, (stamp, to_output, warp), warp.pixels.nbytes)
    return warp


def _whole_shift(start: Affine, end: Affine, slack: float) -> tuple[int, int] | None:
    """Return by how many whole px a map has moved; None where it has turned, grown or lies between px."""
    if start[:4] != end[:4]:
        return None
    dx, dy = end.e - start.e, end.f - start.f
    whole = round(dx), round(dy)
    return whole if max(abs(dx - whole[0]), abs(dy - whole[1])) <= slack else None


def _with_room(wanted: PixelBox, part: Part, room: int) -> PixelBox:
    """Return a box with room to be dragged on, as far as the photo goes: it may lie across one px more then."""
    photo = frame_box(part.region.photo_to_output, 0, 0, *part.region.photo_size).rounded_out()
    return wanted.union(wanted.grown(room).intersection(photo.grown(1)))


class PlanesContent(ABC):
    """Content that is computed as planes: whatever else is asked of it comes from those."""

    @abstractmethod
    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""

    @property
    def copied(self) -> PixelBox | None:
        """No part: the bytes are always computed."""
        return None

    def bytes(self, box: PixelBox) -> Bytes:
        """Return pixels as they are written: straight uint8 RGBA, shape of the box."""
        return straight_bytes(self.planes(box))

    def weighted(self, box: PixelBox, weight: Plane) -> Planar:
        """Return premultiplied planes times a weight, shape (4, h, w)."""
        return np.asarray(self.planes(box) * weight)


class PaintPart(PlanesContent):
    """A part's paint as pixels."""

    def __init__(self, part: Part, photos: PhotoSource) -> None:
        assert part.paint is not None
        self._paint, self._frame = part.paint, content_frame(part)
        own = part.picture(getattr(part.paint, "texture", ""))
        self._own = None if own is None else photos.pyramid(own)
        self.is_opaque = is_opaque_paint(part.paint)

    def bytes(self, box: PixelBox) -> Bytes:
        """Return pixels as they are written: straight uint8 RGBA, shape of the box."""
        if self.is_opaque:
            return paint_bytes(self._paint, box, self._frame)
        return super().bytes(box)

    def planes(self, box: PixelBox) -> Planar:
        """Return premultiplied planes, shape (4, h, w)."""
        return paint_planes(self._paint, box, self._frame, self._own)


def content_frame(part: Part) -> PaintFrame:
    """Return what the paint of a part's content is laid out by: the shape's frame, or the whole region."""
    region, placement = part.region, part.region.placement
    if region.shape is not None and placement is not None and not region.is_hole:
        to_output = region.sheet_to_output.after(placement.to_sheet)
        return PaintFrame(to_output, placement.width, placement.height, region.sheet_to_output)
    box = outline_box(part)
    scale = math.sqrt(abs(region.sheet_to_output.determinant))
    to_output = Affine.translation(*box.centre).after(Affine.scaling(scale))
    return PaintFrame(to_output, box.width / scale, box.height / scale, region.sheet_to_output)


def content_of(
    part: Part, photos: PhotoSource, window: PixelBox, quality: Quality, cache: ValueCache
) -> PhotoPart | PaintPart:
    """Return the pixels that show through a part. Raises PhotoError."""
    if part.photo is not None:
        return PhotoPart(part, photos, window, quality, cache)
    return PaintPart(part, photos)
