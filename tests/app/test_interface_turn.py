"""Work in threads gives way to the interface, but never for longer than it may."""

from threading import Thread
from time import monotonic, sleep

import cv2
import numpy as np
import pytest
from PySide6.QtCore import QAbstractEventDispatcher

from glasscap.app.theme.shipped import DATA
from glasscap.app.threads import InterfaceTurn
from glasscap.app.widgets.texture_choice import TextureChoice
from glasscap.core.textures.tiles import TEXTURES, texture_tile
from tests.app.conftest import Hand


def _held(turn: InterfaceTurn, allowed: float, times: int) -> float:
    """Return for how long a thread is held back that asks so often."""
    found: list[float] = []

    def work() -> None:
        turn.begin(allowed)
        start = monotonic()
        for _ in range(times):
            turn.give_way()
        found.append(monotonic() - start)

    thread = Thread(target=work)
    thread.start()
    thread.join()
    return found[0]


@pytest.fixture
def dispatcher(qapp: object) -> QAbstractEventDispatcher:
    """Return what reads the interface thread's events."""
    return QAbstractEventDispatcher.instance()


def test_work_waits_while_the_interface_is_busy(dispatcher: QAbstractEventDispatcher) -> None:
    turn = InterfaceTurn()
    dispatcher.awake.emit()
    assert _held(turn, 0.1, 20) == pytest.approx(0.1, abs=0.05)
    dispatcher.aboutToBlock.emit()
    assert _held(turn, 0.1, 20) < 0.02


def test_work_goes_on_as_soon_as_the_interface_waits(dispatcher: QAbstractEventDispatcher) -> None:
    turn = InterfaceTurn()
    dispatcher.awake.emit()

    def calm() -> None:
        sleep(0.01)
        turn.set_free()

    thread = Thread(target=calm)
    thread.start()
    assert _held(turn, 5.0, 200) < 0.5
    thread.join()


def test_long_work_is_held_for_a_share_of_its_own_time(dispatcher: QAbstractEventDispatcher) -> None:
    turn, took = InterfaceTurn(), []
    dispatcher.awake.emit()

    def work() -> None:
        turn.begin(0.0, 1.0)
        start = monotonic()
        for _ in range(20):
            sleep(0.01)
            turn.give_way()
        took.append(monotonic() - start)

    thread = Thread(target=work)
    thread.start()
    thread.join()
    dispatcher.aboutToBlock.emit()
    assert 0.3 < took[0] < 0.6


def test_a_thread_that_was_not_told_to_never_waits(dispatcher: QAbstractEventDispatcher) -> None:
    turn = InterfaceTurn()
    dispatcher.awake.emit()
    start = monotonic()
    turn.give_way()
    assert monotonic() - start < 0.02
    dispatcher.aboutToBlock.emit()


def test_the_cards_are_filled_one_by_one_before_they_are_opened(placed: Hand) -> None:
    steps = placed.studio.workbench.steps
    before = [key for key, card in steps.cards.items() if card.is_open]
    count = sum(1 for _ in iter(steps.make_ready, False))
    assert 0 < count <= len(steps.cards) + 1
    assert not steps.make_ready()
    assert [key for key, card in steps.cards.items() if card.is_open] == before
    steps.open_only("edge")
    assert steps.cards["edge"].is_open


@pytest.mark.parametrize("name", TEXTURES)
def test_the_small_picture_of_a_texture_is_of_that_texture(name: str) -> None:
    """The pictures are written by ``script/make_texture_icons``."""
    small = cv2.imread(str(DATA / "textures" / f"{name}.png"), cv2.IMREAD_COLOR_RGB)
    scale = 3
    side = small.shape[0]
    piece = texture_tile(name)[: side * scale, : side * scale, :3].astype(float)
    mean = piece.reshape(side, scale, side, scale, 3).mean(axis=(1, 3))
    assert np.abs(small - mean).max() <= 1


def test_every_texture_is_shown_by_a_picture(qapp: object) -> None:
    choice = TextureChoice()
    shown = [choice.itemIcon(n).pixmap(22).toImage() for n in range(len(TEXTURES))]
    assert all(not image.isNull() for image in shown)
    assert len({image.pixel(11, 11) for image in shown}) > len(TEXTURES) // 2
