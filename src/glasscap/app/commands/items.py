"""Commands on cutouts, each one step."""

from collections.abc import Callable

from PySide6.QtCore import QMimeData, QObject, Signal
from PySide6.QtGui import QGuiApplication

from glasscap.app.photos.intake import incoming_from
from glasscap.app.session import Session
from glasscap.core.document.arranging.by_number import Fit, fit_photos
from glasscap.core.document.arranging.cover import fitted_inside, just_covering
from glasscap.core.document.edits import items as edits
from glasscap.core.document.edits.groups import group_items, ungroup
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.kinds import kind_of
from glasscap.core.document.model.query import find_item, fresh_ids, items_of, locate, siblings, topmost
from glasscap.core.document.shapes.chosen_points import delete_points
from glasscap.core.document.shapes.points import nodes_on_sheet
from glasscap.core.errors import GlassCapError
from glasscap.core.shapes.kinds import ParametricShape
from glasscap.editor.clipboard import MIME, copied, is_drawing, items_in, pasted

_DUPLICATE_OFFSET = 24.0


class ItemCommands(QObject):
    """The commands of the edit and cutout menus."""

    photos_pasted = Signal(object)
    shape_pasted = Signal()
    said = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.table: dict[str, Callable[[], object]] = {
            "undo": session.undo,
            "redo": session.redo,
            "cut": self.cut,
            "copy": self.copy,
            "paste": self.paste,
            "duplicate": self.duplicate,
            "delete": self.delete,
            "select_all": self.select_all,
            "select_alike": self.select_alike,
            "group": self.group,
            "ungroup": self.ungroup,
            "enter": self.enter,
            "draw": self.draw,
            "hide": self.hide,
            "lock": self.lock,
            "mask": self.mask,
            "take_apart": self.take_apart,
            "join": self.join,
            "another": self.another,
            "cover": lambda: self.fit("Just cover the shape", just_covering),
            "fit_inside": lambda: self.fit("Fit the photo inside", fitted_inside),
            "forward": lambda: self.reorder(lambda place, last: place + 1),
            "backward": lambda: self.reorder(lambda place, last: place - 1),
            "to_front": lambda: self.reorder(lambda place, last: last),
            "to_back": lambda: self.reorder(lambda place, last: 0),
            "grip_photo": lambda: session.set_grip("photo"),
            "grip_together": lambda: session.set_grip("together"),
            "grip_shape": lambda: session.set_grip("shape"),
            "wire": lambda: session.set_look(is_wire=not session.is_wire),
            "snap": lambda: session.set_look(is_snapping=not session.is_snapping),
        }

    # clipboard

    def copy(self) -> bool:
        """Copy the selected cutouts with their photos."""
        session = self._session
        if not self._has_selected():
            return False
        try:
            data = copied(session.job, session.sheet_id, session.selected, session.store)
        except GlassCapError as error:
            self.said.emit(error.line)
            return False
        mime = QMimeData()
        mime.setData(MIME, data)
        QGuiApplication.clipboard().setMimeData(mime)
        return True

    def cut(self) -> None:
        """Copy, then delete."""
        if self.copy():
            self.delete("Cut")

    def paste(self) -> None:
        """Paste cutouts, or photographs and picture data."""
        # An empty clipboard gives nothing at all, whatever the bindings' types say.
        mime = QGuiApplication.clipboard().mimeData() or QMimeData()
        found = pasted(bytes(mime.data(MIME).data()), self._session.store) if mime.hasFormat(MIME) else None
        if found is None:
            incoming = incoming_from(mime)
            if incoming.paths or incoming.data:
                self.photos_pasted.emit(incoming)
            elif is_drawing(mime.text()):
                self.shape_pasted.emit()
            else:
                self.said.emit("There is no picture, cutout or drawing on the clipboard")
            return
        session, items = self._session, items_in(found)
        for sha256, data in found.photos.items():
            session.store.add(data, sha256)
        before, there = {i.id for i in session.items}, session.container_id
        session.apply("Paste", lambda job: edits.paste_items(job, there, items, found.job.photos))
        session.select([i.id for i in session.items if i.id not in before])

    # the selected cutouts

    def draw(self) -> None:
        """Begin drawing, or stop: the selected cutout's kind of shape, else the kind drawn last."""
        session, item = self._session, self._session.item
        if item is not None and item.is_locked:
            self.said.emit(f"{item.name} is locked; unlock it first")
            return
        shape = None if item is None else item.shape
        kind = shape.name if isinstance(shape, ParametricShape) else session.last_drawn
        session.set_drawing(None if session.drawing else kind)

    def duplicate(self) -> None:
        """Put shifted copies in front of the selected cutouts and select them."""
        session, chosen = self._session, [i.id for i in self._session.chosen]
        if not self._has_selected():
            return
        before = {i.id for _, i in items_of(session.job)}
        session.apply("Duplicate", lambda job: edits.duplicate_items(job, chosen, _DUPLICATE_OFFSET))
        fresh = {i.id for _, i in items_of(session.job)} - before
        session.select([i.id for i in topmost(session.sheet.items, fresh)])

    def delete(self, step: str = "Delete") -> None:
        """Delete the chosen points of an outline, else the selected cutouts that are not locked."""
        session = self._session
        if session.is_editing_points and session.item is not None:
            item, points = session.item, session.chosen_points
            if session.apply_to_shape("Delete points", lambda job: delete_points(job, item.id, points)):
                session.choose_points(frozenset())
            return
        chosen = [i for i in session.selected if not find_item(session.job, i).is_locked]
        if chosen:
            session.apply(step, lambda job: edits.remove_items(job, chosen))
        elif self._has_selected():
            session.noted.emit(f"{_named(session.chosen)} locked; unlock first")

    def select_all(self) -> None:
        """Select every cutout that is not locked, or every point of the outline that is edited."""
        session = self._session
        if session.is_editing_points and session.item is not None:
            nodes = nodes_on_sheet(session.seen_item or session.item)
            session.choose_points(frozenset((k, n) for k, c in enumerate(nodes) for n in range(len(c))))
        else:
            session.select([i.id for i in session.items if not i.is_locked])

    def select_alike(self) -> None:
        """Select what is of the same kind as the cutout selected last: the same sort of content and shape."""
        session, item = self._session, self._session.item
        if self._has_selected() and item is not None:
            alike = [i.id for i in session.items if not i.is_locked and kind_of(i) == kind_of(item)]
            session.select([*(i for i in alike if i != item.id), item.id])

    # groups

    def group(self) -> None:
        """Put the selected cutouts into a group and select it."""
        session, chosen = self._session, [i.id for i in self._session.chosen]
        made: list[str] = []

        def edit(job: Job) -> Job:
            grouped, group_id = group_items(job, chosen)
            made.append(group_id)
            return grouped

        if self._has_selected() and session.apply("Group", edit):
            session.select(made[-1:])

    def ungroup(self) -> None:
        """Put what the selected groups hold in their place and select it."""
        session = self._session
        groups = [i.id for i in session.chosen if i.is_group]
        freed: list[str] = []

        def edit(job: Job) -> Job:
            done, ids = ungroup(job, groups)
            freed[:] = ids
            return done

        if groups and session.apply("Ungroup", edit):
            session.select(freed)
        elif not groups:
            session.noted.emit("Select a group first")

    def enter(self) -> None:
        """Open the selected group on the bench."""
        item = self._session.item
        if item is not None and item.is_group:
            self._session.enter_group(item.id)
        else:
            self._session.noted.emit("Select a group first")

    def hide(self) -> None:
        """Hide the selected cutouts, or show them if all are hidden."""
        hides = not self._all(lambda i: find_item(self._session.job, i).is_hidden)
        self._each("Hide" if hides else "Show", lambda job, ids: edits.set_hidden(job, ids, hides))

    def lock(self) -> None:
        """Lock the selected cutouts, or unlock them if all are locked."""
        locks = not self._all(lambda i: find_item(self._session.job, i).is_locked)
        self._each("Lock" if locks else "Unlock", lambda job, ids: edits.set_locked(job, ids, locks))

    def mask(self) -> None:
        """Switch the masks."""
        on = not self._all(lambda i: find_item(self._session.job, i).is_masked)
        self._each("Mask on" if on else "Mask off", lambda job, ids: edits.set_masked(job, ids, on))

    def take_apart(self) -> None:
        """Make photo and shape two things; the shape is selected with the photo."""
        session, item = self._session, self._session.item
        if item is None or item.shape is None or item.content_placement is None:
            session.noted.emit("Select a cutout that has a photo and a shape")
            return
        if item.is_locked:
            session.noted.emit(f"{item.name} is locked; unlock it first")
            return
        (shape_id,) = fresh_ids(session.job, 1)
        session.apply("Take apart", lambda job: edits.take_apart(job, item.id, shape_id))
        session.select((item.id, shape_id))

    def join(self) -> None:
        """Put a shape back on a photo."""
        session = self._session
        pair = edits.joinable(session.job, session.selected) if session.selected else None
        if pair is not None:
            session.apply("Join", lambda job: edits.join(job, *pair))
            session.select((pair[0],))
        else:
            session.noted.emit("To join, select a cutout and a shape without a photo that is to be its mask")

    def another(self) -> None:
        """Make a second cutout of the selected cutout's photo, in register with it."""
        session, item = self._session, self._session.item
        if not self._has_selected() or item is None:
            return
        made: list[str] = []

        def edit(job: Job) -> Job:
            done, fresh = edits.another_cutout(job, item.id)
            made.append(fresh)
            return done

        if session.apply("Another cutout of this photo", edit):
            session.select(made[-1:])

    def fit(self, step: str, fit: Fit) -> None:
        """Give the photos of the selected cutouts another size within their shapes."""
        session, chosen = self._session, self._session.selected
        meant = [
            i for i in (find_item(session.job, i) for i in chosen) if i.shape is not None and not i.is_locked
        ]
        if any(i.content_placement is not None for i in meant):
            session.apply(step, lambda job: fit_photos(job, chosen, fit))
        elif self._has_selected():
            session.noted.emit("Select a cutout that has a photo and a shape, and is not locked")

    def reorder(self, wanted: Callable[[int, int], int]) -> None:
        """Give the item selected last another place."""
        session, item = self._session, self._session.item
        if not self._has_selected() or item is None:
            return
        _, _, place = locate(session.job, item.id)
        target = wanted(place, len(siblings(session.job, item.id)) - 1)
        session.apply("Reorder", lambda job: edits.move_to_place(job, item.id, target))

    def _all(self, question: Callable[[str], bool]) -> bool:
        return all(question(i) for i in self._session.selected)

    def _each(self, step: str, edit: Callable[[Job, tuple[str, ...]], Job]) -> None:
        chosen = self._session.selected
        if self._has_selected():
            self._session.apply(step, lambda job: edit(job, chosen))

    def _has_selected(self) -> bool:
        """Whether something is selected; says so where not."""
        if not self._session.selected:
            self._session.noted.emit("Select a cutout first")
        return bool(self._session.selected)


def _named(items: tuple[Item, ...]) -> str:
    return f"{items[0].name} is" if len(items) == 1 else f"All {len(items)} are"
