"""Line icons, drawn in the theme's colours at any device scale."""

from functools import lru_cache

from PySide6.QtCore import QByteArray, QRectF, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer

from glasscap.app.theme.shipped import DATA

_SCALES = (1, 2, 3)


@lru_cache(maxsize=256)
def icon(name: str, colour: str, size: int = 16) -> QIcon:
    """Return a shipped icon in one colour ("#rrggbb")."""
    source = (DATA / "icons" / f"{name}.svg").read_text(encoding="utf-8")
    renderer = QSvgRenderer(QByteArray(source.replace("currentColor", colour).encode()))
    made = QIcon()
    for scale in _SCALES:
        pixmap = QPixmap(size * scale, size * scale)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        renderer.render(painter, QRectF(0, 0, size * scale, size * scale))
        painter.end()
        pixmap.setDevicePixelRatio(scale)
        made.addPixmap(pixmap)
    return made


@lru_cache(maxsize=2)
def app_icon() -> QIcon:
    """Return the program's own mark: a lens of teal glass."""
    return icon("glasscap", "#0b7a75", 64)
