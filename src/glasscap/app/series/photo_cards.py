"""The photos of a series as cards, each to be taken away; only those in sight are drawn."""

from collections.abc import Iterator, Sequence

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QStackedLayout, QWidget

from glasscap.app.widgets.buttons import tool
from glasscap.app.widgets.flow import FlowLayout
from glasscap.app.widgets.labels import label
from glasscap.app.widgets.layouts import settle_layouts
from glasscap.app.widgets.picture_card import PictureCard
from glasscap.app.widgets.wheel import ScrollPanel
from glasscap.core.document.arranging.first_places import plain_name
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.render.screen.frames import Frame

_WIDTH, _HEIGHT = 158, 172


class PhotoCard(PictureCard):
    """One photo under the shape; `removed(key)` by the cross in its corner, or Delete."""

    removed = Signal(str)

    def __init__(self, photo: PhotoRecord) -> None:
        name = plain_name(photo.name)
        super().__init__(photo.sha256, name, f"Photo {name}")
        self.setFixedSize(_WIDTH, _HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.cross = tool("x", f"Leave out {name}", lambda: self.removed.emit(self.key))
        self.cross.setParent(self)
        self.cross.setFixedSize(24, 24)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the cross in its corner."""
        self.cross.move(self.width() - self.cross.width() - 6, 6)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leave it out with Delete."""
        if event.key() == Qt.Key.Key_Delete:
            self.removed.emit(self.key)
        else:
            super().keyPressEvent(event)


class PhotoCards(QWidget):
    """Cards in rows that scroll. `removed(sha256)` for one to be left out, `sight_changed()` when others show."""

    removed = Signal(str)
    sight_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.cards: dict[str, PhotoCard] = {}
        self._drawn: set[str] = set()
        self._inner = QWidget()
        self._flow = FlowLayout(10)
        self._inner.setLayout(self._flow)
        self._area = ScrollPanel(self._inner, is_upright=True)
        self._area.verticalScrollBar().valueChanged.connect(lambda _: self.sight_changed.emit())
        self._area.viewport().installEventFilter(self)
        self._nothing = label("Drop the photographs of the series here, or add them above", "muted")
        self._nothing.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._pages = QStackedLayout(self)
        self._pages.addWidget(self._nothing)
        self._pages.addWidget(self._area)

    def show_photos(self, photos: Sequence[PhotoRecord]) -> None:
        """Show cards of these photos, pictures that are there kept."""
        wanted = {p.sha256: p for p in photos}
        for key in [key for key in self.cards if key not in wanted]:
            card = self.cards.pop(key)
            self._drawn.discard(key)
            self._flow.removeWidget(card)
            card.hide()
            card.deleteLater()
        for key, photo in wanted.items():
            if key not in self.cards:
                card = self.cards[key] = PhotoCard(photo)
                card.removed.connect(self.removed)
                self._flow.addWidget(card)
        self._pages.setCurrentWidget(self._area if wanted else self._nothing)

    def show_frame(self, key: str, frame: Frame | None) -> None:
        """Show the picture of one of them, if it is there still."""
        if key in self.cards:
            self.cards[key].show_frame(frame)
            self._drawn.add(key)

    def forget_frames(self) -> None:
        """Let the pictures be drawn anew; till then those there are stay."""
        self._drawn.clear()

    def waiting_in_sight(self) -> Iterator[PhotoCard]:
        """Yield the cards in sight whose picture is still to come."""
        settle_layouts()
        for key, card in self.cards.items():
            if key not in self._drawn and not card.visibleRegion().isEmpty():
                yield card

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Tell when the room becomes another one."""
        if event.type() == QEvent.Type.Resize:
            self.sight_changed.emit()
        return False
