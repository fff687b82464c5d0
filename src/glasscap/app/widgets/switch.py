"""A switch: a check box drawn as a knob that slides."""

from PySide6.QtCore import QPoint, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen

from glasscap.app.theme.style import colours
from glasscap.app.widgets.buttons import CheckBox

_SIZE, _GAP = QSize(32, 22), 3.0


class Switch(CheckBox):
    """`key_pressed(key)` tells of keys that are not its own: Return, Delete."""

    key_pressed = Signal(int)

    def __init__(self, name: str = "") -> None:
        super().__init__("")
        self.setAccessibleName(name)
        self.setFixedSize(_SIZE)

    def sizeHint(self) -> QSize:
        """Return its one size."""
        return _SIZE

    def hitButton(self, pos: QPoint) -> bool:
        """Take a click anywhere on it."""
        return self.rect().contains(pos)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Tell of Return and Delete; Space switches."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.key_pressed.emit(event.key())
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint groove and knob."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setOpacity(1.0 if self.isEnabled() else 0.5)
        groove = QRectF(self.rect()).adjusted(2, 4, -2, -4)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours().teal if self.isChecked() else colours().muted))
        painter.drawRoundedRect(groove, groove.height() / 2, groove.height() / 2)
        side = groove.height() - 2 * _GAP + 2
        left = groove.right() - side - 2 if self.isChecked() else groove.left() + 2
        painter.setBrush(QColor(colours().field))
        painter.drawEllipse(QRectF(left, groove.center().y() - side / 2, side, side))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(colours().ink), 1.5))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 2, -1, -2), 9, 9)
        painter.end()
