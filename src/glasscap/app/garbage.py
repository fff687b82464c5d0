"""Garbage is looked for among what is new: looking through everything would hold the window up for 0.1 s."""

import gc

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication

_OLDEST = 2


def look_only_at_new() -> None:
    """From now on leave out what was there once.

    All is looked through when a window has closed, and when another program is turned to.
    """
    gc.freeze()
    if _on_collected in gc.callbacks:
        return
    gc.callbacks.append(_on_collected)
    app = QGuiApplication.instance()
    if isinstance(app, QGuiApplication):
        app.applicationStateChanged.connect(_on_state_changed)


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


def _on_state_changed(state: Qt.ApplicationState) -> None:
    if state == Qt.ApplicationState.ApplicationInactive:
        look_through_all()
