"""Drives pointer tools: from presses and moves of the toolkit to previews and steps of the session."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QMouseEvent

from glasscap.app.bench.canvas import Canvas
from glasscap.app.bench.sketch_driver import SketchDriver
from glasscap.app.session import Session
from glasscap.core.document.arranging.grips import Grip, held
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item, has_item
from glasscap.core.document.shapes.points import nodes_on_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.raster.pixels import Bytes
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.nodes import Nodes, Place, present
from glasscap.editor.form_handles import FormHandle, form_handles
from glasscap.editor.handles import (
    Frame,
    Handle,
    frame_for,
    photo_frame,
    selection_frame,
    selection_handles,
    shape_frame,
)
from glasscap.editor.picking import form_at, frame_holds, handle_at, hit_at, item_at, shape_holds, shows_at
from glasscap.editor.point_picking import PointHit, point_at
from glasscap.editor.tools.draw_shape import draw_shape
from glasscap.editor.tools.edit_points import edit_points
from glasscap.editor.tools.form import drag_form
from glasscap.editor.tools.move import move
from glasscap.editor.tools.pointer import Edit, PointerEvent, Scene, Shown, Tool
from glasscap.editor.tools.scale import scale
from glasscap.editor.tools.select_band import select_band
from glasscap.editor.tools.turn import turn

_HANDLE_REACH, _SNAP_REACH, _TURN_REACH, _ROUND_REACH, _DRAG_START = 10, 6, 30, 22, 3


class PointerDriver:
    """One drag at a time: previews while it lasts, one step on release, nothing on Escape."""

    def __init__(self, session: Session, bench: Canvas) -> None:
        self._session, self._bench = session, bench
        self._tool: Tool | None = None
        self._waiting: tuple[PointerEvent, QPointF] | None = None
        self._press: PointerEvent | None = None
        self.shown: Shown | None = None
        self._scene_job: Job | None = None
        self._scene_of: Job | None = None
        self._form: FormHandle | None = None
        self.at = (0.0, 0.0)
        self.sketching = SketchDriver(
            session,
            bench,
            lambda kind: kind.begin(self._scene(), self._photo_pixels()),
            lambda: bench.to_sheet(*self.at),
            self._finish,
        )

    @property
    def is_active(self) -> bool:
        """Whether a drag goes on."""
        return self._tool is not None

    def handles(self) -> tuple[Handle, ...]:
        """Return the handles of what is selected, with its job as previewed."""
        job, items = self._selection()
        return selection_handles(job, items, self.grip, self._reach(_TURN_REACH)) if items else ()

    def frame(self) -> Frame | None:
        """Return the frame those handles sit on."""
        job, items = self._selection()
        return selection_frame(job, items, self.grip) if items else None

    def _selection(self) -> tuple[Job, tuple[Item, ...]]:
        job = self._session.focus(self._session.job)
        return job, tuple(find_item(job, i) for i in self._session.chosen_ids)

    @property
    def grip(self) -> Grip:
        """The grip in force: an open part is held like a shape."""
        return "shape" if self._session.part is not None else self._session.grip

    def forms(self) -> tuple[FormHandle, ...]:
        """Return the handles of the shape's own numbers, while the grip holds the shape alone."""
        session = self._session
        item = session.seen_item
        if len(session.selected) != 1 or item is None or held(self.grip, item) != "shape":
            return ()
        return form_handles(item, self._reach(_ROUND_REACH))

    @property
    def pointer_reach(self) -> float:
        """The snapping distance in sheet px, as tools get it."""
        return self._reach(_SNAP_REACH)

    def _reach(self, view_px: float) -> float:
        return view_px * self._bench.ratio / self._bench.viewport.zoom

    @property
    def point_reach(self) -> float:
        """The distance from which the pointer takes a point, in sheet px."""
        return self._reach(_HANDLE_REACH)

    def choose_point(self, x: float, y: float) -> None:
        """Choose the point at a place on the sheet, if there is one that is not chosen."""
        hit = point_at(self.nodes(), self.chosen, x, y, self.point_reach)
        if hit is not None and hit.kind == "node" and hit.place not in self.chosen:
            self._session.choose_points(frozenset({hit.place}))

    def press(self, event: QMouseEvent) -> None:
        """Begin what lies under the pointer."""
        if self.sketching.is_active and event.button() == Qt.MouseButton.RightButton:
            self.sketching.tell("press", self._pointer(event))
            return
        if event.button() != Qt.MouseButton.LeftButton:
            if self._tool is not None:
                self.move(event)
            return
        at = self._pointer(event)
        if not self._press_tool(at):
            self._press_grip(at, event.position())

    def _press_tool(self, at: PointerEvent) -> bool:
        """Give a press to the tool that takes the clicks for itself; whether there is one."""
        session = self._session
        if self.sketching.is_active:
            self.sketching.tell("press", at)
        elif session.is_editing_points:
            self._press_points(at)
        elif session.drawing:
            self._begin(draw_shape(self._scene(), at, session.drawing))
        elif session.aim is not None and session.item is not None:
            self._begin(session.aim.begin(self._scene(), at, self._photo_pixels()))
        else:
            return False
        return True

    def _press_grip(self, at: PointerEvent, where: QPointF) -> None:
        """Begin with a handle, with what the grip holds, or with a frame that selects."""
        handle = handle_at(self.handles(), at.x, at.y, self._reach(_HANDLE_REACH))
        if handle is not None:
            tool = turn if handle.kind == "turn" else scale
            self._begin(tool(self._scene(), at, handle))
            return
        form = form_at(self.forms(), at.x, at.y, self._reach(_HANDLE_REACH))
        if form is not None:
            self._form = form
            self._begin(drag_form(self._scene(), at, form))
            return
        if self._hit(at) is None and not self._holds(at):
            self._begin(select_band(self._scene(), at, self._session.items, self._session.selected))
            return
        self._choose(at)
        if self._session.selected and self._session.item is not None and not self._session.item.is_locked:
            self._waiting = (at, where)

    def _photo_pixels(self) -> Bytes | None:
        """Return the selected photo's pixels if they are at hand."""
        photo, store = self._session.photo, self._session.store
        return store.pyramid(photo).photo.rgba if photo is not None and store.is_decoded(photo) else None

    def _choose(self, at: PointerEvent) -> None:
        """Select what is clicked; what the grip holds of the selected item stays selected."""
        session = self._session
        hit = self._hit(at)
        if self._is_in_word(at) and not at.has_shift:
            return
        if at.has_shift and hit is not None:
            session.toggle_selected(hit.id)
        elif self._holds(at) and (hit is None or hit.id in session.selected or self._is_ghost_drag(at)):
            return
        elif hit is None and not session.selected:
            session.enter_group(None)
        else:
            session.select(() if hit is None else (hit.id,))

    def _hit(self, at: PointerEvent) -> Item | None:
        return self.item_under(at.x, at.y)

    def item_under(self, x: float, y: float) -> Item | None:
        """Return what a click at a place on the sheet would select: a closed group as a whole."""
        return hit_at(self._session.job, self._session.containers, x, y)

    def choose_at(self, event: QMouseEvent) -> None:
        """Select what of the open group lies under the pointer."""
        at = self._pointer(event)
        hit = item_at(self._session.job, self._session.items, at.x, at.y)
        if hit is not None:
            self._session.select((hit.id,))

    def _click(self, at: PointerEvent) -> None:
        """Select what was clicked without a drag, also where the selected photo's hidden part lies over it."""
        session = self._session
        hit = self._hit(at)
        if hit is not None and hit.id not in session.selected and not self._is_in_word(at):
            session.select((hit.id,))

    def _is_in_word(self, at: PointerEvent) -> bool:
        """Whether a place lies in the frame of selected letters: between them the word is meant."""
        session = self._session
        words = [
            i for i in (find_item(session.job, k) for k in session.selected) if isinstance(i.shape, LettersShape)
        ]
        frames = [shape_frame(i) for i in words]
        return any(f is not None and frame_holds(f, at.x, at.y) for f in frames)

    def _holds(self, at: PointerEvent) -> bool:
        session = self._session
        if session.part is not None and session.seen_item is not None:
            return shape_holds(session.seen_item, at.x, at.y)
        for item_id in session.selected:
            item = find_item(session.job, item_id)
            if shows_at(session.job, item, at.x, at.y):
                return True
            frame = frame_for(session.job, item, session.grip)
            # Between letters one still means the word.
            is_whole = held(session.grip, item) == "photo" or isinstance(item.shape, LettersShape)
            if frame is not None and is_whole and frame_holds(frame, at.x, at.y):
                return True
        return False

    def _is_ghost_drag(self, at: PointerEvent) -> bool:
        item, photo = self._session.item, self._session.photo
        frame = None if item is None or photo is None else photo_frame(item, photo)
        return self._session.grip == "photo" and frame is not None and frame_holds(frame, at.x, at.y)

    def move(self, event: QMouseEvent) -> None:
        """Go on with the drag, or show what a press would take."""
        self.at = (event.position().x(), event.position().y())
        if self.sketching.is_active:
            self.sketching.tell("move", self._pointer(event))
            return
        if self._session.item is None:
            self._waiting = None
        if not event.buttons() and (self._tool is not None or self._waiting is not None):
            # The release went elsewhere, to a menu or another window.
            self.cancel()
        if self._waiting is not None:
            press, where = self._waiting
            way = event.position() - where
            if abs(way.x()) + abs(way.y()) < _DRAG_START:
                return
            self._waiting = None
            self._begin(move(self._scene(), press))
        if self._tool is not None:
            self._send(self._pointer(event))
        elif not event.buttons():
            self._show_cursor(self._pointer(event))
            if self._session.aim is not None and self._session.aim.brush:
                # The ring goes with the pointer.
                self._bench.update()

    def release(self, event: QMouseEvent) -> None:
        """End the drag as one step."""
        if self.sketching.is_active and event.button() == Qt.MouseButton.RightButton:
            self.sketching.tell("release", self._pointer(event))
            return
        if event.button() != Qt.MouseButton.LeftButton:
            if self._tool is not None:
                self.move(event)
            return
        if self.sketching.is_active:
            self.sketching.tell("release", self._pointer(event))
            return
        if self._waiting is not None and not event.modifiers():
            self._click(self._waiting[0])
        self._waiting = None
        if self._tool is not None:
            self._send(self._pointer(event, is_released=True))

    def cancel(self) -> None:
        """Drop the drag."""
        self._session.put_down(self)
        if self._tool is not None:
            self._tool.close()
        self._tool = self._waiting = self.shown = self._form = None
        self._session.drop_preview()
        self._bench.update()

    # a drag in hand

    @property
    def back(self) -> str:
        """The drag in progress as undo knows it."""
        return "the drag"

    @property
    def again(self) -> str:
        """Nothing comes after a drag."""
        return ""

    def take_back(self) -> None:
        """Drop the drag."""
        self.cancel()

    def put_back(self) -> None:
        """Nothing comes after a drag."""

    def _begin(self, tool: Tool) -> None:
        self._tool = tool
        self._session.take_in_hand(self)
        try:
            self.shown = next(tool)
        except StopIteration:
            self._tool = None
            self._session.put_down(self)
        except GlassCapError as error:
            self.cancel()
            self._session.problem_found.emit(error.line)

    def _send(self, event: PointerEvent) -> None:
        assert self._tool is not None
        if self._session.committed is not self._scene_of:
            # A key did another step meanwhile: to go on would take it back unasked.
            self.cancel()
            return
        try:
            self.shown = self._tool.send(event)
            self._session.preview(self._session.unfocus(self.shown.job))
        except StopIteration as end:
            self._tool = self.shown = None
            self._session.put_down(self)
            self._finish(end.value)
        except GlassCapError as error:
            self.cancel()
            self._session.problem_found.emit(error.line)
        self._bench.show_soon()

    def _finish(self, edit: Edit | None) -> None:
        session = self._session
        if edit is not None and edit.chosen is not None:
            session.choose_points(edit.chosen)
        if edit is not None and edit.change is not None:
            if session.apply_to_shape(edit.label, edit.change) and edit.selected is not None:
                session.select([i for i in edit.selected if has_item(session.job, i)])
            return
        form, self._form = self._form, None
        if edit is not None and edit.job is self._scene_job and edit.selected is not None:
            self._end_band(edit.selected)
            return
        if edit is None or edit.job is self._scene_job:
            session.drop_preview()
            if form is not None and form.kind == "round":
                # A click on a corner's ring chooses that corner for the number in the step.
                session.choose_corner(None if session.corner == form.number else form.number)
            return
        session.apply(edit.label, lambda _: session.unfocus(edit.job))
        if edit.selected is not None:
            session.select(edit.selected)
        session.set_drawing(None)

    def _end_band(self, selected: tuple[str, ...]) -> None:
        """Select what lay in the frame; a click on nothing with nothing selected closes the open group."""
        session = self._session
        session.drop_preview()
        if not selected and not session.selected:
            session.enter_group(None)
        session.select(selected)

    # points

    def nodes(self) -> Nodes:
        """Return the points of the outline that is edited, () when none is."""
        item = self._session.seen_item
        return nodes_on_sheet(item) if self._session.is_editing_points and item is not None else ()

    @property
    def chosen(self) -> frozenset[Place]:
        """The points chosen by now, those that are there."""
        shown = self.shown.chosen if self.shown is not None else None
        return present(self.nodes(), self._session.chosen_points if shown is None else shown)

    def hit(self, at: PointerEvent) -> PointHit | None:
        """Return what of the outline's points lies under the pointer."""
        return point_at(self.nodes(), self.chosen, at.x, at.y, self.point_reach)

    def _press_points(self, at: PointerEvent) -> None:
        item = self._session.item
        if item is not None and not item.is_locked:
            self._begin(edit_points(self._scene(), at, self.hit(at), self.chosen))

    def _scene(self) -> Scene:
        session = self._session
        reach = self.pointer_reach
        self._scene_of = session.committed
        self._scene_job = session.focus(self._scene_of)
        chosen = session.chosen_ids
        return Scene(
            self._scene_job,
            session.sheet_id,
            chosen,
            self.grip,
            reach,
            session.is_snapping,
            session.open_group,
        )

    def _pointer(self, event: QMouseEvent, *, is_released: bool = False) -> PointerEvent:
        x, y = self._bench.to_sheet(event.position().x(), event.position().y())
        held_keys = event.modifiers()
        return PointerEvent(
            x,
            y,
            is_released,
            bool(held_keys & Qt.KeyboardModifier.ShiftModifier),
            bool(held_keys & Qt.KeyboardModifier.ControlModifier),
            bool(event.buttons() & Qt.MouseButton.RightButton),
        )

    def _show_cursor(self, at: PointerEvent) -> None:
        if self._session.is_editing_points:
            found = self.hit(at)
            shape = Qt.CursorShape.ArrowCursor if found is None else Qt.CursorShape.PointingHandCursor
            if found is not None and found.kind == "segment":
                shape = Qt.CursorShape.CrossCursor
        elif self._session.drawing or self._session.aim is not None:
            shape = Qt.CursorShape.CrossCursor
        else:
            handle = handle_at(self.handles(), at.x, at.y, self._reach(_HANDLE_REACH))
            shape = self._cursor_for(handle, at)
            if handle is None and form_at(self.forms(), at.x, at.y, self._reach(_HANDLE_REACH)) is not None:
                shape = Qt.CursorShape.PointingHandCursor
        if self._bench.cursor().shape() != shape:
            self._bench.setCursor(shape)

    def _cursor_for(self, handle: Handle | None, at: PointerEvent) -> Qt.CursorShape:
        if handle is not None:
            return Qt.CursorShape.PointingHandCursor if handle.kind == "turn" else Qt.CursorShape.SizeAllCursor
        if self._holds(at):
            return Qt.CursorShape.OpenHandCursor
        return Qt.CursorShape.ArrowCursor
