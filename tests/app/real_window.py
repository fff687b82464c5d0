"""A scenario in a real window on an X screen, by real pointer and key events; prints one line of JSON.

Run as a program of its own: real_window.py PHOTO FOLDER. Dropping is delivered as the toolkit's own events,
everything else comes from the X server.
"""

import json
import subprocess
import sys
import time
import warnings
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from PySide6.QtCore import QEvent, QMimeData, QObject, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.main import start_window
from glasscap.app.services import asking
from glasscap.app.services.errands import Running
from glasscap.core.document.model.query import items_of
from tests.app.answers import answering

T = TypeVar("T")
_SECONDS = 90
_REST, _ROUNDS = 0.25, 20


class _Arrivals(QObject):
    """Counts the releases of buttons and keys that reached a window from the X server."""

    def __init__(self) -> None:
        super().__init__()
        self.count = 0

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kinds = (QEvent.Type.MouseButtonRelease, QEvent.Type.KeyRelease)
        if event.type() in kinds and watched.isWindowType() and event.spontaneous():
            self.count += 1
        return False


class Screen:
    """The pointer and the keys."""

    def __init__(self) -> None:
        self.app, self.shell = start_window()
        self.arrivals = _Arrivals()
        self.app.installEventFilter(self.arrivals)
        self.shell.move(0, 0)
        self.wait(lambda: self.shell.resident is not None)
        self.studio = self.shell.resident
        self.session, self.bench = self.studio.session, self.studio.workbench.bench
        self.focus()

    def focus(self) -> None:
        """Give the keys back to the window, as a window manager does once a dialog has closed."""
        if self.app.activeWindow() is None:
            self.x("windowfocus", "--sync", str(int(self.shell.winId())))
            self.wait(self.shell.isActiveWindow)

    def wait(self, is_ready: Callable[[], bool]) -> None:
        end = time.monotonic() + _SECONDS
        while not is_ready():
            self.app.processEvents()
            time.sleep(0.005)
            if time.monotonic() > end:
                raise SystemExit("the window never got there")

    def finished(self, running: Running[T]) -> T | None:
        """Wait for an errand; return its result."""
        self.wait(lambda: running.is_done)
        return running.result

    def rest(self) -> None:
        """Let the window come to rest, also where the machine is so busy that one round takes long."""
        end, rounds = time.monotonic() + _REST, 0
        while time.monotonic() < end or rounds < _ROUNDS:
            self.app.processEvents()
            time.sleep(0.005)
            rounds += 1
        if self.studio.has_job:
            self.wait(lambda: self.studio.is_settled)

    def x(self, *words: str) -> None:
        subprocess.run(["xdotool", *words], check=True)

    def arrive(self, releases: int, *words: str) -> None:
        """Send events and go on once their releases have reached the window."""
        self.focus()
        awaited = self.arrivals.count + releases
        self.x(*words)
        self.wait(lambda: self.arrivals.count >= awaited)
        self.rest()

    def key(self, *names: str) -> None:
        for name in names:
            self.arrive(len(name.split("+")), "key", "--clearmodifiers", name)

    def point(self, widget: QWidget, at: QPoint) -> tuple[str, str]:
        far = widget.mapToGlobal(at)
        return str(far.x()), str(far.y())

    def click(self, widget: QWidget, at: QPoint | None = None, *, times: int = 1) -> None:
        self.x("mousemove", *self.point(widget, at or widget.rect().center()))
        self.arrive(times, "click", "--repeat", str(times), "--delay", "60", "1")

    def drag(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        points = []
        for share in (0.0, 0.2, 0.5, 0.8, 1.0):
            x, y = (a + (b - a) * share for a, b in zip(start, end, strict=True))
            vx, vy = self.bench.to_view.apply(x, y)
            points.append(self.point(self.bench, QPoint(round(vx), round(vy))))
        self.x("mousemove", *points[0], "mousedown", "1")
        for point in points[1:]:
            self.x("mousemove", *point)
            self.app.processEvents()
            time.sleep(0.03)
        self.arrive(1, "mouseup", "1")

    def save_and_write(self, path: Path) -> Path:
        """Save the job, then write the picture into the same folder from the export view; where it is."""
        self.finished(self.studio.files.save_to(path))
        self.rest()
        self.key("ctrl+e")
        view = self.studio.workbench.export
        view.set_folder(path.parent)
        self.rest()
        self.click(view.list.write)
        self.wait(lambda: view.list.result.isVisible())
        # A list that was written belongs to the job.
        self.finished(self.studio.files.save())
        return view.written.results[0].path

    def drop(self, path: Path) -> None:
        mime, start = QMimeData(), self.shell.start
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        at, copy, none = QPoint(300, 300), Qt.DropAction.CopyAction, Qt.KeyboardModifier.NoModifier
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            QApplication.sendEvent(start, QDragEnterEvent(at, copy, mime, Qt.MouseButton.LeftButton, none))
        QApplication.sendEvent(start, QDropEvent(QPointF(at), copy, mime, Qt.MouseButton.LeftButton, none))
        self.wait(lambda: self.studio.has_job)
        self.rest()


def main() -> None:
    photo, folder = Path(sys.argv[1]), Path(sys.argv[2])
    screen = Screen()
    session = screen.session

    def place() -> list[float]:
        item = next(i for _, i in items_of(session.job))
        content, shape = item.content_placement, item.shape_placement
        return [content.x, content.y, shape.x, shape.y, shape.width]

    seen = {"platform": QApplication.platformName()}
    screen.drop(photo)
    dropped = session.job
    seen["dropped"] = place()
    screen.click(screen.bench, QPoint(8, 8))
    screen.drag((200, 150), (200, 150))
    for key, name, end in (("p", "photo", (230, 170)), ("s", "shape", (180, 160)), ("t", "both", (215, 175))):
        screen.key(key)
        screen.drag((200, 150), end)
        seen[name] = place()
    field = screen.studio.workbench.steps.shape.size_row.first
    screen.click(field, times=3)
    screen.x("type", "--delay", "30", "84*2")
    screen.rest()
    screen.key("Return")
    seen["typed"] = place()
    done = session.job
    screen.click(screen.bench, screen.bench.rect().center())
    steps = 0
    while session.undo_label is not None and steps < 20:
        screen.key("ctrl+z")
        steps += 1
    seen["undone"] = session.job == dropped
    seen["steps"] = steps
    for _ in range(steps):
        screen.key("ctrl+shift+z")
    seen["redone"] = session.job == done
    path = folder / "cards.glasscap"
    asking.file_to_save = answering(path)
    screen.key("ctrl+s")
    screen.wait(lambda: session.is_saved)
    seen["saved"] = path.is_file()
    seen["reopened"] = screen.finished(screen.studio.files.open(path)) and session.job == done
    screen.rest()
    screen.key("ctrl+e")
    view = screen.studio.workbench.export
    view.set_folder(folder)
    screen.rest()
    screen.click(view.list.write)
    screen.wait(lambda: view.list.result.isVisible())
    seen["said"] = view.list.result_text.text()
    seen["written"] = str(view.written.results[0].path)
    screen.shell.grab().save(str(folder / "window.png"))
    screen.finished(screen.studio.files.save())
    seen["closed"] = screen.shell.close()
    print(json.dumps(seen))


if __name__ == "__main__":
    main()
