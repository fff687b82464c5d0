"""Threads that leave the interface its turn."""

import os
import sys
from functools import lru_cache
from threading import Event, Lock, get_native_id, local
from time import monotonic
from typing import NamedTuple

from PySide6.QtCore import QAbstractEventDispatcher

# Seconds after which a thread that computes gives way to one that waits (the default is 5 ms: a repaint of a
# hundred calls, each waiting its turn behind two workers, would take a second).
_TURN_SECONDS = 0.0001
# The most that the system knows (setpriority(2)).
_NICEST = 19
# How long work waits at once while the interface is busy.
_ONCE_SECONDS = 0.03


class Rank(NamedTuple):
    """The rank of work behind the interface.

    `niceness`: steps by which the system prefers the interface. While that is busy the work is held back for
    `seconds` in all, and for a `share` of the time it took itself.
    """

    niceness: int
    seconds: float
    share: float


# The bench's frames, and work that nobody watches: that takes four times as long at most, and a little.
FRAMES, UNWATCHED = Rank(4, 0.06, 0.0), Rank(10, 0.25, 3.0)


def take_short_turns() -> None:
    """Let threads change over often enough that the interface never waits for long."""
    sys.setswitchinterval(_TURN_SECONDS)


def stay_behind(rank: Rank = UNWATCHED) -> None:
    """Let the system give the processor to others before this thread and those it starts."""
    thread, program = get_native_id(), os.getpid()
    behind = min(os.getpriority(os.PRIO_PROCESS, program) + rank.niceness, _NICEST)
    # A thread begun by one that stays behind stays behind, too: the system lets no thread raise its own priority.
    os.setpriority(os.PRIO_PROCESS, thread, max(behind, os.getpriority(os.PRIO_PROCESS, thread)))


class InterfaceTurn:
    """Holds work in threads back while the interface thread has something to do.

    Every call of the toolkit gives the interpreter away and asks for it again: a repaint of a few hundred calls
    beside two threads that compute takes several times as long as one by itself. Work that waits never waits
    longer than it was allowed, nor for long at once.
    """

    def __init__(self) -> None:
        # The interface comes round hundreds of times a second: what tells of that is a plain value, and only
        # where somebody waits is it an event.
        self._is_busy, self._is_free, self._mine = False, Event(), local()
        self._waiting, self._counting = 0, Lock()
        dispatcher = QAbstractEventDispatcher.instance()
        if dispatcher is not None:
            dispatcher.awake.connect(self.set_busy)
            dispatcher.aboutToBlock.connect(self.set_free)

    def set_busy(self) -> None:
        """Hold work back: the interface has something to do."""
        self._is_busy = True

    def set_free(self) -> None:
        """Let work go on: the interface waits."""
        self._is_busy = False
        if self._waiting:
            self._is_free.set()

    def begin(self, rank: Rank = UNWATCHED) -> None:
        """Begin a piece of work on this thread that may be held back."""
        self._mine.begun, self._mine.held, self._mine.rank = monotonic(), 0.0, rank

    def give_way(self) -> None:
        """Wait while the interface is busy; work that was not begun here does not wait."""
        mine = self._mine
        if not self._is_busy or not hasattr(mine, "begun"):
            return
        start = monotonic()
        worked = start - mine.begun - mine.held
        left = mine.rank.seconds + mine.rank.share * worked - mine.held
        if left > 0:
            self._wait(min(left, _ONCE_SECONDS))
            mine.held += monotonic() - start

    def _wait(self, seconds: float) -> None:
        self._count(1)
        self._is_free.clear()
        # It may have become free just before the event was cleared: at the worst that costs one whole wait.
        if self._is_busy:
            self._is_free.wait(seconds)
        self._count(-1)

    def _count(self, change: int) -> None:
        with self._counting:
            self._waiting += change


@lru_cache(maxsize=1)
def interface_turn() -> InterfaceTurn:
    """Return the turn of this program's one interface thread."""
    return InterfaceTurn()
