"""A group in the tray: its name at the left edge, and the cards of what it holds in place."""

from PySide6.QtCore import QPoint, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.theme.fonts import STRONG, font
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours
from glasscap.app.tray.name_editor import NameEditor
from glasscap.core.document.model import Item

_HEAD, _ICON, _PAD, _DRAG = 24, 14, 5, 8


class GroupFrame(QWidget):
    """Shows one group; its head selects, a double click opens it on the bench, the sign folds it up."""

    chosen = Signal(str, bool)
    opened = Signal(str)
    folded = Signal(str)
    renamed = Signal(str, str)
    menu_asked = Signal(str, QPoint)
    drag_asked = Signal(str, QPoint)

    def __init__(self, item: Item, height: int, gap: int) -> None:
        super().__init__()
        self.item, self.is_selected, self.is_open = item, False, False
        self._press: QPoint | None = None
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
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
        strong = self.is_selected or self.hasFocus()
        painter.setPen(QPen(QColor(shown.teal if strong or self.is_open else shown.line), 2 if strong else 1))
        painter.setBrush(QColor(shown.teal_soft))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 8, 8)
        painter.setOpacity(0.45 if self.item.is_hidden else 1.0)
        icon("minus", shown.muted, _ICON).paint(painter, self._fold_box())
        painter.setFont(font(10, STRONG))
        painter.setPen(QColor(shown.teal))
        painter.translate(5, self.height() - 7)
        painter.rotate(-90)
        room = self.height() - 27
        words = f"{self.item.name} · {len(self.item.items)}"
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRect(0, 0, room, 16), Qt.AlignmentFlag.AlignLeft, words)
        painter.end()

    def _fold_box(self) -> QRect:
        return QRect(6, 7, _ICON, _ICON)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Select the group, or fold it up."""
        at = event.position().toPoint()
        if self._fold_box().adjusted(-3, -3, 3, 3).contains(at):
            self.folded.emit(self.item.id)
        elif event.button() == Qt.MouseButton.LeftButton:
            self._press = at
            adds = event.modifiers() & (Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
            self.chosen.emit(self.item.id, bool(adds))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Begin dragging the group."""
        at = event.position().toPoint()
        if self._press is not None and (at - self._press).manhattanLength() >= _DRAG:
            self._press = None
            self.drag_asked.emit(self.item.id, at)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Forget the press."""
        self._press = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Open the group on the bench."""
        self._press = None
        self.opened.emit(self.item.id)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Ask for the menu."""
        self.menu_asked.emit(self.item.id, event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with Enter or Space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.item.id, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def begin_rename(self) -> None:
        """Edit the name in place."""
        place = QRect(4, self.height() - 32, 112, 28)
        editor = NameEditor(self, self.item.name, place, "Name of the group")
        editor.named.connect(self._on_named)

    def _on_named(self, name: str) -> None:
        self.renamed.emit(self.item.id, name)
