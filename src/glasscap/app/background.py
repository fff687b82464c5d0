"""Work off the interface thread that the user waits for: progress after a second, and Cancel."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Generic, TypeVar

from PySide6.QtCore import QEventLoop, QObject, Qt, QTimer, Signal
from PySide6.QtWidgets import QProgressBar, QProgressDialog, QWidget

from glasscap.core.ticket import Ticket

T = TypeVar("T")
_SHOWN_AFTER_MS, _POLL_MS, _STEPS = 900, 15, 1000


class _Waiter(QObject, Generic[T]):
    finished = Signal()

    def __init__(self, future: "Future[T]") -> None:
        super().__init__()
        future.add_done_callback(lambda _: self.finished.emit())


def run_waiting(parent: QWidget, title: str, work: Callable[[Ticket], T]) -> T:
    """Run work in a thread while the interface lives on; return its result.

    Raises
    ------
    CancelledError
        After Cancel.
    Exception
        Whatever the work raised.
    """
    ticket = Ticket()
    dialog = QProgressDialog(title, "Cancel", 0, _STEPS, parent)
    dialog.setWindowTitle("Glass Cap")
    # The words say what is done; a figure on so low a bar would be cut off.
    dialog.setBar(QProgressBar(dialog, maximum=_STEPS, textVisible=False))
    dialog.setWindowModality(Qt.WindowModality.WindowModal)
    dialog.setMinimumDuration(_SHOWN_AFTER_MS)
    dialog.setAutoClose(False)
    dialog.setAutoReset(False)
    dialog.canceled.connect(ticket.stop.set)
    loop, timer = QEventLoop(), QTimer(interval=_POLL_MS)

    def show_progress() -> None:
        dialog.setValue(min(_STEPS - 1, int(ticket.share * _STEPS)))
        if ticket.words:
            dialog.setLabelText(f"{title}\n{ticket.words}")

    timer.timeout.connect(show_progress)
    with ThreadPoolExecutor(1) as pool:
        future = pool.submit(work, ticket)
        waiter = _Waiter(future)
        waiter.finished.connect(loop.quit, Qt.ConnectionType.QueuedConnection)
        timer.start()
        if not future.done():
            loop.exec()
        timer.stop()
    dialog.close()
    dialog.deleteLater()
    return future.result()
