"""Work of few long calls, which needs little of the interpreter: a second processor does it meanwhile."""

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from threading import current_thread
from types import TracebackType

# Called to end some work that was begun; before, it may not have ended.
Finish = Callable[[], None]
# How work on so many bytes is begun.
Begin = Callable[[Callable[[], None], int], Finish]
# Work on fewer bytes is done sooner than handed over.
_WORTHWHILE_BYTES = 1 << 19
# One thread for all.
_NAME = "aside"
_THREAD = ThreadPoolExecutor(1, thread_name_prefix=_NAME)


def nothing_left() -> None:
    """End what has ended already."""


def finish_all(begun: Sequence[Finish]) -> None:
    """End what was begun: the last first, to meet the other thread, which comes to the first first."""
    for finish in reversed(begun):
        finish()


def at_once(work: Callable[[], None], size: int) -> Finish:
    """Do some work; nothing is left of it then."""
    work()
    return nothing_left


class _Begun:
    """Some work to which another thread comes soon."""

    def __init__(self, work: Callable[[], None]) -> None:
        self._work, self._future = work, _THREAD.submit(work)

    def finish(self) -> None:
        """Wait for its end; do it where nobody has come to it yet."""
        if self._future.cancelled():
            return
        if self._future.cancel():
            self._work()
        else:
            self._future.result()

    def drop(self) -> None:
        """Leave it undone where nobody has come to it yet, else wait for its end."""
        if not self._future.cancel():
            wait((self._future,))


class Aside:
    """What is begun within it goes on no longer after it: it has ended, or after an error may not have begun."""

    def __init__(self) -> None:
        self._begun: list[_Begun] = []

    def __enter__(self) -> "Aside":
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        try:
            if kind is None:
                finish_all([begun.finish for begun in self._begun])
        finally:
            for begun in reversed(self._begun):
                begun.drop()
            # Work often knows by what it was begun, and holds much memory.
            self._begun.clear()

    def begin(self, work: Callable[[], None], size: int) -> Finish:
        """Begin some work on so many bytes, or do it at once if they are few."""
        # What is done aside would wait for itself.
        if size < _WORTHWHILE_BYTES or current_thread().name.startswith(_NAME):
            return at_once(work, size)
        self._begun.append(_Begun(work))
        return self._begun[-1].finish
