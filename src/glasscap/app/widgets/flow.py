"""A row of widgets that goes on in another row where the room ends."""

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem


class FlowLayout(QLayout):
    """Lays widgets out from left to right, then from top to bottom."""

    def __init__(self, spacing: int) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(0, 0, 0, 0)
        self.setSpacing(spacing)

    def addItem(self, item: QLayoutItem) -> None:
        """Add an item at the end."""
        self._items.append(item)

    def count(self) -> int:
        """Return how many there are."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """Return one, or None beyond the last."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Take one out."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """Ask for no more room than is needed."""
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        """Say that the height follows the width."""
        return True

    def heightForWidth(self, width: int) -> int:
        """Return the height of the rows in a width."""
        return self._placed(QRect(0, 0, width, 0), moves=False)

    def setGeometry(self, box: QRect) -> None:
        """Place the widgets."""
        super().setGeometry(box)
        self._placed(box, moves=True)

    def sizeHint(self) -> QSize:
        """Return the size of one row."""
        sizes = [i.sizeHint() for i in self._items]
        wide = sum(s.width() for s in sizes) + self.spacing() * max(0, len(sizes) - 1)
        return QSize(wide, max((s.height() for s in sizes), default=0))

    def minimumSize(self) -> QSize:
        """Return the size of the largest widget."""
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        return size

    def _placed(self, box: QRect, *, moves: bool) -> int:
        x, y, row = box.x(), box.y(), 0
        for item in self._items:
            size = item.sizeHint()
            if x > box.x() and x + size.width() > box.right() + 1:
                x, y, row = box.x(), y + row + self.spacing(), 0
            if moves:
                item.setGeometry(QRect(QPoint(x, y), size))
            x, row = x + size.width() + self.spacing(), max(row, size.height())
        return y + row - box.y()
