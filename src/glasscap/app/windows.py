"""Further windows of the same program, each with a job of its own."""

import shiboken6
from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QApplication

from glasscap.app.services.garbage import look_through_all
from glasscap.app.shell import Shell
from glasscap.app.studio import Studio

_STEP = 36
# The toolkit does not keep windows that nobody holds.
_opened: list[Shell] = []


def open_window() -> Shell:
    """Show another window with the start view; it goes when it is closed."""
    shell = Shell()
    shell.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    _opened[:] = [*(other for other in _opened if shiboken6.isValid(other)), shell]
    shell.move(shell.x() + _STEP, shell.y() + _STEP)
    shell.show()
    shell.destroyed.connect(lambda: QTimer.singleShot(0, look_through_all))
    live_in(Studio(shell))
    return shell


def live_in(studio: Studio) -> None:
    """Give a studio's window what it asks of all windows."""
    studio.new_window_asked.connect(open_window)
    studio.quit_asked.connect(close_all)


def close_all() -> None:
    """Close every window, one after the other, each with its question; one that stays ends it."""
    shown = [w for w in QApplication.topLevelWidgets() if isinstance(w, Shell) and w.isVisible()]
    if shown:
        shown[0].raise_()
        shown[0].close_and(close_all)
    else:
        QApplication.closeAllWindows()
