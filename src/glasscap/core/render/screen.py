"""Frames for the screen: dense 8-bit masks kept by value, one warp a photo, premultiplied throughout.

The same geometry and coverage as `picture`; only the photo's resampling and the depth of the sums differ.
"""

from dataclasses import dataclass, replace

import cv2
import msgspec
import numpy as np
from numpy.typing import NDArray

from glasscap.core.document.placement import frame_box
from glasscap.core.document.region import Region, covers_shape, region_polygons, shape_polygons
from glasscap.core.geometry.outline import Points
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.raster.coverage import Ints
from glasscap.core.raster.pixels import Bytes
from glasscap.core.raster.resample import Quality
from glasscap.core.raster.scan import cover
from glasscap.core.render.bounds import part_bounds
from glasscap.core.render.cache import ValueCache
from glasscap.core.render.content import screen_warp
from glasscap.core.render.finished import FinishedPart
from glasscap.core.render.part import FLATNESS, Part
from glasscap.core.render.photos import PhotoSource
from glasscap.core.render.plan import Plan
from glasscap.core.render.planar import PREMULTIPLIED
from glasscap.core.render.spans import write_spans

# Rows at a time with finishes; more, or so many px, where they are mostly runs.
_FINE_ROWS, _RUN_ROWS, _RUN_PX = 192, 512, 900_000
_NOTHING = PixelBox(0, 0, 0, 0)
# Where the last frame's layers are kept; sheets of fewer parts, and changes of more, are composed as a whole.
_LAYERS, _FEWEST_PARTS, _MOST_CHANGED = ("layers",), 4, 24


@dataclass(frozen=True, eq=False)
class Mask:
    """A shape's coverage in the box that holds it, split for speed.

    Attributes
    ----------
    touched, rest : uint8 arrays, shape (h, w)
        Not 0 where the shape covers anything, and where it leaves anything.
    cell_y, cell_x : int64 arrays, shape (n,)
        Partly covered pixels, from the box's corner.
    cell_level : uint16 array, shape (n, 1)
        Their coverage, 1 to 254.
    box : PixelBox
    """

    touched: Bytes
    rest: Bytes
    cell_y: Ints
    cell_x: Ints
    cell_level: NDArray[np.uint16]
    box: PixelBox

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        return 2 * self.touched.nbytes + 18 * len(self.cell_y)


@dataclass(frozen=True, eq=False)
class Frame:
    """Premultiplied RGBA, uint8, shape (h, w, 4), and where it lies in device px."""

    rgba: Bytes
    x: int
    y: int


def screen_frame(plan: Plan, photos: PhotoSource, cache: ValueCache) -> Frame | None:
    """Return a plan's parts composed, or None when nothing is seen. Raises PhotoError.

    While one part after another changes, what lies below and above it is composed once and kept.
    """
    last: _Layers | None = cache.peek(_LAYERS)
    changed = None if last is None else last.changed(plan, photos)
    if last is None or changed is None:
        cache.put(_LAYERS, _Layers(plan, photos), 256)
        return _composed_frame(plan.parts, plan, photos, cache)
    first, end = changed
    if last.split != changed:
        # Kept beyond the moving: as at rest.
        around = replace(plan, quality="preview")
        below = _composed_frame(plan.parts[:first], around, photos, cache)
        above = _composed_frame(plan.parts[end:], around, photos, cache)
        last = _Layers(plan, photos, changed, below, above)
        cache.put(_LAYERS, last, last.nbytes)
    return last.with_middle(_composed_frame(plan.parts[first:end], plan, photos, cache))


class _Layers:
    """The plan a frame was made of, and what lay below and above the parts that changed since."""

    def __init__(
        self,
        plan: Plan,
        photos: PhotoSource,
        split: tuple[int, int] | None = None,
        below: Frame | None = None,
        above: Frame | None = None,
    ) -> None:
        self.plan, self.split, self._below, self._above = plan, split, below, above
        self._around = _stacked([f for f in (below, above) if f is not None])
        self._stamp = _photo_stamp(plan, photos)

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        kept = (self._below, self._above, self._around)
        return 256 + sum(f.rgba.nbytes for f in kept if f is not None)

    def with_middle(self, middle: Frame | None) -> Frame | None:
        """Return what lies around the changed parts with these in between: composed only where they are."""
        if middle is None:
            return self._around
        box = _box_of(middle)
        whole = box if self._around is None else box.union(_box_of(self._around))
        out = np.zeros((whole.height, whole.width, 4), np.uint8)
        if self._around is not None:
            _within(out, whole, _box_of(self._around))[:] = self._around.rgba
        here = _within(out, whole, box)
        here[:] = 0
        for frame in (self._below, middle, self._above):
            common = None if frame is None else _box_of(frame).intersection(box)
            if frame is not None and common is not None and not common.is_empty:
                _lay_over(_within(out, whole, common), _within(frame.rgba, _box_of(frame), common))
        return Frame(out, whole.x0, whole.y0)

    def changed(self, plan: Plan, photos: PhotoSource) -> tuple[int, int] | None:
        """Return from which to before which part a plan differs; None where layers would not help."""
        mine, theirs = self.plan.parts, plan.parts
        if plan.box != self.plan.box or len(mine) != len(theirs) or len(mine) < _FEWEST_PARTS:
            return None
        differ = [n for n, (a, b) in enumerate(zip(mine, theirs, strict=True)) if a is not b]
        if self.split is not None:
            differ += [self.split[0], self.split[1] - 1]
        if not differ or self._stamp != _photo_stamp(plan, photos):
            return None
        first, end = min(differ), max(differ) + 1
        return (first, end) if end - first <= _MOST_CHANGED else None


def _photo_stamp(plan: Plan, photos: PhotoSource) -> frozenset[tuple[str, bool]]:
    """Return which photos there are, and which of them are drafts by now."""
    known = {photo.sha256: photo for part in plan.parts for photo in part.photos}
    return frozenset((key, photos.pyramid(photo).is_draft) for key, photo in known.items())


def _stacked(frames: list[Frame]) -> Frame | None:
    if len(frames) < 2:
        return frames[0] if frames else None
    box = _NOTHING
    for frame in frames:
        box = box.union(_box_of(frame))
    out = np.zeros((box.height, box.width, 4), np.uint8)
    for frame in frames:
        _lay_over(_within(out, box, _box_of(frame)), frame.rgba)
    return Frame(out, box.x0, box.y0)


def _box_of(frame: Frame) -> PixelBox:
    return PixelBox(frame.x, frame.y, frame.x + frame.rgba.shape[1], frame.y + frame.rgba.shape[0])


def _within(pixels: Bytes, box: PixelBox, part: PixelBox) -> Bytes:
    """Return a box of pixels that fill a larger one."""
    return pixels[part.y0 - box.y0 : part.y1 - box.y0, part.x0 - box.x0 : part.x1 - box.x0]


def _composed_frame(parts: tuple[Part, ...], plan: Plan, photos: PhotoSource, cache: ValueCache) -> Frame | None:
    """Return some of a plan's parts laid over one another."""
    view, quality = plan.box, plan.quality
    seen = [(p, _part_box(p, view)) for p in parts]
    box = _NOTHING
    for _, part_box in seen:
        box = box.union(part_box)
    if box.is_empty:
        return None
    tops = [(_top(p, b, view, photos, cache, quality), b) for p, b in seen if not b.is_empty]
    if len(tops) == 1:
        return Frame(tops[0][0], box.x0, box.y0)
    out = np.zeros((box.height, box.width, 4), np.uint8)
    for top, b in tops:
        _lay_over(_within(out, box, b), top)
    return Frame(out, box.x0, box.y0)


def ghost_frame(
    part: Part, view: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality = "preview"
) -> Frame | None:
    """Return what a part's shape hides of its photo, or None. Raises PhotoError."""
    region = part.region
    if part.photo is None or region.shape is None:
        return None
    box = _photo_box(region).intersection(view)
    if box.is_empty:
        return None
    inside = replace(region, shape=msgspec.structs.replace(region.shape, keeps="inside"))
    if region.shape.keeps == "outside":
        return _masked_frame(replace(part, region=inside), box, view, photos, cache, quality)
    if _is_upright(region.photo_to_output):
        # The photo's border falls on pixel lines or is a pixel's faint fringe: its box will do.
        warp, mask = _warp(part, box, photos, cache, quality), _shape_mask(inside, view, cache)
        return Frame(_masked(warp, box, mask, is_inverse=True), box.x0, box.y0)
    outside = replace(region, shape=msgspec.structs.replace(region.shape, keeps="outside"))
    return _masked_frame(replace(part, region=outside), box, view, photos, cache, quality)


def _masked_frame(
    part: Part, box: PixelBox, view: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality
) -> Frame:
    mask = _mask_of(part.region, view, cache)
    return Frame(_masked(_warp(part, box, photos, cache, quality), box, mask, is_inverse=False), box.x0, box.y0)


def _top(
    part: Part, box: PixelBox, view: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality
) -> Bytes:
    """Return one part's premultiplied pixels in its box."""
    if not part.is_plain:
        return _finished_top(part, box, view, photos, cache, quality)
    top = _masked_frame(part, box, view, photos, cache, quality).rgba
    return top if part.opacity == 1.0 else np.asarray(cv2.convertScaleAbs(top, alpha=part.opacity))


def _finished_top(
    part: Part, box: PixelBox, view: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality
) -> Bytes:
    """Return a finished part's pixels; kept in one slot a cutout while nothing of it changes."""
    drafts = tuple(photos.pyramid(photo).is_draft for photo in part.photos)
    key, stamp = ("top", part.cutout_id, part.photo is None), (part, box, view, drafts)
    kept: tuple[object, Quality, Bytes] | None = cache.peek(key)
    if kept is not None and kept[0] == stamp and kept[1] in ("preview", quality):
        return kept[2]
    cache.drop(key)
    prepared = [FinishedPart(part, view, photos, quality, cache)]
    out = np.zeros((box.height, box.width, 4), np.uint8)
    rows = _FINE_ROWS if prepared[0].in_rows is None else max(_RUN_ROWS, _RUN_PX // box.width)
    for y0 in range(box.y0, box.y1, rows):
        cache.pause()
        band = PixelBox(box.x0, y0, box.x1, min(y0 + rows, box.y1))
        write_spans(out[y0 - box.y0 : band.y1 - box.y0], band, prepared, PREMULTIPLIED)
    cache.put(key, (stamp, quality, out), out.nbytes)
    return out


def _part_box(part: Part, view: PixelBox) -> PixelBox:
    """Return the device px a part may show."""
    if part.is_plain:
        return _seen_box(part.region, view)
    box = part_bounds(part).intersection(view)
    return box if not box.is_empty else _NOTHING


def _lay_over(below: Bytes, top: Bytes) -> None:
    """Below = top + (1 - alpha_top) below, premultiplied; only translucent pixels are computed."""
    alpha = cv2.extractChannel(top, 3)
    cv2.copyTo(top, cv2.inRange(alpha, 255, 255), below)
    found = cv2.findNonZero(cv2.inRange(alpha, 1, 254))
    if found is None:
        return
    xs, ys = found.reshape(-1, 2).T
    over = top[ys, xs].astype(np.uint16)
    below[ys, xs] = over + (below[ys, xs] * (255 - over[:, 3:]) + 127) // 255


def _photo_box(region: Region) -> PixelBox:
    return frame_box(region.photo_to_output, 0, 0, *region.photo_size).rounded_out()


def _seen_box(region: Region, view: PixelBox) -> PixelBox:
    """Return the device px a region may show, from frames alone."""
    box = _photo_box(region).intersection(view)
    shape, placement = region.shape, region.placement
    if shape is None or placement is None or shape.keeps == "outside":
        return box if not box.is_empty else _NOTHING
    to_output = region.sheet_to_output.after(placement.to_sheet)
    width, height = placement.width, placement.height
    frame = frame_box(to_output, -width / 2, -height / 2, width, height).rounded_out()
    box = box.intersection(frame)
    return box if not box.is_empty else _NOTHING


def _is_upright(to_output: Affine) -> bool:
    return min(abs(to_output.a), abs(to_output.b)) < 1e-9


def _mask_of(region: Region, view: PixelBox, cache: ValueCache) -> Mask:
    """Return a region's mask: the shape's own while it lies on the photo, so that it outlasts a photo's drag."""
    shape = region.shape
    if shape is not None and shape.keeps == "inside" and covers_shape(region):
        return _shape_mask(region, view, cache)
    return cache.get(
        ("mask", region, view),
        lambda: _mask(region_polygons(region, tolerance=FLATNESS), view),
        lambda m: m.nbytes,
    )


def _shape_mask(region: Region, view: PixelBox, cache: ValueCache) -> Mask:
    shape, placement, to_output = region.shape, region.placement, region.sheet_to_output
    assert shape is not None
    assert placement is not None
    return cache.get(
        ("mask", shape, placement, to_output, view),
        lambda: _mask(shape_polygons(shape, placement, to_output, tolerance=FLATNESS), view),
        lambda m: m.nbytes,
    )


def _mask(flat: tuple[Points, ...], view: PixelBox) -> Mask:
    levels, box = cover(flat, view).levels()
    ys, xs = np.nonzero((levels - np.uint8(1)) < 254)
    return Mask(levels, ~levels, ys, xs, levels[ys, xs].astype(np.uint16)[:, None], box)


def _masked(warp: Bytes, box: PixelBox, mask: Mask, *, is_inverse: bool) -> Bytes:
    """Return pixels of a box times the mask, or times what it leaves out."""
    b, common = mask.box, box.intersection(mask.box)
    out = np.zeros(warp.shape, np.uint8)
    if common.is_empty:
        return warp.copy() if is_inverse else out
    top, foot, left, right = common.y0 - box.y0, common.y1 - box.y0, common.x0 - box.x0, common.x1 - box.x0
    here, middle = np.s_[top:foot, left:right], slice(top, foot)
    there = np.s_[common.y0 - b.y0 : common.y1 - b.y0, common.x0 - b.x0 : common.x1 - b.x0]
    cv2.copyTo(warp[here], (mask.rest if is_inverse else mask.touched)[there], out[here])
    if is_inverse:
        for around in (np.s_[:top], np.s_[foot:], np.s_[middle, :left], np.s_[middle, right:]):
            out[around] = warp[around]
    # Four bytes at once: one whole pixel a word.
    words, out_words = (a.view(np.uint32)[..., 0] for a in (warp, out))
    ys, xs, levels = mask.cell_y + (b.y0 - box.y0), mask.cell_x + (b.x0 - box.x0), mask.cell_level
    if common != b:
        on = (ys >= 0) & (ys < box.height) & (xs >= 0) & (xs < box.width)
        ys, xs, levels = ys[on], xs[on], levels[on]
    cells = words[ys, xs].view(np.uint8).reshape(-1, 4) * (255 - levels if is_inverse else levels)
    cells += 128
    # Division by 255 with correct rounding, for 16-bit products.
    cells += cells >> 8
    cells >>= 8
    out_words[ys, xs] = cells.astype(np.uint8).view(np.uint32)[:, 0]
    return out


def _warp(part: Part, wanted: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality) -> Bytes:
    """Return the photo's pixels in a box."""
    assert part.photo is not None
    return screen_warp(part, photos.pyramid(part.photo), wanted, cache, quality).part(wanted)
