"""A real window killed while a hand works in it, and how much of the work is found again."""

import contextlib
import os
import random
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import count
from pathlib import Path

from glasscap.demo.job import demo_job
from glasscap.files.jobs import open_job, save_job
from glasscap.files.kept_work import discard, kept_works
from glasscap.files.work_keeper import recover
from tests.app.killed_window import name_of

WAYS = ("nudging", "dragging", "typing", "saving", "exporting")


@dataclass(frozen=True)
class WindowKill:
    """Steps done, how many of the last were lost, the age of the oldest lost at the kill (s), and what was damaged."""

    way: str
    steps: int
    lost: int
    seconds: float
    problems: tuple[str, ...]


def gestures(way: str, x: int, y: int) -> Iterator[tuple[str, float]]:
    """Yield lines for the event sender, and how long to rest after each (s)."""
    for number in count():
        key = ("Right", "Down", "Left", "Up")[number // 5 % 4]
        if way == "dragging" or (way == "exporting" and number % 2):
            to = f"{x + 40 - number % 3 * 30} {y + 20 - number % 5 * 9}"
            yield f"mousemove {x} {y} mousedown 1 mousemove {x + 9} {y + 4} mousemove {to} mouseup 1", 0.12
            yield "key ctrl+z", 0.05
        elif way == "typing":
            # A new name for the plate, letter by letter.
            yield "key F2", 0.1
            yield f"type --delay 8 plate{number}", 0.05
            yield "key Return", 0.05
        elif way == "saving" and number % 4 == 3:
            yield "key ctrl+s", 0.08
        elif way == "exporting":
            yield "key ctrl+e", 0.4
            yield "key Escape", 0.2
        else:
            yield f"key {key}", 0.04


def window_kill(folder: Path, way: str, chance: random.Random) -> WindowKill:
    """Open the demo job in a real window, work, kill the program within four seconds, look what can be had again."""
    state, path = folder / "state", folder / "trail.glasscap"
    save_job(path, *demo_job())
    own = {"XDG_STATE_HOME": str(state), "XDG_CONFIG_HOME": str(folder), "PYTHONPATH": os.pathsep.join(sys.path)}
    environment = {**os.environ, **own, "QT_QPA_PLATFORM": "xcb"}
    call = [sys.executable, "-m", "tests.app.killed_window", str(path)]
    with subprocess.Popen(call, stdout=subprocess.PIPE, text=True, env=environment) as program:
        assert program.stdout is not None
        lines = [program.stdout.readline()]
        ready = program.stdout.readline().split()
        assert ready[0] == "ready", lines
        sender = subprocess.Popen(["xdotool", "-"], stdin=subprocess.PIPE, text=True, stderr=subprocess.DEVNULL)
        assert sender.stdin is not None
        end = time.monotonic() + chance.uniform(0.3, 4.0)
        for line, rest in gestures(way, int(ready[1]), int(ready[2])):
            sender.stdin.write(line + "\n")
            sender.stdin.flush()
            time.sleep(rest)
            if time.monotonic() > end:
                break
        program.send_signal(signal.SIGKILL)
        killed = time.time()
        sender.kill()
        sender.wait()
        with contextlib.suppress(BrokenPipeError):
            sender.stdin.close()
        # A last line cut short by the kill was not told.
        lines += [line for line in program.stdout.readlines() if line.endswith("\n")]
    told = [(line.split()[1], float(line.split()[2])) for line in lines]
    found, problems = [], []
    for work in kept_works(state / "glasscap"):
        got = recover(work)
        found.append(name_of(got.job))
        problems += [p.line for p in got.problems]
        discard(work)
    opened = open_job(path)
    found.append(name_of(opened.job))
    problems += [p.line for p in opened.problems]
    at = max((number for number, (name, _) in enumerate(told) if name in found), default=-1)
    if at < 0:
        problems.append("what was found is no state the job was in")
    lost = len(told) - 1 - at
    return WindowKill(way, len(told) - 1, lost, killed - told[at + 1][1] if lost else 0.0, tuple(problems))
