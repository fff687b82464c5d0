"""Starting the window: show it, then open what was asked for."""

import os
import sys
from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from glasscap.app.photo_intake import Incoming
from glasscap.app.theme.fonts import load_fonts
from glasscap.app.theme.style import apply_theme
from glasscap.app.window import Window

_SHOT_STEP_MS = 50


def make_application() -> QApplication:
    """Return the application, dressed."""
    found = QApplication.instance()
    app = found if isinstance(found, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("glasscap")
    app.setApplicationDisplayName("")
    app.setDesktopFileName("glasscap")
    app.setStyle("Fusion")
    load_fonts()
    apply_theme(app)
    return app


def start_window() -> tuple[QApplication, Window]:
    """Return the application and its shown window."""
    app = make_application()
    window = Window()
    window.show()
    return app, window


def run(arguments: Sequence[str]) -> int:
    """Open the window with files, ``--demo``, or ``--shot FILE`` (off screen, a picture of the window)."""
    rest = list(arguments)
    shot = _option(rest, "--shot")
    if shot is not None:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    elif not _has_display():
        words = "no display was found; use script/demo --shot FILE.png for a picture of the window"
        sys.stderr.write(f"glasscap: {words}\n")
        return 1
    is_demo = "--demo" in rest
    app, window = start_window()
    paths = tuple(Path(a) for a in rest if a != "--demo")
    QTimer.singleShot(0, lambda: _open(window, paths, is_demo=is_demo))
    if shot is not None:
        _shoot_when_ready(window, Path(shot), has_job=is_demo or bool(paths))
    return app.exec()


def _option(rest: list[str], name: str) -> str | None:
    if name not in rest:
        return None
    place = rest.index(name)
    value = rest[place + 1] if place + 1 < len(rest) else "window.png"
    del rest[place : place + 2]
    return value


def _has_display() -> bool:
    chosen = os.environ.get("QT_QPA_PLATFORM")
    return bool(chosen or os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def _open(window: Window, paths: tuple[Path, ...], *, is_demo: bool) -> None:
    if is_demo:
        window.open_demo()
    elif paths:
        window.take(Incoming(paths))


def _shoot_when_ready(window: Window, path: Path, *, has_job: bool) -> None:
    timer = QTimer(window, interval=_SHOT_STEP_MS)

    def look() -> None:
        if has_job and not (window.has_job and window.is_settled):
            return
        timer.stop()
        window.grab().save(str(path))
        window.session.saved_job = window.session.committed
        window.close()
        QApplication.quit()

    timer.timeout.connect(look)
    timer.start()
