"""A group in the tray: its name at the left edge, and the cards of what it holds in place."""

from PySide6.QtCore import QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout

from glasscap.app.theme.fonts import STRONG, font
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.tray.tray_thing import TrayThing
from glasscap.app.widgets.focus_ring import draw_focus_ring
from glasscap.app.widgets.name_editor import NameEditor
from glasscap.core.document.model.job import Item

_HEAD, _ICON, _PAD = 24, 14, 5


class GroupFrame(TrayThing):
    """Shows one group; its head selects, a double click opens it on the bench, the sign folds it up."""

    opened = Signal(str)
    folded = Signal(str)

    def __init__(self, item: Item, height: int, gap: int) -> None:
        super().__init__(item)
        self.is_open = False
        self.setFixedHeight(height)
        self.line = QHBoxLayout(self)
        self.line.setContentsMargins(_HEAD, 0, _PAD, 0)
        self.line.setSpacing(gap)

    def show_item(self, item: Item, *, is_selected: bool, is_open: bool) -> None:
        """Show a group; `is_open` while it is open on the bench."""
        self.item, self.is_selected, self.is_open = item, is_selected, is_open
        self.setAccessibleName(f"Group {item.name}, {len(item.items)}")
        self.setToolTip(f"{item.name}: click selects the group, double click opens it on the bench")
        self.update()

    def sizeHint(self) -> QSize:
        """Be as wide as what it holds."""
        return self.line.sizeHint()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the frame and the name, read from the foot upwards."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = colours()
        strong = self.is_selected
        painter.setPen(QPen(QColor(shown.teal if strong or self.is_open else shown.line), 2 if strong else 1))
        painter.setBrush(QColor(shown.teal_soft))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 8, 8)
        if self.hasFocus():
            draw_focus_ring(painter, QRectF(self.rect()).adjusted(3, 3, -3, -3))
        painter.setOpacity(0.45 if self.item.is_hidden else 1.0)
        icon("minus", shown.muted, _ICON).paint(painter, self._fold_box())
        room = self.height() - 27
        if self.item.is_locked:
            icon("lock", shown.muted, _ICON).paint(painter, self._fold_box().translated(0, _ICON + 2))
            room -= _ICON
        painter.setFont(font(10, STRONG))
        painter.setPen(QColor(shown.teal))
        painter.translate(5, self.height() - 7)
        painter.rotate(-90)
        words = f"{self.item.name} · {len(self.item.items)}"
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideMiddle, room)
        painter.drawText(QRect(0, 0, room, 16), Qt.AlignmentFlag.AlignLeft, words)
        painter.end()

    def _fold_box(self) -> QRect:
        return QRect(6, 7, _ICON, _ICON)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Select the group, or fold it up."""
        if self._fold_box().adjusted(-3, -3, 3, 3).contains(event.position().toPoint()):
            self.folded.emit(self.item.id)
        else:
            self.take_press(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Open the group on the bench."""
        self.forget_press()
        self.opened.emit(self.item.id)

    def begin_rename(self) -> None:
        """Edit the name in place."""
        place = QRect(4, self.height() - 32, 112, 28)
        editor = NameEditor(self, self.item.name, place, "Name of the group")
        editor.named.connect(self.on_named)
