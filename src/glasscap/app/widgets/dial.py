"""A dial for a direction and a distance: where a shadow falls."""

import math

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from glasscap.app.theme.style import colours

_SIDE = 64
_TURNS = {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0, Qt.Key.Key_Down: -1.0, Qt.Key.Key_Up: 1.0}


class Dial(QWidget):
    """`moved(degrees)` while it is turned, `stepped(degrees)` when settled; 0 = right, 90 = down."""

    moved = Signal(float)
    stepped = Signal(float)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: drag, Shift for 15° steps")
        self.setFixedSize(_SIDE, _SIDE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.degrees = 90.0

    def show_value(self, degrees: float) -> None:
        """Show a direction without telling."""
        self.degrees = degrees
        self.update()

    def _at(self, event: QMouseEvent) -> float:
        middle = QPointF(self.width() / 2, self.height() / 2)
        away = event.position() - middle
        degrees = math.degrees(math.atan2(away.y(), away.x()))
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            return float(round(degrees / 15) * 15)
        return float(round(degrees))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Turn to the pointer."""
        self._turn_to(self._at(event))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Follow the pointer."""
        self._turn_to(self._at(event))

    def _turn_to(self, degrees: float) -> None:
        self.show_value(degrees)
        self.moved.emit(degrees)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Settle."""
        self.stepped.emit(self._at(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Turn by a degree, with Shift by 15."""
        step = _TURNS.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        far = 15 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self.stepped.emit(math.remainder(self.degrees + step * far, 360.0))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint ring, hand and knob."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, radius = QPointF(self.width() / 2, self.height() / 2), _SIDE / 2 - 6
        painter.setPen(QPen(QColor(colours().ink if self.hasFocus() else colours().line), 1.5))
        painter.setBrush(QColor(colours().field))
        painter.drawEllipse(middle, radius, radius)
        painter.setPen(QPen(QColor(colours().line), 1))
        for quarter in range(8):
            angle = quarter * math.pi / 4
            one, two = (QPointF(math.cos(angle), math.sin(angle)) * r for r in (radius - 4, radius))
            painter.drawLine(middle + one, middle + two)
        angle = math.radians(self.degrees)
        tip = middle + QPointF(math.cos(angle), math.sin(angle)) * (radius - 5)
        painter.setPen(QPen(QColor(colours().teal), 2))
        painter.drawLine(middle, tip)
        painter.setBrush(QColor(colours().teal))
        painter.drawEllipse(tip, 4, 4)
        painter.end()
