"""The bottom row: sheets at its left, the sheet's cutouts back to front."""

from PySide6.QtCore import QPoint, QRect, QTimer, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDragMoveEvent, QDropEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QWidget

from glasscap.app.mimes import ITEM_MIME, takes_photos
from glasscap.app.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.style import colours
from glasscap.app.tray.card import HEIGHT, THUMB, WIDTH, TrayCard
from glasscap.app.tray.sheet_list import WIDTH as SHEETS_WIDTH
from glasscap.app.tray.sheet_list import SheetList
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.scroll import scrolled
from glasscap.core.document.edits import move_to_place, rename, set_hidden, set_locked
from glasscap.core.document.model import Item, Job
from glasscap.core.document.query import find_item, locate
from glasscap.core.render.screen import Frame
from glasscap.editor.proofs import ThumbRequest, thumbnail

_GAP = 9
_DRAG_MS, _REST_MS = 250, 40


class _Row(QWidget):
    """The cards in a row; cards dragged over it show where they would land."""

    def __init__(self) -> None:
        super().__init__()
        self.mark_x: int | None = None

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the mark."""
        if self.mark_x is not None:
            painter = QPainter(self)
            painter.fillRect(QRect(self.mark_x - 1, 4, 3, HEIGHT), QColor(colours().teal))
            painter.end()


class Tray(QFrame):
    """Keeps one card an item; thumbnails come from the worker."""

    dropped = Signal(object, object)
    menu_asked = Signal(QPoint)
    add_asked = Signal()
    drag_asked = Signal(str, object, QPoint)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("tray")
        self.setAccessibleName("Tray")
        self.setFixedHeight(HEIGHT + 18)
        self.setAcceptDrops(True)
        self._session, self._service = session, service
        self.cards: dict[str, TrayCard] = {}
        self._shown: dict[str, Item] = {}
        self.sheets = SheetList(session)
        self._row = _Row()
        self._line = QHBoxLayout(self._row)
        self._line.setContentsMargins(0, 0, 0, 0)
        self._line.setSpacing(_GAP)
        self.add = push("+ Cutout", self.add_asked.emit)
        self.add.setFixedSize(WIDTH, HEIGHT)
        self.add.setToolTip("Add photographs; each becomes a cutout")
        self._line.addWidget(self.add)
        self._line.addStretch(1)
        self._lay_out()
        self._refresh = QTimer(self, singleShot=True)
        self._refresh.timeout.connect(self._ask_thumbnails)
        session.job_changed.connect(self._on_job_changed)
        session.view_changed.connect(self.show_state)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._on_photo_decoded)
        self.show_state()

    def _lay_out(self) -> None:
        outer = QHBoxLayout(self)
        outer.setContentsMargins(12, 8, 12, 8)
        outer.setSpacing(14)
        scroll_left = scrolled(self.sheets, is_upright=True)
        scroll_left.setFixedWidth(SHEETS_WIDTH + 12)
        outer.addWidget(scroll_left)
        outer.addWidget(scrolled(self._row, is_upright=False), 1)

    # following the session

    def _on_job_changed(self, old: Job, new: Job) -> None:
        if old.sheets is not new.sheets:
            self.show_state()

    def _on_photo_decoded(self) -> None:
        self._shown.clear()
        self._refresh.start()

    def show_state(self) -> None:
        """Show sheets and items as they are."""
        self.sheets.show_state()
        items = self._session.sheet.items
        for gone in self.cards.keys() - {i.id for i in items}:
            card = self.cards.pop(gone)
            self._shown.pop(gone, None)
            self._line.removeWidget(card)
            card.hide()
            card.deleteLater()
        for place, item in enumerate(items):
            card = self.cards.get(item.id) or self._new_card(item)
            if self._line.indexOf(card) != place:
                self._line.removeWidget(card)
                self._line.insertWidget(place, card)
            card.show_item(item, is_selected=item.id in self._session.selected)
        if not self._refresh.isActive():
            self._refresh.start(_DRAG_MS if self._session.is_previewing else _REST_MS)

    def _new_card(self, item: Item) -> TrayCard:
        card = self.cards[item.id] = TrayCard(item)
        card.chosen.connect(self._on_card_chosen)
        card.renamed.connect(self._on_card_renamed)
        card.eye_clicked.connect(self._on_eye_clicked)
        card.lock_clicked.connect(self._on_lock_clicked)
        card.dropped.connect(self.dropped)
        card.menu_asked.connect(self._on_menu_asked)
        card.drag_asked.connect(lambda item_id, at: self.drag_asked.emit(item_id, card, at))
        return card

    def _ask_thumbnails(self) -> None:
        session, ratio = self._session, self.devicePixelRatioF()
        size = (round(THUMB[0] * ratio), round(THUMB[1] * ratio))
        for item in session.sheet.items:
            if self._shown.get(item.id) is item:
                continue
            self._shown[item.id] = item
            request = ThumbRequest(session.job, session.sheet_id, item.id, size)
            self._service.ask(
                ("thumb", item.id),
                lambda photos, cache, request=request: (  # type: ignore[misc]
                    request.cutout_id,
                    thumbnail(request, photos, cache),
                ),
            )

    def _on_answered(self, channel: object, answer: object) -> None:
        if isinstance(channel, tuple) and channel[0] == "thumb" and isinstance(answer, tuple):
            item_id, frame = answer
            card = self.cards.get(item_id)
            if card is not None and (frame is None or isinstance(frame, Frame)):
                card.show_frame(frame)

    # cards

    def _on_card_chosen(self, item_id: str, adds: bool) -> None:
        if adds:
            self._session.toggle_selected(item_id)
        elif self._session.selected != (item_id,):
            self._session.select((item_id,))

    def _on_card_renamed(self, item_id: str, name: str) -> None:
        self._session.apply("Rename", lambda job: rename(job, item_id, name))

    def _on_eye_clicked(self, item_id: str) -> None:
        hide = not find_item(self._session.job, item_id).is_hidden
        self._session.apply("Hide" if hide else "Show", lambda job: set_hidden(job, [item_id], hide))

    def _on_lock_clicked(self, item_id: str) -> None:
        lock = not find_item(self._session.job, item_id).is_locked
        self._session.apply("Lock" if lock else "Unlock", lambda job: set_locked(job, [item_id], lock))

    def _on_menu_asked(self, item_id: str, at: QPoint) -> None:
        if item_id not in self._session.selected:
            self._session.select((item_id,))
        self.menu_asked.emit(at)

    # dropping

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take cards, files and picture data."""
        data = event.mimeData()
        if data.hasFormat(ITEM_MIME) or takes_photos(data):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        """Show where a card would land."""
        if event.mimeData().hasFormat(ITEM_MIME):
            place = self._place_at(event.position().toPoint())
            self._row.mark_x = place * (WIDTH + _GAP) - _GAP // 2 if place else 0
            self._row.update()
        event.acceptProposedAction()

    def dragLeaveEvent(self, event: object) -> None:
        """Forget the mark."""
        self._row.mark_x = None
        self._row.update()

    def dropEvent(self, event: QDropEvent) -> None:
        """Reorder, or hand on a photo."""
        self._row.mark_x = None
        self._row.update()
        event.acceptProposedAction()
        if not event.mimeData().hasFormat(ITEM_MIME):
            self.dropped.emit(event.mimeData(), None)
            return
        item_id = bytes(event.mimeData().data(ITEM_MIME).data()).decode()
        self.reorder(item_id, self._place_at(event.position().toPoint()))

    def reorder(self, item_id: str, gap: int) -> None:
        """Put an item into a gap between cards (0 = before the first)."""
        _, _, index = locate(self._session.job, item_id)
        place = gap - 1 if gap > index else gap
        self._session.apply("Reorder", lambda job: move_to_place(job, item_id, place))

    def _place_at(self, at: QPoint) -> int:
        x = self._row.mapFrom(self, at).x()
        return max(0, min(len(self.cards), (x + WIDTH // 2) // (WIDTH + _GAP)))
