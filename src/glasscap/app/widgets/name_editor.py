"""A name edited in place: Enter keeps it, Escape does not."""

from PySide6.QtCore import QRect, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from glasscap.app.widgets.line_field import give_keys_back


class NameEditor(QLineEdit):
    """Lies over a widget until the name is entered; `named` tells it."""

    named = Signal(str)

    def __init__(self, parent: QWidget, name: str, place: QRect, title: str) -> None:
        super().__init__(name, parent)
        self.setAccessibleName(title)
        self.setGeometry(place)
        self.selectAll()
        self.editingFinished.connect(self._on_finished)
        self.show()
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Leave the name as it was on Escape."""
        if event.key() == Qt.Key.Key_Escape:
            self._close()
        else:
            super().keyPressEvent(event)
            # What is entered is the name's alone: a line passes Enter on to what it lies over.
            event.accept()

    def _on_finished(self) -> None:
        name = self.text()
        self._close()
        self.named.emit(name)

    def _close(self) -> None:
        self.blockSignals(True)
        self.hide()
        self.blockSignals(False)
        self.editingFinished.disconnect(self._on_finished)
        give_keys_back(self)
        self.deleteLater()
