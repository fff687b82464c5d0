"""The grid of shapes: every card cuts the designer's own photo; only cards in sight are drawn."""

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QRect, QSize, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QAbstractItemView, QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.icons import icon
from glasscap.app.theme.style import colours

CARD, PICTURE = QSize(101, 111), QSize(66, 66)
_INSET, _STAR = 7, 15
Index = QModelIndex | QPersistentModelIndex
ROLE_KEY, ROLE_IMAGE, ROLE_KEPT = (int(Qt.ItemDataRole.UserRole) + n for n in range(3))


class ShapeList(QAbstractListModel):
    """Keys and labels of the shapes shown, the pictures there are, which are kept."""

    def __init__(self) -> None:
        super().__init__()
        self.keys: list[str] = []
        self._labels: dict[str, str] = {}
        self._images: dict[str, QImage] = {}
        self._kept: frozenset[str] = frozenset()

    def show_shapes(self, labels: dict[str, str], kept: frozenset[str]) -> None:
        """Show shapes in this order."""
        self.beginResetModel()
        self.keys, self._labels, self._kept = list(labels), labels, kept
        self.endResetModel()

    def show_image(self, key: str, image: QImage) -> None:
        """Show a shape's picture."""
        self._images[key] = image
        if key in self._labels:
            at = self.index(self.keys.index(key))
            self.dataChanged.emit(at, at, [ROLE_IMAGE])

    def forget_images(self) -> None:
        """Let go of the pictures of another photo."""
        self._images.clear()

    def has_image(self, key: str) -> bool:
        """Whether a shape's picture is there."""
        return key in self._images

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008
        """Return how many there are."""
        return 0 if parent.isValid() else len(self.keys)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return what a card shows."""
        if not 0 <= index.row() < len(self.keys):
            return None
        key = self.keys[index.row()]
        table: dict[int, object] = {
            int(Qt.ItemDataRole.DisplayRole): self._labels[key],
            int(Qt.ItemDataRole.AccessibleTextRole): f"Shape {self._labels[key]}",
            int(Qt.ItemDataRole.ToolTipRole): self._labels[key],
            ROLE_KEY: key,
            ROLE_IMAGE: self._images.get(key),
            ROLE_KEPT: key in self._kept,
        }
        return table.get(int(role))


class ShapeDelegate(QStyledItemDelegate):
    """Paints one card."""

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        """Return a card with the gap to its neighbours."""
        return CARD

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """Paint card, picture, name, star."""
        state, rect = option.state, QRect(option.rect)
        box = rect.adjusted(_INSET, 5, -_INSET, -5)
        is_chosen = bool(state & QStyle.StateFlag.State_Selected)
        is_over = bool(state & QStyle.StateFlag.State_MouseOver)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        line = colours().teal if is_chosen else colours().muted if is_over else colours().line
        painter.setPen(QPen(QColor(line), 2 if is_chosen else 1))
        painter.setBrush(QColor(colours().field))
        painter.drawRoundedRect(box, 8, 8)
        self._paint_picture(painter, box, index.data(ROLE_IMAGE))
        painter.setPen(QColor(colours().ink))
        painter.setFont(font(11, MEDIUM))
        words = painter.fontMetrics().elidedText(str(index.data()), Qt.TextElideMode.ElideRight, box.width() - 8)
        foot = QRect(box.left(), box.bottom() - 23, box.width(), 20)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)
        is_kept = bool(index.data(ROLE_KEPT))
        if is_kept or is_over:
            colour = colours().amber if is_kept else colours().muted
            icon("star", colour).paint(painter, star_rect(rect))
        painter.restore()

    @staticmethod
    def _paint_picture(painter: QPainter, box: QRect, image: object) -> None:
        if isinstance(image, QImage):
            width, height = image.deviceIndependentSize().toTuple()
            painter.drawImage(
                round(box.center().x() + 1 - width / 2),
                round(box.top() + 8 + (PICTURE.height() - height) / 2),
                image,
            )


def star_rect(card: QRect) -> QRect:
    """Return where a card's star is."""
    return QRect(card.right() - _INSET - _STAR - 3, card.top() + 8, _STAR, _STAR)


class ShapeGrid(QListView):
    """Tells `chosen(key)` on a click or Enter, `star_clicked(key)`, and `sight_changed()` after scrolling."""

    chosen = Signal(str)
    star_clicked = Signal(str)
    menu_asked = Signal(str, object)
    sight_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("shapegrid")
        self.setAccessibleName("Shapes")
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setUniformItemSizes(True)
        self.setMouseTracking(True)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.shapes = ShapeList()
        self.setModel(self.shapes)
        self.setItemDelegate(ShapeDelegate(self))
        self.verticalScrollBar().valueChanged.connect(self.sight_changed)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.customContextMenuRequested.connect(self._on_menu_requested)

    def keys_in_sight(self) -> list[str]:
        """Return the shapes whose cards can be seen."""
        box = self.viewport().rect()
        return [
            key for row, key in enumerate(self.shapes.keys)
            if self.visualRect(self.shapes.index(row)).intersects(box)
        ]  # fmt: skip

    def show_chosen(self, key: str | None) -> None:
        """Frame the card of a shape."""
        if key is None or key not in self.shapes.keys:
            self.clearSelection()
            return
        self.setCurrentIndex(self.shapes.index(self.shapes.keys.index(key)))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Choose the card, or keep it by its star."""
        super().mouseReleaseEvent(event)
        at = event.position().toPoint()
        index = self.indexAt(at)
        if event.button() == Qt.MouseButton.LeftButton and index.isValid():
            key = str(index.data(ROLE_KEY))
            is_star = star_rect(self.visualRect(index)).adjusted(-3, -3, 3, 3).contains(at)
            (self.star_clicked if is_star else self.chosen).emit(key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with Enter."""
        if (
            event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
            and self.currentIndex().isValid()
        ):
            self.chosen.emit(str(self.currentIndex().data(ROLE_KEY)))
        else:
            super().keyPressEvent(event)

    def _on_menu_requested(self, at: object) -> None:
        index = self.indexAt(at)  # type: ignore[arg-type]
        if index.isValid():
            self.menu_asked.emit(str(index.data(ROLE_KEY)), self.viewport().mapToGlobal(at))  # type: ignore[call-overload]
