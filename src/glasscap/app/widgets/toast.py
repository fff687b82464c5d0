"""A message at the bottom of the window, out of the way; problems stay until closed or the view changes."""

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QWidget

from glasscap.app.widgets.buttons import push
from glasscap.app.widgets.labels import label

# High enough to leave the grip bar free.
_BRIEF_MS, _WIDEST, _ABOVE_BAR = 8000, 620, 200


class Toast(QFrame):
    """Shows one message at a time."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("toast")
        self.text = label("")
        self.text.setWordWrap(True)
        self.text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._more: QPushButton | None = None
        self._close = push("Close", self.hide)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(14, 7, 8, 7)
        self._row.addWidget(self.text, 1)
        self._row.addWidget(self._close)
        self._timer = QTimer(self, singleShot=True, interval=_BRIEF_MS)
        self._timer.timeout.connect(self.hide)
        self._is_everywhere = False
        self.hide()

    def say(
        self,
        words: str,
        *,
        stays: bool = False,
        is_everywhere: bool = False,
        more: tuple[str, Callable[[], object]] | None = None,
    ) -> None:
        """Show words; `more` is a further button's text and what it does.

        Words that are true `is_everywhere` do not leave with the view they were shown in.
        """
        self._is_everywhere = is_everywhere
        if self._more is not None:
            self._row.removeWidget(self._more)
            self._more.deleteLater()
            self._more = None
        if more is not None:
            self._more = push(*more)
            self._row.insertWidget(1, self._more)
        self.text.setText(words)
        self.setAccessibleName(words)
        self.show()
        self.place()
        self._timer.stop()
        if not stays:
            self._timer.start()

    def pass_by(self) -> None:
        """Go, if the words are not meant to stay: something else was done."""
        if self._timer.isActive():
            self._timer.stop()
            self.hide()

    def leave(self) -> None:
        """Go with the view that is left, unless the words are true in every view."""
        if not self._is_everywhere:
            self._timer.stop()
            self.hide()

    def take_back(self, words: str) -> None:
        """Go, if these words are shown: they are true no more."""
        if self.isVisible() and self.text.text() == words:
            self._timer.stop()
            self.hide()

    def place(self) -> None:
        """Sit in the lower middle of the window."""
        parent = self.parentWidget()
        if parent is None or not self.isVisible():
            return
        room = min(_WIDEST, parent.width() - 40)
        buttons = sum(b.sizeHint().width() + 10 for b in (self._close, self._more) if b is not None)
        widest = max(self.text.fontMetrics().horizontalAdvance(line) for line in self.text.text().split("\n"))
        self.setFixedWidth(min(room, widest + buttons + 36))
        text_width = self.width() - buttons - 30
        self.text.setFixedSize(text_width, self.text.heightForWidth(text_width))
        self.setFixedHeight(max(self.text.height(), self._close.sizeHint().height()) + 16)
        self.move((parent.width() - self.width()) // 2, parent.height() - self.height() - _ABOVE_BAR)
        self.raise_()
