"""Words on dark pills over the bench, set so that none hides another."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetrics, QPainter

from glasscap.app.theme.fonts import MEDIUM, font

# Px from what a pill belongs to, and what it is higher than its words.
_APART, _ROOM = 6, 12


class Pills:
    """The pills of one repaint: each is drawn where it hides none drawn before, if there is such a place."""

    def __init__(self, painter: QPainter) -> None:
        self._painter = painter
        self._boxes: list[QRectF] = []

    def draw(self, words: str, places: Sequence[QPointF], *, size_px: int = 12) -> QRectF:
        """Draw words at the first free of some places (the middle of a pill's top), else at the first of all."""
        width = pill_width(words, size_px=size_px)
        boxes = [QRectF(at.x() - width / 2, at.y(), width, size_px + _ROOM) for at in places]
        box = next((box for box in boxes if not any(box.intersects(other) for other in self._boxes)), boxes[0])
        self._boxes.append(box)
        return draw_pill(self._painter, words, box.center().x(), box.top(), size_px=size_px)

    def draw_beside(self, words: str, middle: QPointF, *, is_level: bool, size_px: int) -> QRectF:
        """Draw words beneath or above the middle of a level line, right or left of an upright one."""
        height = size_px + _ROOM
        if is_level:
            ways = [QPointF(0, _APART), QPointF(0, -_APART - height)]
        else:
            far = _APART + pill_width(words, size_px=size_px) / 2
            ways = [QPointF(far, -height / 2), QPointF(-far, -height / 2)]
        return self.draw(words, [middle + way for way in ways], size_px=size_px)


def pill_width(words: str, *, size_px: int = 12) -> int:
    """Return how wide the pill of some words is."""
    return QFontMetrics(font(size_px, MEDIUM)).horizontalAdvance(words) + 22


def draw_pill(painter: QPainter, words: str, centre_x: float, y: float, *, size_px: int = 12) -> QRectF:
    """Draw words on a dark pill, its top at `y`; return its box."""
    width = pill_width(words, size_px=size_px)
    painter.setFont(font(size_px, MEDIUM))
    box = QRectF(centre_x - width / 2, y, width, size_px + 12)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(34, 38, 42, 215))
    painter.drawRoundedRect(box, box.height() / 2, box.height() / 2)
    painter.setPen(QColor("#ffffff"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
    return box
