"""Following an edge of the photo: the line between clicks clings to it."""

import math
from concurrent.futures import Future, ThreadPoolExecutor

import numpy as np

from glasscap.core.document.points import followed_shape
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.outline import Points, transform
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import LiveWire, window_around
from glasscap.core.raster.pixels import Bytes
from glasscap.editor.sketches.sketch import Sketch, SketchEvent, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Edit, Scene

# Working px the curve may leave the edge by at first, and how many photo px stand behind one at the most.
_SMOOTHNESS = 1.6
_LEAST = 3


class _Wires:
    """Builds live wires in a thread, the newest anchor's only."""

    def __init__(self, pixels: Bytes, scale: float) -> None:
        self._pixels, self._scale = pixels, scale
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="wire")
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

    def finish(self) -> LiveWire | None:
        """Wait for the wire."""
        return None if self._future is None or self._future.cancelled() else self._future.result()

    def stop(self) -> None:
        """End the thread, without waiting for what it does."""
        self._pool.shutdown(wait=False, cancel_futures=True)


def follow_edge(scene: Scene, pixels: Bytes | None) -> Sketch:
    """Click along a contour; the first point or Enter closes it; Alt goes straight, Backspace takes one back."""
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


def _follow(scene: Scene, wires: _Wires, to_sheet: Affine, smoothness: float) -> Sketch:
    to_photo = to_sheet.inverse()
    anchors: list[tuple[float, float]] = []
    ways: list[Points] = []
    event = yield SketchShown(words="Click on the edge to begin")
    while True:
        x, y = to_photo.apply(event.x, event.y)
        if event.kind == "press":
            if len(ways) >= _LEAST - 1 and _is_near(event, to_sheet.apply(*anchors[0]), scene.reach * 1.6):
                ways.append(_way(wires, anchors[-1], anchors[0], is_straight=event.has_alt, waits=True))
                return _done(scene, ways, to_sheet, smoothness)
            if anchors:
                ways.append(_way(wires, anchors[-1], (x, y), is_straight=event.has_alt, waits=True))
                anchors.append((float(ways[-1][-1, 0]), float(ways[-1][-1, 1])))
            else:
                anchors.append((x, y))
            wires.begin(*anchors[-1])
            if len(anchors) == 1 and not event.has_alt:
                first = wires.finish()
                anchors[0] = first.anchor if first is not None else anchors[0]
        elif event.kind == "back" and anchors:
            anchors.pop()
            if ways:
                ways.pop()
            if anchors:
                wires.begin(*anchors[-1])
        elif event.kind == "enter" and len(ways) >= _LEAST - 1:
            ways.append(_way(wires, anchors[-1], anchors[0], is_straight=event.has_alt, waits=True))
            return _done(scene, ways, to_sheet, smoothness)
        loose = _way(wires, anchors[-1], (x, y), is_straight=event.has_alt) if anchors else None
        is_closing = len(ways) >= _LEAST - 1 and _is_near(event, to_sheet.apply(*anchors[0]), scene.reach * 1.6)
        event = yield SketchShown(
            tuple(transform(w, to_sheet) for w in ways),
            () if loose is None else (transform(loose, to_sheet),),
            tuple(to_sheet.apply(*a) for a in anchors),
            (),
            _words(anchors, is_closing=is_closing),
            is_waiting=bool(anchors) and wires.wire is None,
        )


def _words(anchors: list[tuple[float, float]], *, is_closing: bool) -> str:
    if not anchors:
        return "Click on the edge to begin"
    return "Click to close the shape" if is_closing else f"{len(anchors)} points"


def _is_near(event: SketchEvent, at: tuple[float, float], reach: float) -> bool:
    return math.hypot(event.x - at[0], event.y - at[1]) <= reach


def _way(
    wires: _Wires, start: tuple[float, float], end: tuple[float, float], *, is_straight: bool, waits: bool = False
) -> Points:
    """Return the way between two places in photo px: along the edge where the wire is ready, else straight."""
    wire = None if is_straight else wires.finish() if waits else wires.wire
    straight = np.array([start, end], np.float64)
    if wire is None or not wire.window.holds(*end):
        return straight
    target = wire.snapped(*end) if waits else end
    way = wire.way_to(*target)
    way = way if math.hypot(*(way[0] - start)) <= math.hypot(*(way[-1] - start)) else way[::-1]
    return np.concatenate([straight[:1], way[1:-1], np.array([target])])


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
    "Click along the edge · Alt goes straight · first point or Enter closes · Backspace takes back · Escape",
)
