"""A series over the bench: the photos that are to get the steps of a cutout, each shown as it will be."""

from collections.abc import Sequence
from functools import partial
from typing import cast

from PySide6.QtCore import QEvent, Qt, QTimer, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.commands.mimes import take_copy, takes_photos
from glasscap.app.series.photo_cards import PhotoCards
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.widgets.buttons import CheckBox, Choice, push
from glasscap.app.widgets.over_bench import OverBench
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import find_item, find_sheet, has_item
from glasscap.core.document.outputs.series import Placing
from glasscap.core.render.plan.spill import roomy_series
from glasscap.editor.numbers import counted
from glasscap.editor.series_cards import SeriesCard, SeriesRequest, series_card

_CHANNEL = "series"
_PLACINGS = (("covering", "Centred"), ("alike", "As in this cutout"))
_MEANT = {
    "covering": "Each photo is centred, just large enough for the shape and its soft edge",
    "alike": "Each photo gets the place, turn and size of the one in the cutout",
}


class SeriesPanel(OverBench):
    """Lies over the bench until the series is made or given up; its pictures follow every step.

    `photos_asked()` when photos are to be opened, `dropped(mime)` when some were dropped, `made(words)` when
    the series is there.
    """

    photos_asked = Signal()
    dropped = Signal(object)
    made = Signal(str)

    def __init__(self, session: Session, service: RenderService, parent: QWidget) -> None:
        super().__init__("Series", parent)
        self.setAcceptDrops(True)
        self._session, self._service = session, service
        self.item_id, self.photos = "", tuple[PhotoRecord, ...]()
        self.placing: Placing = "covering"
        self._store = session.store
        self.add = push("Add photos…", self.photos_asked.emit, icon_name="image-plus")
        self.placings = Choice("Photos lie", list(_PLACINGS), self._on_placing)
        for key, words in _MEANT.items():
            self.placings.buttons[key].setToolTip(words)
        self.cards = PhotoCards()
        self.cards.removed.connect(self._on_removed)
        self.rows = CheckBox("Put each on the export list")
        self.rows.setChecked(True)
        self.make = push("", self._on_make, style="primary")
        self.cancel = push("Cancel", self._on_cancel)
        self._lay_out()
        self._soon = QTimer(self, singleShot=True, interval=0)
        self._soon.timeout.connect(self._ask)
        self.cards.sight_changed.connect(self._soon.start)
        service.answered.connect(self._on_answered)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self._on_view_changed)

    def _lay_out(self) -> None:
        column = self.column
        column.setSpacing(10)
        choices = QHBoxLayout()
        choices.setSpacing(12)
        choices.addWidget(self.add)
        choices.addStretch(1)
        choices.addWidget(self.placings)
        column.addLayout(choices)
        column.addWidget(self.cards, 1)
        foot = QHBoxLayout()
        foot.setSpacing(8)
        foot.addWidget(self.rows)
        foot.addStretch(1)
        foot.addWidget(self.cancel)
        foot.addWidget(self.make)
        column.addLayout(foot)

    # what is shown

    def begin(self, item_id: str) -> None:
        """Begin a series of a cutout; photos of one that was closed, not cancelled, are there still."""
        if self._store is not self._session.store:
            self._store, self.photos = self._session.store, ()
        self.item_id = item_id
        self.come()
        self._show_state()

    def take(self, photos: Sequence[PhotoRecord]) -> None:
        """Add photos; one that is there already is left out."""
        there = {p.sha256: p for p in (*self.photos, *photos)}
        self.photos = tuple(there.values())
        self._show_state()

    def _show_state(self) -> None:
        self.title.setText(f"Series of {find_item(self._session.job, self.item_id).name}")
        self.placings.show_choice(self.placing)
        self.cards.show_photos(self.photos)
        count = len(self.photos)
        self.make.setText("Make the cutouts" if count == 0 else f"Make {_cutouts(count)}")
        self.make.setAccessibleName(self.make.text())
        self.make.setEnabled(count > 0)
        self._soon.start()

    def _ask(self) -> None:
        """Have the cards in sight drawn that have no picture yet."""
        if not self.isVisible() or not has_item(self._session.job, self.item_id):
            return
        for card in self.cards.waiting_in_sight():
            photo = next(p for p in self.photos if p.sha256 == card.key)
            request = SeriesRequest(self._session.job, self.item_id, photo, self.placing, card.picture_size())
            self._service.ask((_CHANNEL, card.key), partial(series_card, request))

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(answer, SeriesCard) and self._is_wanted(answer.request):
            self.cards.show_frame(answer.request.photo.sha256, answer.frame)

    def _is_wanted(self, request: SeriesRequest) -> bool:
        is_same = (request.item_id, request.placing) == (self.item_id, self.placing)
        return is_same and request.job is self._session.job

    # what is done

    def _on_placing(self, placing: str) -> None:
        self.placing = cast("Placing", placing)
        self.cards.forget_frames()
        self._show_state()

    def _on_removed(self, sha256: str) -> None:
        self.photos = tuple(p for p in self.photos if p.sha256 != sha256)
        self._show_state()

    def _on_cancel(self) -> None:
        self.photos = ()
        self.hide()

    def _on_make(self) -> None:
        item_id, photos, placing, has_rows = self.item_id, self.photos, self.placing, self.rows.isChecked()
        sheets: list[str] = []

        def edit(job: Job) -> Job:
            made, sheet_id = roomy_series(job, item_id, photos, placing, has_rows=has_rows)
            sheets.append(sheet_id)
            return made

        before = len(self._session.committed.outputs)
        if self._session.apply("Make a series", edit):
            self.hide()
            self.photos = ()
            sheet = find_sheet(self._session.job, sheets[-1])
            self._session.select([i.id for i in sheet.items])
            rows = len(self._session.committed.outputs) - before
            told = f", and {rows} on the export list" if rows else ""
            self.made.emit(f"{_cutouts(len(photos))} on the sheet “{sheet.name}”{told}")

    # what happens elsewhere

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if not self.isVisible():
            return
        if not has_item(new, self.item_id):
            self.hide()
        elif not self._session.is_previewing:
            self.cards.forget_frames()
            self._show_state()

    def _on_view_changed(self) -> None:
        if self.isVisible() and (self._store is not self._session.store or self._session.is_library_open):
            self.hide()

    def showEvent(self, event: QShowEvent) -> None:
        """Draw anew what may have changed meanwhile."""
        self.cards.forget_frames()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Draw what came into sight."""
        self._soon.start()

    def event(self, event: QEvent) -> bool:
        """Keep Delete, which leaves out a photo here: elsewhere it deletes the selected cutout."""
        is_key = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride
        if is_key and cast("QKeyEvent", event).key() == Qt.Key.Key_Delete:
            event.accept()
            return True
        return super().event(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files and picture data."""
        if takes_photos(event.mimeData()):
            take_copy(event)

    def dropEvent(self, event: QDropEvent) -> None:
        """Hand on what was dropped."""
        take_copy(event)
        self.dropped.emit(event.mimeData())


def _cutouts(count: int) -> str:
    return counted(count, "cutout")
