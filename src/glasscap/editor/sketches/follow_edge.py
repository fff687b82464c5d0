"""Following an edge of the photo: the line between clicks clings to it."""

import math
from collections import deque
from collections.abc import Generator
from concurrent.futures import Future

import numpy as np
from msgspec.structs import replace

from glasscap.core.document.shapes.points import followed_shape
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.outline import Points, transform
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import LiveWire, window_around
from glasscap.core.raster.pixels import Bytes
from glasscap.core.work.threads import workers
from glasscap.editor.numbers import counted
from glasscap.editor.sketches.sketch import Sketch, SketchEvent, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Edit, Scene

# Working px the curve may leave the edge by at first, and how many photo px stand behind one at the most.
_SMOOTHNESS = 1.6
_LEAST = 3
_POINT = "the last point"


class _Wires:
    """Builds live wires in a thread, the newest anchor's only."""

    def __init__(self, pixels: Bytes, scale: float) -> None:
        self._pixels, self._scale = pixels, scale
        self._pool = workers("wire")
        self._future: Future[LiveWire] | None = None
        self._wire: LiveWire | None = None

    def begin(self, x: float, y: float) -> None:
        """Search from an anchor in photo px."""
        self._wire = None
        if self._future is not None:
            self._future.cancel()
        self._future = self._pool.submit(lambda: LiveWire(window_around(self._pixels, x, y, self._scale), x, y))

    @property
    def wire(self) -> LiveWire | None:
        """The wire of the newest anchor, None while it is built."""
        if self._wire is None and self._future is not None and self._future.done():
            self._wire = self._future.result()
        return self._wire

    def stop(self) -> None:
        """End the thread, without waiting for what it does."""
        self._pool.shutdown(wait=False, cancel_futures=True)


def follow_edge(scene: Scene, pixels: Bytes | None) -> Sketch:
    """Click along a contour; the first point or Enter closes it; Shift goes straight, Backspace takes back."""
    to_sheet = photo_to_sheet(scene)
    if pixels is None or to_sheet is None:
        raise ShapeError("Follow edge", "the photo is not ready", "select a cutout with a photo and try again")
    scale = working_scale(scene, to_sheet)
    wires = _Wires(pixels, scale)
    try:
        return (yield from _follow(scene, wires, to_sheet, _SMOOTHNESS / scale))
    finally:
        wires.stop()


def photo_to_sheet(scene: Scene) -> Affine | None:
    """Return the map of the selected photo's px to the sheet, None without a photo."""
    photo = scene.photo if scene.selected else None
    placement = scene.item.content_placement if scene.selected else None
    return None if photo is None or placement is None else placement.to_sheet(photo.width, photo.height)


def working_scale(scene: Scene, to_sheet: Affine) -> float:
    """Return working px per photo px: about one working px for each px of the screen, never above 1."""
    photo_px_per_view_px = scene.reach / 6 / abs(to_sheet.determinant) ** 0.5
    return float(min(1.0, 1 / max(photo_px_per_view_px, 1e-6)))


class _Trail:
    """The anchors clicked so far, in photo px, and the ways between them."""

    def __init__(self, scene: Scene, wires: _Wires, to_sheet: Affine) -> None:
        self._wires, self._to_sheet, self._reach = wires, to_sheet, scene.reach * 1.6
        self.anchors: list[tuple[float, float]] = []
        self.ways: list[Points] = []
        self._taken_back: list[tuple[tuple[float, float], Points | None]] = []

    def may_close(self, event: SketchEvent) -> bool:
        """Whether there is enough of a contour, and a click at this place would close it."""
        if len(self.ways) < _LEAST - 1:
            return False
        x, y = self._to_sheet.apply(*self.anchors[0])
        return event.kind == "enter" or math.hypot(event.x - x, event.y - y) <= self._reach

    def reach_out(self, to: tuple[float, float], *, is_straight: bool) -> None:
        """Add an anchor and the way to it."""
        if self.anchors:
            self.ways.append(self._way(to, is_straight=is_straight, snaps=True))
            to = (float(self.ways[-1][-1, 0]), float(self.ways[-1][-1, 1]))
        self._taken_back.clear()
        self.anchors.append(to)
        self._wires.begin(*to)

    def close(self, *, is_straight: bool) -> None:
        """Add the way back to the first anchor."""
        self.ways.append(self._way(self.anchors[0], is_straight=is_straight, snaps=True))

    def take_back(self) -> None:
        """Take the last anchor back."""
        if self.anchors:
            self._taken_back.append((self.anchors.pop(), self.ways.pop() if self.ways else None))
        if self.anchors:
            self._wires.begin(*self.anchors[-1])

    def put_back(self) -> None:
        """Have the anchor again that was taken back last."""
        if self._taken_back:
            anchor, way = self._taken_back.pop()
            self.anchors.append(anchor)
            self.ways += [] if way is None else [way]
            self._wires.begin(*anchor)

    def shown(self, event: SketchEvent, to: tuple[float, float]) -> SketchShown:
        """Return what is to be seen with the pointer at a place in photo px."""
        loose = self._way(to, is_straight=event.has_shift) if self.anchors else None
        words = counted(len(self.anchors), "point") if self.anchors else "Click on the edge to begin"
        return SketchShown(
            tuple(transform(w, self._to_sheet) for w in self.ways),
            () if loose is None else (transform(loose, self._to_sheet),),
            tuple(self._to_sheet.apply(*a) for a in self.anchors),
            (),
            "Click to close the shape" if self.may_close(event) else words,
            is_waiting=bool(self.anchors) and self._wires.wire is None,
            back=_POINT if self.anchors else "",
            again=_POINT if self._taken_back else "",
        )

    def _way(self, end: tuple[float, float], *, is_straight: bool, snaps: bool = False) -> Points:
        """Return the way from the last anchor: along the edge where the wire is ready, else straight."""
        start = self.anchors[-1]
        wire = None if is_straight else self._wires.wire
        straight = np.array([start, end], np.float64)
        if wire is None or not wire.window.holds(*end):
            return straight
        target = wire.snapped(*end) if snaps else end
        way = wire.way_to(*target)
        way = way if math.hypot(*(way[0] - start)) <= math.hypot(*(way[-1] - start)) else way[::-1]
        return np.concatenate([straight[:1], way[1:-1], np.array([target])])


def _follow(scene: Scene, wires: _Wires, to_sheet: Affine, smoothness: float) -> Sketch:
    to_photo, trail = to_sheet.inverse(), _Trail(scene, wires, to_sheet)
    shown, later = SketchShown(words="Click on the edge to begin"), deque[SketchEvent]()
    event = yield shown
    while True:
        at = to_photo.apply(event.x, event.y)
        closes = event.kind in ("press", "enter") and trail.may_close(event)
        if trail.anchors and not event.has_shift and (closes or event.kind == "press"):
            yield from _until_built(wires, shown, later)
        if closes:
            trail.close(is_straight=event.has_shift)
            return _done(scene, trail.ways, to_sheet, smoothness)
        if event.kind == "press":
            trail.reach_out(at, is_straight=event.has_shift)
            if len(trail.anchors) == 1 and not event.has_shift:
                first = yield from _until_built(wires, trail.shown(event, at), later)
                trail.anchors[0] = first.anchor
        elif event.kind == "back":
            trail.take_back()
        elif event.kind == "again":
            trail.put_back()
        shown = trail.shown(event, at)
        event = later.popleft() if later else (yield shown)


def _until_built(
    wires: _Wires, shown: SketchShown, later: deque[SketchEvent]
) -> Generator[SketchShown, SketchEvent, LiveWire]:
    """Let time go by until the newest anchor's wire is built; what is done meanwhile is done afterwards."""
    while (wire := wires.wire) is None:
        event = yield replace(shown, is_waiting=True)
        if event.kind != "tick":
            later.append(event)
    return wire


def _done(scene: Scene, ways: list[Points], to_sheet: Affine, smoothness: float) -> Edit:
    way = np.concatenate([w[:-1] for w in ways])
    keep = np.hypot(*(way - np.roll(way, 1, axis=0)).T) > 1e-9
    placed = transform(way[keep], to_sheet)
    scale = abs(to_sheet.determinant) ** 0.5
    shape, placement = followed_shape((placed,), smoothness * scale, made_by="Followed edge")
    return finished(scene, "Follow the edge", shape, placement)


FOLLOW_EDGE = SketchKind(
    "follow",
    follow_edge,
    "Click along the edge · Shift goes straight · first point or Enter closes · Ctrl+Z takes one back",
)
