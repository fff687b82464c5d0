"""The glass: a round lens that shows another picture, or the same enlarged, where it lies."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from glasscap.app.theme.fonts import MEDIUM, font
from glasscap.app.theme.style import colours

RADIUS = 110.0
_PLATE_HEIGHT, _PLATE_PAD = 22.0, 20.0


def paint_glass(painter: QPainter, centre: QPointF, words: str, paint_within: Callable[[], object]) -> None:
    """Paint a glass: `paint_within()` paints what it shows, clipped by its rim; `words` name that on the rim."""
    circle = QPainterPath()
    circle.addEllipse(centre, RADIUS, RADIUS)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(QColor(0, 0, 0, 50), 7))
    painter.drawEllipse(centre + QPointF(0, 2), RADIUS, RADIUS)
    painter.restore()
    painter.save()
    painter.setClipPath(circle)
    paint_within()
    painter.restore()
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor("#ffffff"), 2))
    painter.drawEllipse(centre, RADIUS - 3, RADIUS - 3)
    painter.setPen(QPen(QColor(colours().teal), 3.5))
    painter.drawEllipse(centre, RADIUS, RADIUS)
    paint_plate(painter, QPointF(centre.x(), centre.y() + RADIUS), words)
    painter.restore()


def paint_plate(painter: QPainter, middle: QPointF, words: str) -> None:
    """Paint words on a dark plate about a point."""
    painter.setFont(font(12, MEDIUM))
    width = painter.fontMetrics().horizontalAdvance(words) + _PLATE_PAD
    plate = QRectF(0, 0, width, _PLATE_HEIGHT)
    plate.moveCenter(middle)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(34, 38, 42, 220))
    painter.drawRoundedRect(plate, _PLATE_HEIGHT / 2, _PLATE_HEIGHT / 2)
    painter.setPen(QColor("#ffffff"))
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, words)
