"""Views that follow a job from a little behind while something is dragged."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer

from glasscap.app.session import Session

# Some 25 times a second: what all views of numbers do anew at every step, the picture waits for.
_DRAG_MS = 40


class Follower(QTimer):
    """Has a view show the session's job soon: at the next turn, or with others' while a drag goes on."""

    def __init__(self, session: Session, show: Callable[[], None], parent: QObject) -> None:
        super().__init__(parent, singleShot=True)
        self._session = session
        self.timeout.connect(show)

    def begin(self) -> None:
        """Let it be shown."""
        if not self._session.is_previewing:
            self.start(0)
        elif not self.isActive():
            self.start(_DRAG_MS)
