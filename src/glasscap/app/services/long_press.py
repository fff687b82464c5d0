"""A finger that rests asks for the menu that the right button opens."""

from PySide6.QtCore import QEvent, QObject, QPointF, QTimer
from PySide6.QtGui import QContextMenuEvent, QInputDevice, QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

_REST_MS, _SLACK_PX = 600, 12


class LongPress(QObject):
    """Watches a window's presses by finger; a press that stays in place becomes a question for a menu.

    It watches what comes to the window as a whole, which is little: each event of each widget is far more.
    """

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window, self._at = window, QPointF()
        self.rest = QTimer(self, singleShot=True, interval=_REST_MS)
        self.rest.timeout.connect(self._ask)
        window.winId()
        window.windowHandle().installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Follow presses by finger; nothing is kept from anyone."""
        if not isinstance(event, QMouseEvent):
            return False
        kind = event.type()
        if kind == QEvent.Type.MouseButtonPress and event.device().type() == QInputDevice.DeviceType.TouchScreen:
            self._at = event.globalPosition()
            self.rest.start()
        elif kind == QEvent.Type.MouseButtonRelease or self._has_moved(event):
            self.rest.stop()
        return False

    def _has_moved(self, event: QMouseEvent) -> bool:
        return (event.globalPosition() - self._at).manhattanLength() > _SLACK_PX

    def _ask(self) -> None:
        at = self._at.toPoint()
        target = self._window.childAt(self._window.mapFromGlobal(at))
        if target is not None:
            # As the toolkit does with the right button: who does not want it hands it to what holds it.
            asked = QContextMenuEvent(QContextMenuEvent.Reason.Other, target.mapFromGlobal(at), at)
            QApplication.sendEvent(target, asked)
