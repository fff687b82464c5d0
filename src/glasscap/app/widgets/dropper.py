"""Takes a colour from anywhere in a window: the next click, Escape leaves."""

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, Signal
from PySide6.QtGui import QCursor, QImage, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget


class Dropper(QObject):
    """`taken(colour)` once, as "#rrggbb"."""

    taken = Signal(str)
    left = Signal()

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window, self._picture = window, QImage()

    def begin(self) -> None:
        """Keep a picture of the window and wait for a click."""
        self._picture = self._window.grab().toImage()
        QApplication.setOverrideCursor(QCursor(Qt.CursorShape.CrossCursor))
        app = QApplication.instance()
        assert app is not None
        app.installEventFilter(self)

    def colour_at(self, at: QPoint) -> str | None:
        """Return the colour at a point of the window, None outside of it."""
        ratio = self._picture.devicePixelRatio()
        x, y = round(at.x() * ratio), round(at.y() * ratio)
        return self._picture.pixelColor(x, y).name() if self._picture.rect().contains(x, y) else None

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Swallow the click and what belongs to it."""
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape:
            self._end()
            return True
        if not isinstance(event, QMouseEvent):
            return False
        if event.type() == QEvent.Type.MouseButtonRelease and isinstance(watched, QWidget):
            colour = self.colour_at(self._window.mapFromGlobal(event.globalPosition().toPoint()))
            self._end()
            if colour is not None:
                self.taken.emit(colour)
        return event.type() in (QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonRelease)

    def _end(self) -> None:
        app = QApplication.instance()
        assert app is not None
        app.removeEventFilter(self)
        QApplication.restoreOverrideCursor()
        self.left.emit()
        self.deleteLater()
