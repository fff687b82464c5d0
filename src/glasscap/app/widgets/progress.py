"""Progress of long work: over a window that waits for it, or at the edge of one that may be used meanwhile."""

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QProgressDialog, QWidget

from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label
from glasscap.core.work.ticket import Ticket

_STEPS, _BAR_WIDTH = 1000, 120
# Below the top bar.
_FROM_TOP = 62


class ProgressDialog(QProgressDialog):
    """Progress and Cancel over a window that takes no input."""

    def __init__(self, title: str, ticket: Ticket, window: QWidget) -> None:
        super().__init__(title, "Cancel", 0, _STEPS, window)
        self._title, self._ticket = title, ticket
        self.setWindowTitle("Glass Cap")
        # The words say what is done; a figure on so low a bar would be cut off.
        self.setBar(QProgressBar(self, maximum=_STEPS, textVisible=False))
        self.setWindowModality(Qt.WindowModality.WindowModal)
        self.setMinimumDuration(0)
        self.setAutoClose(False)
        self.setAutoReset(False)

    def look(self) -> None:
        """Show how far the work is."""
        self.setValue(_steps_done(self._ticket))
        if self._ticket.words:
            self.setLabelText(f"{self._title}\n{self._ticket.words}")


class ProgressStrip(QFrame):
    """Progress and Cancel in one line of the window; keys and clicks stay where they are.

    `canceled` tells of a click on Cancel.
    """

    canceled = Signal()

    def __init__(self, title: str, ticket: Ticket, window: QWidget) -> None:
        super().__init__(window)
        self._title, self._ticket, self._window = title, ticket, window
        self.setObjectName("toast")
        self.setAccessibleName(title)
        self._text = label(title)
        self._bar = QProgressBar(maximum=_STEPS, textVisible=False)
        self._bar.setAccessibleName(title)
        self._bar.setFixedWidth(_BAR_WIDTH)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 7, 8, 7)
        for part in (self._text, self._bar, push("Cancel", self._cancel)):
            row.addWidget(part)

    def _cancel(self) -> None:
        self.hide()
        self.canceled.emit()

    def look(self) -> None:
        """Show how far the work is."""
        self._bar.setValue(_steps_done(self._ticket))
        words = self._ticket.words
        self._text.setText(f"{self._title}: {words}" if words else self._title)
        self.adjustSize()
        self.move((self._window.width() - self.width()) // 2, _FROM_TOP)
        self.raise_()


Progress = ProgressDialog | ProgressStrip


def progress_of(title: str, ticket: Ticket, window: QWidget, *, may_go_on: bool) -> Progress:
    """Return what tells how far work is, not shown yet: a strip where the user may go on, else a dialog."""
    made: Callable[[str, Ticket, QWidget], Progress] = ProgressStrip if may_go_on else ProgressDialog
    return made(title, ticket, window)


def _steps_done(ticket: Ticket) -> int:
    return min(_STEPS - 1, int(ticket.share * _STEPS))
