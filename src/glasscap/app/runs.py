"""Runs: changes of one control that are one step of the job together, such as the notches of a wheel."""

from collections.abc import Iterator
from contextlib import contextmanager
from time import monotonic

# A pause this long ends a run.
_REST_SECONDS = 1.2
_current: list[object] = []


def current_run() -> object:
    """Return what names the run an edit belongs to that is done just now, None for an edit of its own."""
    return _current[-1] if _current else None


class Run:
    """The notches of one control: each pause begins a new run."""

    def __init__(self) -> None:
        self._last, self._name = -_REST_SECONDS, object()

    @contextmanager
    def notch(self) -> Iterator[None]:
        """Do one change as a part of the run."""
        now = monotonic()
        if now - self._last > _REST_SECONDS:
            self._name = object()
        self._last = now
        _current.append(self._name)
        try:
            yield
        finally:
            _current.pop()
