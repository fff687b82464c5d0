"""The view of mock-ups: those of the job, places to put more into, the picture, how it lies, writing it."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QListWidget,
    QVBoxLayout,
    QWidget,
)

from glasscap.app.mockups.mockup_stage import MockupStage
from glasscap.app.mockups.place_grid import PlaceGrid
from glasscap.app.services import asking
from glasscap.app.services.errands import Errand, Running, run_errand, waited
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import CheckBox, Choice, push, tool
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.wheel import DropDown
from glasscap.core.document.model.job import Job, PhotoRecord, walk
from glasscap.core.document.model.mockups import FITS, Mockup, OwnPlace
from glasscap.core.document.outputs.mockups import (
    add_mockup,
    change_mockup,
    live_mockups,
    move_corner,
    own_place,
    remove_mockups,
    rename_mockup,
)
from glasscap.core.document.outputs.titles import dashed_name
from glasscap.core.errors import GlassCapError
from glasscap.editor.mockup_pictures import MockupAnswer, MockupRequest, mockup_answer
from glasscap.files.mockup_files import all_versions, write_mockup
from glasscap.files.place_book import PLACES

_LEFT, _RIGHT = 296, 268
_FIT_LABELS = {"contain": "Contain", "cover": "Cover", "stretch": "Stretch"}
_NOTHING = "Choose a place at the left: what is selected on the bench is put into it."
_PICTURES = "Pictures (*.png *.jpg *.webp *.avif *.tif)"
_CHANNEL, _FEW_DRAFTS = "mockup", 4


class MockupView(QWidget):
    """Mock-ups are kept in the job and follow every edit; each control is one step."""

    picture_wanted = Signal(str, str, object)
    said = Signal(str)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setAccessibleName("Mock-ups")
        self._session, self._service = session, service
        self._chosen = ""
        self.list = QListWidget()
        self.list.setObjectName("names")
        self.list.setAccessibleName("Mock-ups of the job")
        self.places = PlaceGrid(service)
        self.own = push("In a photo of your own…", self._on_own, icon_name="image-plus")
        self.rename_button = tool("pencil", "Rename the mock-up", self.ask_name)
        self.remove_button = tool("trash-2", "Remove the mock-up", self.remove)
        self.stage = MockupStage()
        self.subject = DropDown()
        self.subject.setAccessibleName("What it shows")
        self.fit = Choice("Fit", list(_FIT_LABELS.items()), self._on_fit, is_tight=True)
        self.note = label("", "error")
        self.note.setWordWrap(True)
        self.all_versions = CheckBox("All versions side by side")
        self.write_picture = push("Write as a picture…", self._on_write_picture)
        self.write_page = push("Write the page for the client…", self._on_write_page, style="primary")
        self.write_page.setToolTip("One PDF page with every version")
        self._lay_out()
        self._soon = QTimer(self, singleShot=True, interval=0)
        self._soon.timeout.connect(self._ask)
        self._connect()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(_panel("steps", _LEFT, self._left()))
        row.addWidget(self.stage, 1)
        row.addWidget(_panel("proof", _RIGHT, self._right()))

    def _left(self) -> QVBoxLayout:
        column = _column()
        head = QHBoxLayout()
        head.addWidget(label("Mock-ups", "muted"))
        head.addStretch(1)
        head.addWidget(self.rename_button)
        head.addWidget(self.remove_button)
        column.addLayout(head)
        column.addWidget(self.list, 1)
        self.lead = label("", "muted")
        self.lead.setWordWrap(True)
        column.addWidget(self.lead)
        column.addWidget(self.places)
        column.addWidget(self.own)
        return column

    def _right(self) -> QVBoxLayout:
        column = _column()
        column.addWidget(label("Shows", "muted"))
        column.addWidget(self.subject)
        column.addWidget(label("Lies in the place by", "muted"))
        column.addWidget(self.fit)
        column.addWidget(self.note)
        column.addWidget(self.all_versions)
        column.addStretch(1)
        column.addWidget(self.write_picture)
        column.addWidget(self.write_page)
        return column

    def _connect(self) -> None:
        self.list.itemDoubleClicked.connect(self._on_name_clicked)
        self.list.currentRowChanged.connect(self._on_row)
        self.places.chosen.connect(self._on_place)
        self.subject.activated.connect(self._on_subject)
        self.all_versions.clicked.connect(self._on_all_clicked)
        self.stage.corner_moved.connect(self._on_corner_moved)
        self.stage.corner_placed.connect(self._on_corner_placed)
        self.stage.given_up.connect(self._session.drop_preview)
        self.stage.resized.connect(self._soon.start)
        self._service.answered.connect(self._on_answered)
        self._service.photo_decoded.connect(self._on_photo_decoded)
        self._session.job_changed.connect(self._on_job_changed)
        removing = QShortcut(QKeySequence("Del"), self.list)
        removing.activated.connect(self.remove)

    # what there is

    @property
    def mockup(self) -> Mockup | None:
        """The mock-up that is shown."""
        found = live_mockups(self._session.job)
        return next((m for m in found if m.id == self._chosen), found[0] if found else None)

    def _subject_id(self) -> str:
        item = self._session.item
        return item.id if item is not None and item.content is not None else self._session.sheet_id

    def _subjects(self) -> list[tuple[str, str]]:
        """Return (words, id) of every sheet and of all that shows on it."""
        found = []
        for sheet in self._session.job.sheets:
            found.append((sheet.name, sheet.id))
            found += [(f"   {i.name}", i.id) for i in walk(sheet.items) if i.content is not None]
        return found

    # showing

    def begin(self) -> None:
        """Come into sight."""
        self.places.show_pictures()
        self._show()
        self.stage.setFocus()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self.isVisible():
            self._show()

    def _on_photo_decoded(self) -> None:
        if self.isVisible():
            self._soon.start()

    def _show(self) -> None:
        mockup, found = self.mockup, live_mockups(self._session.job)
        self._chosen = "" if mockup is None else mockup.id
        self._show_list(found)
        subjects = self._subjects()
        names = {key: words.strip() for words, key in subjects}
        self.lead.setText(f"Put {names.get(self._subject_id(), '')} into")
        for widget in (self.subject, self.fit, self.all_versions, self.write_picture, self.write_page):
            widget.setEnabled(mockup is not None)
        for button in (self.rename_button, self.remove_button):
            button.setEnabled(mockup is not None)
        self._show_subjects(subjects, mockup)
        self.fit.show_choice(None if mockup is None else mockup.fit)
        if mockup is None:
            self.note.setText("")
            self.stage.show_own(None)
            self.stage.show_answer(None, _NOTHING)
            return
        self.all_versions.setVisible(len(all_versions(self._session.job, mockup)) > 1)
        self.stage.show_own(mockup.place if isinstance(mockup.place, OwnPlace) else None)
        self._soon.start()

    def _show_list(self, found: tuple[Mockup, ...]) -> None:
        self.list.blockSignals(True)
        self.list.clear()
        self.list.addItems([m.name for m in found])
        row = next((n for n, m in enumerate(found) if m.id == self._chosen), -1)
        self.list.setCurrentRow(row)
        self.list.blockSignals(False)

    def _show_subjects(self, subjects: list[tuple[str, str]], mockup: Mockup | None) -> None:
        self.subject.blockSignals(True)
        self.subject.clear()
        for words, key in subjects:
            self.subject.addItem(words, key)
        self.subject.setCurrentIndex(-1 if mockup is None else self.subject.findData(mockup.subject_id))
        self.subject.blockSignals(False)

    def _ask(self) -> None:
        mockup = self.mockup
        if mockup is None or not self.isVisible():
            return
        has_all = self.all_versions.isChecked() and not self.all_versions.isHidden()
        request = MockupRequest(self._session.job, mockup.id, self.stage.room, has_all)
        self._service.ask(_CHANNEL, lambda photos, cache: mockup_answer(request, photos, cache))

    def _on_answered(self, channel: object, answer: object) -> None:
        if (
            channel != _CHANNEL
            or not isinstance(answer, MockupAnswer)
            or answer.request.mockup_id != self._chosen
        ):
            return
        self.stage.show_answer(answer, answer.problem if not answer.pictures else "")
        # Among many photos each is so small that a draft will do.
        if 0 < len(answer.drafts) <= _FEW_DRAFTS:
            self._service.decode(answer.drafts)
        by = (answer.stretched - 1) * 100
        self.note.setText(
            f"Stretched by {by:.0f} %: it has other proportions than the place" if by >= 0.5 else ""
        )

    # choosing and changing

    def _on_row(self, row: int) -> None:
        found = live_mockups(self._session.job)
        if 0 <= row < len(found):
            self._chosen = found[row].id
            self._show()

    def _on_place(self, key: str) -> None:
        self._add(key, PLACES[key])

    def _add(self, place: str | OwnPlace, words: str, *, before: Callable[[Job], Job] = lambda job: job) -> None:
        subject, made = self._subject_id(), [""]

        def edit(job: Job) -> Job:
            done, made[0] = add_mockup(before(job), subject, place, words)
            return done

        if self._session.apply("Add a mock-up", edit):
            self._chosen = made[0]
            self._show()

    def _on_own(self) -> None:
        def edit(job: Job, photo: PhotoRecord) -> Job:
            done, self._chosen = add_mockup(job, self._subject_id(), own_place(photo), Path(photo.name).stem)
            return done

        self.picture_wanted.emit("Choose a photo of a place", "Add a mock-up", edit)

    def _change(self, words: str, change: Callable[[Mockup], Mockup]) -> None:
        mockup = self.mockup
        if mockup is not None:
            self._session.apply(words, lambda job: change_mockup(job, mockup.id, change))

    def _on_fit(self, key: str) -> None:
        fit = next(f for f in FITS if f == key)
        self._change("Change the fit", lambda m: replace(m, fit=fit))
        self.fit.show_choice(key)

    def _on_subject(self, row: int) -> None:
        subject = self.subject.itemData(row)
        self._change("Show something else", lambda m: replace(m, subject_id=subject))

    def _on_all_clicked(self) -> None:
        self._soon.start()

    def _on_name_clicked(self) -> None:
        self.ask_name()

    def ask_name(self) -> None:
        """Ask for another name."""
        mockup = self.mockup
        if mockup is None:
            return

        def rename(name: str) -> None:
            self._session.apply("Rename the mock-up", lambda job: rename_mockup(job, mockup.id, name))

        asking.ask_text(self, "Rename the mock-up", "Name", rename, text=mockup.name)

    def remove(self) -> None:
        """Remove the mock-up that is shown."""
        mockup = self.mockup
        if mockup is not None:
            self._session.apply("Remove the mock-up", lambda job: remove_mockups(job, [mockup.id]))

    # corners of one's own place

    def _on_corner_moved(self, corner: int, x: float, y: float) -> None:
        mockup, session = self.mockup, self._session
        if mockup is None:
            return
        try:
            session.preview(move_corner(session.committed, mockup.id, corner, x, y))
        except GlassCapError:
            # Past what a place can be: the corner waits where it was.
            return

    def _on_corner_placed(self, corner: int, x: float, y: float) -> None:
        mockup = self.mockup
        if mockup is not None:
            self._session.apply("Move a corner", lambda job: move_corner(job, mockup.id, corner, x, y))

    # writing

    def _on_write_picture(self) -> None:
        self._write(".png", _PICTURES)

    def _on_write_page(self) -> None:
        self._write(".pdf", "PDF (*.pdf)")

    def _write(self, ending: str, kinds: str) -> None:
        mockup, session = self.mockup, self._session
        if mockup is None:
            return
        folder = None if session.path is None else session.path.parent
        start = asking.Place("mock-ups", folder, f"{dashed_name(mockup.name)}{ending}")
        run_errand(self._asking_write(start, kinds, ending), self, self.said.emit)

    def _asking_write(self, start: asking.Place, kinds: str, ending: str) -> Errand[bool]:
        path = yield from asking.file_to_save(self.window(), "Write the mock-up", start, kinds)
        return path is not None and (yield from self._writing(path if path.suffix else path.with_suffix(ending)))

    def write_to(self, path: Path) -> Running[bool]:
        """Write the mock-up that is shown; say what became of it."""
        return run_errand(self._writing(path), self, self.said.emit)

    def _writing(self, path: Path) -> Errand[bool]:
        mockup, job, store = self.mockup, self._session.job, self._session.store
        if mockup is None:
            return False
        has_all = path.suffix.lower() == ".pdf" or self.all_versions.isChecked()
        versions = all_versions(job, mockup) if has_all else ("",)
        work = partial(write_mockup, path, job, mockup, store, versions)
        written = yield from waited("Writing the mock-up", lambda ticket: work(progress=ticket.report))
        self.said.emit(f"Written: {', '.join(p.name for p in written)}")
        return True


def _panel(name: str, width: int, column: QVBoxLayout) -> QFrame:
    made = QFrame()
    made.setObjectName(name)
    made.setFixedWidth(width)
    made.setLayout(column)
    return made


def _column() -> QVBoxLayout:
    column = QVBoxLayout()
    column.setContentsMargins(12, 12, 12, 12)
    column.setSpacing(9)
    return column
