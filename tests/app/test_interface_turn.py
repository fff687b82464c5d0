"""Work in threads gives way to the interface, but never for longer than it may."""

import os
import subprocess
import sys
from threading import Thread, get_native_id
from time import monotonic, sleep

import pytest
from PySide6.QtCore import QAbstractEventDispatcher

from glasscap.app.threads import UNWATCHED, InterfaceTurn, Rank, stay_behind


def _held(turn: InterfaceTurn, allowed: float, times: int) -> float:
    """Return for how long a thread is held back that asks so often."""
    found: list[float] = []

    def work() -> None:
        turn.begin(Rank(0, allowed, 0.0))
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
        turn.begin(Rank(0, 0.0, 1.0))
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


def test_work_behind_gets_less_of_the_processor_and_the_interface_none_less() -> None:
    found: list[int] = []

    def work() -> None:
        stay_behind()
        found.append(os.getpriority(os.PRIO_PROCESS, get_native_id()))

    before = os.getpriority(os.PRIO_PROCESS, get_native_id())
    thread = Thread(target=work)
    thread.start()
    thread.join()
    assert found == [min(before + UNWATCHED.niceness, 19)]
    assert os.getpriority(os.PRIO_PROCESS, get_native_id()) == before


@pytest.mark.parametrize(("niceness", "frames", "unwatched"), [(3, 7, 13), (15, 19, 19)])
def test_work_stays_behind_a_program_that_is_nice_itself(niceness: int, frames: int, unwatched: int) -> None:
    """Nobody but the administrator may come forward again: setpriority(2)."""
    code = f"""
import os, sys
from threading import Thread, get_native_id
os.setpriority(os.PRIO_PROCESS, 0, {niceness})
from glasscap.app.threads import FRAMES, UNWATCHED, stay_behind

def work(rank):
    stay_behind(rank)
    print(os.getpriority(os.PRIO_PROCESS, get_native_id()))

for rank in (FRAMES, UNWATCHED):
    thread = Thread(target=work, args=(rank,))
    thread.start()
    thread.join()
"""
    said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
    assert [int(word) for word in said.split()] == [frames, unwatched]
