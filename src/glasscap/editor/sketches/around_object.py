"""Around an object: a rough box, then its contour by graph cut, corrected by strokes."""

from concurrent.futures import Future
from typing import Literal

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.history import History
from glasscap.core.document.model.job import PhotoContent
from glasscap.core.document.shapes.found_object import (
    FoundObject,
    RoughBox,
    find_object,
    hints_of,
    object_drawing,
)
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.outline import Points, transform
from glasscap.core.geometry.types import Affine
from glasscap.core.raster.live_wire import Hint
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.kinds import ObjectDrawing, PointsShape
from glasscap.core.work.threads import workers
from glasscap.core.work.ticket import Ticket
from glasscap.editor.sketches.follow_edge import photo_to_sheet
from glasscap.editor.sketches.sketch import Sketch, SketchEvent, SketchKind, SketchShown, finished
from glasscap.editor.tools.pointer import Scene

# The brush's radius in px of the screen, whatever the zoom.
_BRUSH, _LEAST = 9.0, 8.0
_BEGIN = "Drag a rough box around the object"
_CORRECT = "Stroke over what is missing · right button over what is too much · Enter takes it"


def around_object(scene: Scene, pixels: Bytes | None) -> Sketch:
    """Drag a box; strokes add or take away, with the right button always the latter; Enter gives the shape."""
    to_sheet = photo_to_sheet(scene)
    if pixels is None or to_sheet is None:
        raise ShapeError(
            "Around this object", "the photo is not ready", "select a cutout with a photo and try again"
        )
    work = _Work(pixels)
    kept = _kept_drawing(scene)
    if kept is not None:
        # A contour that was drawn before is gone on with: its box and strokes are there.
        work.begin(_Cut(kept.box, hints_of(kept)))
    try:
        return (yield from _around(scene, work, to_sheet))
    finally:
        work.stop()


class _Cut(Struct, frozen=True, eq=False):
    """A drawing so far, in photo px: the box, the strokes, and the contour they gave."""

    box: RoughBox | None = None
    hints: tuple[Hint, ...] = ()
    found: FoundObject | None = None


def _kept_drawing(scene: Scene) -> ObjectDrawing | None:
    """Return the drawing behind the cutout's shape, if it was drawn on the photo that is there now."""
    shape = scene.item.shape
    drawn = shape.drawn if isinstance(shape, PointsShape) else None
    return drawn if drawn is not None and drawn.photo == _photo_of(scene) else None


def _photo_of(scene: Scene) -> str:
    content = scene.item.content
    assert isinstance(content, PhotoContent)
    return content.sha256


class _Work:
    """The cuts by now, the stroke that is being drawn, and the cut that goes on in a thread."""

    def __init__(self, pixels: Bytes) -> None:
        self._pixels = pixels
        self._pool = workers("cut")
        self._future: Future[FoundObject | None] | None = None
        self._next: _Cut | None = None
        self._ticket = Ticket()
        self._done: History[_Cut] = History((_Cut(),))
        self.start: tuple[float, float] | None = None
        self.stroke: list[tuple[float, float]] = []
        self.takes_away, self.choice = False, "add"

    @property
    def cut(self) -> _Cut:
        """The drawing so far; without a contour while that is being computed."""
        return self._done.value if self._next is None else self._next

    @property
    def is_waiting(self) -> bool:
        """Whether a cut goes on; takes its result when it has ended."""
        if self._future is not None and self._future.done() and self._next is not None:
            found, made = self._future.result(), self._next
            self._future = self._next = None
            if found is not None or made.hints:
                self._done = self._done.applied("cut", replace(made, found=found))
        return self._future is not None

    @property
    def share(self) -> float:
        """The share of the cut that is done, 0 to 1."""
        return self._ticket.share

    @property
    def back(self) -> str:
        """The name of the step that undo takes back."""
        if self.start is None and self._next is None and self._done.undo_label is None:
            return ""
        return "the last stroke" if self.cut.hints or (self.start and self.cut.box) else "the box"

    @property
    def again(self) -> str:
        """The name of the step that redo puts back."""
        return "what was taken back" if self._done.redo_label and self._next is None else ""

    def press(self, at: tuple[float, float], *, takes_away: bool) -> None:
        """Begin the box or a stroke, in photo px."""
        self.start, self.stroke, self.takes_away = at, [at], takes_away or self.choice == "take"

    def release(self, radius: float) -> None:
        """End the box or the stroke, `radius` photo px wide, and cut anew."""
        if self.start is None:
            return
        drawn = self.cut
        if drawn.box is None:
            drawn = _Cut(_box(self.start, self.stroke[-1]))
        elif len(self.stroke) > 1:
            hint = Hint(np.array(self.stroke), radius, not self.takes_away)
            drawn = replace(drawn, hints=(*drawn.hints, hint))
        self.start, self.stroke = None, []
        if drawn.box is not None and drawn is not self.cut:
            self.begin(drawn)

    def take_back(self) -> None:
        """Give up the stroke or the cut that goes on, else take the last one back."""
        if self.start is not None:
            self.start, self.stroke = None, []
        elif self._next is not None:
            self._ticket.stop.set()
            self._future = self._next = None
        else:
            self._done = self._done.undone()

    def put_back(self) -> None:
        """Have again what was taken back last."""
        if self._next is None and self.start is None:
            self._done = self._done.redone()

    def begin(self, cut: _Cut) -> None:
        """Cut anew by the box and the strokes of a drawing."""
        self._ticket.stop.set()
        self._ticket, self._next = Ticket(), cut
        assert cut.box is not None
        self._future = self._pool.submit(find_object, self._pixels, cut.box, cut.hints, self._ticket)

    def stop(self) -> None:
        """Give up what goes on, without waiting for it."""
        self._ticket.stop.set()
        self._pool.shutdown(wait=False, cancel_futures=True)


def _around(scene: Scene, work: _Work, to_sheet: Affine) -> Sketch:
    to_photo, scale = to_sheet.inverse(), abs(to_sheet.determinant) ** 0.5
    event = yield _shown(to_sheet, work, (0.0, 0.0), 0.0)
    while True:
        at = to_photo.apply(event.x, event.y)
        _do(work, event, at, _BRUSH * event.px / scale)
        if event.kind == "enter" and not work.is_waiting and work.cut.found is not None:
            shape, placement = work.cut.found.shape(to_sheet)
            assert work.cut.box is not None
            shape = replace(shape, drawn=object_drawing(_photo_of(scene), work.cut.box, work.cut.hints))
            return finished(scene, "Around this object", shape, placement)
        event = yield _shown(to_sheet, work, at, _BRUSH * event.px)


def _do(work: _Work, event: SketchEvent, at: tuple[float, float], radius: float) -> None:
    if event.kind == "press":
        work.press(at, takes_away=event.has_right_button)
    elif event.kind in ("move", "release") and work.start is not None:
        work.stroke.append(at)
        if event.kind == "release":
            work.release(radius)
    elif event.kind in ("back", "escape"):
        work.take_back()
    elif event.kind == "again":
        work.put_back()
    elif event.kind in ("add", "take"):
        work.choice = event.kind


def _box(one: tuple[float, float], other: tuple[float, float]) -> RoughBox | None:
    box = _rough(one, other)
    return box if box[2] - box[0] >= _LEAST and box[3] - box[1] >= _LEAST else None


def _shown(to_sheet: Affine, work: _Work, at: tuple[float, float], brush: float) -> SketchShown:
    is_waiting, drawn = work.is_waiting, work.cut
    lines: tuple[Points, ...] = ()
    loose: list[Points] = []
    if drawn.found is not None:
        flat = flatten(drawn.found.outline.transformed(to_sheet), tolerance=0.2)
        lines = tuple(np.concatenate([p, p[:1]]) for p in flat)
    if drawn.box is None and work.start is not None:
        loose.append(transform(_corners(_rough(work.start, at)), to_sheet))
    elif drawn.box is not None and drawn.found is None:
        loose.append(transform(_corners(drawn.box), to_sheet))
    if drawn.box is not None and len(work.stroke) > 1:
        loose.append(transform(np.array(work.stroke), to_sheet))
    waiting = f"Finding the contour, {100 * work.share:.0f} % · Escape gives it up"
    words = waiting if is_waiting else _BEGIN if drawn.box is None else _CORRECT
    choice: Literal["", "add", "take"] = "" if drawn.box is None else "take" if work.choice == "take" else "add"
    return SketchShown(
        lines,
        tuple(loose),
        words=words,
        is_waiting=is_waiting,
        back=work.back,
        again=work.again,
        takes_escape=is_waiting or work.start is not None,
        brush=0.0 if drawn.box is None else brush,
        tinted=lines,
        choice=choice,
    )


def _rough(one: tuple[float, float], other: tuple[float, float]) -> RoughBox:
    return min(one[0], other[0]), min(one[1], other[1]), max(one[0], other[0]), max(one[1], other[1])


def _corners(box: RoughBox) -> Points:
    x0, y0, x1, y1 = box
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)], np.float64)


AROUND_OBJECT = SketchKind(
    "around",
    around_object,
    "Drag a rough box · strokes add or take away · Enter ends · Ctrl+Z takes one back · Escape leaves",
)
