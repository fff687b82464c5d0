"""What is painted alike again and again, kept as a picture from one repaint to the next."""

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPixmap


class KeptLayer:
    """One layer over a widget; what was painted is shown again until its key or its size changes."""

    def __init__(self) -> None:
        self._key: object = None
        self._pixmap = QPixmap()

    def paint(
        self,
        painter: QPainter,
        key: object,
        size: QSize,
        ratio: float,
        paint: Callable[[QPainter], None],
    ) -> None:
        """Show the layer, `size` logical px of `ratio` device px each; `key` tells all that `paint` goes by."""
        whole = (key, size, ratio)
        if self._key != whole:
            self._pixmap = QPixmap(size * ratio)
            self._pixmap.setDevicePixelRatio(ratio)
            self._pixmap.fill(Qt.GlobalColor.transparent)
            inner = QPainter(self._pixmap)
            inner.setRenderHints(painter.renderHints())
            paint(inner)
            inner.end()
            self._key = whole
        painter.drawPixmap(0, 0, self._pixmap)
