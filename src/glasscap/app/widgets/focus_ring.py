"""The ring round the control that has the keys: dashed and in ink, so that nothing chosen looks like it."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from glasscap.app.theme.style import colours


def draw_focus_ring(painter: QPainter, box: QRectF, radius: float = 6.0) -> None:
    """Draw the ring just inside a box."""
    pen = QPen(QColor(colours().ink), 1.5)
    pen.setDashPattern([2.5, 2.0])
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), radius, radius)
