"""The window's frame: it shows the start view at once, while everything else is still being loaded."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMainWindow, QStackedWidget, QVBoxLayout, QWidget

from glasscap.app.services.long_press import LongPress
from glasscap.app.start.start_view import StartView
from glasscap.app.theme.icons import app_icon
from glasscap.app.theme.style import dress
from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label
from glasscap.files.window_state import WindowState, keep_window_state, read_window_state

_SIZE, _SMALLEST, _BAR_HEIGHT, _MARK_PX = (1280, 800), (1024, 700), 44, 24


class Resident(Protocol):
    """The studio as the shell knows it, once it is loaded."""

    def may_close(self) -> bool:
        """Ask about unsaved work and end the threads; False to stay."""

    def take_key(self, event: QKeyEvent) -> bool:
        """Use a key nobody else wanted."""


class Shell(QMainWindow):
    """A window with a top bar and pages; knows no job."""

    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setWindowIcon(app_icon())
        self.setWindowTitle("Glass Cap")
        self.setMinimumSize(*_SMALLEST)
        left = read_window_state()
        self.resize(*(_SIZE if left is None else (left.width, left.height)))
        if left is not None and left.is_maximised:
            self.setWindowState(Qt.WindowState.WindowMaximized)
        self.pages = QStackedWidget()
        self.start = StartView()
        self.resident: Resident | None = None
        self._waiting: list[Callable[[], object]] = []
        self._after_close: Callable[[], object] | None = None
        centre = QWidget()
        centre.setObjectName("panel")
        self._column = QVBoxLayout(centre)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._bar: QWidget = _plain_bar(lambda: self.start.asked.emit("job"))
        self._column.addWidget(self._bar)
        self._column.addWidget(self.pages, 1)
        self.setCentralWidget(centre)
        self.pages.addWidget(self.start)
        dress(self)
        self.long_press = LongPress(self)
        self.start.setFocus()

    def when_loaded(self, run: Callable[[], object]) -> None:
        """Run something as soon as everything is loaded: now, if it is."""
        if self.resident is not None:
            run()
        else:
            self._waiting.append(run)

    def move_in(self, resident: Resident) -> None:
        """Take the resident, and do what was asked for before it came."""
        self.resident = resident
        waiting, self._waiting = self._waiting, []
        for run in waiting:
            run()

    def set_bar(self, bar: QWidget) -> None:
        """Put another top bar in place of the one there is."""
        self._column.replaceWidget(self._bar, bar)
        self._bar.hide()
        self._bar.deleteLater()
        self._bar = bar

    def set_start(self, start: StartView) -> None:
        """Put another start view in place of the one there is."""
        self.pages.removeWidget(self.start)
        self.start.deleteLater()
        self.start = start
        self.pages.addWidget(start)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Tell what floats over the window."""
        super().resizeEvent(event)
        self.resized.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Offer unused keys to the resident."""
        if self.resident is None or not self.resident.take_key(event):
            super().keyPressEvent(event)

    def close_and(self, then: Callable[[], object]) -> None:
        """Close, and do something as soon as that has come about; not at all if the user says to stay."""
        self._after_close = then
        self.close()

    def stay(self) -> None:
        """Stay open: nothing follows any more."""
        self._after_close = None

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask the resident."""
        if self.resident is not None and not self.resident.may_close():
            event.ignore()
            return
        then, self._after_close = self._after_close, None
        if then is not None:
            QTimer.singleShot(0, then)
        size = self.normalGeometry().size() if self.isMaximized() else self.size()
        keep_window_state(WindowState(size.width(), size.height(), self.isMaximized()))
        event.accept()


def _plain_bar(open_job: Callable[[], object]) -> QFrame:
    bar = QFrame()
    bar.setObjectName("topbar")
    bar.setFixedHeight(_BAR_HEIGHT)
    row = QHBoxLayout(bar)
    row.setContentsMargins(13, 0, 14, 0)
    row.setSpacing(11)
    mark = QLabel()
    mark.setPixmap(app_icon().pixmap(_MARK_PX, _MARK_PX))
    row.addWidget(mark)
    row.addWidget(label("Glass Cap", "strong"))
    row.addStretch(1)
    row.addWidget(push("Open…", open_job, icon_name="folder-open"))
    return bar
