"""The versions of what is selected side by side over the bench; a click shows one."""

import math

from PySide6.QtCore import QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QGridLayout, QWidget

from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.widgets.over_bench import OverBench
from glasscap.app.widgets.picture_card import PictureCard
from glasscap.core.document.edits.versions import find_subject, show_version, shown_version, version_names
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import has_item
from glasscap.editor.version_cards import VersionCards, VersionsRequest, version_cards

_CHANNEL = "versions"


def _card(name: str) -> PictureCard:
    card = PictureCard(name, name, f"Version {name}")
    card.setMinimumSize(120, 100)
    return card


class ComparePanel(OverBench):
    """Lies over the bench until it is closed; its pictures follow every edit."""

    def __init__(self, session: Session, service: RenderService, parent: QWidget) -> None:
        super().__init__("Versions side by side", parent)
        self._session, self._service = session, service
        self.subject_id = ""
        self.cards: dict[str, PictureCard] = {}
        self._grid = QGridLayout()
        self._grid.setSpacing(10)
        self.column.addLayout(self._grid, 1)
        self._soon = QTimer(self, singleShot=True, interval=0)
        self._soon.timeout.connect(self._ask)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._on_photo_decoded)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self._on_view_changed)

    def begin(self, subject_id: str) -> None:
        """Show the versions of a cutout or a sheet."""
        self.subject_id = subject_id
        self._fill()
        self.come()

    def _is_there(self, job: Job) -> bool:
        is_sheet = any(s.id == self.subject_id for s in job.sheets)
        return (is_sheet or has_item(job, self.subject_id)) and bool(
            version_names(find_subject(job, self.subject_id))
        )

    def _fill(self) -> None:
        subject = find_subject(self._session.job, self.subject_id)
        self.title.setText(f"Versions of {subject.name}")
        names = version_names(subject)
        if tuple(self.cards) != names:
            for card in self.cards.values():
                self._grid.removeWidget(card)
                card.hide()
                card.deleteLater()
            columns = math.ceil(math.sqrt(len(names))) if len(names) > 3 else max(1, len(names))
            self.cards = {name: _card(name) for name in names}
            for place, card in enumerate(self.cards.values()):
                card.chosen.connect(self._on_chosen)
                self._grid.addWidget(card, place // columns, place % columns)
        self._soon.start()

    def _ask(self) -> None:
        if not self.isVisible() or not self.cards or not self._is_there(self._session.job):
            return
        room = next(iter(self.cards.values())).picture_size()
        request = VersionsRequest(self._session.job, self.subject_id, room)
        self._service.ask(_CHANNEL, lambda photos, cache: version_cards(request, photos, cache))

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel != _CHANNEL or not isinstance(answer, VersionCards) or not self.isVisible():
            return
        if answer.request.subject_id == self.subject_id and self._is_there(self._session.job):
            shown = shown_version(find_subject(self._session.job, self.subject_id))
            for name, frame in answer.cards:
                if name in self.cards:
                    self.cards[name].show_frame(frame, is_marked=name == shown)

    def _on_chosen(self, name: str) -> None:
        subject = self.subject_id
        self._session.apply(f"Show {name}", lambda job: show_version(job, subject, name))

    def _on_photo_decoded(self) -> None:
        self._soon.start()

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if not self.isVisible():
            return
        if self._is_there(new):
            self._fill()
        else:
            self.hide()

    def _on_view_changed(self) -> None:
        item = self._session.item
        now = self._session.sheet_id if item is None else item.id
        if self.isVisible() and now != self.subject_id:
            self.hide()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Draw anew at the size there is."""
        self._soon.start()
