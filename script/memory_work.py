"""A window at ordinary work for some minutes; prints its memory as JSON: `begun`, `most`, `rest`, `bound` (bytes).

Run as a program of its own: memory_work.py FOLDER ROUNDS. Photos of 24 MP are dropped, cut, finished, dragged and
looked at in all sizes; then nothing is done for ten seconds.
"""

from __future__ import annotations

import json
import os
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtTest import QTest

from bench_tools import photo_24mp
from glasscap.app.main import start_window
from glasscap.app.services.memory import held, window_bound
from glasscap.core.document.edits.items import update_item
from glasscap.core.document.model.finishes import Lights, Shadow, Stroke
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.query import items_of
from glasscap.core.formats.photo import read_photo

_REST_MS, _STEP_MS, _STEPS, _PHOTOS = 10_000, 16, 50, 6


class Watch(threading.Thread):
    """Notes the most that is held."""

    def __init__(self) -> None:
        super().__init__(daemon=True)
        self.most = 0

    def run(self) -> None:
        while True:
            self.most = max(self.most, held())
            time.sleep(0.05)


def wait(ms: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def photos_in(folder: Path) -> list[Path]:
    """Write photos of 24 MP that are not the same."""
    pixels = np.ascontiguousarray(read_photo(photo_24mp(), "sky").rgba[..., 2::-1])
    paths = []
    for number in range(_PHOTOS):
        path = folder / f"sky-{number}.jpg"
        cv2.imwrite(str(path), np.roll(pixels, 300 * number, axis=1), [cv2.IMWRITE_JPEG_QUALITY, 88])
        paths.append(path)
    return paths


def main() -> None:
    """Work and tell."""
    folder, rounds = Path(sys.argv[1]), int(sys.argv[2])
    paths = photos_in(folder)
    app, shell = start_window()
    shell.resize(1280, 800)
    while shell.resident is None:
        app.processEvents()
    studio = shell.resident
    studio.open_demo()
    wait(4000)
    watch, begun = Watch(), held()
    watch.start()
    session = studio.session

    def slide(edit: Callable[[int], object]) -> None:
        for step in range(_STEPS):
            edit(step)
            wait(_STEP_MS)

    for turn in range(rounds):
        studio.take_paths((paths[turn % _PHOTOS],))
        wait(2500)
        item = [i for _, i in items_of(session.job)][-1]
        session.select([item.id])

        def finish(step: int, item: Item = item) -> None:
            strokes, lights = (Stroke(width=4 + step / 2),), Lights(shadows=(Shadow(blur=20.0 + step),))
            made = replace(item, finishes=replace(item.finishes, strokes=strokes, lights=lights))
            session.preview(update_item(session.committed, item.id, lambda _: made))

        slide(finish)
        session.apply("Finish", lambda _, job=session.job: job)
        for action in ("zoom_in", "zoom_in", "zoom_in", "actual", "fit"):
            studio.actions_by_id[action].trigger()
            wait(400)
        if turn % 3 == 2:
            studio.actions_by_id["export"].trigger()
            wait(5000)
            QTest.keyClick(app.focusWidget() or shell, Qt.Key.Key_Escape)
            wait(500)
    most = watch.most
    wait(_REST_MS)
    print(json.dumps({"begun": begun, "most": most, "rest": held(), "bound": window_bound()}))
    sys.stdout.flush()
    os._exit(0)


if __name__ == "__main__":
    main()
