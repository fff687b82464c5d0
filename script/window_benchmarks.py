"""Figures of the window: how often its bench shows a new frame while a slider moves, against the frame alone."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from itertools import pairwise
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import QEventLoop, Qt, QTimer

from bench_tools import ROOT, Figure, timed
from glasscap.app.main import make_application
from glasscap.app.services.threads import take_short_turns
from glasscap.app.shell import Shell
from glasscap.app.studio import Studio
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Finishes, Stroke
from glasscap.core.document.model.query import items_of
from glasscap.core.photos.cache import ValueCache
from glasscap.editor.frames import ScreenPhotos, bench_frame

_STEP_MS, _STEPS, _SETTLE_MS = 16, 120, 3000


def window_figures() -> list[Figure]:
    """The demo's plate, its stroke made wider 60 times a second, the strokes' step open."""
    os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
    take_short_turns()
    app = make_application()
    shell = Shell()
    shell.resize(1280, 800)
    shell.show()
    studio = Studio(shell)
    studio.open_demo()
    _wait(_SETTLE_MS)
    session = studio.session
    plate = next(item for _, item in items_of(session.job) if item.name == "Blue plate")
    session.select([plate.id])
    studio.workbench.steps.open_only("strokes")
    _wait(_SETTLE_MS // 3)

    def widened(finishes: Finishes, step: int) -> Finishes:
        first, *others = finishes.strokes
        return replace(finishes, strokes=(replace(first, width=first.width + step / 8), *others))

    assert isinstance(plate.finishes.strokes[0], Stroke)
    gaps, requests = _dragged(
        studio,
        lambda step: session.preview(
            update_item(session.committed, plate.id, lambda i: replace(i, finishes=widened(plate.finishes, step)))
        ),
    )
    session.drop_preview()
    photos, cache = ScreenPhotos(session.store), ValueCache(1 << 27)
    alone = [timed(lambda request=request: bench_frame(request, photos, cache)) for request in requests]
    session.saved_job = session.committed
    shell.close()
    app.processEvents()
    seen, bare = statistics.median(gaps), statistics.median(alone[4:])
    return [
        Figure(
            "from frame to frame in the window while a slider moves (own)",
            "the same frames alone",
            seen / bare,
            2.5,
            seen,
            bare,
        )
    ]


def memory_figures() -> list[Figure]:
    """What the window holds at most in two minutes of work on photos of 24 MP, and ten seconds after."""
    with tempfile.TemporaryDirectory() as folder:
        state = {f"XDG_{kind}_HOME": folder for kind in ("STATE", "CONFIG")}
        call = [sys.executable, str(ROOT / "script" / "memory_work.py"), folder, "12"]
        done = subprocess.run(call, env={**os.environ, **state}, check=True, capture_output=True, text=True)
    found = json.loads(done.stdout)

    def figure(name: str, what: str, reach: float) -> Figure:
        ours, bound = found[what], found["bound"]
        reference = "an eighth of the machine's memory, 1.5 GiB at most"
        return Figure(name, reference, ours / bound, reach, ours / 1e6, bound / 1e6, "MB")

    return [
        figure("memory of the window at work", "most", 1.0),
        figure("memory of the window ten seconds after", "rest", 0.75),
    ]


def _dragged(studio: Studio, step: Callable[[int], object]) -> tuple[list[float], list[Any]]:
    """Return the ms between frames while steps are done 60 times a second, and what the frames were asked with."""
    times: list[float] = []
    requests: list[Any] = []
    loop, timer, count = QEventLoop(), QTimer(interval=_STEP_MS), [0]
    timer.setTimerType(Qt.TimerType.PreciseTimer)

    def on_answered(channel: object, answer: Any) -> None:
        if channel == "bench":
            times.append(time.perf_counter() * 1000)
            requests.append(answer.request)

    def on_tick() -> None:
        count[0] += 1
        step(count[0])
        if count[0] == _STEPS:
            timer.stop()
            loop.quit()

    studio.service.answered.connect(on_answered)
    timer.timeout.connect(on_tick)
    timer.start()
    loop.exec()
    studio.service.answered.disconnect(on_answered)
    return [b - a for a, b in pairwise(times)], requests


def _wait(ms: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()
