"""The right column: the cutout where it will be used, while the work goes on."""

from PySide6.QtCore import QTimer
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog, QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.proof.proof_card import ProofCard
from glasscap.app.proof.small_sizes import SmallSizes
from glasscap.app.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.colours import INK_PROOF
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.scroll import scrolled
from glasscap.core.document.edits import set_proof_colour
from glasscap.core.document.model import Job
from glasscap.editor.proofs import ProofRequest, Proofs, proofs

PANEL_WIDTH = 232
_SMALL = (128, 64, 32)
_CARD_HEIGHT, _LOUPE_HEIGHT, _LOUPE_ZOOM = 93, 80, 8
_WHITE = "#ffffff"
_DRAG_MS, _REST_MS = 120, 20


class ProofPanel(QFrame):
    """White, ink, a colour of the job, three small sizes, the edge enlarged, the exact size."""

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("proof")
        self.setAccessibleName("Proof")
        self.setFixedWidth(PANEL_WIDTH)
        self._session, self._service = session, service
        self.exact_size = label("", "muted")
        self.white = ProofCard("White", _WHITE, _CARD_HEIGHT)
        self.ink = ProofCard("Ink", INK_PROOF, _CARD_HEIGHT)
        self.own = ProofCard("Job colour", "#888888", _CARD_HEIGHT)
        self.small = SmallSizes(_SMALL)
        self.loupe = ProofCard("", None, _LOUPE_HEIGHT)
        self.loupe.setAccessibleName("Edge, 8 times enlarged")
        self.loupe.setToolTip("Show the bench on the checkerboard")
        self.loupe.zoom = _LOUPE_ZOOM
        self.pick = push("Change job colour…", self._on_pick_clicked, style="link")
        self._cards = (self.white, self.ink, self.own)
        self._lay_out()
        for card in self._cards:
            card.clicked.connect(lambda card=card: self._on_card_clicked(card))
        self.loupe.clicked.connect(lambda: session.set_backdrop(None))
        self._ask_soon = QTimer(self, singleShot=True)
        self._ask_soon.timeout.connect(self._ask)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self._on_view_changed)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._ask_soon.start)
        self._on_view_changed()

    def _lay_out(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 10, 0, 0)
        head = QHBoxLayout()
        head.setContentsMargins(12, 0, 12, 0)
        head.addWidget(label("Proof", "muted"))
        head.addStretch(1)
        head.addWidget(self.exact_size)
        outer.addLayout(head)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(12, 0, 12, 12)
        column.setSpacing(6)
        for card in self._cards:
            column.addWidget(card)
        column.addWidget(self.pick)
        column.addWidget(self.small)
        column.addWidget(label("Edge, 8×", "muted"))
        column.addWidget(self.loupe)
        column.addStretch(1)
        outer.addWidget(scrolled(inner, is_upright=True), 1)

    def _on_job_changed(self, old: Job, new: Job) -> None:
        self._on_view_changed()

    def _on_view_changed(self) -> None:
        self._show_colours()
        if not self._ask_soon.isActive():
            # During a drag the bench comes first.
            self._ask_soon.start(_DRAG_MS if self._session.is_previewing else _REST_MS)

    def _show_colours(self) -> None:
        backdrop, colours = self._session.backdrop, self._session.job.proof_colours
        self.white.show_colour(_WHITE, is_chosen=backdrop == _WHITE)
        self.ink.show_colour(INK_PROOF, is_chosen=backdrop == INK_PROOF)
        own = colours[0] if colours else _WHITE
        self.own.show_colour(own, is_chosen=backdrop == own)
        self.loupe.show_colour(backdrop, is_chosen=False)
        self.small.show_colour(backdrop or _WHITE)

    def _ask(self) -> None:
        session = self._session
        if session.item is None or session.item.content is None:
            self._show_nothing()
            return
        ratio = self.devicePixelRatioF()
        width = PANEL_WIDTH - 24
        card = (round((width - 70) * ratio), round((_CARD_HEIGHT - 18) * ratio))
        loupe = (round(width * ratio / _LOUPE_ZOOM) + 1, round(_LOUPE_HEIGHT * ratio / _LOUPE_ZOOM) + 1)
        request = ProofRequest(session.job, session.sheet_id, session.item.id, card, _SMALL, loupe)
        self._service.ask("proof", lambda photos, cache: proofs(request, photos, cache))

    def _show_nothing(self) -> None:
        self.exact_size.setText("")
        self.small.show_frames()
        for card in (*self._cards, self.loupe):
            card.show_frame(None)

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel != "proof" or not isinstance(answer, Proofs):
            return
        if self._session.item is None or answer.request.cutout_id != self._session.item.id:
            return
        size = answer.size
        self.exact_size.setText("Nothing is left to see" if size is None else f"{size[0]} × {size[1]} px")
        self.exact_size.setToolTip(answer.problem)
        for card in self._cards:
            card.show_frame(answer.card)
        self.small.show_frames(*answer.small)
        self.loupe.show_frame(answer.loupe)

    def _on_card_clicked(self, card: ProofCard) -> None:
        self._session.set_backdrop(None if self._session.backdrop == card.colour else card.colour)

    def _on_pick_clicked(self) -> None:
        colours = self._session.job.proof_colours
        start = QColor(colours[0] if colours else _WHITE)
        options = QColorDialog.ColorDialogOption.DontUseNativeDialog
        chosen = QColorDialog.getColor(start, self.window(), "Job colour", options)
        if chosen.isValid():
            self.set_job_colour(chosen.name())

    def set_job_colour(self, colour: str) -> None:
        """Give the job another proof colour, as a step."""
        was_shown = self._session.backdrop == self.own.colour
        self._session.apply("Change the job's colour", lambda job: set_proof_colour(job, 0, colour))
        if was_shown:
            self._session.set_backdrop(colour)
