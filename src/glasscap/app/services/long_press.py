"""A finger that rests asks for the menu that the right button opens."""

from PySide6.QtCore import QEvent, QObject, QPointF, QTimer
from PySide6.QtGui import QContextMenuEvent, QInputDevice, QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

_REST_MS, _SLACK_PX = 600, 12


class LongPress(QObject):
    """Watches the application's presses by finger; a press that stays in place becomes a question for a menu."""

    def __init__(self, app: QApplication) -> None:
        super().__init__(app)
        self._target: QWidget | None = None
        self._at = QPointF()
        self._rest = QTimer(self, singleShot=True, interval=_REST_MS)
        self._rest.timeout.connect(self._ask)
        app.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Follow presses by finger; nothing is kept from anyone."""
        kind = event.type()
        if kind == QEvent.Type.MouseButtonPress and isinstance(watched, QWidget) and _is_finger(event):
            assert isinstance(event, QMouseEvent)
            self._target, self._at = watched, event.globalPosition()
            self._rest.start()
        elif kind == QEvent.Type.MouseMove and self._rest.isActive() and isinstance(event, QMouseEvent):
            if (event.globalPosition() - self._at).manhattanLength() > _SLACK_PX:
                self._rest.stop()
        elif kind in (QEvent.Type.MouseButtonRelease, QEvent.Type.FocusOut) and self._rest.isActive():
            self._rest.stop()
        return False

    def _ask(self) -> None:
        target, self._target = self._target, None
        if target is None or not target.isVisible():
            return
        # As the toolkit does with the right button: who does not want it hands it to what holds it.
        at = self._at.toPoint()
        asked = QContextMenuEvent(QContextMenuEvent.Reason.Other, target.mapFromGlobal(at), at)
        QApplication.sendEvent(target, asked)


def _is_finger(event: QEvent) -> bool:
    return isinstance(event, QMouseEvent) and event.device().type() == QInputDevice.DeviceType.TouchScreen
