"""Around an object: a rough box, then its contour by graph cut, corrected by strokes."""

from concurrent.futures import Future, ThreadPoolExecutor

import numpy as np

from glasscap.core.document.points import followed_shape
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Outline, Points, transform
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import Hint, cut_object
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.traced import level_lines, trace_mask
from glasscap.core.ticket import Ticket
from glasscap.editor.sketches.follow_edge import photo_to_sheet
from glasscap.editor.sketches.sketch import Sketch, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Scene

_SMOOTHNESS, _BRUSH, _LEAST = 1.3, 1.2, 8.0
_BEGIN = "Drag a rough box around the object"
_CORRECT = "Stroke over what is missing · Alt over what is too much · Enter takes it"
Found = tuple[Outline, tuple[Points, ...], float]


def around_object(scene: Scene, pixels: Bytes | None) -> Sketch:
    """Drag a box; then strokes add, with Alt they take away; Enter gives the shape."""
    to_sheet = photo_to_sheet(scene)
    if pixels is None or to_sheet is None:
        raise ShapeError(
            "Around this object", "the photo is not ready", "select a cutout with a photo and try again"
        )
    work = _Work(pixels, _BRUSH * scene.reach / abs(to_sheet.determinant) ** 0.5)
    try:
        return (yield from _around(scene, work, to_sheet))
    finally:
        work.stop()


class _Work:
    """The box, the strokes, the contour found by now, and the cut that goes on in a thread."""

    def __init__(self, pixels: Bytes, radius: float) -> None:
        self._pixels, self._radius = pixels, radius
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="cut")
        self._future: Future[Found | None] | None = None
        self._ticket = Ticket()
        self.box: tuple[float, float, float, float] | None = None
        self.start: tuple[float, float] | None = None
        self.stroke: list[tuple[float, float]] = []
        self._hints: list[Hint] = []
        self.found: Found | None = None

    @property
    def is_waiting(self) -> bool:
        """Whether a cut goes on; takes its result when it has ended."""
        if self._future is not None and self._future.done():
            self.found, self._future = self._future.result(), None
            if self.found is None and not self._hints:
                self.box = None
        return self._future is not None

    @property
    def share(self) -> float:
        """How much of the cut is done, 0 to 1."""
        return self._ticket.share

    def press(self, at: tuple[float, float]) -> None:
        """Begin the box or a stroke, in photo px."""
        self.start, self.stroke = at, [at]

    def release(self, *, takes_away: bool) -> None:
        """End the box or the stroke and cut anew."""
        if self.start is None:
            return
        if self.box is None:
            self.box = _box(self.start, self.stroke[-1])
        elif len(self.stroke) > 1:
            self._hints.append(Hint(np.array(self.stroke), self._radius, not takes_away))
        self.start, self.stroke = None, []
        self._cut()

    def take_back(self) -> None:
        """Forget the last stroke."""
        if self._hints:
            self._hints.pop()
            self._cut()

    def _cut(self) -> None:
        if self.box is not None:
            self._ticket.stop.set()
            self._ticket = Ticket()
            hints = tuple(self._hints)
            self._future = self._pool.submit(_cut, self._pixels, self.box, hints, self._ticket)

    def stop(self) -> None:
        """Give up what goes on, without waiting for it."""
        self._ticket.stop.set()
        self._pool.shutdown(wait=False, cancel_futures=True)


def _around(scene: Scene, work: _Work, to_sheet: Affine) -> Sketch:
    to_photo, scale = to_sheet.inverse(), abs(to_sheet.determinant) ** 0.5
    event = yield SketchShown(words=_BEGIN)
    while True:
        at = to_photo.apply(event.x, event.y)
        if event.kind == "press":
            work.press(at)
        elif event.kind in ("move", "release") and work.start is not None:
            work.stroke.append(at)
            if event.kind == "release":
                work.release(takes_away=event.has_alt)
        elif event.kind == "back":
            work.take_back()
        if event.kind == "enter" and not work.is_waiting and work.found is not None:
            _, ways, tolerance = work.found
            placed = tuple(transform(w, to_sheet) for w in ways)
            shape, placement = followed_shape(placed, tolerance * scale, made_by="Cut-out object")
            return finished(scene, "Around this object", shape, placement)
        event = yield _shown(to_sheet, work, at)


def _box(one: tuple[float, float], other: tuple[float, float]) -> tuple[float, float, float, float] | None:
    box = _rough(one, other)
    return box if box[2] - box[0] >= _LEAST and box[3] - box[1] >= _LEAST else None


def _cut(
    pixels: Bytes, box: tuple[float, float, float, float], hints: tuple[Hint, ...], ticket: Ticket
) -> Found | None:
    """Return the object's outline and its level lines in photo px with the tolerance there, None for nothing."""
    window, mask = cut_object(pixels, box, hints, ticket)
    to_photo = Affine.translation(window.x, window.y).after(Affine.scaling(1 / window.scale))
    try:
        outline = trace_mask(mask, smoothness=_SMOOTHNESS).transformed(to_photo)
    except ShapeError:
        return None
    ways = tuple(transform(line, to_photo) for line in level_lines(mask))
    return outline, ways, _SMOOTHNESS / window.scale


def _shown(to_sheet: Affine, work: _Work, at: tuple[float, float]) -> SketchShown:
    is_waiting = work.is_waiting
    lines: tuple[Points, ...] = ()
    loose: list[Points] = []
    if work.found is not None:
        flat = flatten(work.found[0].transformed(to_sheet), tolerance=0.2)
        lines = tuple(np.concatenate([p, p[:1]]) for p in flat)
    if work.box is None and work.start is not None:
        loose.append(transform(_corners(_rough(work.start, at)), to_sheet))
    elif work.box is not None and work.found is None:
        loose.append(transform(_corners(work.box), to_sheet))
    if work.box is not None and len(work.stroke) > 1:
        loose.append(transform(np.array(work.stroke), to_sheet))
    waiting = f"Finding the contour, {100 * work.share:.0f} % · Escape cancels"
    words = waiting if is_waiting else _BEGIN if work.box is None else _CORRECT
    return SketchShown(lines, tuple(loose), (), (), words, is_waiting=is_waiting)


def _rough(one: tuple[float, float], other: tuple[float, float]) -> tuple[float, float, float, float]:
    return min(one[0], other[0]), min(one[1], other[1]), max(one[0], other[0]), max(one[1], other[1])


def _corners(box: tuple[float, float, float, float]) -> Points:
    x0, y0, x1, y1 = box
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)], np.float64)


AROUND_OBJECT = SketchKind(
    "around",
    around_object,
    "Drag a rough box · strokes add, with Alt take away · Enter ends · Backspace takes one back · Escape leaves",
)
