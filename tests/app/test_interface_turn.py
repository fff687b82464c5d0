"""Work in threads gives way to the interface, but never for longer than it may."""

import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from threading import Event, Thread, get_native_id

import pytest
from PySide6.QtCore import QAbstractEventDispatcher

from glasscap.app.services import threads
from glasscap.app.services.threads import UNWATCHED, InterfaceTurn, Rank, stay_behind


class Clock:
    """A clock that goes on only where somebody works or waits, and an event that waits by it."""

    def __init__(self) -> None:
        self.now, self.waits, self.is_set = 100.0, 0, False
        # What happens at a time, while something waits.
        self.then: list[tuple[float, Callable[[], None]]] = []

    def __call__(self) -> float:
        return self.now

    def clear(self) -> None:
        self.is_set = False

    def set(self) -> None:
        self.is_set = True

    def wait(self, seconds: float) -> None:
        self.waits += 1
        end = self.now + seconds
        while self.then and self.then[0][0] <= end and not self.is_set:
            self.now, happens = self.then.pop(0)
            happens()
        if not self.is_set:
            self.now = end


@pytest.fixture
def clock(monkeypatch: pytest.MonkeyPatch) -> Clock:
    made = Clock()
    monkeypatch.setattr(threads, "monotonic", made)
    monkeypatch.setattr(threads, "Event", lambda: made)
    return made


@pytest.fixture
def turn(qapp: object, clock: Clock) -> Iterator[InterfaceTurn]:
    """Return the turn of an interface that is busy."""
    dispatcher = QAbstractEventDispatcher.instance()
    made = InterfaceTurn()
    dispatcher.awake.emit()
    yield made
    dispatcher.aboutToBlock.emit()


def held(turn: InterfaceTurn, clock: Clock, rank: Rank, pieces: int, each: float = 0.0) -> float:
    """Return for how long work of so many pieces is held back that asks after each."""
    turn.begin(rank)
    begun = clock.now
    for _ in range(pieces):
        clock.now += each
        turn.give_way()
    return clock.now - begun - pieces * each


def test_work_waits_while_the_interface_is_busy(turn: InterfaceTurn, clock: Clock) -> None:
    assert held(turn, clock, Rank(0, 0.1, 0.0), 20) == pytest.approx(0.1)
    QAbstractEventDispatcher.instance().aboutToBlock.emit()
    assert held(turn, clock, Rank(0, 0.1, 0.0), 20) == 0


def test_work_waits_for_a_little_at_once(turn: InterfaceTurn, clock: Clock) -> None:
    assert 0 < held(turn, clock, Rank(0, 5.0, 0.0), 1) <= 0.05


def test_work_goes_on_as_soon_as_the_interface_waits(turn: InterfaceTurn, clock: Clock) -> None:
    clock.then.append((clock.now + 0.01, turn.set_free))
    assert held(turn, clock, Rank(0, 5.0, 0.0), 200) == pytest.approx(0.01)
    assert clock.waits == 1


def test_long_work_is_held_for_a_share_of_its_own_time(turn: InterfaceTurn, clock: Clock) -> None:
    assert held(turn, clock, Rank(0, 0.0, 1.0), 20, 0.01) == pytest.approx(0.2)
    assert held(turn, clock, Rank(0, 0.1, 0.5), 20, 0.01) == pytest.approx(0.1 + 0.1)


def test_work_that_was_not_begun_here_never_waits(turn: InterfaceTurn, clock: Clock) -> None:
    turn.give_way()
    assert clock.waits == 0


def test_a_thread_that_waits_is_woken(qapp: object) -> None:
    """With the real clock and event: far sooner than it may wait in all, or the test does not end."""
    turn, asked, is_done = InterfaceTurn(), Event(), Event()
    turn.set_busy()

    def work() -> None:
        turn.begin(Rank(0, 1e6, 0.0))
        asked.set()
        while turn._is_busy:
            turn.give_way()
        is_done.set()

    Thread(target=work, daemon=True).start()
    assert asked.wait(60)
    assert not is_done.is_set()
    turn.set_free()
    assert is_done.wait(60)


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
from glasscap.app.services.threads import FRAMES, UNWATCHED, stay_behind

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
