"""Work of few long calls, which needs little of the interpreter: a second processor does it meanwhile."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait
from threading import current_thread
from types import TracebackType

# How work on so many bytes is begun; what is returned ends with it.
Begin = Callable[[Callable[[], None], int], Future[None]]
# Work on fewer bytes is done sooner than handed over.
_WORTHWHILE_BYTES = 1 << 19
# One thread for all.
_NAME = "aside"
_THREAD = ThreadPoolExecutor(1, thread_name_prefix=_NAME)


def at_once(work: Callable[[], None], size: int) -> Future[None]:
    """Do some work; what is returned has ended."""
    work()
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
        wait(self._begun)
        for work in self._begun:
            work.result()

    def begin(self, work: Callable[[], None], size: int) -> Future[None]:
        """Begin some work on so many bytes, or do it at once if they are few; what is returned ends with it."""
        # What is done aside would wait for itself.
        if size < _WORTHWHILE_BYTES or current_thread().name.startswith(_NAME):
            return at_once(work, size)
        self._begun.append(_THREAD.submit(work))
        return self._begun[-1]
