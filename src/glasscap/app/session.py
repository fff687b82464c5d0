"""The one mutable object: a job's history, what is selected, and the one signal that it changed."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from glasscap.app.in_hand import InHand
from glasscap.app.runs import current_run
from glasscap.app.tool_at_work import Drawing, ToolAtWork, is_for_one_cutout
from glasscap.core.document.arranging.grips import Grip
from glasscap.core.document.edits.naming import named_after_contents
from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.history import History
from glasscap.core.document.model.job import Item, Job, PhotoRecord, Sheet, walk
from glasscap.core.document.model.query import (
    find_item,
    find_sheet,
    has_item,
    items_in,
    items_of,
    locate,
    path_to,
    photo_of,
    topmost,
)
from glasscap.core.document.shapes.combining import focused, unfocused
from glasscap.core.document.shapes.points import nodes_on_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.photos.store import PhotoStore
from glasscap.core.shapes.kinds import CombinedShape, PointsShape
from glasscap.core.shapes.nodes import Place
from glasscap.editor.sketches.sketch import SketchKind
from glasscap.editor.tools.aim import Aim


class Session(QObject):
    """One job being edited.

    `job_changed(old, new)` tells of every change, previews included; `view_changed()` of the selection, the
    sheet, the grip and the bench's look; `saved_changed()` of each step, file and saved state;
    `problem_found(text)` carries a message for the user, `noted(text)` one that may pass unread.
    """

    job_changed = Signal(object, object)
    view_changed = Signal()
    saved_changed = Signal()
    problem_found = Signal(str)
    noted = Signal(str)

    def __init__(self, job: Job, store: PhotoStore, path: Path | None = None) -> None:
        super().__init__()
        self._history = History((job,))
        self._previewed: Job | None = None
        self.saved_job: Job | None = job if path else None
        self.store, self.path, self._title = store, path, ""
        self.is_read_only = False
        self.sheet_id = job.sheets[0].id
        self.selected: tuple[str, ...] = ()
        self._chosen_last: tuple[str, ...] = ()
        self.open_group: str | None = None
        self.grip: Grip = "together"
        self._grip_before: Grip | None = None
        self.last_drawn = "circle"
        # Numbers of finishes given last, by kind and field ("stroke width"): offered first for the next one.
        self.given: dict[str, float] = {}
        self.tool: ToolAtWork = None
        self.chosen_points: frozenset[Place] = frozenset()
        self.pending: Callable[[], object] | None = None
        self._in_hand: InHand | None = None
        self._run: object = None
        self.corner: int | None = None
        self.part: int | None = None
        self.is_wire = False
        self.is_finishing = False
        self.is_snapping = True
        self.backdrop: str | Backdrop | None = None

    # what there is

    @property
    def job(self) -> Job:
        """The job as shown, a preview while a drag lasts."""
        return self._previewed if self._previewed is not None else self._history.value

    @property
    def committed(self) -> Job:
        """The job without a preview."""
        return self._history.value

    @property
    def is_previewing(self) -> bool:
        """Whether a drag goes on."""
        return self._previewed is not None

    @property
    def drawing(self) -> str | None:
        """The shape that the next drag draws, by its name."""
        return self.tool.shape if isinstance(self.tool, Drawing) else None

    @property
    def aim(self) -> Aim | None:
        """The tool that waits for a drag."""
        return self.tool if isinstance(self.tool, Aim) else None

    @property
    def sketch(self) -> SketchKind | None:
        """The way of drawing in several clicks."""
        return self.tool if isinstance(self.tool, SketchKind) else None

    @property
    def is_library_open(self) -> bool:
        """Whether the shape library lies over the bench."""
        return self.tool == "library"

    @property
    def is_editing_points(self) -> bool:
        """Whether the points of the selected cutout's shape are shown for editing."""
        return self.tool == "points"

    @property
    def is_typing(self) -> bool:
        """Whether letters are typed on the bench."""
        return self.tool == "typing"

    @property
    def is_shaping(self) -> bool:
        """Whether a shape is being drawn, by a drag or by points."""
        return self.sketch is not None or self.drawing is not None

    @property
    def is_saved(self) -> bool:
        """Whether the file holds this very job."""
        return self.committed is self.saved_job

    @property
    def has_work(self) -> bool:
        """Whether there is anything that could be lost."""
        return any(s.items for s in self.committed.sheets) or self._history.undo_label is not None

    @property
    def name(self) -> str:
        """The job's name."""
        return self.path.stem if self.path else self._title or "Untitled"

    @property
    def sheet(self) -> Sheet:
        """The sheet on the bench."""
        return find_sheet(self.job, self.sheet_id)

    @property
    def container_id(self) -> str:
        """The id of what is worked in: the open group, else the sheet."""
        return self.open_group or self.sheet_id

    @property
    def containers(self) -> tuple[str, ...]:
        """The ids of the open group, the groups it lies in, and the sheet."""
        if self.open_group is None:
            return (self.sheet_id,)
        return (*(group.id for group in reversed(path_to(self.job, self.open_group)[1])), self.sheet_id)

    @property
    def items(self) -> tuple[Item, ...]:
        """The items of the open group, else of the sheet, back to front."""
        return items_in(self.job, self.container_id)

    @property
    def chosen(self) -> tuple[Item, ...]:
        """The selected items back to front, without those that lie in another selected one."""
        return topmost(self.sheet.items, set(self.selected))

    @property
    def chosen_ids(self) -> tuple[str, ...]:
        """Their ids in the order they were selected in."""
        if len(self.selected) < 2:
            return self.selected
        top = {i.id for i in self.chosen}
        return tuple(i for i in self.selected if i in top)

    @property
    def offered(self) -> tuple[str, ...]:
        """The selected items, or the last selected ones on this sheet, for export after a click beside."""
        there = {item.id for item in walk(self.sheet.items)}
        return tuple(i for i in self.chosen_ids or self._chosen_last if i in there)

    @property
    def item(self) -> Item | None:
        """The item selected last, or None."""
        return find_item(self.job, self.selected[-1]) if self.selected else None

    @property
    def photo(self) -> PhotoRecord | None:
        """The photo of that item, or None."""
        item = self.item
        return None if item is None else photo_of(self.job, item)

    @property
    def undo_label(self) -> str | None:
        """The name of the step that undo takes back."""
        return self._history.undo_label if self._in_hand is None else self._in_hand.back or None

    @property
    def redo_label(self) -> str | None:
        """The name of the step that redo puts back."""
        return self._history.redo_label if self._in_hand is None else self._in_hand.again or None

    # changing the job

    def apply(self, label: str, edit: Callable[[Job], Job], run: object = None) -> bool:
        """Do an edit as one named step. A GlassCapError becomes a message, and False.

        Edits of one `run`, with nothing else between them, are one step: notches of a wheel, letters typed.
        """
        self.settle()
        old = self.job
        try:
            new = named_after_contents(self.committed, edit(self.committed))
        except GlassCapError as error:
            self.drop_preview()
            self.problem_found.emit(error.line)
            return False
        self._previewed = None
        run = current_run() if run is None else run
        goes_on = run is not None and run == self._run and self._history.redo_label is None
        self._history = self._history.amended(new) if goes_on else self._history.applied(label, new)
        self._run = run
        self._tell(old)
        self._end_aim()
        return True

    def apply_to_shape(self, label: str, edit: Callable[[Job], Job], run: object = None) -> bool:
        """Do an edit of the selected cutout's shape, or of the part of it that is open, as one step."""
        return self.apply(label, lambda job: self._unfocused(job, edit(self.focus(job))), run)

    def focus(self, job: Job) -> Job:
        """Return the job with the open part of a combined shape as the shape: what tools then change."""
        return focused(job, self.selected[-1], self.part) if self.part is not None and self.selected else job

    def unfocus(self, job: Job) -> Job:
        """Return a job that tools changed with the combined shape in its place again."""
        return self._unfocused(self.committed, job)

    def _unfocused(self, before: Job, after: Job) -> Job:
        if self.part is None or not self.selected or not has_item(after, self.selected[-1]):
            return after
        return unfocused(before, after, self.selected[-1], self.part)

    @property
    def seen_item(self) -> Item | None:
        """The item selected last as tools see it: with the open part for its shape."""
        return find_item(self.focus(self.job), self.selected[-1]) if self.selected else None

    def open_part(self, part: int | None) -> None:
        """Open one part of a combined shape: handles and numbers are its own until it is closed."""
        if part != self.part:
            self._put_tools_away()
            self.part = part
            self.view_changed.emit()

    def settle(self) -> None:
        """Make what is still being typed a step of its own."""
        pending, self.pending = self.pending, None
        if pending is not None:
            pending()

    def preview(self, job: Job) -> None:
        """Show a job that is not yet a step."""
        old = self.job
        self._previewed = job
        if job is not old:
            self.job_changed.emit(old, job)

    def drop_preview(self) -> None:
        """Go back to what was before the preview."""
        if self._previewed is not None:
            old, self._previewed = self._previewed, None
            self._tell(old)

    def take_in_hand(self, thing: InHand | None) -> None:
        """Let undo and redo work on something unfinished, or on the job again."""
        if thing is not self._in_hand:
            self._in_hand = thing
            self.saved_changed.emit()

    def put_down(self, thing: InHand) -> None:
        """Let undo and redo work on the job again if they worked on this."""
        if self._in_hand is thing:
            self.take_in_hand(None)

    def undo(self) -> None:
        """Take back the last of what is in hand, else the last step."""
        in_hand = self._in_hand
        if self.undo_label is None:
            what = "back" if in_hand is None else "back here; Escape leaves the drawing"
            self.noted.emit(f"Nothing is left to take {what}")
        elif in_hand is not None:
            in_hand.take_back()
        else:
            self.settle()
            self._go(self._history.undone())

    def redo(self) -> None:
        """Have what was taken back again: of what is in hand, else a step."""
        if self.redo_label is None:
            self.noted.emit("Nothing was taken back that could be done again")
        elif self._in_hand is not None:
            self._in_hand.put_back()
        else:
            self._go(self._history.redone())

    def _go(self, history: "History[Job]") -> None:
        self.pending = self._run = None
        old, counts = self.job, self._point_counts()
        self._previewed = None
        self._history = history
        if not counts or counts != self._point_counts():
            # The numbers of the chosen points are those of others now.
            self.chosen_points = frozenset()
        self._tell(old)
        self._end_aim()
        known = {item.id for _, item in items_of(old)}
        back = [item.id for _, item in items_of(self.job) if item.id not in known]
        if back:
            # Items that came back are the ones to work on next.
            self.select([i.id for i in topmost(locate(self.job, back[-1])[0].items, set(back))])

    def _point_counts(self) -> tuple[int, ...]:
        """How many points each contour of the cutout's shape has; () for any other shape, or a part of one."""
        last = self.selected[-1] if self.selected else ""
        if self.part is not None or not has_item(self.job, last):
            return ()
        return tuple(len(contour) for contour in nodes_on_sheet(find_item(self.job, last)))

    def _end_aim(self) -> None:
        """Let go of a tool that waits for a drag when a step has left it nothing to do."""
        if self.aim is not None and (self.item is None or not self.aim.goes_on(self.item)):
            self.set_aim(None)
        item = self.item
        parts = item.shape.parts if item is not None and isinstance(item.shape, CombinedShape) else ()
        if self.part is not None and self.part >= len(parts):
            self.open_part(None)
        seen = self.seen_item
        if self.is_editing_points and (seen is None or not isinstance(seen.shape, PointsShape)):
            self.set_editing_points(False)

    def _tell(self, old: Job) -> None:
        new = self.job
        self._keep_valid(new)
        if new is not old:
            self.job_changed.emit(old, new)
        self.saved_changed.emit()

    def _keep_valid(self, job: Job) -> None:
        """Let go of what is no longer there."""
        if all(s.id != self.sheet_id for s in job.sheets):
            self.sheet_id = job.sheets[0].id
        is_left = self.open_group is not None and not self._is_group(job, self.open_group)
        if is_left:
            self.open_group = None
        kept = tuple(i for i in self.selected if has_item(job, i))
        is_gone = kept != self.selected
        if is_gone:
            self.selected, self.part = kept, None
            if is_for_one_cutout(self.tool):
                self.tool = None
        if is_left or is_gone:
            self.view_changed.emit()

    # what is looked at

    def select(self, item_ids: Sequence[str]) -> None:
        """Select items; their sheet comes on the bench."""
        chosen = tuple(dict.fromkeys(item_ids))
        opened = self.open_group
        if chosen:
            sheet, way = path_to(self.job, chosen[-1])
            self.sheet_id, opened = sheet.id, way[-2].id if len(way) > 1 else None
        if chosen != self.selected or opened != self.open_group:
            self._put_away_for_others()
            self.selected, self.corner, self.part, self.open_group = chosen, None, None, opened
            self._chosen_last = chosen or self._chosen_last
            self.view_changed.emit()

    def enter_group(self, group_id: str | None) -> None:
        """Open a group on the bench: what it holds is worked on; None closes the one that is open.

        The group that is closed is selected.
        """
        if group_id is not None:
            self._put_away_for_others()
            self.sheet_id = locate(self.job, group_id)[0].id
            self.open_group, self.selected, self.part = group_id, (), None
            self.view_changed.emit()
        elif self.open_group is not None:
            self.select((self.open_group,))

    @staticmethod
    def _is_group(job: Job, item_id: str) -> bool:
        return has_item(job, item_id) and find_item(job, item_id).is_group

    def _put_away_for_others(self) -> None:
        """Leave the tools that belong to the cutout selected so far; the library stays open."""
        self.settle()
        if self._grip_before is not None:
            self.grip, self._grip_before = self._grip_before, None
        if is_for_one_cutout(self.tool):
            self.tool = None
        self.chosen_points = frozenset()

    def toggle_selected(self, item_id: str) -> None:
        """Add an item to the selection, or take it out."""
        if item_id in self.selected:
            self.select([i for i in self.selected if i != item_id])
        else:
            self.select([*self.selected, item_id])

    def show_sheet(self, sheet_id: str) -> None:
        """Bring a sheet on the bench."""
        if sheet_id != self.sheet_id:
            self.sheet_id = sheet_id
            self.selected, self.open_group = (), None
            self.view_changed.emit()

    def set_grip(self, grip: Grip) -> None:
        """Choose what drags move."""
        self._grip_before = None
        if grip != self.grip:
            self.grip = grip
            self.view_changed.emit()

    def hold_photo(self) -> None:
        """Let drags move the selected cutout's photo, until the grip is given back or another is selected."""
        before = self.grip
        self.set_grip("photo")
        self._grip_before = before if before != "photo" else None

    @property
    def is_holding_photo(self) -> bool:
        """Whether the photo is held for a while, and another grip waits to be given back."""
        return self._grip_before is not None

    def give_grip_back(self) -> None:
        """Hold what was held before the photo."""
        if self._grip_before is not None:
            self.set_grip(self._grip_before)

    def set_drawing(self, shape: str | None) -> None:
        """Begin drawing a shape on the bench, or stop; it is drawn again when nothing else is named."""
        self.last_drawn = shape or self.last_drawn
        self._set_tool(None if shape is None else Drawing(shape), shape != self.drawing)

    def set_aim(self, aim: Aim | None) -> None:
        """Give the next drags on the bench to a tool, or back to what the grip holds."""
        if aim is not None:
            self._set_tool(aim, True)
            return
        if self.aim is not None:
            self.tool = None
        self.view_changed.emit()

    def set_library(self, is_open: bool) -> None:
        """Show the shape library over the bench, or put it away."""
        self._set_tool("library" if is_open else None, is_open != self.is_library_open)

    def set_sketch(self, sketch: SketchKind | None) -> None:
        """Begin a way of drawing in several clicks, or leave it."""
        self._set_tool(sketch, sketch is not self.sketch)

    def set_editing_points(self, is_on: bool) -> None:
        """Show the points of the selected cutout's shape for editing, or put them away."""
        self._set_tool("points" if is_on else None, is_on != self.is_editing_points)

    def set_typing(self, is_on: bool) -> None:
        """Type into the selected letters on the bench, or leave off."""
        self._set_tool("typing" if is_on else None, is_on != self.is_typing)

    def _set_tool(self, tool: ToolAtWork, is_change: bool) -> None:
        if is_change:
            self._put_tools_away()
            self.tool = tool
            self.view_changed.emit()

    def choose_points(self, points: frozenset[Place]) -> None:
        """Choose points of the outline."""
        if points != self.chosen_points:
            self.chosen_points = points
            self.view_changed.emit()

    def _put_tools_away(self) -> None:
        """Leave whatever takes the bench's clicks for itself."""
        self.settle()
        self.tool = None
        self.chosen_points = frozenset()

    def choose_corner(self, corner: int | None) -> None:
        """Choose the corner that is rounded by number; None for all."""
        if corner != self.corner:
            self.corner = corner
            self.view_changed.emit()

    def set_look(self, *, is_wire: bool | None = None, is_snapping: bool | None = None) -> None:
        """Switch the wire view or snapping."""
        self.is_wire = self.is_wire if is_wire is None else is_wire
        self.is_snapping = self.is_snapping if is_snapping is None else is_snapping
        self.view_changed.emit()

    def set_finishing(self, is_finishing: bool) -> None:
        """Keep the bench clear of ghost and handles while the pointer is elsewhere, so that the edge is seen."""
        if is_finishing != self.is_finishing:
            self.is_finishing = is_finishing
            self.view_changed.emit()

    def set_backdrop(self, colour: str | Backdrop | None) -> None:
        """Show the bench on a colour ("#rrggbb"), one of the proofs' backgrounds, or on the checkerboard."""
        if colour != self.backdrop:
            self.backdrop = colour
            self.view_changed.emit()

    # the file

    def replace_job(self, job: Job, store: PhotoStore, path: Path | None, title: str = "") -> None:
        """Begin with another job; `title` names one that has no file yet."""
        old = self.job
        self._history, self._previewed = History((job,)), None
        self.pending = self._in_hand = self._run = None
        self.store, self.path, self._title = store, path, title
        self.saved_job = job if path else None
        self.sheet_id, self.selected, self.part = job.sheets[0].id, (), None
        self.open_group = None
        self.backdrop = self.backdrop if isinstance(self.backdrop, str) else None
        self._put_tools_away()
        self.job_changed.emit(old, job)
        self.view_changed.emit()
        self.saved_changed.emit()

    def mark_saved(self, path: Path, job: Job) -> None:
        """Remember that the file holds `job`."""
        self.path, self.saved_job = path, job
        self.saved_changed.emit()

    def set_read_only(self, is_read_only: bool) -> None:
        """Remember that another window writes to the file."""
        self.is_read_only = is_read_only
        self.saved_changed.emit()

    def mark_unsaved(self) -> None:
        """Remember that no file holds the job as it is."""
        self.saved_job = None
        self.saved_changed.emit()

    def names(self) -> set[str]:
        """Return the names of all items."""
        return {item.name for _, item in items_of(self.job)}
