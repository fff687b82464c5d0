"""What long work off the interface thread holds: it tells how far it is, and notices Cancel."""

from collections.abc import Callable
from threading import Event

from glasscap.core.errors import CancelledError

Progress = Callable[[float], None]


class Ticket:
    """Report progress, notice Cancel; safe between threads."""

    def __init__(self) -> None:
        self.share, self.stop, self.words = 0.0, Event(), ""

    def report(self, share: float) -> None:
        """Tell the share done (0 to 1). Raises CancelledError after Cancel."""
        self.share = share
        self.check()

    def tell(self, words: str) -> None:
        """Tell in words what is being done."""
        self.words = words

    def check(self) -> None:
        """Raise CancelledError after Cancel."""
        if self.stop.is_set():
            raise CancelledError("Work", "stopped")


def no_progress(share: float) -> None:
    """Report the share done to nobody."""


def no_check() -> None:
    """Go on, whatever happens: nobody can cancel."""
