"""Layouts of nested widgets, settled before the next repaint."""

from PySide6.QtCore import QCoreApplication, QEvent

# More levels of widgets than lie within one another anywhere in the window.
_LEVELS = 14


def settle_layouts() -> None:
    """Lay out everything that waits for it.

    The toolkit hands a new size hint up one level at each turn of the event loop and repaints in between: a panel
    whose rows come and go would be painted three times on its way to where it ends.
    """
    for _ in range(_LEVELS):
        QCoreApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest)
