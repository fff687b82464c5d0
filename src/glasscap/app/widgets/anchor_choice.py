"""Nine dots: the point of a frame that numbers stand for and that stays while sizing."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.style import colours

_SIZE, _EDGE = 28, 6.0
NAMES = {
    (-1, -1): "Top left", (0, -1): "Top", (1, -1): "Top right",
    (-1, 0): "Left", (0, 0): "Centre", (1, 0): "Right",
    (-1, 1): "Bottom left", (0, 1): "Bottom", (1, 1): "Bottom right",
}  # fmt: skip
_STEPS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


class AnchorChoice(QWidget):
    """`chosen(u, v)`, each -1, 0 or 1."""

    chosen = Signal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(_SIZE, _SIZE)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.value = (0, 0)
        self._name()

    def _name(self) -> None:
        self.setAccessibleName(f"Reference point: {NAMES[self.value]}")
        self.setToolTip(f"{NAMES[self.value]}: the point that x and y stand for, and that stays while sizing")

    def choose(self, u: int, v: int) -> None:
        """Choose a point and tell."""
        self.value = (u, v)
        self._name()
        self.update()
        self.chosen.emit(u, v)

    def _spot(self, u: int, v: int) -> QPointF:
        middle, reach = _SIZE / 2, _SIZE / 2 - _EDGE
        return QPointF(middle + u * reach, middle + v * reach)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the nearest dot."""
        at = event.position()
        third = _SIZE / 3
        self.choose(*(min(2, max(0, int(value // third))) - 1 for value in (at.x(), at.y())))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Go to a neighbour with the arrow keys."""
        step = _STEPS.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        self.choose(*(min(1, max(-1, value + way)) for value, way in zip(self.value, step, strict=True)))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint frame and dots."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(colours().teal if self.hasFocus() else colours().line), 1))
        painter.drawRect(QRectF(self._spot(-1, -1), self._spot(1, 1)))
        painter.setPen(Qt.PenStyle.NoPen)
        for u, v in NAMES:
            is_on = (u, v) == self.value
            painter.setBrush(QColor(colours().teal if is_on else colours().muted))
            size = 3.6 if is_on else 1.5
            painter.drawEllipse(self._spot(u, v), size, size)
        painter.end()
