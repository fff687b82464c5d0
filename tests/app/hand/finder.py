"""Runs within the program: tells the driver where in the accessibility tree a name is.

A walk through the whole tree over the accessibility bus takes half a second of the program's own time. Here it takes
a few milliseconds; the driver then goes that one way over the bus, and looks there at name, role and state itself.
"""

import contextlib
import json
import os
import socket
import threading
from concurrent.futures import Future

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QApplication

_MOST, _PATIENCE = 40, 5.0


class _Finder(QObject):
    """Answers in the thread of the window what is asked in another."""

    asked = Signal(object, object)

    def __init__(self):
        super().__init__()
        self.asked.connect(self._answer, Qt.ConnectionType.QueuedConnection)

    def _answer(self, wanted, future):
        name, is_exact = wanted
        found = []
        root = QAccessible.queryAccessibleInterface(QApplication.instance())
        if root is not None:
            _search(root, (), name if is_exact else name.lower(), is_exact, found)
        future.set_result(found)


def _search(node, path, name, is_exact, found):
    """Put the ways to all that shows and has a name into a list, front to back in the order of the tree."""
    for index in range(node.childCount()):
        child = node.child(index)
        if child is None or not child.isValid():
            continue
        state = child.state()
        if state.invisible and not state.offscreen:
            continue
        own = child.text(QAccessible.Text.Name) or ""
        if own == name if is_exact else name in own.lower():
            found.append((*path, index))
        if len(found) < _MOST:
            _search(child, (*path, index), name, is_exact, found)


def _serve(server, finder):
    while True:
        asking, _ = server.accept()
        with asking, contextlib.suppress(OSError, TimeoutError):
            future = Future()
            finder.asked.emit(json.loads(asking.makefile().readline()), future)
            asking.sendall(json.dumps(future.result(_PATIENCE)).encode())


_finder = _Finder()
_server = socket.socket(socket.AF_UNIX)
_server.bind(os.environ["GLASSCAP_FINDER"])
_server.listen()
threading.Thread(target=_serve, args=(_server, _finder), daemon=True, name="finder").start()
