"""Copies of many pixels, which need little of the interpreter, done by a second processor meanwhile."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from types import TracebackType

# Copying less than this is done sooner than handed over.
_WORTHWHILE_BYTES = 1 << 19
# One thread for all: what is done aside never waits for more of it.
_THREAD = ThreadPoolExecutor(1, thread_name_prefix="aside")


def at_once(copy: Callable[[], None], size: int) -> Future[None]:
    """Copy some bytes; what is returned has ended."""
    copy()
    done: Future[None] = Future()
    done.set_result(None)
    return done


class Aside:
    """What is begun within it has ended after it."""

    def __init__(self) -> None:
        self._begun: list[Future[None]] = []

    def __enter__(self) -> "Aside":
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        for copying in self._begun:
            copying.result()

    def begin(self, copy: Callable[[], None], size: int) -> Future[None]:
        """Begin to copy some bytes, or do it at once if they are few; what is returned ends with it."""
        if size < _WORTHWHILE_BYTES:
            return at_once(copy, size)
        self._begun.append(_THREAD.submit(copy))
        return self._begun[-1]
