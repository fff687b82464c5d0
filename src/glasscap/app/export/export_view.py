"""The export view: the list of what goes out, bench and file compared, how each row is written."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt, QTimer, QUrl, Signal
from PySide6.QtGui import QDesktopServices, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from glasscap.app.export.compare_stage import CompareStage
from glasscap.app.export.file_panel import PANEL_WIDTH as FILE_WIDTH
from glasscap.app.export.file_panel import PROOF_ROOM, FilePanel
from glasscap.app.export.format_panel import FileChange
from glasscap.app.export.list_panel import ListPanel
from glasscap.app.export.look_bar import LookBar, LookedOn
from glasscap.app.export.row_body import RowBody
from glasscap.app.export.writing import Written, write_list
from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, run_errand
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.colours import INK_PROOF
from glasscap.app.widgets.menus import add_entry
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.model.paint import ColourPaint
from glasscap.core.document.model.query import find_item, has_item
from glasscap.core.document.outputs.rows import (
    add_outputs,
    add_versions,
    add_video_pack,
    change_outputs,
    live_outputs,
    move_output,
    remove_outputs,
    row_title,
    with_own_names,
)
from glasscap.core.render.outputs import subject_of
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.comparing import BenchSide, CompareRequest, Comparison, bench_side, compare, default_output
from glasscap.editor.export_rows import RowFacts, RowsRequest, row_facts, waiting_row
from glasscap.editor.proof_pictures import backdrop_picture
from glasscap.files.chosen_folders import chosen_folder

_THUMB_PX, _ROOM = 80, 90
_WHITE = "#ffffff"
OutputChange = Callable[[Output], Output]


class ExportView(QWidget):
    """Rows are kept in the job; an empty list shows one row for what is selected, kept once it is changed.

    `drag_asked(output, name, card, at)` when the file that is shown is dragged out.
    """

    said = Signal(str)
    drag_asked = Signal(object, str, object, QPoint)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setAccessibleName("Export")
        self._session, self._service = session, service
        body = RowBody()
        self.format, self.picture = body.format, body.picture
        self.list, self.file = ListPanel(body), FilePanel()
        self.facts = self.file.facts
        self.stage = CompareStage()
        self.bar = LookBar()
        self.bar.resized.connect(self._place_bar)
        self._chosen: tuple[str, ...] = ()
        self.written: Written | None = None
        self._looked_at = session.store
        self._facts: tuple[RowFacts, ...] = ()
        # Keys given to the view are the picture's: they move the glass.
        self.setFocusProxy(self.stage)
        self._lay_out()
        self._connect()
        self.set_folder(chosen_folder("pictures out") or Path.home())

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.bar.setParent(self.stage)
        row.addWidget(self.list)
        row.addWidget(self.stage, 1)
        row.addWidget(self.file)

    def _connect(self) -> None:
        session, service = self._session, self._service
        self._ask_soon = QTimer(self, singleShot=True, interval=0)
        self._ask_soon.timeout.connect(self._ask)
        self.stage.resized.connect(self._on_stage_resized)
        self.bar.look_chosen.connect(self._on_look)
        self.bar.glass_chosen.connect(self._on_glass)
        self.bar.filling_chosen.connect(self.stage.set_filling)
        self.stage.filling_changed.connect(self._show_bar)
        self.stage.glass_moved.connect(self._show_edge)
        self.bar.backdrop_chosen.connect(self._on_backdrop)
        self.file.backdrop_chosen.connect(self._on_backdrop)
        self.file.drag_asked.connect(self._on_dragged)
        self.format.changed.connect(self._on_file_changed)
        self.picture.changed.connect(self._on_output_changed)
        self.picture.job_changed.connect(lambda words, edit: session.apply(words, edit))
        for panel in (self.format, self.picture):
            panel.refused.connect(session.problem_found)
        rows = self.list.rows
        rows.chosen.connect(self._on_chosen)
        rows.moved.connect(
            lambda key, at: self._apply("Reorder the export list", lambda j: move_output(j, key, at))
        )
        rows.removed.connect(self._on_removed)
        rows.renamed.connect(self._on_renamed)
        self.list.add_asked.connect(self._on_add)
        self.list.video_asked.connect(self._on_video)
        self.list.remove_asked.connect(lambda: self._on_removed(self.chosen_ids))
        self.list.folder_asked.connect(self._on_folder_clicked)
        self.list.write_asked.connect(self._on_write_clicked)
        self.list.show_asked.connect(self._on_show_folder_clicked)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._ask_soon.start)
        session.job_changed.connect(self._on_job_changed)

    # what there is

    @property
    def outputs(self) -> tuple[Output, ...]:
        """The rows: the job's, or one for what is selected."""
        kept = live_outputs(self._session.job)
        return kept or self._waiting_rows()

    @property
    def chosen_ids(self) -> tuple[str, ...]:
        """The ids of the rows chosen; the first where none is."""
        ids = [o.id for o in self.outputs]
        return tuple(i for i in ids if i in self._chosen) or (ids[0],)

    @property
    def output(self) -> Output:
        """The row that is shown."""
        return next(o for o in self.outputs if o.id == self.chosen_ids[0])

    def _subject_ids(self) -> tuple[str, ...]:
        """Return what is selected, or was last, and has something to show; else the sheet."""
        session = self._session
        shown = tuple(i for i in session.offered if find_item(session.job, i).content is not None)
        return shown or (session.sheet_id,)

    def _waiting_rows(self) -> tuple[Output, ...]:
        """Return what an empty list shows: a row for each thing selected."""
        job = self._session.job
        rows = (default_output(job, i) for i in self._subject_ids())
        return with_own_names(add_outputs(replace(job, outputs=()), rows)).outputs

    # showing

    def begin(self) -> None:
        """Show what would go out now."""
        if self._looked_at is not self._session.store:
            # Rows of another job may have the same ids.
            self._looked_at = self._session.store
            self._facts = ()
            self.stage.forget()
        ids = self._subject_ids()
        found = next((o.id for o in self.outputs if o.item_id in ids), None)
        self._chosen = (found,) if found is not None else ()
        self.list.forget_result()
        self._show()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self.isVisible():
            self.list.forget_result()
            self._show()

    def _show(self) -> None:
        outputs, output = self.outputs, self.output
        known = {f.output: f for f in self._facts}
        thumbs = {f.output.id: f.thumb for f in self._facts}
        session = self._session
        facts = [known.get(o) or waiting_row(o, row_title(session.job, o), thumbs.get(o.id)) for o in outputs]
        self.list.show_rows(tuple(facts), self.chosen_ids)
        self.list.show_addable([name for _, name in self._addable()], session.sheet.name)
        self.format.show_output(output)
        size = next((f.size for f in facts if f.output == output), (0, 0))
        sheet, _ = subject_of(session.job, output.item_id)
        ppi = sheet.resolution_ppi * (output.size.scale if output.size.kind == "scale" else 1.0)
        self.picture.show_output(output, session.job.sizes, size, ppi)
        self._show_backdrops()
        self._ask_soon.start()

    def _show_backdrops(self) -> None:
        """Offer every background of the proofs."""
        job = self._session.job
        known: list[tuple[str, LookedOn]] = [("White", _WHITE), ("Ink", INK_PROOF)]
        known += [("Job colour", c) for c in job.proof_colours[:1]]
        # A colour of the designer's own is shown as a flat one is.
        known += [("Your own", b.colour if isinstance(b, ColourPaint) else b) for b in job.proofs.backgrounds]
        self.bar.show_backdrops([("Checkerboard", None), *known])
        self.file.show_backdrops(known)
        if self.stage.backdrop not in [None, *(b for _, b in known)]:
            self.stage.set_backdrop(None)
        self._show_bar()

    def set_folder(self, folder: Path) -> None:
        """Write into another folder from now on."""
        self.folder = folder
        self.list.show_folder(folder)

    def _ask(self) -> None:
        if not self.isVisible():
            return
        ratio = self.devicePixelRatioF()
        room = (round((self.stage.width() - _ROOM) * ratio), round((self.stage.height() - 2 * _ROOM) * ratio))
        small = (round(PROOF_ROOM[0] * ratio), round(PROOF_ROOM[1] * ratio))
        wanted = CompareRequest(self._session.job, self.output, (max(16, room[0]), max(16, room[1])), small)
        rows = RowsRequest(self._session.job, self.outputs, round(_THUMB_PX * ratio))
        self.stage.show_waiting(self.output)
        self.file.show_waiting()
        self._ask_backgrounds(ratio)
        self._service.ask("bench side", lambda photos, cache: bench_side(wanted, photos, cache))
        self._service.ask("compare", lambda photos, cache: compare(wanted, photos, cache))
        self._service.ask("rows", lambda photos, cache: row_facts(rows, photos, cache))

    def _ask_backgrounds(self, ratio: float) -> None:
        """Ask for the pictures of backgrounds that are no flat colour."""
        job, size = self._session.job, (round(FILE_WIDTH * ratio), round(PROOF_ROOM[1] * ratio))
        backdrops = [b for b in self.file.painted if b is not None and not isinstance(b, str)]
        if backdrops:
            self._service.ask(
                "behind proofs",
                lambda photos, cache: [backdrop_picture(job, b, size, photos, cache) for b in backdrops],
            )

    def _show_edge(self) -> None:
        answer = self.stage.answer
        self.file.edge.show_place(None if answer is None else answer.file, *self.stage.glass_share)

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel == "compare" and isinstance(answer, Comparison):
            if answer.request.output == self.output:
                self.stage.show_answer(answer)
                self.file.show_answer(answer)
        elif channel == "bench side" and isinstance(answer, BenchSide):
            if answer.request.output == self.output:
                self.stage.show_bench(answer.frame)
        elif channel == "behind" and isinstance(answer, Frame):
            self.stage.show_behind(answer)
        elif channel == "behind proofs" and isinstance(answer, list):
            self.file.show_backgrounds(answer)
        elif channel == "rows" and isinstance(answer, tuple):
            if tuple(f.output for f in answer) != self.outputs:
                # Rows came, went or changed meanwhile: they are asked for again.
                return
            self._facts = answer
            self.list.show_rows(answer, self.chosen_ids)
            self.list.write.setEnabled(any(not f.problem for f in answer))
            size = next((f.size for f in answer if f.output == self.output), (0, 0))
            self.picture.show_size(size)

    def _on_stage_resized(self) -> None:
        self._place_bar()
        self._ask_soon.start()

    def _place_bar(self) -> None:
        self.bar.fit_into(self.stage.width())
        self.bar.move((self.stage.width() - self.bar.width()) // 2, self.stage.height() - self.bar.height() - 14)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the bar in its place."""
        super().resizeEvent(event)
        self._on_stage_resized()

    # choosing

    def _apply(self, words: str, edit: Callable[[Job], Job]) -> None:
        """Do an edit of the list; the row of an empty list is kept first."""
        waiting = () if live_outputs(self._session.job) else self.outputs

        def whole(job: Job) -> Job:
            return edit(replace(job, outputs=waiting) if waiting else job)

        self._session.apply(words, whole)

    def _on_output_changed(self, words: str, change: OutputChange) -> None:
        ids = self.chosen_ids
        self._apply(words, lambda job: change_outputs(job, ids, change))

    def _on_file_changed(self, words: str, change: FileChange) -> None:
        self._on_output_changed(words, lambda output: replace(output, file=change(output.file)))

    def _on_chosen(self, ids: tuple[str, ...]) -> None:
        self._chosen = ids
        self._show()

    def _on_removed(self, ids: tuple[str, ...]) -> None:
        self._apply("Remove from the export list", lambda job: remove_outputs(job, ids))

    def _on_dragged(self, card: QWidget, at: QPoint) -> None:
        facts = next((f for f in self._facts if f.output == self.output and not f.problem), None)
        if facts is not None:
            self.drag_asked.emit(facts.output, f"{facts.stem}{facts.ending}", card, at)

    def _on_renamed(self, key: str, name: str) -> None:
        self._apply(
            "Rename the file", lambda job: change_outputs(job, [key], lambda output: replace(output, name=name))
        )

    def _on_add(self, what: str) -> None:
        """Add a row for the cutout or the sheet; like the row that is shown, but for its crop."""
        shown = self.output
        if what == "versions":
            self._apply("Add every version", lambda job: add_versions(job, shown))
        elif what == "again":
            self._add((shown,))
        elif what == "sheet":
            self._add_sheet()
        else:
            self._add_cutouts()

    def _addable(self) -> list[tuple[str, str]]:
        """Return the id and name of what is selected and not yet listed."""
        listed, job = {o.item_id for o in live_outputs(self._session.job)}, self._session.job
        ids = [i for i in self._subject_ids() if i not in listed and has_item(job, i)]
        return [(i, find_item(job, i).name) for i in ids]

    def _add_cutouts(self) -> None:
        """Add what is selected and not yet listed; where that is nothing, offer the sheet's cutouts."""
        job, found = self._session.job, self._addable()
        if found:
            self._add(tuple(default_output(job, i) for i, _ in found))
            return
        shown = [(i.id, i.name) for i in reversed(self._session.sheet.items) if i.content is not None]
        if shown:
            self._offer(shown, self.list.add_cutout)
        else:
            self.said.emit("There is no cutout on this sheet yet")

    def _add_sheet(self) -> None:
        """Add the sheet that is open; where it is listed already, offer all sheets."""
        job, sheet_id = self._session.job, self._session.sheet_id
        if any(o.item_id == sheet_id for o in live_outputs(job)):
            self._offer([(s.id, s.name) for s in job.sheets], self.list.add_sheet)
        else:
            self._add((default_output(job, sheet_id),))

    def _offer(self, named: list[tuple[str, str]], below: QWidget) -> None:
        """Offer things by their names in a menu; the one chosen is added."""
        menu = QMenu(self)
        for key, name in named:
            add_entry(menu, name, partial(self._add, (default_output(self._session.job, key),)))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(below.mapToGlobal(below.rect().bottomLeft()))

    def _add(self, rows: tuple[Output, ...]) -> None:
        """Put rows at the list's end, each under a name of its own."""
        self._apply("Add to the export list", lambda job: with_own_names(add_outputs(job, rows)))
        self._chosen = tuple(o.id for o in self.outputs[-len(rows) :])
        self._show()

    def _on_video(self, alpha: str) -> None:
        """Add the rows of a video pack for what is selected on the bench."""
        item_id = self._subject_ids()[-1]
        count = len(live_outputs(self._session.job))
        is_premultiplied = alpha == "premultiplied"
        self._session.apply(
            "Add a video pack", lambda job: add_video_pack(job, item_id, is_premultiplied=is_premultiplied)
        )
        self._chosen = tuple(o.id for o in self.outputs[count : count + 1])
        self._show()

    def _on_look(self, look: str) -> None:
        self.stage.set_look(look)  # type: ignore[arg-type]
        self._show_bar()

    def _on_glass(self, zoom: int) -> None:
        self.stage.set_glass_zoom(zoom)
        self._show_bar()

    def _show_bar(self) -> None:
        stage = self.stage
        self.bar.show_look(stage.look, stage.glass_zoom, stage.filling, stage.backdrop)
        self.file.show_chosen(stage.backdrop)

    def _on_backdrop(self, backdrop: LookedOn) -> None:
        self.stage.set_backdrop(backdrop)
        self._show_bar()
        if backdrop is not None and not isinstance(backdrop, str):
            job, size = self._session.job, (max(16, self.stage.width()), max(16, self.stage.height()))
            self._service.ask(
                "behind", lambda photos, cache: backdrop_picture(job, backdrop, size, photos, cache)
            )

    def _on_folder_clicked(self) -> None:
        run_errand(self._asking_folder(), self, self.said.emit)

    def _asking_folder(self) -> Errand[None]:
        start = asking.Place("pictures out", self.folder)
        chosen = yield from asking.folder(self.window(), "Write pictures into", start)
        if chosen is not None:
            self.set_folder(chosen)

    # writing

    def _on_write_clicked(self) -> None:
        self.write_to(self.folder)

    def write_to(self, folder: Path) -> Running[bool]:
        """Write the list into a folder; say what became of it. The result is whether all of it was written."""
        return run_errand(self._writing(folder), self, self.said.emit)

    def _writing(self, folder: Path) -> Errand[bool]:
        job, store = self._session.job, self._session.store
        done = yield from write_list(self.window(), job, self.outputs, store, folder)
        if done is None:
            return False
        if any(r.is_written for r in done.results) and not live_outputs(self._session.job):
            # A list that was written stays with the job: the command line writes the same files.
            self._apply("Keep the export list", lambda job: job)
        self.written = done
        self.list.show_result(done)
        return done.is_good

    def _on_show_folder_clicked(self) -> None:
        written = [r.path.parent for r in self.written.results if r.is_written] if self.written else []
        folder = written[0] if written else self.folder
        if not QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder))):
            self.said.emit(f"No program here opens folders; the files are in {folder}")
