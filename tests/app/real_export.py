"""Export in a real window on an X screen, by real pointer and key events; prints one line of JSON.

Run as a program of its own: real_export.py PHOTO FOLDER. A window of another toolkit stands beside it: the picture
is pasted there, and a tray card dragged into it.
"""

import json
import subprocess
import sys
import time
from pathlib import Path

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QWidget

sys.path.insert(0, str(Path(__file__).parent))

from real_finishing import Finisher

_FORMATS = (
    ("transparency", ("png", "indexed", "webp", "avif", "tiff")),
    ("vector", ("svg", "pdf")),
    ("layers", ("ora",)),
    ("nothing", ("jpeg",)),
)
_AT = (1150, 700)


class Sender(Finisher):
    """Adds what is done in the export view, and the other program."""

    def compared(self) -> None:
        view = self.studio.workbench.export
        self.wait(lambda: self.studio.service.is_idle and not view.stage.is_waiting)

    def show(self, widget: QWidget) -> None:
        """Scroll the right panel as a wheel would."""
        area = widget.parent()
        while area is not None and not hasattr(area, "ensureWidgetVisible"):
            area = area.parent()
        if area is not None:
            area.ensureWidgetVisible(widget, 0, 40)
        self.rest()


class Receiver:
    """The other program."""

    def __init__(self) -> None:
        call = [sys.executable, str(Path(__file__).parent / "receiver.py"), *map(str, _AT)]
        self._run = subprocess.Popen(call, stdout=subprocess.PIPE, text=True)
        assert self._run.stdout is not None
        self.window = self._run.stdout.readline().strip()

    def line(self, screen: Sender) -> dict:
        """Return what it got next; our window lives on meanwhile, for it is asked for the data."""
        import select

        end = time.monotonic() + 90
        while not select.select([self._run.stdout], [], [], 0)[0]:
            screen.app.processEvents()
            time.sleep(0.01)
            if time.monotonic() > end:
                raise SystemExit("the other program got nothing")
        return json.loads(self._run.stdout.readline())

    def stop(self) -> None:
        self._run.terminate()
        self._run.wait()


def export(screen: Sender, folder: Path) -> list[str]:
    """Write every format, one after the other, by clicks."""
    screen.key("ctrl+e")
    view = screen.studio.workbench.export
    view.set_folder(folder)
    screen.compared()
    written = []
    for group, names in _FORMATS:
        for name in names:
            button = view.format.formats[group].buttons[name]
            screen.show(button)
            screen.click(button)
            screen.compared()
            if name == "indexed":
                # Its ending is PNG's: the name keeps them apart.
                screen.show(view.picture.name)
                screen.click(view.picture.name, times=3)
                screen.key("ctrl+a")
                screen.arrive(6, "type", "few-ok")
                screen.key("Return")
                screen.compared()
            screen.click(view.list.write)
            screen.wait(view.list.result.isVisible)
            assert view.written is not None
            (result,) = view.written.results
            assert not result.problem, result.problem
            written.append(str(result.path))
    screen.key("ctrl+e")
    return written


def main() -> None:
    photo, folder = Path(sys.argv[1]), Path(sys.argv[2])
    screen = Sender()
    screen.shell.resize(1140, 690)
    screen.drop(photo)
    seen: dict[str, object] = {"written": export(screen, folder)}
    receiver = Receiver()
    screen.click(screen.bench, QPoint(8, 8))
    card = screen.studio.workbench.tray.cards[screen.session.sheet.items[0].id]
    screen.click(card, QPoint(40, 40))
    screen.key("ctrl+alt+c")
    screen.rest()
    middle = (str(_AT[0] + 120), str(_AT[1] + 90))
    screen.x("mousemove", *middle, "click", "1")
    screen.x("windowfocus", "--sync", receiver.window)
    screen.x("key", "v")
    seen["pasted"] = receiver.line(screen)["pasted"]
    start = screen.point(card, QPoint(40, 40))
    steps = [start, (str(int(start[0]) + 20), start[1]), ("900", "650"), ("1160", "720"), middle, middle]
    # The toolkit's own loop runs while the button is down: another program moves the pointer.
    script = ["mousemove", *steps[0], "mousedown", "1"]
    for step in steps[1:]:
        script += ["sleep", "0.3", "mousemove", *step]
    script += ["sleep", "0.5", "mouseup", "1"]
    mover = subprocess.Popen(["xdotool", *script])
    seen["dropped"] = receiver.line(screen)["dropped"]
    mover.wait()
    seen["dropped_bytes"] = Path(str(seen["dropped"])).read_bytes().hex()
    receiver.stop()
    screen.session.mark_saved(folder / "x.glasscap", screen.session.committed)
    seen["closed"] = screen.shell.close()
    print(json.dumps(seen))


if __name__ == "__main__":
    main()
