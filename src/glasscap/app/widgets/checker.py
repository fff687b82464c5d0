"""The checkerboard that stands for transparency."""

from PySide6.QtGui import QColor, QPainter, QPixmap

from glasscap.app.theme.style import colours

_CHECK = 8


def checkerboard(scale: float = 1.0) -> QPixmap:
    """Return two by two squares that show what is transparent."""
    side = max(1, round(_CHECK * scale))
    tile = QPixmap(2 * side, 2 * side)
    tile.fill(QColor(colours().checker_light))
    painter = QPainter(tile)
    dark = QColor(colours().checker_dark)
    painter.fillRect(0, 0, side, side, dark)
    painter.fillRect(side, side, side, side, dark)
    painter.end()
    return tile
