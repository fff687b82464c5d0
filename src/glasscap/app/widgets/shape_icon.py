"""A shape of the library as a small filled icon, from its own outline."""

from functools import lru_cache

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap

from glasscap.app.bench.overlay import PathSink
from glasscap.core.document.model import library_shape
from glasscap.core.document.placement import ShapePlacement
from glasscap.core.document.region import shape_outline
from glasscap.core.shapes.library.table import find_shape

_SIZE, _SCALES, _CORNER_SHARE = 20, (1, 2, 3), 0.2


@lru_cache(maxsize=64)
def shape_icon(name: str, colour: str) -> QIcon:
    """Return the icon of a shape in one colour ("#rrggbb")."""
    made = QIcon()
    for scale in _SCALES:
        size = _SIZE * scale
        high = size * (0.86 if find_shape(name).has_equal_sides else 0.64)
        placement = ShapePlacement(size / 2, size / 2, high if high > size * 0.8 else size * 0.9, high)
        shape = (
            library_shape(name, corner=high * _CORNER_SHARE) if find_shape(name).stored else library_shape(name)
        )
        sink = PathSink()
        shape_outline(shape, placement).draw(sink)
        pixmap = QPixmap(size, size)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillPath(sink.path, QColor(colour))
        painter.end()
        pixmap.setDevicePixelRatio(scale)
        made.addPixmap(pixmap)
    return made
