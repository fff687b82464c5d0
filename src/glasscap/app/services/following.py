"""Views that follow a job from a little behind while something is dragged."""

from collections.abc import Callable
from time import monotonic

from PySide6.QtCore import QObject, QTimer

from glasscap.app.session import Session

# Some 25 times a second: what views of numbers do anew at every step, the picture waits for.
_PANEL_MS = 40


class Follower(QTimer):
    """Has a view show the session's job soon: at the next turn, while a drag goes on once in `every_ms`."""

    def __init__(
        self, session: Session, show: Callable[[], object], parent: QObject, *, every_ms: int = _PANEL_MS
    ) -> None:
        super().__init__(parent, singleShot=True)
        self._session, self._show, self._every_ms = session, show, every_ms
        self._shown_at = 0.0
        self.timeout.connect(self.show_now)

    def begin(self) -> None:
        """Let it be shown."""
        if not self._session.is_previewing:
            self.start(0)
        elif not self.isActive():
            since_ms = (monotonic() - self._shown_at) * 1000
            self.start(max(0, round(self._every_ms - since_ms)))

    def show_now(self) -> None:
        """Have it shown, so that what comes next waits from now on."""
        self.stop()
        self._shown_at = monotonic()
        self._show()
