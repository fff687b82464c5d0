"""The place of the open row's controls: over the list, cut off where the list is scrolled."""

from PySide6.QtCore import QPoint, QRect, Signal
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QAbstractItemView, QApplication, QWidget

from glasscap.app.export.row_body import RowBody
from glasscap.app.widgets.wheel import note_scrolling


class OpenPlace(QWidget):
    """Lies beside the list, not in it: a list tells a screen reader of its rows alone.

    `needed(box)` asks for a part of the list's viewport, in its px, to be scrolled into sight.
    """

    needed = Signal(QRect)

    def __init__(self, rows: QAbstractItemView, body: RowBody) -> None:
        super().__init__()
        self._rows, self._body = rows, body
        body.setParent(self)
        self.hide()

    def lay(self, box: QRect) -> None:
        """Show the body in a box of the list's viewport, as far as that is in sight."""
        viewport, owner = self._rows.viewport(), self.parentWidget()
        if owner is None:
            return
        seen = box.intersected(viewport.rect())
        self.setGeometry(QRect(viewport.mapTo(owner, seen.topLeft()), seen.size()))
        self._body.setGeometry(QRect(box.topLeft() - seen.topLeft(), box.size()))
        self.setVisible(not seen.isEmpty())
        self.raise_()

    def show_focus(self) -> None:
        """Ask for the control that has the keys, if it is one of these."""
        control = self.window().focusWidget()
        if control is not None and self._body.isAncestorOf(control):
            at = self._rows.viewport().mapFromGlobal(control.mapToGlobal(QPoint(0, 0)))
            self.needed.emit(QRect(at, control.size()))

    def focusNextPrevChild(self, next: bool) -> bool:  # noqa: A002, the toolkit's name
        """Ask for the control that Tab went to."""
        was_moved = super().focusNextPrevChild(next)
        self.show_focus()
        return was_moved

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Scroll the list."""
        note_scrolling()
        QApplication.sendEvent(self._rows.verticalScrollBar(), event)
