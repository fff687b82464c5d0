"""Garbage is found among what is new, and all of it when another program is turned to."""

import gc
import weakref
from collections.abc import Iterator

import pytest
from PySide6.QtCore import QObject, Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from glasscap.app.services.garbage import Away, _on_collected, look_only_at_new


class Ring:
    """Something that holds itself."""

    def __init__(self) -> None:
        self.me = self


@pytest.fixture
def is_looking(qapp: QApplication) -> Iterator[None]:
    was_on = _on_collected in gc.callbacks
    look_only_at_new()
    yield
    gc.unfreeze()
    if not was_on:
        gc.callbacks.remove(_on_collected)
        away = qapp.findChild(Away)
        qapp.applicationStateChanged.disconnect(away.follow)
        away.setParent(None)


def test_new_garbage_is_found(is_looking: None) -> None:
    found = weakref.ref(Ring())
    gc.collect()
    assert found() is None


def test_what_was_there_once_is_left_out_until_another_program_is_turned_to_for_a_while(
    is_looking: None, qtbot: QtBot
) -> None:
    ring = Ring()
    found = weakref.ref(ring)
    gc.collect()
    del ring
    gc.collect()
    assert found() is not None
    holder = QObject()
    away = Away(holder, after_ms=30)
    away.follow(Qt.ApplicationState.ApplicationInactive)
    away.follow(Qt.ApplicationState.ApplicationActive)
    qtbot.wait(60)
    assert found() is not None
    away.follow(Qt.ApplicationState.ApplicationInactive)
    qtbot.waitUntil(lambda: found() is None)


def test_it_is_set_up_once(is_looking: None) -> None:
    look_only_at_new()
    assert gc.callbacks.count(_on_collected) == 1
