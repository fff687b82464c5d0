"""The studio of one shell: session, commands, views, and files and pictures that come in."""

from collections.abc import Callable, Generator, Iterator
from pathlib import Path

from PySide6.QtCore import QMimeData, QObject, Qt, Signal
from PySide6.QtGui import QAction, QCursor, QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu, QWidget

from glasscap.app.commands.handing_out import HandOut
from glasscap.app.commands.items import ItemCommands
from glasscap.app.commands.job_files import JobFiles
from glasscap.app.help.about import show_about
from glasscap.app.help.control_names import ControlNames
from glasscap.app.help.finding import CommandFinder
from glasscap.app.help.help_window import help_of
from glasscap.app.photos.care import PhotoCare
from glasscap.app.photos.intake import Incoming, PhotoIntake, PictureEdit, incoming_from
from glasscap.app.photos.missing import MissingPhotos
from glasscap.app.preferring import PreferencesDialog, apply_preferences
from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, errands_of, run_errand, waited
from glasscap.app.services.keeping import Keeping
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.shell import Shell
from glasscap.app.start.start_view import StartView
from glasscap.app.theme.style import apply_theme, dress
from glasscap.app.topbar import Page, TopBar
from glasscap.app.widgets.toast import Toast
from glasscap.app.workbench import Workbench, make_parts
from glasscap.core.document.model.job import Job, Sheet
from glasscap.core.document.model.query import find_item
from glasscap.core.errors import CancelledError, GlassCapError
from glasscap.core.formats.artwork import ENDING as DRAWING_ENDING
from glasscap.core.formats.job import ENDING
from glasscap.core.formats.photo_header import ENDINGS
from glasscap.core.photos.store import PhotoStore
from glasscap.demo.job import DEMO_TITLE, demo_job
from glasscap.editor.actions import ACTIONS
from glasscap.files.jobs import new_store
from glasscap.files.kept_work import KeptWork
from glasscap.files.preferences import Preferences, read_preferences
from glasscap.files.work_keeper import recover

_SHAPE_FIRST = (1080, 1080)
# Commands for every view, also without a job.
_ALWAYS = {
    "find_command",
    "about",
    "new",
    "new_window",
    "open",
    "add_photos",
    "paste",
    "close",
    "quit",
    "keys",
    "names",
    "help",
    "preferences",
}
_PHOTO_FILTER = "Photographs (" + " ".join(f"*{e} *{e.upper()}" for e in ENDINGS) + ")"
_NO_PICTURE = "What was dropped is no picture and no file on this machine"


class Studio(QObject):
    """One job in one shell: session, worker, commands, views.

    `new_window_asked()` and `quit_asked()` are for whoever has windows.
    """

    new_window_asked = Signal()
    quit_asked = Signal()

    def __init__(self, shell: Shell, *, is_at_once: bool = True) -> None:
        super().__init__(shell)
        self.shell = shell
        self._is_leaving = self._is_left = self._closes_later = False
        self.session = Session(empty_job(), new_store())
        self.service = RenderService(self.session.store)
        self.items = ItemCommands(self.session)
        self.files = JobFiles(self.session, shell)
        self.keeping = Keeping(self.session, shell)
        self.intake = PhotoIntake(self.session, shell)
        self.hand, self.photo_care = HandOut(self.session, shell), PhotoCare(self.session, shell)
        self.missing = MissingPhotos(self.session, shell)
        self.actions_by_id = self._make_actions()
        self.toast = Toast(shell)
        self._finder: CommandFinder | None = None
        apply_preferences(read_preferences(), self.session, self.service, is_first=True)
        self._assembly = self._assembled()
        while is_at_once and self.go_on():
            pass

    def go_on(self) -> bool:
        """Do one more step of putting the views together; whether there are more."""
        return next(self._assembly, "done") != "done"

    def _assembled(self) -> Iterator[None]:
        yield from self._views_built()
        self._connect_start()
        self._connect()
        self._show_page(self.shell.start)
        self.shell.move_in(self)

    # parts

    def _make_actions(self) -> dict[str, QAction]:
        own: dict[str, Callable[[], object]] = {
            "new": self._on_new,
            "open": self.files.ask_open,
            "save": self.files.save,
            "save_as": self.files.ask_save,
            "add_photos": self._on_add_photos,
            "find_photos": self.missing.ask,
            "export": self._on_export,
            "mockups": self._on_mockups,
            "series": self._on_series,
            "copy_picture": self.hand.copy_selected,
            "copy_sheet": self.hand.copy_sheet,
            "close": self.shell.close,
            "quit": self.quit_asked.emit,
            "rename": lambda: self.workbench.begin_rename(),
            "find": lambda: self.workbench.tray.begin_find(),
            "zoom_in": lambda: self.workbench.bench.zoom_by(1.25),
            "zoom_out": lambda: self.workbench.bench.zoom_by(0.8),
            "fit": lambda: self.workbench.bench.fit(),
            "actual": lambda: self.workbench.bench.zoom_to(1.0),
            "keys": self._on_keys,
            "names": self.show_names,
            "help": self._on_help,
            "find_command": self._on_find_command,
            "about": lambda: show_about(self.shell),
            "preferences": self._on_preferences,
            "new_window": self.new_window_asked.emit,
        }
        callbacks = {**self.items.table, **self.photo_care.table, **own}
        made = {}
        for spec in ACTIONS:
            action = QAction(spec.text, self.shell)
            action.setShortcut(spec.shortcut)
            action.triggered.connect(lambda _=False, run=callbacks[spec.id]: run())
            if spec.id in ("wire", "snap"):
                action.setCheckable(True)
            if spec.is_of_bench:
                # Shown in the menu; the key itself is the workbench's to take.
                action.setShortcutContext(Qt.ShortcutContext.WidgetShortcut)
            else:
                self.shell.addAction(action)
            made[spec.id] = action
        return made

    def _views_built(self) -> Generator[None, None, None]:
        """Make top bar and workbench in the desktop's colours, step by step."""
        parts = yield from make_parts(self.session, self.service)
        self.topbar = TopBar(self.session, self.actions_by_id)
        self.workbench = Workbench(self.session, self.actions_by_id, parts)
        yield
        self.shell.set_bar(self.topbar)
        self.shell.pages.addWidget(self.workbench)
        bench = self.workbench.bench
        bench.zoom_changed.connect(self.topbar.show_zoom)
        bench.dropped.connect(self._on_dropped)
        bench.photo_asked.connect(self._on_add_photos)
        self.workbench.tray.dropped.connect(self._on_dropped)
        self.workbench.tray.add_asked.connect(self._on_add_photos)
        self.workbench.tray.drag_asked.connect(self.hand.drag_card)
        self.workbench.proof.drag_asked.connect(self.hand.drag_proof)
        self.workbench.export.drag_asked.connect(self.hand.drag_row)
        self.workbench.steps.swap_asked.connect(self._on_swap)
        self.workbench.said.connect(self.complain)
        self.workbench.series_photos_asked.connect(self._on_series_photos_asked)
        self.workbench.series_made.connect(self._on_series_made)
        for panel in (self.workbench.steps, self.workbench.proof, self.workbench):
            panel.picture_wanted.connect(self._on_picture_wanted)

    def _connect_start(self) -> None:
        start = self.shell.start
        start.asked.connect(self._on_start_asked)
        start.recent_asked.connect(lambda path: self.files.open(Path(path)))
        start.dropped.connect(lambda mime: self._on_dropped(mime, None))
        start.recover_asked.connect(self._on_recover)
        start.said.connect(self.complain)

    def _on_start_asked(self, what: str) -> None:
        table: dict[str, Callable[[], object]] = {
            "open": self._on_add_photos,
            "job": self.files.ask_open,
            "paste": self.items.paste,
            "shape": self._on_start_from_shape,
            "demo": self.open_demo,
        }
        table[what]()

    def _connect(self) -> None:
        session = self.session
        session.problem_found.connect(self.complain)
        session.noted.connect(self.note)
        session.job_changed.connect(self.toast.pass_by)
        session.saved_changed.connect(self._on_saved_changed)
        session.view_changed.connect(self._on_view_changed)
        self.service.failed.connect(self.complain)
        self.items.said.connect(self.complain)
        self.items.photos_pasted.connect(self.take)
        self.items.shape_pasted.connect(lambda: self.workbench.steps.shape.commands.paste_shape())
        self.files.said.connect(self.complain)
        self.files.opened.connect(self.show_job)
        self.files.saved.connect(self._on_saved)
        self.keeping.said.connect(lambda words: self.toast.say(words, stays=True, is_everywhere=True))
        self.keeping.mended.connect(self.toast.take_back)
        self.intake.said.connect(self.complain)
        self.hand.said.connect(self.complain)
        self.photo_care.said.connect(self.complain)
        self.missing.said.connect(self.complain)
        self.intake.job_needed.connect(self._on_job_needed)
        self.shell.resized.connect(self.toast.place)
        QGuiApplication.styleHints().colorSchemeChanged.connect(self._on_scheme_changed)

    # views

    @property
    def has_job(self) -> bool:
        """Whether the workbench is up."""
        return self.shell.pages.currentWidget() is self.workbench

    @property
    def is_settled(self) -> bool:
        """Whether the screen shows the job as it is, from whole photos."""
        return errands_of(self.shell).is_idle and self.workbench.bench.is_current and self.service.is_idle

    def _show_page(self, page: QWidget) -> None:
        if page is self.shell.start:
            self.shell.start.show_recent()
            self.shell.start.setFocus()
        self.shell.pages.setCurrentWidget(page)
        self._on_place_changed()
        self._on_saved_changed()

    def _on_place_changed(self) -> None:
        self.toast.pass_by()
        self.topbar.show_place(has_job=self.has_job, page=self.workbench.page)
        on_export = {"export", "mockups", "save", "save_as", "undo", "redo"}
        for key, action in self.actions_by_id.items():
            is_bench = self.has_job and self.workbench.page == "bench"
            action.setEnabled(is_bench or key in _ALWAYS or (self.has_job and key in on_export))

    def show_job(
        self, job: Job, store: PhotoStore, path: Path | None, title: str = "", kept: KeptWork | None = None
    ) -> None:
        """Show another job; `title` names one that has no file yet, `kept` is where it was left behind.

        Raises FileProblemError if another window took that; what was shown stays.
        """
        self.keeping.begin(kept)
        self.service.use_store(store)
        self.session.replace_job(job, store, path, title)
        self.files.hold(path)
        self.workbench.show_page("bench")
        self._show_page(self.workbench)
        self.workbench.bench.fit()
        front = next((i.id for i in reversed(job.sheets[0].items) if not i.is_locked), None)
        self.session.select(() if front is None else (front,))
        self.workbench.bench.setFocus()

    def open_demo(self) -> Running[None]:
        """Show the demo job, as a job not yet saved."""
        return self._run(self._opening_demo())

    def _opening_demo(self) -> Errand[None]:
        if (yield from self.files.leaving()):
            job, store = yield from waited("Opening the demo job", lambda ticket: demo_job())
            self.show_job(job, store, None, DEMO_TITLE)

    def _run(self, errand: Errand[None]) -> Running[None]:
        return run_errand(errand, self.shell, self.complain)

    def _on_recover(self, work: KeptWork) -> None:
        """Show work left behind by a program that ended without saving."""
        self._run(self._recovering(work))

    def _recovering(self, work: KeptWork) -> Errand[None]:
        try:
            found = yield from waited(f"Recovering {work.origin.name}", lambda ticket: recover(work))
            self.show_job(found.job, found.photos, found.path, found.name, work)
        except CancelledError:
            return
        except GlassCapError as error:
            self.complain(f"Not recovered, and still kept. {error.line}")
            return
        self.session.mark_unsaved()
        if found.problems:
            self.complain("\n".join(p.line for p in found.problems[:4]))

    def _on_scheme_changed(self) -> None:
        """Make the views anew in the other colours; job, selection and view stay."""
        app = QApplication.instance()
        if not isinstance(app, QApplication):
            return
        # These views go, and unfinished drawings with them.
        self.workbench.bench.driver.cancel()
        self.session.set_sketch(None)
        self.session.set_typing(False)
        apply_theme(app)
        dress(self.shell)
        viewport, page, had_job = self.workbench.bench.viewport, self.workbench.page, self.has_job
        self.shell.pages.removeWidget(self.workbench)
        self.workbench.deleteLater()
        for _ in self._views_built():
            pass
        self.shell.set_start(StartView())
        self._connect_start()
        self._show_page(self.workbench if had_job else self.shell.start)
        self.workbench.show_page(page)
        self.workbench.bench.set_viewport(viewport)
        self._on_place_changed()

    # saying things

    def note(self, words: str) -> None:
        """Show words that may pass unread."""
        self.toast.say(words)

    def complain(self, words: str) -> None:
        """Show a problem until it is closed, or another view is turned to."""
        self.toast.say(words, stays=True)

    def _on_saved(self) -> None:
        # Steps taken while the file was written are not in it, and stay kept.
        if self.session.is_saved:
            self.keeping.rest()

    def _on_saved_changed(self) -> None:
        if self.has_job:
            self.shell.setWindowTitle(f"{self.session.name}[*] - Glass Cap")
            self.shell.setWindowModified(not self.session.is_saved)
        else:
            self.shell.setWindowTitle("Glass Cap")

    def _on_view_changed(self) -> None:
        self.actions_by_id["wire"].setChecked(self.session.is_wire)
        self.actions_by_id["snap"].setChecked(self.session.is_snapping)

    # what comes in

    def take(self, incoming: Incoming, target: str | None = None) -> None:
        """Take files and picture data: a job is opened, photos are added or swapped in."""
        jobs = [p for p in incoming.paths if p.suffix.lower() == ENDING]
        if jobs:
            self.files.open(jobs[0])
            return
        self.intake.take(incoming, target, is_new_job=not self.has_job)

    def take_paths(self, paths: tuple[Path, ...]) -> None:
        """Open a job, or add photos."""
        self.take(Incoming(paths))

    def _on_dropped(self, mime: QMimeData, target: str | None) -> None:
        incoming = incoming_from(mime)
        if self._is_drawing_for_shape(incoming):
            self._ask_use(incoming, target)
        elif incoming.paths or incoming.data:
            self.take(incoming, target)
        else:
            self.complain(_NO_PICTURE)

    def _is_drawing_for_shape(self, incoming: Incoming) -> bool:
        """Whether one drawing came that could be artwork or a shape."""
        paths = incoming.paths
        return self.has_job and len(paths) == 1 and paths[0].suffix.lower() == DRAWING_ENDING

    def _ask_use(self, incoming: Incoming, target: str | None) -> None:
        """Ask what a dropped drawing is to be, where it was dropped."""
        menu = QMenu(self.shell)
        item = self.session.item if target is None else find_item(self.session.job, target)
        shape = menu.addAction("A new shape" if item is None else f"The shape of {item.name}")
        shape.triggered.connect(lambda: self._take_shape(incoming.paths[0], target))
        menu.addAction("Artwork").triggered.connect(lambda: self.take(incoming, target))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(QCursor.pos())

    def _take_shape(self, path: Path, target: str | None) -> None:
        if target is not None:
            self.session.select((target,))
        self.workbench.steps.shape.commands.import_file(path)

    def _on_job_needed(self, job: Job) -> None:
        self.show_job(job, self.session.store, None)

    def _on_add_photos(self) -> None:
        self._ask_photos("Open photographs", lambda paths: self.take(Incoming(paths)))

    def _on_swap(self) -> None:
        item = self.session.item
        if item is not None:
            self._ask_photos("Choose another photo", lambda paths: self.take(Incoming(paths[:1]), item.id))

    def _ask_photos(self, title: str, then: Callable[[tuple[Path, ...]], object]) -> None:
        def asking_photos() -> Errand[None]:
            start = asking.Place("photographs")
            chosen = yield from asking.files_to_open(self.shell, title, start, _PHOTO_FILTER)
            if chosen:
                then(chosen)

        self._run(asking_photos())

    def _on_picture_wanted(self, title: str, step: str, edit: PictureEdit) -> None:
        self._run(self._asking_picture(title, step, edit))

    def _asking_picture(self, title: str, step: str, edit: PictureEdit) -> Errand[None]:
        chosen = yield from asking.file_to_open(self.shell, title, asking.Place("photographs"), _PHOTO_FILTER)
        if chosen is not None:
            self.intake.lend(chosen, step, edit)

    def _on_start_from_shape(self) -> None:
        sheet = Sheet("s1", "Sheet 1", *_SHAPE_FIRST)
        self.show_job(Job((sheet,)), new_store(), None)
        self.session.set_drawing("circle")

    # commands of the window

    def _on_new(self) -> None:
        self._run(self._beginning_anew())

    def _beginning_anew(self) -> Errand[None]:
        if (yield from self.files.leaving()):
            store = new_store()
            self.keeping.begin()
            self.service.use_store(store)
            self.session.replace_job(empty_job(), store, None)
            self.files.hold(None)
            self._show_page(self.shell.start)

    def _turn_to(self, page: Page) -> None:
        """Show a view of the job; a problem told in the last one is not carried over."""
        self.workbench.show_page(page)
        self.toast.leave()
        self._on_place_changed()

    def _on_export(self) -> None:
        self._turn_to("bench" if self.workbench.is_exporting else "export")
        if self.session.path is not None:
            self.workbench.export.set_folder(self.session.path.parent)

    def _on_mockups(self) -> None:
        self._turn_to("bench" if self.workbench.page == "mockups" else "mockups")

    def _on_series(self) -> None:
        item = self.session.item
        if item is None:
            self.complain("Select the cutout whose steps the photos of the series are to get")
        elif item.is_group:
            self.complain(f"{item.name} is a group; select a cutout in it")
        else:
            self.workbench.begin_series(item.id)

    def _on_series_photos_asked(self, mime: QMimeData | None) -> None:
        if mime is None:
            self._ask_photos("Open photographs", lambda paths: self.take_for_series(Incoming(paths)))
            return
        incoming = incoming_from(mime)
        if incoming.paths or incoming.data:
            self.take_for_series(incoming)
        else:
            self.complain(_NO_PICTURE)

    def take_for_series(self, incoming: Incoming) -> Running[None]:
        """Read photos and show them in the panel of the series."""
        return self.intake.read(incoming, self.workbench.series.take)

    def _on_series_made(self, words: str) -> None:
        self.workbench.bench.fit()
        self.toast.say(words, more=("Export…", self._on_export))

    def _on_keys(self) -> None:
        help_of(self.shell).show_named("keys")

    def show_names(self) -> None:
        """Write on each control what it is called, until a click or a key."""
        ControlNames(self.shell)

    def _on_help(self) -> None:
        help_of(self.shell)

    def _on_find_command(self) -> None:
        # The views may have been made anew, in other colours.
        steps = self.workbench.steps
        if self._finder is not None and self._finder.steps is not steps:
            self._finder.panel.deleteLater()
            self._finder = None
        if self._finder is None:
            choose_shape = self.workbench.library.choose
            self._finder = CommandFinder(self.shell, self.session, self.actions_by_id, steps, choose_shape)
        self._finder.panel.come()

    def _on_preferences(self) -> None:
        dialog = PreferencesDialog(self.shell, self.complain)
        dialog.changed.connect(self._on_preferred)
        dialog.show()

    def _on_preferred(self, wanted: Preferences) -> None:
        apply_preferences(wanted, self.session, self.service, is_first=False)

    def take_key(self, event: QKeyEvent) -> bool:
        """Leave the export view, or that of mock-ups, with Escape."""
        if event.key() == Qt.Key.Key_Escape and self.workbench.page != "bench":
            self._turn_to("bench")
            return True
        return False

    def may_close(self) -> bool:
        """Ask about unsaved work. False to stay: the window closes once that is answered and done."""
        if self._is_left:
            return True
        focus = QApplication.focusWidget()
        if isinstance(focus, QLineEdit):
            focus.clearFocus()
        if not self._is_leaving:
            self._is_leaving, self._closes_later = True, False
            self._run(self._leaving())
            self._closes_later = True
        return self._is_left

    def _leaving(self) -> Errand[None]:
        may_leave = not self.has_job or (yield from self.files.leaving())
        self._is_leaving = False
        if may_leave:
            self._is_left = True
            self._stop()
            if self._closes_later:
                self.shell.close()
        else:
            self.shell.stay()

    def _stop(self) -> None:
        """End the threads."""
        self.keeping.stop()
        self.files.hold(None)
        self.service.stop()
        self.hand.stop()


def empty_job() -> Job:
    """Return a job with an empty sheet."""
    return Job((Sheet("s1", "Sheet 1", *_SHAPE_FIRST),))
