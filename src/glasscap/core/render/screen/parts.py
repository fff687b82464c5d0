"""Single parts as the screen shows them: premultiplied pixels of what is in view."""

from collections.abc import Callable, Hashable

import cv2
import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.placement import frame_box
from glasscap.core.document.model.region import Region
from glasscap.core.geometry.types import NOTHING, Affine, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource, which_are_drafts
from glasscap.core.raster.over import stacked
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.planar import for_screen
from glasscap.core.raster.resample import Quality
from glasscap.core.render.compose.finished import FinishedPart
from glasscap.core.render.paint.content import screen_warp
from glasscap.core.render.plan.bounds import part_bounds
from glasscap.core.render.plan.part import Part
from glasscap.core.render.quick.writers import write_parts, writer_for
from glasscap.core.render.screen.mask import mask_of, masked, shape_mask

# Rows at a time with finishes; more, or so many px, where they are mostly runs.
_FINE_ROWS, _RUN_ROWS, _RUN_PX = 192, 512, 900_000


class ScreenParts(Struct, frozen=True):
    """Draws parts into a view (device px)."""

    view: PixelBox
    photos: PhotoSource
    cache: ValueCache
    quality: Quality

    def box(self, part: Part) -> PixelBox:
        """Return the device px a part may show."""
        box = _frames_box(part.region) if part.is_plain else part_bounds(part)
        box = box.intersection(self.view)
        return box if not box.is_empty else NOTHING

    def top(self, part: Part, box: PixelBox) -> Bytes:
        """Return a part's premultiplied pixels in its box. Raises PhotoError."""
        if part.mount is not None:
            mount = part.mount
            mounted = self._kept(("mounted", part.cutout_id), part, box, lambda: self._mounted(part, mount, box))
            return _dimmed(mounted, part.opacity)
        if not part.is_plain:
            key, whole = ("top", part.cutout_id, part.photo is None), replace(part, opacity=1.0)
            return _dimmed(self._kept(key, whole, box, lambda: self._finished(whole, box)), part.opacity)
        return _dimmed(self._through_mask(part, box), part.opacity)

    def ghost(self, part: Part) -> tuple[Bytes, PixelBox] | None:
        """Return what a part's shape hides of its photo, and where it is, or None. Raises PhotoError."""
        region = part.region
        if part.photo is None or region.shape is None:
            return None
        box = _photo_box(region).intersection(self.view)
        if box.is_empty:
            return None
        inside = replace(region, shape=replace(region.shape, keeps="inside"))
        if region.is_hole:
            return self._through_mask(replace(part, region=inside), box), box
        if _is_upright(region.photo_to_output):
            # The photo's border falls on pixel lines or is a pixel's faint fringe: its box will do.
            mask = shape_mask(inside, self.view, self.cache)
            return masked(self._warp(part, box), box, mask, is_inverse=True), box
        outside = replace(region, shape=replace(region.shape, keeps="outside"))
        return self._through_mask(replace(part, region=outside), box), box

    def _through_mask(self, part: Part, box: PixelBox) -> Bytes:
        mask = mask_of(part.region, self.view, self.cache)
        return masked(self._warp(part, box), box, mask, is_inverse=False)

    def _warp(self, part: Part, wanted: PixelBox) -> Bytes:
        """Return the photo's pixels in a box."""
        assert part.photo is not None
        return screen_warp(part, self.photos.pyramid(part.photo), wanted, self.cache, self.quality).part(wanted)

    def _mounted(self, part: Part, mount: Part, box: PixelBox) -> Bytes:
        """Return a part, opaque, over its mount, each drawn by itself: a change of one is none of the other."""
        plate = replace(mount, cutout_id=f"mount of {part.cutout_id}")
        body = replace(part, mount=None, opacity=1.0, finishes=replace(part.finishes, mount=None))
        places = [(piece, self.box(piece).intersection(box)) for piece in (plate, body)]
        return stacked([(self.top(piece, here), here) for piece, here in places if not here.is_empty], box)

    def _kept(self, key: Hashable, part: Part, box: PixelBox, make: Callable[[], Bytes]) -> Bytes:
        """Return what is made of a part; kept in one slot a cutout while nothing of it changes."""
        stamp = (part, box, self.view, which_are_drafts(part.photos, self.photos))
        kept: tuple[object, Quality, Bytes] | None = self.cache.peek(key)
        if kept is not None and kept[0] == stamp and kept[1] in ("preview", self.quality):
            return kept[2]
        self.cache.drop(key)
        made = make()
        self.cache.put(key, (stamp, self.quality, made), made.nbytes)
        return made

    def _finished(self, part: Part, box: PixelBox) -> Bytes:
        """Return a finished part's pixels."""
        prepared = FinishedPart(part, self.view, self.photos, self.quality, self.cache)
        out = np.zeros((box.height, box.width, 4), np.uint8)
        writing = for_screen(self.quality)
        writer, rows = writer_for(prepared), _FINE_ROWS
        if writer is not None and writer.in_rows is not None:
            rows = max(_RUN_ROWS, _RUN_PX // box.width)
        for y0 in range(box.y0, box.y1, rows):
            self.cache.pause()
            band = PixelBox(box.x0, y0, box.x1, min(y0 + rows, box.y1))
            write_parts(out[y0 - box.y0 : band.y1 - box.y0], band, [prepared], writing)
        return out


def _dimmed(pixels: Bytes, opacity: float) -> Bytes:
    return pixels if opacity == 1.0 else np.asarray(cv2.convertScaleAbs(pixels, alpha=opacity), np.uint8)


def _photo_box(region: Region) -> PixelBox:
    return frame_box(region.photo_to_output, 0, 0, *region.photo_size).rounded_out()


def _frames_box(region: Region) -> PixelBox:
    """Return the device px a region may show, from frames alone."""
    box = _photo_box(region)
    shape, placement = region.shape, region.placement
    if shape is None or placement is None or region.is_hole:
        return box
    to_output = region.sheet_to_output.after(placement.to_sheet)
    width, height = placement.width, placement.height
    return box.intersection(frame_box(to_output, -width / 2, -height / 2, width, height).rounded_out())


def _is_upright(to_output: Affine) -> bool:
    return min(abs(to_output.a), abs(to_output.b)) < 1e-9
