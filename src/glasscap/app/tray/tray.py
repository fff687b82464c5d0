"""The bottom row: sheets at its left, the sheet's cutouts back to front."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QPoint, QRect, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDragMoveEvent, QDropEvent, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QWidget

from glasscap.app.commands.mimes import ITEM_MIME, take_copy, takes_photos
from glasscap.app.services.render_service import RenderService
from glasscap.app.session import Session
from glasscap.app.theme.style import colours
from glasscap.app.tray.card import HEIGHT, THUMB, WIDTH, TrayCard
from glasscap.app.tray.drop_place import DropPlace, drop_place
from glasscap.app.tray.group_frame import GroupFrame
from glasscap.app.tray.sheet_list import WIDTH as SHEETS_WIDTH
from glasscap.app.tray.sheet_list import SheetList
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.line_field import give_keys_back
from glasscap.app.widgets.wheel import ScrollPanel
from glasscap.core.document.edits.groups import move_to_container
from glasscap.core.document.edits.items import rename, set_hidden, set_locked
from glasscap.core.document.model.job import Item, walk
from glasscap.core.document.model.kinds import has_name
from glasscap.core.document.model.query import find_item, items_of, path_to
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.proofs import ThumbRequest, thumbnail

_GAP = 9
# Room for the scroll bar, so that cards are never cut off.
_SCROLL_BAR = 10
FIND_WIDTH = 130
_REST_MS = 40
# New cards made in one turn of the interface, each about a ms: more than are in sight.
_AT_ONCE = 16


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
    """Keeps one card an item, groups in place; thumbnails come from the worker."""

    dropped = Signal(object, object)
    menu_asked = Signal(QPoint)
    add_asked = Signal()
    drag_asked = Signal(str, object, QPoint)
    # A key no card used, to be accepted by who does.
    key_left = Signal(QKeyEvent)

    def __init__(self, session: Session, service: RenderService) -> None:
        super().__init__()
        self.setObjectName("tray")
        self.setAccessibleName("Tray")
        self.setFixedHeight(HEIGHT + 18 + _SCROLL_BAR)
        self.setAcceptDrops(True)
        self._session, self._service = session, service
        self.cards: dict[str, TrayCard] = {}
        self.groups: dict[str, GroupFrame] = {}
        self.folded: set[str] = set()
        self._in_sight: tuple[str, ...] = ()
        self.finder = QLineEdit()
        self.finder.setPlaceholderText("Find by name")
        self.finder.setAccessibleName("Find by name")
        self.finder.setFixedWidth(FIND_WIDTH)
        self.finder.installEventFilter(self)
        self.finder.hide()
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
        self.finder.textChanged.connect(self.show_state)
        self.finder.returnPressed.connect(self._on_find_entered)
        # How many more cards are made in this turn, and what makes the rest.
        self._spare, self._rest = 0, QTimer(self, singleShot=True, interval=0)
        self._rest.timeout.connect(self.show_state)
        self._refresh = QTimer(self, singleShot=True, interval=_REST_MS)
        self._refresh.timeout.connect(self._ask_thumbnails)
        # After steps, not during drags: names and order stay meanwhile, and pictures come at the end.
        session.saved_changed.connect(self.show_state)
        session.view_changed.connect(self.show_state)
        service.answered.connect(self._on_answered)
        service.photo_decoded.connect(self._on_photo_decoded)
        self.show_state()

    def _lay_out(self) -> None:
        outer = QHBoxLayout(self)
        outer.setContentsMargins(12, 8, 12, 8)
        outer.setSpacing(14)
        scroll_left = ScrollPanel(self.sheets, is_upright=True)
        scroll_left.setFixedWidth(SHEETS_WIDTH + 12)
        outer.addWidget(scroll_left)
        outer.addWidget(self.finder)
        self._scroll = ScrollPanel(self._row, is_upright=False)
        outer.addWidget(self._scroll, 1)

    # following the session

    def _on_photo_decoded(self) -> None:
        self._shown.clear()
        self._refresh.start()

    def show_state(self) -> None:
        """Show sheets and items as they are."""
        self.sheets.show_state()
        session = self._session
        self.folded &= {i.id for _, i in items_of(session.job)}
        for item in session.chosen:
            # A cutout that is selected is not left folded up.
            self.folded -= {group.id for group in path_to(session.job, item.id)[1][:-1]}
        self._spare = _AT_ONCE
        shown = self._fill(self._line, session.sheet.items)
        for cards in (self.cards, self.groups):
            for gone in cards.keys() - shown:
                self._shown.pop(gone, None)
                _put_away(cards.pop(gone))
        if not self._refresh.isActive():
            self._refresh.start()
        if self._spare < 0:
            self._rest.start()
        elif session.selected != self._in_sight:
            self._in_sight = session.selected
            QTimer.singleShot(0, self, self._show_selected)

    def _show_selected(self) -> None:
        """Scroll to the card selected last."""
        card = self.cards.get(self._in_sight[-1]) if self._in_sight else None
        if card is not None:
            self._scroll.ensureWidgetVisible(card, _GAP, 0)

    def _fill(self, line: QHBoxLayout, items: Sequence[Item]) -> set[str]:
        """Put cards and groups into a row in their order; return the ids of all shown in it."""
        shown: set[str] = set()
        place = 0
        for item in items:
            if not self._is_found(item):
                continue
            is_frame = item.is_group and item.id not in self.folded
            if item.id not in self.cards and item.id not in self.groups:
                self._spare -= 1
                if self._spare < 0:
                    # Its turn comes with the next ones.
                    continue
            widget = self._group_frame(item) if is_frame else self._card(item)
            if line.indexOf(widget) != place:
                line.insertWidget(place, widget)
            place += 1
            widget.show()
            shown.add(item.id)
            other: dict[str, TrayCard] | dict[str, GroupFrame] = self.cards if is_frame else self.groups
            if item.id in other:
                _put_away(other.pop(item.id))
            if isinstance(widget, GroupFrame):
                shown |= self._fill(widget.line, item.items)
        return shown

    def _is_found(self, item: Item) -> bool:
        """Whether an item, or one it holds, has the name that is looked for."""
        return not self.finder.text() or any(has_name(i, self.finder.text()) for i in walk([item]))

    def _card(self, item: Item) -> TrayCard:
        card = self.cards.get(item.id) or self._new_card(item)
        card.show_item(item, is_selected=item.id in self._session.selected)
        return card

    def _group_frame(self, item: Item) -> GroupFrame:
        frame = self.groups.get(item.id) or self._new_group(item)
        frame.show_item(
            item,
            is_selected=item.id in self._session.selected,
            is_open=item.id == self._session.open_group,
        )
        return frame

    def _new_group(self, item: Item) -> GroupFrame:
        frame = self.groups[item.id] = GroupFrame(item, HEIGHT, _GAP)
        frame.chosen.connect(self._on_card_chosen)
        frame.opened.connect(self._session.enter_group)
        frame.folded.connect(self.fold)
        frame.renamed.connect(self._on_card_renamed)
        frame.menu_asked.connect(self._on_menu_asked)
        frame.drag_asked.connect(lambda item_id, at: self.drag_asked.emit(item_id, frame, at))
        return frame

    def begin_rename(self, item_id: str) -> None:
        """Edit the name of an item where it shows."""
        shown = self.cards.get(item_id) or self.groups.get(item_id)
        if shown is not None:
            shown.begin_rename()

    def fold(self, group_id: str) -> None:
        """Fold a group up to one card, or show what it holds again."""
        self.folded ^= {group_id}
        if group_id in self.folded and any(i.id == group_id for i in self._opened_groups()):
            self._session.select((group_id,))
        self.show_state()

    def _opened_groups(self) -> tuple[Item, ...]:
        return tuple(g for i in self._session.chosen for g in path_to(self._session.job, i.id)[1][:-1])

    def _new_card(self, item: Item) -> TrayCard:
        card = self.cards[item.id] = TrayCard(item)
        card.chosen.connect(self._on_card_chosen)
        card.renamed.connect(self._on_card_renamed)
        card.eye_clicked.connect(self._on_eye_clicked)
        card.lock_clicked.connect(self._on_lock_clicked)
        card.unfolded.connect(self.fold)
        card.dropped.connect(self.dropped)
        card.menu_asked.connect(self._on_menu_asked)
        card.drag_asked.connect(lambda item_id, at: self.drag_asked.emit(item_id, card, at))
        return card

    def _ask_thumbnails(self) -> None:
        session, ratio = self._session, self.devicePixelRatioF()
        size = (round(THUMB[0] * ratio), round(THUMB[1] * ratio))
        for item in [card.item for card in self.cards.values()]:
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
        if data.hasFormat(ITEM_MIME):
            event.acceptProposedAction()
        elif takes_photos(data):
            take_copy(event)

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        """Show where a card would land."""
        if event.mimeData().hasFormat(ITEM_MIME):
            self._row.mark_x = self._place_at(event.position().toPoint()).mark_x
            self._row.update()
            event.acceptProposedAction()
        else:
            take_copy(event)

    def dragLeaveEvent(self, event: object) -> None:
        """Forget the mark."""
        self._row.mark_x = None
        self._row.update()

    def dropEvent(self, event: QDropEvent) -> None:
        """Reorder, or hand on a photo."""
        self._row.mark_x = None
        self._row.update()
        if not event.mimeData().hasFormat(ITEM_MIME):
            take_copy(event)
            self.dropped.emit(event.mimeData(), None)
            return
        event.acceptProposedAction()
        item_id = bytes(event.mimeData().data(ITEM_MIME).data()).decode()
        to = self._place_at(event.position().toPoint())
        self.reorder(item_id, to.place, to.container_id)

    def reorder(self, item_id: str, gap: int, container_id: str = "") -> None:
        """Put an item into a gap between cards (0 = before the first), of a group or of the sheet."""
        there = container_id or self._session.sheet_id
        self._session.apply("Reorder", lambda job: move_to_container(job, item_id, there, gap))

    def _place_at(self, at: QPoint) -> DropPlace:
        return drop_place(self._row, self._line, self._row.mapFrom(self, at).x())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Offer keys that no card used."""
        event.ignore()
        if not self.finder.hasFocus():
            self.key_left.emit(event)
        if not event.isAccepted():
            super().keyPressEvent(event)

    # finding

    def begin_find(self) -> None:
        """Ask for a name; only cards with it stay."""
        self.finder.show()
        self.finder.setFocus()
        self.finder.selectAll()

    def _on_find_entered(self) -> None:
        """Select what was found."""
        wanted = self.finder.text()
        found = [i.id for i in walk(self._session.sheet.items) if wanted and has_name(i, wanted)]
        if found:
            self._session.select(found)
            give_keys_back(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Leave finding with Escape."""
        is_press = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress
        if watched is self.finder and is_press and isinstance(event, QKeyEvent):
            if event.key() != Qt.Key.Key_Escape:
                return False
            self.finder.clear()
            self.finder.hide()
            give_keys_back(self)
            return True
        return super().eventFilter(watched, event)


def _put_away(widget: QWidget) -> None:
    """Take a card out of its row at once; to be without a parent would have it styled anew before it goes."""
    around = widget.parentWidget()
    line = None if around is None else around.layout()
    if line is not None:
        line.removeWidget(widget)
    widget.hide()
    widget.deleteLater()
