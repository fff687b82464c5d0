"""Commands that wait: for work in a thread, or for the user's answer to a dialog.

An errand is a generator. It yields what it waits for and is sent the outcome, so it reads from top to bottom like
any other function, and no event loop runs inside another::

    def saving(path: Path) -> Errand[bool]:
        yield from waited("Saving", lambda ticket: write(path))
        return True

Each window does one errand at a time; what is asked for meanwhile comes after it.
"""

from collections import deque
from collections.abc import Callable, Generator
from concurrent.futures import Future
from threading import get_ident
from typing import Any, Generic, TypeVar, cast

from msgspec import Struct
from PySide6.QtCore import QObject, Qt, QTimer, Signal
from PySide6.QtWidgets import QDialog, QWidget
from shiboken6 import isValid

from glasscap.app.services.input_hold import InputHold
from glasscap.app.widgets.progress import Progress, progress_of
from glasscap.core.errors import CancelledError, GlassCapError, MissingModuleError
from glasscap.core.work.own_process import give_up
from glasscap.core.work.threads import workers
from glasscap.core.work.ticket import Ticket

T = TypeVar("T")
_SHOWN_AFTER_MS, _POLL_MS = 900, 60


class Work(Struct, frozen=True):
    """Work for a thread. While it is done the window takes no input, unless the user `may_go_on`."""

    title: str
    run: Callable[[Ticket], object]
    may_go_on: bool = False


class Question(Struct, frozen=True):
    """A dialog to be answered; the errand is sent its result code."""

    dialog: QDialog


Errand = Generator[Work | Question, Any, T]


def waited(title: str, run: Callable[[Ticket], T], *, may_go_on: bool = False) -> Errand[T]:
    """Wait for work in a thread; return its result.

    Raises
    ------
    CancelledError
        After Cancel.
    GlassCapError
        Whatever the work raised.
    """
    return cast("T", (yield Work(title, run, may_go_on)))


def answered(dialog: QDialog) -> Errand[bool]:
    """Show a dialog over its window; return whether it was accepted. The caller deletes it."""
    return bool((yield Question(dialog)))


class Running(Generic[T]):
    """An errand that was begun: whether it `is_done`, and what it returned (None where it was called off)."""

    def __init__(self) -> None:
        self.is_done = False
        self.result: T | None = None


class Errands(QObject):
    """Does the errands of one window, one after the other."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window = window
        self._later: deque[_Begun] = deque()
        self._now: _Begun | None = None
        self._hold = InputHold(window)

    @property
    def is_idle(self) -> bool:
        """Whether no errand goes on."""
        return self._now is None

    def begin(self, begun: "_Begun") -> None:
        """Do an errand now, or after those before it."""
        self._later.append(begun)
        self._next()

    def _next(self) -> None:
        while self._now is None and self._later:
            self._now = self._later.popleft()
            self._go_on(lambda errand: next(errand))

    def _go_on(self, step: Callable[[Errand[Any]], Work | Question]) -> None:
        begun = self._now
        assert begun is not None
        if not begun.is_wanted:
            # Whoever asked for it is gone, with the view it belonged to.
            begun.errand.close()
            self._end(None)
            return
        try:
            wait = step(begun.errand)
        except StopIteration as end:
            self._end(end.value)
        except CancelledError:
            self._end(None)
        except GlassCapError as error:
            self._end(None)
            begun.said(error.line)
        except BaseException:
            self._end(None)
            raise
        else:
            if isinstance(wait, Question):
                self._ask(wait.dialog)
            else:
                self._hold.set_on(not wait.may_go_on)
                _Waiting(self._window, wait, self._on_worked)

    def _ask(self, dialog: QDialog) -> None:
        self._hold.set_on(False)
        dialog.finished.connect(lambda code: self._resume(lambda errand: errand.send(code)))
        dialog.open()

    def _on_worked(self, future: "Future[object]", was_cancelled: bool) -> None:
        error = future.exception()
        if isinstance(error, GlassCapError) and was_cancelled:
            # A work that was stopped has no problem to report.
            error = CancelledError("Work", "stopped")
        if error is not None:
            told = MissingModuleError.of(error) if isinstance(error, ImportError) else error
            self._resume(lambda errand: errand.throw(told))
        else:
            self._resume(lambda errand: errand.send(future.result()))

    def _resume(self, step: Callable[[Errand[Any]], Work | Question]) -> None:
        self._go_on(step)
        self._next()

    def _end(self, result: object) -> None:
        begun, self._now = self._now, None
        assert begun is not None
        self._hold.set_on(False)
        begun.running.result, begun.running.is_done = result, True


class _Begun:
    """An errand with who asked for it and whom problems are told."""

    def __init__(self, errand: Errand[Any], owner: QObject, said: Callable[[str], object]) -> None:
        self.errand, self.said, self._owner = errand, said, owner
        self.running: Running[Any] = Running()

    @property
    def is_wanted(self) -> bool:
        return isValid(self._owner)


class _Waiting(QObject):
    """One piece of work in a thread: progress and Cancel are shown if it takes long."""

    _finished = Signal()

    def __init__(self, window: QWidget, work: Work, then: Callable[["Future[object]", bool], object]) -> None:
        super().__init__(window)
        self._window, self._work, self._then = window, work, then
        self._ticket = Ticket()
        self._progress: Progress | None = None
        self._look = QTimer(self, interval=_POLL_MS)
        QTimer.singleShot(_SHOWN_AFTER_MS, self, self._open)
        self._finished.connect(self._on_finished, Qt.ConnectionType.QueuedConnection)
        pool = workers("errand")
        self._thread = 0
        self._future = pool.submit(self._run)
        self._future.add_done_callback(lambda _: self._finished.emit())
        pool.shutdown(wait=False)

    def _run(self) -> object:
        self._thread = get_ident()
        return self._work.run(self._ticket)

    def _cancel(self) -> None:
        self._ticket.stop.set()
        give_up(self._thread)

    def _open(self) -> None:
        if self._future.done():
            return
        work = self._work
        self._progress = progress_of(work.title, self._ticket, self._window, may_go_on=work.may_go_on)
        self._progress.canceled.connect(self._cancel)
        self._progress.look()
        self._progress.show()
        self._look.timeout.connect(self._progress.look)
        self._look.start()

    def _on_finished(self) -> None:
        self._look.stop()
        if self._progress is not None:
            self._progress.hide()
            self._progress.deleteLater()
        self.deleteLater()
        self._then(self._future, self._ticket.stop.is_set())


def errands_of(widget: QWidget) -> Errands:
    """Return the errands of the window a widget is in."""
    window = widget.window()
    found = window.findChild(Errands, options=Qt.FindChildOption.FindDirectChildrenOnly)
    return found if isinstance(found, Errands) else Errands(window)


def run_errand(
    errand: Errand[T], place: QWidget, said: Callable[[str], object], owner: QObject | None = None
) -> Running[T]:
    """Begin an errand in the window of `place`.

    It is left where it stands if its `owner` (else `place`) is deleted while it waits. A problem it does not
    deal with itself is `said` in one line; after Cancel it ends without a word.
    """
    begun = _Begun(errand, owner or place, said)
    errands_of(place).begin(begun)
    return begun.running
