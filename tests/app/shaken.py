"""A real window under random pointer and key events; prints one line of JSON: events, exceptions, longest freezes.

Beside it runs a process that does nothing but wait: `stalls` tells how often that one came late too, which is the
machine's doing as a rule (`stolen ms` tells what others took of it). `count` is of all gaps, `own` of those that are
as long when such stalls are left out.

Run as a program of its own: shaken.py SECONDS SEED [SLOWER]. A gesture comes every 30 to 80 ms, faster than any
hand, times SLOWER: gestures that wait for one another add up to gaps that none alone would make. Files are neither
asked for nor written.
"""

import gc
import json
import os
import random
import subprocess
import sys
import threading
import time
import traceback
from collections.abc import Callable, Iterator

from PySide6.QtCore import QTimer

from glasscap.app.export import writing
from glasscap.app.main import start_window
from glasscap.app.services import asking
from glasscap.app.services.asking import Button
from glasscap.app.services.garbage import look_only_at_new
from glasscap.app.session import Session
from tests.app.answers import answering

_WIDTH, _HEIGHT = 1280, 800
_KEYS = (
    "Escape", "Escape", "Return", "Tab", "Tab", "Tab", "shift+Tab", "Delete", "Left", "Right", "Up", "Down", "Page_Up", "Page_Down", "p", "t",
    "s", "d", "F2", "F1", "ctrl+z", "ctrl+z", "ctrl+shift+z", "ctrl+d", "ctrl+a", "ctrl+u", "ctrl+shift+u",
    "ctrl+Return", "ctrl+m", "ctrl+h", "ctrl+l", "ctrl+k", "ctrl+j", "ctrl+shift+j", "ctrl+e", "ctrl+shift+e",
    "ctrl+c", "ctrl+v", "ctrl+x", "ctrl+0", "ctrl+1", "ctrl+plus", "ctrl+minus", "ctrl+shift+w", "ctrl+f",
    "ctrl+alt+a", "5", "7", "BackSpace", "space", "shift+Right",
)  # fmt: skip
_TICK_MS, _PAUSE_MS, _FREEZE_MS = 4, 50.0, 100.0
_PAUSE_SECONDS = (0.03, 0.08)
_IDLER = """
import sys, time
end, last = time.monotonic() + float(sys.argv[1]), time.perf_counter()
while time.monotonic() < end:
    time.sleep(0.004)
    now = time.perf_counter()
    if now - last > 0.02:
        print(last, now)
    last = now
"""


def gestures(chance: random.Random) -> Iterator[str]:
    """Yield lines for the event sender, one gesture each."""
    while True:
        x, y = chance.randrange(2, _WIDTH - 2), chance.randrange(2, _HEIGHT - 2)
        if chance.random() < 0.6:
            # Most of the work is on the bench.
            x, y = chance.randrange(320, 1040), chance.randrange(50, 690)
        kind = chance.choices(
            ("click", "drag", "key", "wheel", "double", "menu", "shift"), (6, 5, 6, 4, 1, 1, 1)
        )[0]
        if kind == "drag":
            ends = [(x + chance.randrange(-200, 200), y + chance.randrange(-150, 150)) for _ in range(3)]
            ways = " ".join(f"mousemove {max(1, a)} {max(1, b)}" for a, b in ends)
            yield f"mousemove {x} {y} mousedown 1 {ways} mouseup 1"
        elif kind == "key":
            yield f"key --clearmodifiers {chance.choice(_KEYS)}"
        elif kind == "wheel":
            yield f"mousemove {x} {y} click --repeat {chance.randrange(1, 5)} --delay 8 {chance.choice((4, 5))}"
        elif kind == "shift":
            yield f"mousemove {x} {y} keydown shift click 1 keyup shift"
        else:
            button = "3" if kind == "menu" else "1"
            times = "--repeat 2 --delay 40" if kind == "double" else ""
            yield f"mousemove {x} {y} click {times} {button}"


class Shaker(threading.Thread):
    """Sends gestures until time is up."""

    def __init__(self, seconds: float, seed: int, slower: float) -> None:
        super().__init__(daemon=True)
        self._slower = slower
        self._end, self._chance = time.monotonic() + seconds, random.Random(seed)
        self.count, self.last = 0, ""

    def run(self) -> None:
        # One process for all: starting one for each gesture would hold up this one time and again.
        sender = subprocess.Popen(["xdotool", "-"], stdin=subprocess.PIPE, text=True, stderr=subprocess.DEVNULL)
        assert sender.stdin is not None
        for line in gestures(self._chance):
            if time.monotonic() > self._end:
                break
            self.last = line
            sender.stdin.write(line + "\n")
            sender.stdin.flush()
            self.count += 1
            time.sleep(self._chance.uniform(*_PAUSE_SECONDS) * self._slower)
        sender.kill()


def watch_the_wheel(session: Session, faults: list[str]) -> None:
    """Note as a fault each step of the job that the wheel makes over a control without the keys."""
    really = session.apply

    def apply(label: str, *rest: object, **more: object) -> bool:
        frame = sys._getframe()
        while frame is not None:
            control = frame.f_locals.get("self")
            if frame.f_code.co_name == "wheelEvent" and not control.hasFocus():
                faults.append(f"the wheel over {type(control).__name__} {control.accessibleName()!r}: {label}")
            frame = frame.f_back
        return really(label, *rest, **more)

    session.apply = apply


class Clock:
    """Notes how long the interface thread was away each time it comes round."""

    def __init__(self) -> None:
        self.last, self._worked = time.perf_counter(), time.thread_time()
        self.where = ""
        self.pauses: list[int] = []
        # How long, how much of that the thread computed, how many cutouts there were, what went on; and until when.
        self.freezes: list[tuple[int, int, int, str]] = []
        self._ends: list[float] = []

    def come_round(self, cutouts: Callable[[], int], gesture: str) -> None:
        """Note a gap if it was long."""
        now, worked = time.perf_counter(), time.thread_time()
        gap, own = (now - self.last) * 1000, (worked - self._worked) * 1000
        self.last, self._worked = now, worked
        where, self.where = self.where, ""
        if gap > _PAUSE_MS:
            self.pauses.append(round(gap))
        if gap > _FREEZE_MS:
            self.freezes.append((round(gap), round(own), cutouts(), f"{gesture} | {where}"))
            self._ends.append(now)

    def own_freezes(self, stalls: list[tuple[float, float]]) -> list[int]:
        """Return the gaps that are long without the machine's own stalls (begin and end of each)."""
        left = []
        for (gap, *_), end in zip(self.freezes, self._ends, strict=True):
            begin = end - gap / 1000
            stalled = sum(max(0.0, min(end, b) - max(begin, a)) for a, b in stalls)
            left.append(gap - round(stalled * 1000))
        return sorted((gap for gap in left if gap > _FREEZE_MS), reverse=True)


class Watch(threading.Thread):
    """Notes where the interface thread is while it does not come round."""

    def __init__(self, clock: Clock) -> None:
        super().__init__(daemon=True)
        self._clock, self._main = clock, threading.main_thread().ident

    def run(self) -> None:
        while True:
            time.sleep(0.02)
            if (time.perf_counter() - self._clock.last) * 1000 > _FREEZE_MS * 0.6:
                self._clock.where = self._place()

    def _place(self) -> str:
        """Return where it is. No frame is kept: a paint event's would keep its painter alive, which crashes."""
        calls = traceback.extract_stack(sys._current_frames().get(self._main or 0))[-7:]
        return " < ".join(f"{c.name}:{c.filename.rsplit('/', 1)[-1]}:{c.lineno}" for c in reversed(calls))


def stolen_ms() -> int:
    """Return how long this machine's processors were taken by others since it started, as Linux tells it."""
    with open("/proc/stat", encoding="ascii") as file:
        return int(file.readline().split()[8]) * 1000 // os.sysconf("SC_CLK_TCK")


def main() -> None:
    """Shake the demo job."""
    seconds, seed = float(sys.argv[1]), int(sys.argv[2])
    slower = float(sys.argv[3]) if len(sys.argv) > 3 else 1.0
    faults: list[str] = []

    def note(kind: type[BaseException], error: BaseException, trace: object) -> None:
        faults.append("".join(traceback.format_exception(error)))
        # At once: a fault in a paint event may end the program before its answer.
        print(faults[-1], file=sys.stderr, flush=True)

    sys.excepthook = note
    for name in ("file_to_open", "file_to_save", "folder"):
        setattr(asking, name, answering(None))
    asking.files_to_open = answering(())
    asking.line_of_text = answering("Name")
    asking.question = answering(Button.Cancel)
    writing.ask_policy = answering(None)
    app, shell = start_window()
    shell.move(0, 0)
    shell.resize(_WIDTH, _HEIGHT)
    while shell.resident is None:
        app.processEvents()
    studio = shell.resident
    look_only_at_new()
    studio.may_close = lambda: False
    studio.files.save = lambda *a: False
    watch_the_wheel(studio.session, faults)
    studio.open_demo()
    studio.workbench.export.write_to = lambda folder: False
    end = time.monotonic() + 60
    while not studio.is_settled and time.monotonic() < end:
        app.processEvents()
    shaker, clock = Shaker(seconds, seed, slower), Clock()
    Watch(clock).start()

    def tick() -> None:
        clock.come_round(lambda: len(studio.session.items), shaker.last)
        if not shaker.is_alive():
            app.exit()
        elif not studio.has_job:
            studio.open_demo()

    collections: list[tuple[float, int]] = []
    began = [0.0]

    def collected(phase: str, info: dict[str, int]) -> None:
        if phase == "start":
            began[0] = time.perf_counter()
        else:
            collections.append((round((time.perf_counter() - began[0]) * 1000), info["generation"]))

    gc.callbacks.append(collected)
    idler = subprocess.Popen([sys.executable, "-c", _IDLER, str(seconds)], stdout=subprocess.PIPE, text=True)
    timer = QTimer(interval=_TICK_MS)
    timer.timeout.connect(tick)
    stolen = stolen_ms()
    clock.last = time.perf_counter()
    shaker.start()
    timer.start()
    app.exec()
    timer.stop()
    lines = idler.communicate()[0].splitlines()
    stalls = [(float(begin), float(end)) for begin, end in (line.split() for line in lines)]
    own = clock.own_freezes(stalls)
    said = {
        "events": shaker.count,
        "faults": faults[:5],
        "freezes": sorted(clock.freezes, reverse=True)[:12],
        "count": len(clock.freezes),
        "own": {"count": len(own), "longest": own[:5]},
        "pauses": {"over 50 ms": len(clock.pauses), "over 75 ms": sum(gap > 75 for gap in clock.pauses)},
        "collections": sorted(collections, reverse=True)[:8],
        "stalls": {"count": len(stalls), "longest": round(max((b - a for a, b in stalls), default=0.0) * 1000)},
        "stolen ms": stolen_ms() - stolen,
        "steps": studio.session.undo_label,
    }
    print(json.dumps(said))
    sys.stdout.flush()
    # Whatever is open stays open: nothing is to be saved.
    os._exit(0)


if __name__ == "__main__":
    main()
