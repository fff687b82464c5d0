"""Frames for the screen: dense 8-bit masks kept by value, one warp a photo, premultiplied throughout.

The same geometry and coverage as `picture`; only the photo's resampling and the depth of the sums differ.
"""

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.geometry.types import NOTHING, PixelBox
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.over import lay_over, stacked
from glasscap.core.raster.pixels import Bytes, view_of
from glasscap.core.raster.resample import Quality
from glasscap.core.render.plan.part import Part
from glasscap.core.render.plan.plan import Plan
from glasscap.core.render.screen.parts import ScreenParts

# The last frame's layers are kept for sheets of so many parts, and changes of so few; others are composed whole.
_LAYERS, _FEWEST_PARTS, _MOST_CHANGED = ("layers",), 4, 24


class Frame(Struct, frozen=True, eq=False):
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
            view_of(out, whole, _box_of(self._around))[:] = self._around.rgba
        here = view_of(out, whole, box)
        here[:] = 0
        for frame in (self._below, middle, self._above):
            common = None if frame is None else _box_of(frame).intersection(box)
            if frame is not None and common is not None and not common.is_empty:
                lay_over(view_of(out, whole, common), view_of(frame.rgba, _box_of(frame), common))
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
    box = NOTHING
    for frame in frames:
        box = box.union(_box_of(frame))
    return Frame(stacked([(frame.rgba, _box_of(frame)) for frame in frames], box), box.x0, box.y0)


def _box_of(frame: Frame) -> PixelBox:
    return PixelBox(frame.x, frame.y, frame.x + frame.rgba.shape[1], frame.y + frame.rgba.shape[0])


def _composed_frame(parts: tuple[Part, ...], plan: Plan, photos: PhotoSource, cache: ValueCache) -> Frame | None:
    """Return some of a plan's parts laid over one another."""
    drawn = ScreenParts(plan.box, photos, cache, plan.quality)
    seen = [(part, drawn.box(part)) for part in parts]
    box = NOTHING
    for _, part_box in seen:
        box = box.union(part_box)
    if box.is_empty:
        return None
    tops = [(drawn.top(part, b), b) for part, b in seen if not b.is_empty]
    return Frame(stacked(tops, box), box.x0, box.y0)


def ghost_frame(
    part: Part, view: PixelBox, photos: PhotoSource, cache: ValueCache, quality: Quality = "preview"
) -> Frame | None:
    """Return what a part's shape hides of its photo, or None. Raises PhotoError."""
    ghost = ScreenParts(view, photos, cache, quality).ghost(part)
    return None if ghost is None else Frame(ghost[0], ghost[1].x0, ghost[1].y0)
