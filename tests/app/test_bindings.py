"""The toolkit's bindings keep count of Python's own objects (one release lost references and crashed)."""

import sys

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QPushButton, QWidget


class Sender(QObject):
    sent = Signal(object, object)


def test_signals_and_visibility_lose_no_references(qapp) -> None:
    sender, button, widget = Sender(), QPushButton(), QWidget()
    sender.sent.connect(lambda *_: None)
    button.clicked.connect(lambda: None)
    before = [sys.getrefcount(value) for value in (None, True, False)]
    for _ in range(100):
        sender.sent.emit(1, None)
        button.click()
        widget.setVisible(True)
        widget.setVisible(False)
    after = [sys.getrefcount(value) for value in (None, True, False)]
    # Some caches may hold on to a few more or fewer; a lost reference a call would show as hundreds.
    assert all(abs(a - b) < 50 for a, b in zip(after, before, strict=True))
    widget.deleteLater()
