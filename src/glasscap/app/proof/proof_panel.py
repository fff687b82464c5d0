"""The right column: the cutout where it will be used, while the work goes on."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPoint, QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from glasscap.app.photos.colours import PhotoColours
from glasscap.app.proof.background_popup import BackgroundPopup
from glasscap.app.proof.file_weight import FileWeight
from glasscap.app.proof.proof_card import ProofCard
from glasscap.app.proof.small_sizes import SmallSizes
from glasscap.app.proof.use_cards import AvatarRow, FringeCard, VideoCard
from glasscap.app.proof.video_rows import VideoChange, VideoRows
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.colours import INK_PROOF
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.colour_panel import ColourPanel
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.line_field import LineField
from glasscap.app.widgets.wheel import ScrollPanel
from glasscap.core.document.edits.items import set_proof_colour
from glasscap.core.document.model.backdrop import Backdrop, PhotoBackdrop
from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Paint
from glasscap.core.document.outputs.proofs import (
    add_background,
    remove_background,
    set_background,
    set_sizes,
    set_video,
)
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.proofs import LoupeView, ProofRequest, Proofs, loupe_view, proofs

PANEL_WIDTH = 232
_CARD_HEIGHT, _LOUPE_HEIGHT, _LOUPE_ZOOM = 93, 80, 8
_WHITE = "#ffffff"
_DRAG_MS, _REST_MS, _POINT_MS = 120, 20, 50
_AVATARS = (40, 24)
_KINDS = {PhotoBackdrop: "Picture", GradientPaint: "Gradient", ColourPaint: "Colour"}


class ProofPanel(QFrame):
    """White, ink, colours and pictures, small sizes, the edge enlarged, a video's corner, avatars.

    `picture_wanted(title, step, edit)` asks for a picture file to judge on, `drag_asked(backdrop, card, at)` for
    a drag of the picture on a background.
    """

    picture_wanted = Signal(str, str, object)
    drag_asked = Signal(object, object, QPoint)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("proof")
        self.setAccessibleName("Proof")
        self.setFixedWidth(PANEL_WIDTH)
        self._session, self._service = session, service
        self._colours = PhotoColours(session, service)
        self.exact_size, self.weight = label("", "muted"), FileWeight(session, service)
        self.white = ProofCard("White", _WHITE, _CARD_HEIGHT)
        self.ink = ProofCard("Ink", INK_PROOF, _CARD_HEIGHT)
        self.own = ProofCard("Job colour", "#888888", _CARD_HEIGHT)
        self.extra: list[ProofCard] = []
        width = PANEL_WIDTH - 24
        self.small = SmallSizes(session.job.proofs.sizes)
        self.sizes = LineField()
        self.sizes.setAccessibleName("Small sizes, px")
        self.sizes.setToolTip("Sizes of the longer side in px, for example 128, 64, 32")
        self.loupe = ProofCard("", None, _LOUPE_HEIGHT)
        self.loupe.setAccessibleName("Edge, 8 times enlarged")
        self.loupe.setToolTip("Show the bench on the checkerboard")
        self.loupe.zoom = _LOUPE_ZOOM
        self.fringe, self.video, self.avatars = FringeCard(_LOUPE_HEIGHT), VideoCard(width), AvatarRow()
        self.video_rows = VideoRows()
        self.pick = push("Change job colour…", self._on_pick_clicked, style="link")
        self.add = push("Add a background…", self._on_add_clicked, style="link")
        self.popup: BackgroundPopup | None = None
        self.colour_panel: ColourPanel | None = None
        self._cards = (self.white, self.ink, self.own)
        self._answer: Proofs | None = None
        self._at: tuple[float, float] | None = None
        self._lay_out()
        self._connect()
        self._on_view_changed()

    def _lay_out(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 10, 0, 0)
        head = QHBoxLayout()
        head.setContentsMargins(12, 0, 12, 0)
        head.addWidget(label("Proof", "muted"))
        head.addStretch(1)
        # Rows that come and go move no others.
        head.addWidget(self.weight)
        head.addWidget(self.exact_size)
        outer.addLayout(head)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(12, 0, 12, 12)
        column.setSpacing(6)
        for card in self._cards:
            column.addWidget(card)
        self._own_column = QVBoxLayout()
        self._own_column.setSpacing(6)
        column.addLayout(self._own_column)
        links = QHBoxLayout()
        links.addWidget(self.add)
        links.addStretch(1)
        column.addLayout(links)
        column.addWidget(self.pick)
        column.addWidget(self.small)
        row = QHBoxLayout()
        row.addWidget(label("Sizes", "muted"))
        row.addWidget(self.sizes, 1)
        column.addLayout(row)
        column.addWidget(label("Edge, 8×, at the pointer", "muted"))
        for widget in (self.loupe, self.fringe, self.video, self.video_rows, self.avatars):
            column.addWidget(widget)
        column.addStretch(1)
        outer.addWidget(ScrollPanel(inner, is_upright=True), 1)

    def _connect(self) -> None:
        session, service = self._session, self._service
        for card in self._cards:
            card.clicked.connect(lambda card=card: self._on_card_clicked(card.colour))
            card.drag_asked.connect(
                lambda at, card=card: self.drag_asked.emit(ColourPaint(card.colour or _WHITE), card, at)
            )
        self.loupe.clicked.connect(lambda: session.set_backdrop(None))
        self.sizes.editingFinished.connect(self._on_sizes_entered)
        self.video_rows.changed.connect(self._on_video_changed)
        self.video_rows.refused.connect(session.problem_found)
        self._ask_soon = QTimer(self, singleShot=True)
        self._ask_soon.timeout.connect(self._ask)
        self._look_soon = QTimer(self, singleShot=True, interval=_POINT_MS)
        self._look_soon.timeout.connect(self._look)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self._on_view_changed)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._ask_soon.start)

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if self._session.is_previewing and (old.proofs, old.proof_colours) == (new.proofs, new.proof_colours):
            self._ask_again()
        else:
            self._on_view_changed()

    def _on_view_changed(self) -> None:
        self._show_own_cards()
        self._show_colours()
        self._show_settings()
        self._ask_again()

    def _ask_again(self) -> None:
        if not self._ask_soon.isActive():
            # During a drag the bench comes first.
            self._ask_soon.start(_DRAG_MS if self._session.is_previewing else _REST_MS)

    # showing

    def _show_own_cards(self) -> None:
        """Have one card for each background of the designer's own."""
        backgrounds = self._session.job.proofs.backgrounds
        while len(self.extra) > len(backgrounds):
            gone = self.extra.pop()
            self._own_column.removeWidget(gone)
            gone.deleteLater()
        while len(self.extra) < len(backgrounds):
            index = len(self.extra)
            made = ProofCard("Own", None, _CARD_HEIGHT, is_own=True)
            made.clicked.connect(partial(self._on_own_clicked, index))
            made.drag_asked.connect(partial(self._on_own_dragged, index))
            made.change_asked.connect(partial(self._on_change_clicked, index))
            made.remove_asked.connect(partial(self._on_remove_clicked, index))
            self.extra.append(made)
            self._own_column.addWidget(made)
        for card, backdrop in zip(self.extra, backgrounds, strict=True):
            card.name = _KINDS.get(type(backdrop), "Texture")
            card.setAccessibleName(f"Proof on {card.name.lower()} of your own")

    def _show_colours(self) -> None:
        backdrop, colours = self._session.backdrop, self._session.job.proof_colours
        self.white.show_colour(_WHITE, is_chosen=backdrop == _WHITE)
        self.ink.show_colour(INK_PROOF, is_chosen=backdrop == INK_PROOF)
        own = colours[0] if colours else _WHITE
        self.own.show_colour(own, is_chosen=backdrop == own)
        for card, paint in zip(self.extra, self._session.job.proofs.backgrounds, strict=True):
            colour = paint.colour if isinstance(paint, ColourPaint) else None
            card.show_colour(colour, is_chosen=backdrop is not None and backdrop in (colour, paint))
        flat = backdrop if isinstance(backdrop, str) else None
        self.loupe.show_colour(flat, is_chosen=False)
        self.small.show_colour(flat or _WHITE)

    def _show_settings(self) -> None:
        settings = self._session.job.proofs
        self.small.show_sizes(settings.sizes, PANEL_WIDTH - 24)
        if not (self.sizes.hasFocus() and self.sizes.isModified()):
            self.sizes.setText(", ".join(str(s) for s in settings.sizes))
        self.video_rows.show_video(settings.video)

    def _request(self) -> ProofRequest | None:
        session = self._session
        subject = self._subject
        if subject is None:
            return None
        ratio = self.devicePixelRatioF()
        width = PANEL_WIDTH - 24
        settings = session.job.proofs
        return ProofRequest(
            session.job,
            session.sheet_id,
            subject,
            (round((width - 70) * ratio), round((_CARD_HEIGHT - 18) * ratio)),
            settings.sizes,
            (round(width * ratio / _LOUPE_ZOOM) + 1, round(_LOUPE_HEIGHT * ratio / _LOUPE_ZOOM) + 1),
            max(4, round(settings.video.height * self.video.height() * ratio)),
            tuple(round(side * ratio) for side in _AVATARS),
            self._at,
        )

    def _ask(self) -> None:
        request = self._request()
        if request is None:
            self._show_nothing()
            return
        self._service.ask("proof", lambda photos, cache: proofs(request, photos, cache))

    def look_at(self, x: float, y: float) -> None:
        """Show the edge nearest to a place on the sheet."""
        self._at = (x, y)
        if not self._look_soon.isActive():
            self._look_soon.start()

    def _look(self) -> None:
        request = self._request()
        if request is not None and not self._session.is_previewing:
            self._service.ask("loupe", lambda photos, cache: loupe_view(request, photos, cache))

    def _show_nothing(self) -> None:
        self._answer = None
        self.exact_size.setText("")
        self.weight.forget()
        self.small.show_frames()
        self.fringe.show_frames((), _WHITE)
        self.video.show_video(self._session.job.proofs.video, None)
        self.avatars.show_frames(())
        for card in (*self._cards, *self.extra, self.loupe):
            card.show_frame(None)

    def _on_answered(self, channel: object, answer: object) -> None:
        if channel == "loupe" and isinstance(answer, LoupeView) and self._is_current(answer.request):
            self.loupe.show_frame(answer.loupe)
            self._show_fringes(answer.fringes)
        elif channel == "proof" and isinstance(answer, Proofs) and self._is_current(answer.request):
            self._show_answer(answer)

    def _is_current(self, request: ProofRequest) -> bool:
        return request.cutout_id == self._subject

    @property
    def _subject(self) -> str | None:
        """The id of what is proofed: the selected cutout, or with nothing selected a sheet that holds one."""
        session = self._session
        if session.item is not None:
            return session.item.id if session.item.content is not None else None
        return session.sheet_id if session.sheet.items else None

    def _show_answer(self, answer: Proofs) -> None:
        self._answer = answer
        size = answer.size
        self.exact_size.setText("Nothing is left to see" if size is None else f"{size[0]} × {size[1]} px")
        self.exact_size.setToolTip(answer.problem)
        if answer.request.job is self._session.job:
            self.weight.begin(size)
        for card in (*self._cards, *self.extra):
            card.show_frame(answer.card)
        for card, backdrop, frame in zip(
            self.extra, self._session.job.proofs.backgrounds, answer.backgrounds, strict=False
        ):
            card.show_background(None if isinstance(backdrop, ColourPaint) else frame)
        self.small.show_frames(*answer.small)
        self.loupe.show_frame(answer.loupe)
        self._show_fringes(answer.fringes)
        self.video.show_video(self._session.job.proofs.video, answer.corner)
        self.avatars.show_frames(answer.avatars)

    def _show_fringes(self, frames: tuple[Frame, ...]) -> None:
        backdrop = self._session.backdrop
        self.fringe.show_frames(frames, backdrop if isinstance(backdrop, str) else _WHITE)

    # choosing

    def _on_card_clicked(self, colour: str | None) -> None:
        self._session.set_backdrop(None if self._session.backdrop == colour else colour)

    def _on_own_clicked(self, index: int) -> None:
        backdrop = self._session.job.proofs.backgrounds[index]
        chosen = backdrop.colour if isinstance(backdrop, ColourPaint) else backdrop
        self._session.set_backdrop(None if self._session.backdrop == chosen else chosen)

    def _on_own_dragged(self, index: int, at: QPoint) -> None:
        self.drag_asked.emit(self._session.job.proofs.backgrounds[index], self.extra[index], at)

    def _on_pick_clicked(self) -> None:
        """Open the panel; while a track is dragged the colour is shown, each choice is a step."""
        colours = self._session.job.proof_colours
        panel = ColourPanel(self, colours[0] if colours else _WHITE, self._colours.now(), see_through=False)
        panel.moved.connect(self._preview_job_colour)
        panel.chosen.connect(self.set_job_colour)
        panel.destroyed.connect(self._forget_colour_panel)
        self.colour_panel = panel
        panel.open_below(self.pick)

    def _forget_colour_panel(self) -> None:
        self.colour_panel = None

    def set_job_colour(self, colour: str) -> None:
        """Give the job another proof colour, as a step."""
        self._show_job_colour(colour, lambda edit: self._session.apply("Change the job's colour", edit))

    def _preview_job_colour(self, colour: str) -> None:
        self._show_job_colour(colour, lambda edit: self._session.preview(edit(self._session.committed)))

    def _show_job_colour(self, colour: str, do: Callable[[Callable[[Job], Job]], object]) -> None:
        """Do the change of the job's colour; the bench goes with it where it is shown on that."""
        was_shown = self._session.backdrop == self.own.colour
        do(lambda job: set_proof_colour(job, 0, colour))
        if was_shown:
            self._session.set_backdrop(colour)

    def _on_add_clicked(self) -> None:
        """Open the panel; the first paint settled on becomes a background, what follows changes it."""
        self._open_popup(ColourPaint("#7d8a6b"), None, self.add)

    def _on_change_clicked(self, index: int) -> None:
        backdrop = self._session.job.proofs.backgrounds[index]
        paint = ColourPaint() if isinstance(backdrop, PhotoBackdrop) else backdrop
        self._open_popup(paint, index, self.extra[index])

    def _open_popup(self, paint: Paint, index: int | None, beside: QWidget) -> None:
        place = [index]

        def settle(chosen: Backdrop) -> None:
            if place[0] is None:
                place[0] = len(self._session.job.proofs.backgrounds)
                self._session.apply("Add a background", lambda job: add_background(job, chosen))
            else:
                at = place[0]
                self._session.apply("Change a background", lambda job: set_background(job, at, chosen))

        self.popup = BackgroundPopup(self, paint, self._colours.now)
        self.popup.stepped.connect(settle)
        self.popup.picture_asked.connect(lambda: self._ask_picture(place[0]))
        self.popup.destroyed.connect(self._forget_popup)
        self.popup.open_beside(beside)

    def _forget_popup(self) -> None:
        self.popup = None

    def _ask_picture(self, index: int | None) -> None:
        def put(job: Job, record: PhotoRecord) -> Job:
            backdrop = PhotoBackdrop(record.sha256)
            return add_background(job, backdrop) if index is None else set_background(job, index, backdrop)

        self.picture_wanted.emit("Choose a picture to judge on", "Add a background", put)

    def _on_remove_clicked(self, index: int) -> None:
        backdrop = self._session.job.proofs.backgrounds[index]
        if self._session.backdrop == backdrop:
            self._session.set_backdrop(None)
        self._session.apply("Remove a background", lambda job: remove_background(job, index))

    def _on_sizes_entered(self) -> None:
        if not self.sizes.isModified():
            return
        self.sizes.setModified(False)
        words = self.sizes.text().replace(",", " ").split()
        if not all(w.isdecimal() for w in words):
            self._session.problem_found.emit("Small sizes: type whole px, for example 128, 64, 32")
            return
        self._session.apply("Change the small sizes", lambda job: set_sizes(job, tuple(int(w) for w in words)))
        self._show_settings()

    def _on_video_changed(self, change: VideoChange) -> None:
        self._session.apply("Change the video corner", lambda job: set_video(job, change(job.proofs.video)))
