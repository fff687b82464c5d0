"""The proof of the file: its weight, the verdict, its picture on backgrounds, its differences, its edge."""

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QPoint, QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from glasscap.app.export.facts_card import FactsCard
from glasscap.app.export.look_bar import LookedOn
from glasscap.app.proof.proof_card import ProofCard, clipped_card
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.wheel import ScrollPanel
from glasscap.core.raster.pixels import Bytes
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.comparing import Comparison

PANEL_WIDTH = 232
_MARGIN, _CARD_HEIGHT, _EDGE_HEIGHT, _EDGE_ZOOM = 12, 100, 88, 8
# The file's picture in a card, logical px.
PROOF_ROOM = (PANEL_WIDTH - 2 * _MARGIN - 24, _CARD_HEIGHT - 16)


class FilePanel(QFrame):
    """`backdrop_chosen(backdrop)` when a proof is clicked, `drag_asked(card, at)` when it is dragged out."""

    backdrop_chosen = Signal(object)
    drag_asked = Signal(object, QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("proof")
        self.setAccessibleName("Proof of the file")
        self.setFixedWidth(PANEL_WIDTH)
        self.facts, self.edge = FactsCard(), FileEdge()
        self.cards: list[ProofCard] = []
        self._backdrops: list[LookedOn] = []
        self._small: Frame | None = None
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(_MARGIN, 0, _MARGIN, _MARGIN)
        column.setSpacing(8)
        column.addWidget(self.facts.verdict)
        self._cards_column = QVBoxLayout()
        self._cards_column.setSpacing(8)
        column.addLayout(self._cards_column)
        column.addWidget(self.facts.figures)
        column.addWidget(self.facts.note)
        column.addWidget(label(f"Edge, {_EDGE_ZOOM}×, at the glass", "muted"))
        column.addWidget(self.edge)
        column.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, _MARGIN, 0, 0)
        outer.addWidget(self.facts.head)
        outer.addWidget(ScrollPanel(inner, is_upright=True), 1)

    def show_backdrops(self, backdrops: Sequence[tuple[str, LookedOn]]) -> None:
        """Have a proof on each background, given with its name."""
        if self._backdrops == [b for _, b in backdrops]:
            return
        self._backdrops = [b for _, b in backdrops]
        for gone in self.cards:
            self._cards_column.removeWidget(gone)
            gone.deleteLater()
        self.cards = []
        for name, backdrop in backdrops:
            colour = backdrop if isinstance(backdrop, str) else None
            made = ProofCard(name, colour, _CARD_HEIGHT, shows="Look at the picture")
            made.setAccessibleName(f"File on {name.lower()}")
            made.clicked.connect(partial(self._on_clicked, made, backdrop))
            made.drag_asked.connect(partial(self.drag_asked.emit, made))
            made.show_frame(self._small)
            self.cards.append(made)
            self._cards_column.addWidget(made)

    @property
    def painted(self) -> list[LookedOn]:
        """The backgrounds that are no flat colour: their pictures are wanted."""
        return [b for b in self._backdrops if not isinstance(b, str)]

    def show_backgrounds(self, pictures: Sequence[Frame | None]) -> None:
        """Show the pictures of the backgrounds that are no flat colour, in their order."""
        painted = [c for c, b in zip(self.cards, self._backdrops, strict=True) if not isinstance(b, str)]
        for card, picture in zip(painted, pictures, strict=False):
            card.show_background(picture)

    def show_chosen(self, backdrop: LookedOn) -> None:
        """Mark the proof whose background the picture has."""
        for card, own in zip(self.cards, self._backdrops, strict=True):
            card.show_colour(card.colour, is_chosen=own == backdrop)

    def show_waiting(self) -> None:
        """Say that a file is being made; nothing of an earlier one stays."""
        self._show_small(None)
        self.facts.show_waiting()

    def show_answer(self, answer: Comparison) -> None:
        """Show what was found."""
        self._show_small(answer.small)
        self.facts.show_answer(answer)

    def _on_clicked(self, card: ProofCard, backdrop: LookedOn) -> None:
        """Choose a background; one that is chosen gives the checkerboard back, as beside the bench."""
        self.backdrop_chosen.emit(None if card.is_chosen else backdrop)

    def _show_small(self, small: Frame | None) -> None:
        self._small = small
        for card in self.cards:
            card.show_frame(small)


class FileEdge(QWidget):
    """The file's pixels about one place, enlarged, on the checkerboard."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(f"Edge of the file, {_EDGE_ZOOM} times enlarged")
        self.setFixedHeight(_EDGE_HEIGHT)
        self._pixels: Bytes | None = None
        self._place = (0.5, 0.5)

    def show_place(self, pixels: Bytes | None, u: float, v: float) -> None:
        """Show premultiplied RGBA, uint8 (h, w, 4), about a place given as shares of its sides."""
        self._pixels, self._place = pixels, (u, v)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the pixels about the place as squares."""
        painter = QPainter(self)
        box, _ = clipped_card(painter, self)
        painter.fillRect(box, checkerboard(0.8))
        if self._pixels is not None:
            height, width = self._pixels.shape[:2]
            zoom = _EDGE_ZOOM
            x, y = int(self._place[0] * width), int(self._place[1] * height)
            across, down = round(self.width() / zoom) + 2, round(self.height() / zoom) + 2
            x0, y0 = max(0, x - across // 2), max(0, y - down // 2)
            part = self._pixels[y0 : y0 + down, x0 : x0 + across]
            if part.size:
                left = self.width() / 2 - (x + 0.5 - x0) * zoom
                top = self.height() / 2 - (y + 0.5 - y0) * zoom
                target = QRectF(round(left), round(top), part.shape[1] * zoom, part.shape[0] * zoom)
                painter.drawImage(target, to_image(Frame(part.copy(), 0, 0)))
        painter.end()
