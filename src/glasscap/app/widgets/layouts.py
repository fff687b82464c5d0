"""Layouts of nested widgets, settled before the next repaint."""

from collections.abc import Collection, Iterable

from PySide6.QtCore import QCoreApplication, QEvent
from PySide6.QtWidgets import QWidget

# More levels of widgets than lie within one another anywhere in the window.
_LEVELS = 14


def show_only(seen: Collection[QWidget], rows: Iterable[QWidget]) -> None:
    """Of some rows show those that are to be seen, and hide the others.

    Each is told once: by a row that is shown and then hidden again all around it is laid out and painted anew.
    """
    for row in rows:
        row.setVisible(row in seen)


def settle_layouts() -> None:
    """Lay out everything that waits for it.

    The toolkit hands a new size hint up one level at each turn of the event loop and repaints in between: a panel
    whose rows come and go would be painted three times on its way to where it ends.
    """
    for _ in range(_LEVELS):
        QCoreApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest)
