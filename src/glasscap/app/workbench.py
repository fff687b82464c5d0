"""The view of a job: steps, bench, proof, tray; the export view in their place."""

from collections.abc import Generator
from functools import cached_property

from msgspec import Struct
from PySide6.QtCore import QKeyCombination, QPoint, Qt, Signal
from PySide6.QtGui import QAction, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from glasscap.app.bench.bench import Bench
from glasscap.app.bench.grip_bar import GripBar
from glasscap.app.commands.lettering import Lettering
from glasscap.app.export.export_view import ExportView
from glasscap.app.library.library_panel import LibraryPanel
from glasscap.app.mockups.mockup_view import MockupView
from glasscap.app.proof.proof_panel import ProofPanel
from glasscap.app.series.series_panel import SeriesPanel
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.steps.steps_panel import StepsPanel
from glasscap.app.topbar import Page
from glasscap.app.tray.tray import Tray
from glasscap.app.versions.compare_panel import ComparePanel
from glasscap.app.widgets.menus import open_menu
from glasscap.editor.actions import ACTIONS

_ITEM_MENU = ("rename", "duplicate", "copy", "cut", "delete", "", "hide", "lock", "mask", "take_apart", "join",
              "another", "cover", "fit_inside", "series", "", "group", "ungroup", "enter", "select_alike", "",
              "forward", "backward", "to_front", "to_back")  # fmt: skip
_SHEET_MENU = ("paste", "add_photos", "draw", "", "select_all", "copy_sheet", "", "fit", "actual", "wire", "snap")


class Parts(Struct, frozen=True, eq=False):
    """The parts of a workbench."""

    steps: StepsPanel
    bench: Bench
    proof: ProofPanel
    tray: Tray
    export: ExportView
    service: RenderService


def make_parts(session: Session, service: RenderService) -> Generator[None, None, Parts]:
    """Make the parts, yielding in between so that the interface is never held up for long."""
    lettering = Lettering(session)
    steps = StepsPanel(session, service, lettering)
    yield
    bench, proof = Bench(session, service, lettering), ProofPanel(session, service)
    yield
    tray, export = Tray(session, service), ExportView(session, service)
    yield
    return Parts(steps, bench, proof, tray, export, service)


class Workbench(QWidget):
    """Holds the parts; knows no job data."""

    picture_wanted = Signal(str, str, object)
    said = Signal(str)
    # Photos of a series: to be opened (None), or dropped; and what became of it.
    series_photos_asked = Signal(object)
    series_made = Signal(str)

    def __init__(self, session: Session, actions: dict[str, QAction], parts: Parts) -> None:
        super().__init__()
        self._session, self._actions, self._service = session, actions, parts.service
        self.steps, self.bench, self.proof = parts.steps, parts.bench, parts.proof
        self.tray, self.export = parts.tray, parts.export
        self.bar = GripBar(session, self.bench)
        self.library = LibraryPanel(session, parts.service, self.bench)
        self.compare = ComparePanel(session, parts.service, self.bench)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        place = QWidget()
        row = QHBoxLayout(place)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.steps)
        row.addWidget(self.bench, 1)
        row.addWidget(self.proof)
        bench_page = QWidget()
        pages = QVBoxLayout(bench_page)
        pages.setContentsMargins(0, 0, 0, 0)
        pages.setSpacing(0)
        pages.addWidget(place, 1)
        pages.addWidget(self.tray)
        self.pages = QStackedWidget()
        self.pages.addWidget(bench_page)
        self.pages.addWidget(self.export)
        column.addWidget(self.pages)
        self.bench.resized.connect(self._on_bench_resized)
        self.bench.pointed.connect(self.proof.look_at)
        self.tray.menu_asked.connect(self._show_item_menu)
        self.library.recent_changed.connect(self.steps.first_shape.show_recent)
        self.steps.first_shape.show_recent(self.library.shelf.recent)
        self.bench.menu_asked.connect(self._show_bench_menu)
        self.bench.key_left.connect(self._on_key_left)
        self.tray.key_left.connect(self._on_key_left)
        self.steps.versions.compare_asked.connect(self._on_compare_asked)
        self.steps.take_apart_asked.connect(actions["take_apart"].trigger)
        self.steps.join_asked.connect(actions["join"].trigger)
        self.steps.draw_asked.connect(actions["draw"].trigger)
        self.steps.add_asked.connect(actions["add_photos"].trigger)

    @cached_property
    def mockups(self) -> MockupView:
        """The view of mock-ups; made when first wanted."""
        made = MockupView(self._session, self._service)
        made.picture_wanted.connect(self.picture_wanted)
        made.said.connect(self.said)
        self.pages.addWidget(made)
        return made

    @cached_property
    def series(self) -> SeriesPanel:
        """The photos of a series; made when first wanted."""
        made = SeriesPanel(self._session, self._service, self.bench)
        made.photos_asked.connect(lambda: self.series_photos_asked.emit(None))
        made.dropped.connect(self.series_photos_asked)
        made.made.connect(self.series_made)
        return made

    def begin_series(self, item_id: str) -> None:
        """Begin a series of a cutout, over the bench."""
        self._session.set_library(False)
        self.compare.hide()
        self.series.begin(item_id)

    @property
    def page(self) -> Page:
        """Which view is up."""
        now = self.pages.currentWidget()
        if now is self.export:
            return "export"
        return "mockups" if "mockups" in self.__dict__ and now is self.mockups else "bench"

    @property
    def is_exporting(self) -> bool:
        """Whether the export view is up."""
        return self.page == "export"

    def show_page(self, page: Page) -> None:
        """Go to a view."""
        if page == "bench":
            self.pages.setCurrentIndex(0)
            self.bench.setFocus()
            return
        view = self.export if page == "export" else self.mockups
        self.pages.setCurrentWidget(view)
        view.begin()
        view.setFocus()

    # keys

    def take_keys(self) -> None:
        """Let the bench have the keys, or in another view that view."""
        view = self.bench if self.page == "bench" else self.pages.currentWidget()
        if view is not None:
            view.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Back out one level with Escape wherever the keys are."""
        if event.key() == Qt.Key.Key_Escape and self.page == "bench":
            self.bench.back_out()
            self.take_keys()
        else:
            super().keyPressEvent(event)

    def _on_key_left(self, event: QKeyEvent) -> None:
        """Do the command of a key that works while the bench or the tray has the keys."""
        held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        pressed = QKeySequence(QKeyCombination(held, Qt.Key(event.key())))
        for spec in ACTIONS:
            action = self._actions[spec.id]
            if spec.is_of_bench and action.isEnabled() and action.shortcut() == pressed:
                event.accept()
                action.trigger()
                return

    def begin_rename(self) -> None:
        """Edit the name of the item selected last, in the tray."""
        if self._session.selected:
            self.tray.begin_rename(self._session.selected[-1])

    def _on_compare_asked(self) -> None:
        self.compare.begin(self.steps.versions.subject_id)

    def _on_bench_resized(self) -> None:
        """Keep what lies over the bench in its place."""
        for over in (self.bar, self.library, self.compare):
            over.place()
        if "series" in self.__dict__:
            self.series.place()

    def _show_bench_menu(self, at: QPoint) -> None:
        """Offer what can be done to the chosen points, the selected cutouts, or with none selected the sheet."""
        if self._session.is_editing_points:
            open_menu(self, self.steps.shape.points.entries, at)
            return
        self._show_commands(_ITEM_MENU if self._session.selected else _SHEET_MENU, at)

    def _show_item_menu(self, at: QPoint) -> None:
        self._show_commands(_ITEM_MENU, at)

    def _show_commands(self, keys: tuple[str, ...], at: QPoint) -> None:
        open_menu(self, [self._actions[key] if key else None for key in keys], at)
