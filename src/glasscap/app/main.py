"""Starting the window: show it, then open what was asked for."""

import gc
import os
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from importlib import import_module
from pathlib import Path
from typing import Any

from PySide6.QtCore import QMimeData, QObject, QTimer, Signal
from PySide6.QtWidgets import QApplication

from glasscap.app.services.garbage import look_only_at_new
from glasscap.app.services.memory import keep_freed_memory
from glasscap.app.services.threads import take_short_turns
from glasscap.app.shell import Shell
from glasscap.app.theme.fonts import load_fonts
from glasscap.app.theme.icons import app_icon, icon
from glasscap.app.theme.style import apply_theme
from glasscap.core.work.threads import daemon
from glasscap.files.kept_work import kept_works

_SHOT_STEP_MS = 50
_READY_MS = 100
_NO_GLIB = "QT_NO_GLIB"
_STUDIO, _WINDOWS, _LIBRARY_PATH = "glasscap.app.studio", "glasscap.app.windows", "LD_LIBRARY_PATH"


def make_application() -> QApplication:
    """Return the application, dressed."""
    found = QApplication.instance()
    app = found if isinstance(found, QApplication) else _new_application()
    app.setApplicationName("glasscap")
    app.setApplicationDisplayName("")
    app.setDesktopFileName("glasscap")
    app.setStyle("Fusion")
    load_fonts()
    apply_theme(app)
    # Pictures of the toolkit must not outlive it.
    app.aboutToQuit.connect(icon.cache_clear)
    app.aboutToQuit.connect(app_icon.cache_clear)
    return app


def _new_application() -> QApplication:
    """Make the application, its events read by the toolkit itself: through GLib it does not tell when it waits.

    `InterfaceTurn` must know.
    """
    with _kept_for_others(_NO_GLIB):
        os.environ[_NO_GLIB] = "1"
        return QApplication(sys.argv[:1])


@contextmanager
def _kept_for_others(variable: str) -> Iterator[None]:
    """Put an environment variable back afterwards: programs started from here are not to inherit a change."""
    before = os.environ.get(variable)
    yield
    if before is None:
        os.environ.pop(variable, None)
    else:
        os.environ[variable] = before


def start_window() -> tuple[QApplication, Shell]:
    """Return the application and its shown window; the rest is loaded behind it."""
    take_short_turns()
    app = make_application()
    shell = Shell()
    shell.show()
    loader = _Loader(shell)
    app.aboutToQuit.connect(loader.leave)
    loader.begin()
    return app, shell


class _Loader(QObject):
    """Imports the core and the other views in a thread, then builds them: the window is there before.

    This is the one place where a module is looked for late.
    """

    imported = Signal()

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell)
        self._shell = shell
        self._thread = daemon("load", self._import)
        self.imported.connect(self._on_imported)

    def begin(self) -> None:
        """Begin once the first view has been painted; what is asked of it meanwhile waits."""
        start = self._shell.start
        start.asked.connect(self._on_asked)
        start.dropped.connect(self._on_dropped)
        QTimer.singleShot(0, self._thread.start)

    def _import(self) -> None:
        # The vision library changes it on import.
        with _kept_for_others(_LIBRARY_PATH):
            import_module(_WINDOWS)
        self.imported.emit()

    def leave(self) -> None:
        """Leave at once while modules load: nothing is open yet, and they crash where the interpreter ends."""
        if self._thread.is_alive():
            sys.stdout.flush()
            sys.stderr.flush()
            os._exit(0)

    def _on_imported(self) -> None:
        studio = import_module(_STUDIO).Studio(self._shell, is_at_once=False)
        import_module(_WINDOWS).live_in(studio)
        self._go_on(studio)

    def _go_on(self, studio: Any) -> None:
        if studio.go_on():
            QTimer.singleShot(0, lambda: self._go_on(studio))
            return
        self._get_ready(studio)

    def _get_ready(self, studio: Any) -> None:
        """Make what will be wanted next, one thing at a time between whatever else is to do."""
        if studio.workbench.steps.make_ready():
            QTimer.singleShot(_READY_MS, self, lambda: self._get_ready(studio))
            return
        # Objects made by now stay: collecting garbage among them would hold everything up for 0.1 s.
        gc.freeze()

    def _on_asked(self, what: str) -> None:
        if self._shell.resident is None:
            self._shell.when_loaded(lambda: self._shell.start.asked.emit(what))

    def _on_dropped(self, mime: QMimeData) -> None:
        if self._shell.resident is not None:
            return
        kept = QMimeData()
        kept.setUrls(mime.urls())
        if mime.hasImage():
            kept.setImageData(mime.imageData())
        self._shell.when_loaded(lambda: self._shell.start.dropped.emit(kept))


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
    keep_freed_memory()
    app, shell = start_window()
    paths = tuple(Path(a) for a in rest if a != "--demo")
    shell.when_loaded(look_only_at_new)
    shell.when_loaded(lambda: _open(shell, paths, is_demo=is_demo))
    if shot is not None:
        _shoot_when_ready(shell, Path(shot), has_job=is_demo or bool(paths))
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


def _open(shell: Shell, paths: tuple[Path, ...], *, is_demo: bool) -> None:
    studio: Any = shell.resident
    if is_demo:
        studio.open_demo()
    elif paths:
        studio.take_paths(paths)
        if studio.toast.isHidden() and kept_works():
            # A problem with what was asked for comes first.
            studio.complain("Work that was not saved when the program ended is kept: New job (Ctrl+N) shows it")


def _shoot_when_ready(shell: Shell, path: Path, *, has_job: bool) -> None:
    timer = QTimer(shell, interval=_SHOT_STEP_MS)

    def look() -> None:
        studio: Any = shell.resident
        if studio is None or (has_job and not (studio.has_job and studio.is_settled)):
            return
        timer.stop()
        shell.grab().save(str(path))
        studio.session.saved_job = studio.session.committed
        shell.close()
        QApplication.quit()

    timer.timeout.connect(look)
    timer.start()
