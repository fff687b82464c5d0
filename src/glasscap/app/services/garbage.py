"""Garbage is looked for among what is new: looking through everything would hold the window up for 0.1 s."""

import gc

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtGui import QGuiApplication

_OLDEST = 2
_AWAY_MS = 10_000


def look_only_at_new() -> None:
    """From now on leave out what was there once.

    All is looked through when a window has closed, and when another program has been turned to for a while.
    """
    gc.freeze()
    if _on_collected in gc.callbacks:
        return
    gc.callbacks.append(_on_collected)
    app = QGuiApplication.instance()
    if isinstance(app, QGuiApplication):
        app.applicationStateChanged.connect(Away(app).follow)


class Away(QObject):
    """Looks through all once another program has been turned to for a while.

    A moment away is a drag to another window, a dialog or a menu: what is in hand there goes on.
    """

    def __init__(self, parent: QObject, *, after_ms: int = _AWAY_MS) -> None:
        super().__init__(parent)
        self._timer = QTimer(self, singleShot=True, interval=after_ms)
        self._timer.timeout.connect(look_through_all)

    def follow(self, state: Qt.ApplicationState) -> None:
        """Note that the program is turned to, or left."""
        if state == Qt.ApplicationState.ApplicationActive:
            self._timer.stop()
        elif not self._timer.isActive():
            self._timer.start()


def look_through_all() -> None:
    """Find all garbage there is, where it is looked for among what is new alone."""
    if _on_collected not in gc.callbacks:
        return
    gc.unfreeze()
    gc.collect()
    gc.freeze()


def _on_collected(phase: str, info: dict[str, int]) -> None:
    if phase == "stop" and info["generation"] == _OLDEST:
        gc.freeze()
