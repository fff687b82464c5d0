"""The rows of the export list: picture, name, file; the chosen one opens in place, drag puts them in order."""

from PySide6.QtCore import (
    QItemSelectionModel,
    QModelIndex,
    QPoint,
    QPointF,
    QRect,
    QSize,
    Qt,
    QTimer,
    Signal,
)
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QMoveEvent,
    QPainter,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from glasscap.app.export.open_place import OpenPlace
from glasscap.app.export.row_body import RowBody
from glasscap.app.theme.fonts import REGULAR, STRONG, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.app.widgets.wheel import keep_bar, note_scrolling
from glasscap.editor.export_rows import RowFacts

ROW_HEIGHT, THUMB = 56, 40
_INSET, _BELOW, _CHEVRON = 12, 12, 26
# What a notch of the wheel scrolls is three of these, as in every panel.
_LINE = 20
_FACTS = Qt.ItemDataRole.UserRole


class RowList(QListWidget):
    """`chosen(ids)` when other rows are selected, `moved(id, place)` after a drag, `removed(ids)` on Delete.

    `renamed(id, name)` when a file's name was typed in place, `menu_asked(at)` for the menu of the chosen rows.
    The body lies in the row that is shown; its arrow, or Enter, closes and opens it.
    """

    chosen = Signal(object)
    moved = Signal(str, int)
    removed = Signal(object)
    renamed = Signal(str, str)
    menu_asked = Signal(QPoint)

    def __init__(self, body: RowBody) -> None:
        super().__init__()
        self.is_open = True
        # The row that is shown, which may lie elsewhere in another list: its number and its id.
        self._shown, self._shown_id = -1, ""
        self._body, self.place = body, OpenPlace(self, body)
        self.place.needed.connect(lambda box: self._scroll_to(box.adjusted(0, -_INSET, 0, _INSET)))
        self.setObjectName("shapegrid")
        self.setAccessibleName("What goes out")
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        keep_bar(self)
        self.verticalScrollBar().setSingleStep(_LINE)
        self.setSpacing(2)
        self.setMouseTracking(True)
        self.setItemDelegate(_Delegate(self))
        body.changed.connect(self.scheduleDelayedItemsLayout)
        self.itemSelectionChanged.connect(lambda: self.chosen.emit(self.chosen_ids))
        # The row that a click opens moves: its controls are no target for the rest of a double click.
        self._settled = QTimer(self, singleShot=True, interval=QApplication.doubleClickInterval())
        self._settled.timeout.connect(
            lambda: self.place.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents, False)
        )

    @property
    def chosen_ids(self) -> tuple[str, ...]:
        """The rows chosen, from the top."""
        rows = sorted(self.row(item) for item in self.selectedItems())
        return tuple(self.facts(row).output.id for row in rows)

    def facts(self, row: int) -> RowFacts:
        """Return what a row shows."""
        found = self.item(row).data(_FACTS)
        assert isinstance(found, RowFacts)
        return found

    def show_rows(self, rows: tuple[RowFacts, ...], chosen: tuple[str, ...]) -> None:
        """Show rows without telling; those with the chosen ids are selected, the first of them is open."""
        self.blockSignals(True)
        while self.count() > len(rows):
            self.takeItem(self.count() - 1)
        while self.count() < len(rows):
            self.addItem(QListWidgetItem())
        for index, facts in enumerate(rows):
            item = self.item(index)
            item.setData(_FACTS, facts)
            item.setText(f"{facts.title}, {facts.words}")
            item.setToolTip(facts.words)
            item.setSelected(facts.output.id in chosen)
            if chosen and facts.output.id == chosen[0]:
                # Keys go on from the row that is shown.
                self.setCurrentItem(item, QItemSelectionModel.SelectionFlag.NoUpdate)
        self.blockSignals(False)
        ids = [facts.output.id for facts in rows]
        shown = ids.index(chosen[0]) if chosen else -1
        if shown != self._shown or chosen[:1] != (self._shown_id,):
            self._shown, self._shown_id = shown, ids[shown] if chosen else ""
            self._lay_out_again()
            self._bring_into_sight()

    def is_shown(self, row: int) -> bool:
        """Whether a row is the one whose file is shown."""
        return row == self._shown

    def height_of(self, row: int) -> int:
        """Return the height of a row, logical px: that of the open one with its body."""
        return ROW_HEIGHT + (self._body_height() + _BELOW if self.is_open and self.is_shown(row) else 0)

    def set_open(self, is_open: bool) -> None:
        """Open the shown row, or close it."""
        self.is_open = is_open
        self._lay_out_again()
        self._bring_into_sight()

    # the body's place

    def _body_height(self) -> int:
        return self._body.height_for(self._body_width())

    def _body_width(self) -> int:
        return self.viewport().width() - 2 * _INSET

    def _lay_out_again(self) -> None:
        self.doItemsLayout()
        self._place_body()

    def _place_body(self) -> None:
        item = self.item(self._shown)
        if not self.is_open or item is None:
            self.place.hide()
            return
        box = self.visualItemRect(item)
        self.place.lay(QRect(_INSET, box.y() + ROW_HEIGHT, self._body_width(), self._body_height()))

    def focusNextPrevChild(self, next: bool) -> bool:  # noqa: A002, the toolkit's name
        """Scroll to the control of the body that Tab went to."""
        was_moved = super().focusNextPrevChild(next)
        self.place.show_focus()
        return was_moved

    def _bring_into_sight(self) -> None:
        item = self.item(self._shown)
        if item is None:
            return
        self._scroll_to(self.visualItemRect(item))

    def _scroll_to(self, box: QRect) -> None:
        """Bring a box of the viewport into sight, its top where it is too high for it."""
        room, bar = self.viewport().height(), self.verticalScrollBar()
        if box.top() < 0 or box.height() > room:
            bar.setValue(bar.value() + box.top())
        elif box.bottom() > room:
            bar.setValue(bar.value() + box.bottom() - room)

    def updateGeometries(self) -> None:
        """Keep the body in its row."""
        super().updateGeometries()
        self._place_body()

    def moveEvent(self, event: QMoveEvent) -> None:
        """Keep the body in its row."""
        super().moveEvent(event)
        self._place_body()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Take the body along."""
        super().scrollContentsBy(dx, dy)
        self._place_body()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Scroll, and remember it: fields that come under the pointer are not meant."""
        note_scrolling()
        super().wheelEvent(event)

    # names

    def rename(self) -> None:
        """Let the file's name of the current row be typed in its place."""
        item = self.currentItem()
        if item is not None:
            self._rename(item)

    def _rename(self, item: QListWidgetItem) -> None:
        row = self.row(item)
        facts = self.facts(row)
        box = self.visualItemRect(item)
        place = QRect(box.x() + 54, box.y() + 27, box.width() - 62, 26)
        editor = NameEditor(self.viewport(), facts.stem, place, f"Name of the file of {facts.title}")
        editor.named.connect(lambda name: self._take_name(facts, name))

    def _take_name(self, facts: RowFacts, name: str) -> None:
        name = name.strip().removesuffix(facts.ending)
        if name and name != facts.stem:
            self.renamed.emit(facts.output.id, name)

    # pointer and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Open or close at the arrow; elsewhere choose."""
        item = self.itemAt(event.position().toPoint())
        if item is not None and event.button() == Qt.MouseButton.LeftButton and not event.modifiers():
            away = event.position() - QPointF(self.visualItemRect(item).topRight())
            is_arrow = away.x() > -_CHEVRON and away.y() < ROW_HEIGHT
            if is_arrow and self.row(item) == self._shown and len(self.chosen_ids) == 1:
                self.set_open(not self.is_open)
                return
            self.place.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            self._settled.start()
        super().mousePressEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Rename the row that the first click chose, wherever it lies by now."""
        if event.button() == Qt.MouseButton.LeftButton and self._settled.isActive():
            self.rename()
        else:
            self.mousePressEvent(event)

    def dropEvent(self, event: QDropEvent) -> None:
        """Put the dragged row where it was dropped."""
        dragged, target = self.currentRow(), self.indexAt(event.position().toPoint()).row()
        if dragged < 0:
            return
        ids = [self.facts(n).output.id for n in range(self.count())]
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        self.moved.emit(ids[dragged], target if target >= 0 else len(ids) - 1)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Offer what can be done to the chosen rows."""
        if self.chosen_ids:
            self.menu_asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Remove rows with Delete, rename with F2, open and close with Enter."""
        key = event.key()
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.chosen_ids:
            self.removed.emit(self.chosen_ids)
        elif key == Qt.Key.Key_F2:
            self.rename()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.set_open(not self.is_open)
        else:
            super().keyPressEvent(event)


class _Delegate(QStyledItemDelegate):
    """Paints a row as a card."""

    def __init__(self, rows: RowList) -> None:
        super().__init__(rows)
        self._rows = rows

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:  # type: ignore[override]
        """Give every row the same height, and the open one room for its body."""
        return QSize(120, self._rows.height_of(index.row()))

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:  # type: ignore[override]
        """Paint card, picture, two lines, and the arrow of the row that is shown."""
        facts = index.data(_FACTS)
        if not isinstance(facts, RowFacts):
            return
        chosen = colours()
        state = option.state
        box: QRect = option.rect.adjusted(1, 1, -1, -1)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        is_selected = bool(state & QStyle.StateFlag.State_Selected)
        if is_selected or state & QStyle.StateFlag.State_MouseOver:
            painter.setPen(QPen(QColor(chosen.teal if is_selected else chosen.line), 1.2))
            painter.setBrush(QColor(chosen.card))
            painter.drawRoundedRect(box, 8, 8)
        head = QRect(box.x(), box.y(), box.width(), ROW_HEIGHT - 2)
        self._paint_thumb(painter, facts, QRect(head.x() + 8, head.y() + 7, THUMB, THUMB))
        is_shown = self._rows.is_shown(index.row())
        if is_shown:
            self._paint_arrow(painter, QPointF(head.right() - _CHEVRON / 2, head.y() + 18))
        room = head.adjusted(58, 9, -8, -9)
        painter.setPen(QColor(chosen.ink))
        painter.setFont(font(13, STRONG))
        self._line(painter, facts.title, room.adjusted(0, 0, -_CHEVRON + 8, 0), Qt.AlignmentFlag.AlignTop)
        painter.setPen(QColor(chosen.amber if facts.problem else chosen.muted))
        painter.setFont(font(12, REGULAR))
        self._line(painter, facts.words, room, Qt.AlignmentFlag.AlignBottom)
        painter.restore()

    def _line(self, painter: QPainter, text: str, room: QRect, side: Qt.AlignmentFlag) -> None:
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideMiddle, room.width())
        painter.drawText(room, side | Qt.AlignmentFlag.AlignLeft, shown)

    def _paint_arrow(self, painter: QPainter, middle: QPointF) -> None:
        """Paint an arrow that points up in the open row, down in a closed one."""
        up = -2.5 if self._rows.is_open else 2.5
        painter.setPen(QPen(QColor(colours().muted), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline([middle + QPointF(-5, -up), middle + QPointF(0, up), middle + QPointF(5, -up)])

    def _paint_thumb(self, painter: QPainter, facts: RowFacts, box: QRect) -> None:
        painter.fillRect(box, checkerboard(0.4))
        if facts.thumb is None:
            return
        height, width = facts.thumb.rgba.shape[:2]
        ratio = max(width, height) / THUMB
        target = QRect(0, 0, max(1, round(width / ratio)), max(1, round(height / ratio)))
        target.moveCenter(box.center())
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(target, to_image(facts.thumb))
