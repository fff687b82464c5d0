"""Drives sketches, what is drawn by many clicks and keys: by points, freehand, round objects, along edges."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer, Signal

from glasscap.app.bench.canvas import Canvas
from glasscap.app.session import Session
from glasscap.core.errors import GlassCapError
from glasscap.editor.sketches.sketch import EventKind, Sketch, SketchEvent, SketchKind, SketchShown
from glasscap.editor.tools.pointer import Edit, PointerEvent

# How often a sketch that waits for a thread is asked.
_TICK_MS = 60


class SketchDriver(QObject):
    """One sketch at a time, the one the session asks for, until it ends in a step or is given up.

    `changed()` when what it shows may have changed.
    """

    changed = Signal()

    def __init__(
        self,
        session: Session,
        bench: Canvas,
        begin: Callable[[SketchKind], Sketch],
        where: Callable[[], tuple[float, float]],
        finish: Callable[[Edit | None], None],
    ) -> None:
        super().__init__(bench)
        self._session, self._bench = session, bench
        self._begin, self._where, self._finish = begin, where, finish
        self._kind: SketchKind | None = None
        self._sketch: Sketch | None = None
        self._ticks = QTimer(bench, singleShot=True, interval=_TICK_MS)
        self._ticks.timeout.connect(self._tick)
        self.shown: SketchShown | None = None

    @property
    def is_active(self) -> bool:
        """Whether a sketch goes on."""
        return self._sketch is not None

    def follow_session(self) -> None:
        """Begin the sketch the session asks for, or give up the one that goes on."""
        if self._session.sketch is self._kind:
            return
        if self._sketch is not None:
            self._sketch.close()
            self._session.put_down(self)
        self._kind, self._sketch, self.shown = self._session.sketch, None, None
        if self._kind is not None:
            self._sketch = self._begin(self._kind)
            self._session.take_in_hand(self)
            try:
                self.shown = next(self._sketch)
            except StopIteration:
                self._end(None)
            except GlassCapError as error:
                self._end(None)
                self._session.problem_found.emit(error.line)
        self.changed.emit()
        self._bench.update()

    @property
    def back(self) -> str:
        """The name of the step that undo takes back."""
        return "" if self.shown is None else self.shown.back

    @property
    def again(self) -> str:
        """The name of the step that redo puts back."""
        return "" if self.shown is None else self.shown.again

    @property
    def takes_escape(self) -> bool:
        """Whether Escape leaves something within the sketch first."""
        return self.shown is not None and self.shown.takes_escape

    def take_back(self) -> None:
        """Take the last point or stroke back."""
        self.key("back")

    def put_back(self) -> None:
        """Have it again."""
        self.key("again")

    def key(self, kind: EventKind) -> bool:
        """Send a key to the sketch that goes on; whether there is one."""
        if self._sketch is None:
            return False
        self.tell(kind, PointerEvent(*self._where()))
        return True

    def _tick(self) -> None:
        self.key("tick")

    def tell(self, kind: EventKind, at: PointerEvent) -> None:
        """Send what the pointer does to the sketch that goes on."""
        assert self._sketch is not None
        px = self._bench.ratio / self._bench.viewport.zoom
        event = SketchEvent(kind, at.x, at.y, at.has_shift, at.has_ctrl, at.has_right_button, px)
        before = (self.back, self.again)
        try:
            self.shown = self._sketch.send(event)
            if before != (self.back, self.again):
                self._session.saved_changed.emit()
            self.changed.emit()
            if self.shown.is_waiting:
                self._ticks.start()
        except StopIteration as end:
            self._end(end.value)
        except GlassCapError as error:
            # The drawing encloses nothing, or the like: the sketch begins anew.
            self._kind = None
            self.follow_session()
            self._session.problem_found.emit(error.line)
        self._bench.update()

    def _end(self, edit: Edit | None) -> None:
        self._sketch = self.shown = self._kind = None
        self._session.put_down(self)
        self._session.set_sketch(None)
        self._finish(edit)
