"""The rows of the export list: picture, name, file; several are chosen together, drag puts them in order."""

from PySide6.QtCore import QItemSelectionModel, QModelIndex, QPoint, QRect, QSize, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QDropEvent, QKeyEvent, QPainter, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from glasscap.app.theme.fonts import REGULAR, STRONG, font
from glasscap.app.theme.style import colours
from glasscap.app.widgets.checker import checkerboard
from glasscap.app.widgets.frame_image import to_image
from glasscap.editor.export_rows import RowFacts

ROW_HEIGHT, THUMB = 56, 40
_FACTS = Qt.ItemDataRole.UserRole


class RowList(QListWidget):
    """`chosen(ids)` when other rows are selected, `moved(id, place)` after a drag, `removed(ids)` on Delete.

    `menu_asked(at)` for the menu of the chosen rows.
    """

    chosen = Signal(object)
    moved = Signal(str, int)
    removed = Signal(object)
    menu_asked = Signal(QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("shapegrid")
        self.setAccessibleName("What goes out")
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSpacing(2)
        self.setMouseTracking(True)
        self.setItemDelegate(_Delegate(self))
        self.itemSelectionChanged.connect(lambda: self.chosen.emit(self.chosen_ids))

    @property
    def chosen_ids(self) -> tuple[str, ...]:
        """The rows chosen, from the top."""
        rows = sorted(self.row(item) for item in self.selectedItems())
        return tuple(self.item(row).data(_FACTS).output.id for row in rows)

    def show_rows(self, rows: tuple[RowFacts, ...], chosen: tuple[str, ...]) -> None:
        """Show rows without telling; those with the chosen ids are selected."""
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

    def dropEvent(self, event: QDropEvent) -> None:
        """Put the dragged row where it was dropped."""
        dragged, target = self.currentRow(), self.indexAt(event.position().toPoint()).row()
        if dragged < 0:
            return
        ids = [self.item(n).data(_FACTS).output.id for n in range(self.count())]
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        self.moved.emit(ids[dragged], target if target >= 0 else len(ids) - 1)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Offer what can be done to the chosen rows."""
        if self.chosen_ids:
            self.menu_asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Remove rows with Delete."""
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.chosen_ids:
            self.removed.emit(self.chosen_ids)
        else:
            super().keyPressEvent(event)


class _Delegate(QStyledItemDelegate):
    """Paints a row as a card."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:  # type: ignore[override]
        """Give every row the same height."""
        return QSize(120, ROW_HEIGHT)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex) -> None:  # type: ignore[override]
        """Paint card, picture, two lines."""
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
        self._paint_thumb(painter, facts, QRect(box.x() + 8, box.y() + 7, THUMB, THUMB))
        room = box.adjusted(58, 8, -8, -8)
        painter.setPen(QColor(chosen.ink))
        painter.setFont(font(13, STRONG))
        self._line(painter, facts.title, room, Qt.AlignmentFlag.AlignTop)
        painter.setPen(QColor(chosen.amber if facts.problem else chosen.muted))
        painter.setFont(font(12, REGULAR))
        self._line(painter, facts.words, room, Qt.AlignmentFlag.AlignBottom)
        painter.restore()

    def _line(self, painter: QPainter, text: str, room: QRect, side: Qt.AlignmentFlag) -> None:
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideMiddle, room.width())
        painter.drawText(room, side | Qt.AlignmentFlag.AlignLeft, shown)

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
