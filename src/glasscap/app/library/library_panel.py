"""The library over the bench: search by everyday words, groups, kept and recent ones."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPoint, QRect, Qt, QTimer, Signal
from PySide6.QtGui import QHideEvent, QKeyEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QMenu, QVBoxLayout, QWidget

from glasscap.app.library.shape_grid import PICTURE, ShapeGrid
from glasscap.app.services import asking
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import Choice, push, tool
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import give_keys_back
from glasscap.core.document.arranging.first_places import largest_centred
from glasscap.core.document.edits.intake import add_waiting_shape
from glasscap.core.document.model.job import Job
from glasscap.core.document.shapes.shaping import choose_shape, take_shape
from glasscap.core.errors import GlassCapError
from glasscap.core.shapes.kinds import ParametricShape, Shape, library_shape
from glasscap.core.shapes.library.table import GROUPS, SHAPES
from glasscap.editor.shape_cards import ShapeCard, ShapeRequest, shape_card
from glasscap.editor.shape_search import found_shapes
from glasscap.files.shelf import Shelf, read_shelf, write_shelf

_MARGIN, _WIDEST = 12, 654
# A new shape's share of the sheet.
_NEW_SHARE = 0.5
# Logical px kept free at the foot, for the grip bar.
_FOOT = 62
_OWN = "own "
_TABS = {"": "All", **GROUPS, "mine": "Mine"}


class LibraryPanel(QFrame):
    """Gives the selected cutout a shape; stays open while shapes are tried."""

    recent_changed = Signal(object)

    def __init__(self, session: Session, service: RenderService, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("library")
        self.setAccessibleName("Shape library")
        self._session, self._service = session, service
        self.shelf = read_shelf()
        self._group, self._shown_for = "", ""
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a shape")
        self.search.setAccessibleName("Find a shape")
        self.kept = push("Kept", lambda: self._show_tab("kept"), icon_name="star")
        self.recent = push("Recent", lambda: self._show_tab("recent"), icon_name="clock")
        for button in (self.kept, self.recent):
            button.setCheckable(True)
        self.groups = Choice("Group", list(_TABS.items()), self._show_tab, is_tight=True, wraps=True)
        self.grid = ShapeGrid()
        self.note = label("", "muted")
        self.keep_own = push("Keep this shape…", self._on_keep_own, style="link")
        self.keep_own.setToolTip("Keep the cutout's shape under a name, among Mine")
        self._lay_out()
        self._soon = QTimer(self, singleShot=True, interval=0)
        self._soon.timeout.connect(self._ask)
        self._connect()
        self.hide()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 10)
        column.setSpacing(10)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.search, 1)
        row.addWidget(self.kept)
        row.addWidget(self.recent)
        row.addWidget(
            tool("x", "Close the library (Escape)", lambda: self._session.set_library(False), style="flat")
        )
        column.addLayout(row)
        column.addWidget(self.groups)
        column.addWidget(self.grid, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.note, 1)
        foot.addWidget(self.keep_own)
        column.addLayout(foot)

    def _connect(self) -> None:
        self.search.textChanged.connect(lambda: self._show_tab(self._group))
        self.grid.chosen.connect(self.choose)
        self.grid.star_clicked.connect(self._on_star_clicked)
        self.grid.menu_asked.connect(self._show_menu)
        self.grid.sight_changed.connect(self._soon.start)
        self._service.answered.connect(self._on_answered)
        self._service.photo_decoded.connect(self._on_photo_decoded)
        self._session.view_changed.connect(self._on_view_changed)
        self._session.job_changed.connect(self._on_job_changed)

    def take_keys(self) -> None:
        """Let the next keys find a shape, or go to the bench once the library is closed."""
        parent = self.parentWidget()
        if self.isVisible():
            self.search.setFocus()
        elif parent is not None:
            give_keys_back(parent)

    # what is shown

    def place(self) -> None:
        """Take the bench's upper left, as wide as the cards need."""
        parent = self.parentWidget()
        if parent is not None:
            width = min(_WIDEST, parent.width() - 2 * _MARGIN)
            self.setGeometry(QRect(_MARGIN, _MARGIN, width, parent.height() - _MARGIN - _FOOT))

    def _on_view_changed(self) -> None:
        is_open = self._session.is_library_open
        if is_open != self.isVisible():
            self.place()
            self.setVisible(is_open)
            if is_open:
                self.raise_()
                self.search.setFocus()
            else:
                give_keys_back(self)
        elif is_open:
            self._show_chosen()
            self._refresh_pictures()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self.isVisible() and not self._session.is_previewing:
            self._show_chosen()
            self._refresh_pictures()

    def _on_photo_decoded(self) -> None:
        self._shown_for = ""
        self._refresh_pictures()

    def showEvent(self, event: QShowEvent) -> None:
        """Fill the grid when it comes into sight."""
        self._show_tab(self._group)

    def hideEvent(self, event: QHideEvent) -> None:
        """Start with all shapes the next time."""
        self.search.clear()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Draw what came into sight."""
        self._soon.start()

    def _show_tab(self, group: str) -> None:
        self._group = group
        self.kept.setChecked(group == "kept")
        self.recent.setChecked(group == "recent")
        self.groups.show_choice(group if group in _TABS else None)
        labels = self._labels(group, self.search.text())
        self.grid.shapes.show_shapes(labels, frozenset(self.shelf.kept))
        self.note.setText("" if labels else self._empty_words(group))
        self.keep_own.setVisible(group == "mine")
        self._show_chosen()
        self._refresh_pictures()

    def _labels(self, group: str, words: str) -> dict[str, str]:
        own = {
            _OWN + name: name for name in self.shelf.own if all(w in name.lower() for w in words.lower().split())
        }
        if group == "mine":
            return own
        found = found_shapes(words, group if group in GROUPS else "")
        if group in ("kept", "recent"):
            names = self.shelf.kept if group == "kept" else self.shelf.recent
            found = tuple(n for n in names if n in found)
        shown = {name: SHAPES[name].label for name in found}
        return {**own, **shown} if words and not group else shown

    def _empty_words(self, group: str) -> str:
        if self.search.text():
            return f"No shape is called “{self.search.text()}”. Try another word, or draw it."
        return {
            "kept": "No shape is kept yet: click the star on a card.",
            "recent": "Shapes you choose will be listed here.",
            "mine": "Keep a drawn, followed or imported shape here to use it again.",
        }.get(group, "")

    def _show_chosen(self) -> None:
        item = self._session.seen_item
        name = item.shape.name if item is not None and isinstance(item.shape, ParametricShape) else None
        self.grid.show_chosen(name)

    def _refresh_pictures(self) -> None:
        """Draw anew when another photo, or another part of it, would show."""
        item = self._session.item
        shown = "" if item is None else repr((item.content, item.content_placement, item.shape_placement))
        if shown != self._shown_for:
            self._shown_for = shown
            self.grid.shapes.forget_images()
        self._soon.start()

    def _ask(self) -> None:
        item = self._session.item
        if not self.isVisible():
            return
        ratio = self.devicePixelRatioF()
        size = (round(PICTURE.width() * ratio), round(PICTURE.height() * ratio))
        for key in self.grid.keys_in_sight():
            if not self.grid.shapes.has_image(key):
                request = ShapeRequest(
                    self._session.committed, None if item is None else item.id, key, self._shape(key), size
                )
                self._service.ask(("shape", key), partial(shape_card, request))

    def _on_answered(self, channel: object, answer: object) -> None:
        if not isinstance(answer, ShapeCard) or answer.frame is None or not self.isVisible():
            return
        image = to_image(answer.frame).copy()
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self.grid.shapes.show_image(answer.request.key, image)

    def _shape(self, key: str) -> Shape:
        return self.shelf.own[key.removeprefix(_OWN)] if key.startswith(_OWN) else library_shape(key)

    # choosing and keeping

    def choose(self, key: str) -> None:
        """Give a shape to all that are selected, or with nothing selected begin a new cutout of it."""
        item = self._session.item
        if item is None:
            self._begin_new(key)
            return
        if item.is_locked:
            self._session.problem_found.emit(f"{item.name} is locked; unlock it first")
            return
        self._session.choose_corner(None)
        others = [i.id for i in self._session.chosen if i.id != item.id and not i.is_locked]

        def give(job: Job) -> Job:
            for item_id in (item.id, *others):
                job = take_shape(job, item_id, self._shape(key)) if is_own else choose_shape(job, item_id, key)
            return job

        is_own = key.startswith(_OWN)
        name = key.removeprefix(_OWN) if is_own else SHAPES[key].label.lower()
        self._session.apply_to_shape(f"Shape: {name}", give)
        if is_own:
            return
        self._change_shelf(lambda shelf: shelf.with_recent(key))

    def _begin_new(self, key: str) -> None:
        """Draw a new shape like a card; one of the user's own is laid on the middle of the sheet."""
        session = self._session
        if not key.startswith(_OWN):
            self._change_shelf(lambda shelf: shelf.with_recent(key))
            session.set_drawing(key)
            return
        sheet, shape, there = session.sheet, self._shape(key), session.container_id
        middle = (sheet.width / 2, sheet.height / 2)
        placement = largest_centred(shape, sheet.width * _NEW_SHARE, sheet.height * _NEW_SHARE, *middle)
        before = session.committed
        made, new_id = add_waiting_shape(before, there, shape, placement)
        session.set_library(False)
        if session.apply(f"Shape: {key.removeprefix(_OWN)}", lambda _: made):
            session.select((new_id,))

    def _on_star_clicked(self, key: str) -> None:
        if key.startswith(_OWN):
            return
        self._change_shelf(lambda shelf: shelf.with_kept(key, is_kept=key not in shelf.kept))
        self._show_tab(self._group)

    def _on_keep_own(self) -> None:
        asking.ask_text(self, "Keep this shape", "Name", self.keep_as)

    def keep_as(self, words: str) -> None:
        """Keep the selected cutout's shape among the user's own."""
        item, name = self._session.item, " ".join(words.split())
        if name and item is not None and item.shape is not None:
            shape = item.shape
            self._change_shelf(lambda shelf: shelf.with_own(name, shape))
            self._show_tab("mine")

    def _show_menu(self, key: str, at: QPoint) -> None:
        menu = QMenu(self)
        if key.startswith(_OWN):
            menu.addAction("Take this shape away").triggered.connect(lambda: self._drop_own(key))
        else:
            words = "No longer keep" if key in self.shelf.kept else "Keep"
            menu.addAction(words).triggered.connect(lambda: self._on_star_clicked(key))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)

    def _drop_own(self, key: str) -> None:
        self._change_shelf(lambda shelf: shelf.with_own(key.removeprefix(_OWN), None))
        self._show_tab(self._group)

    def _change_shelf(self, change: Callable[[Shelf], Shelf]) -> None:
        self.shelf = change(self.shelf)
        self.recent_changed.emit(self.shelf.recent)
        try:
            write_shelf(self.shelf)
        except GlassCapError as error:
            self._session.problem_found.emit(error.line)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Close with Escape; go to the cards with the down key."""
        if event.key() == Qt.Key.Key_Escape:
            self._session.set_library(False)
        elif event.key() == Qt.Key.Key_Down and self.search.hasFocus():
            self.grid.setFocus()
        else:
            super().keyPressEvent(event)
