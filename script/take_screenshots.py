"""Drive the real window off screen with the demo job and write a PNG of each main view."""

import math
import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()

from PIL import Image
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QScrollArea

import glasscap.demo
from glasscap.app.export.compare_stage import Glass
from glasscap.app.main import make_application
from glasscap.app.photos.intake import Incoming
from glasscap.app.shell import Shell
from glasscap.app.studio import Studio
from glasscap.app.theme import style
from glasscap.core.document.model.query import items_of
from glasscap.demo.job import DEMO_TITLE, demo_job
from glasscap.editor.sketches.draw_points import DRAW_POINTS
from glasscap.editor.sketches.follow_edge import FOLLOW_EDGE
from glasscap.files.kept_work import discard, kept_works
from glasscap.files.work_keeper import WorkKeeper

_SECONDS = 90
_HELP_PICTURES, _HELP_SIZE = ("bench", "library", "finishing", "series", "group", "mockup", "export"), (600, 375)


def settle(window: Studio, is_ready: Callable[[], bool] | None = None) -> None:
    """Wait until the screen shows the job as it is."""
    end = time.monotonic() + _SECONDS
    ready = is_ready or (lambda: window.is_settled and not window.workbench.proof.weight.is_waiting)
    calm = 0
    while calm < 12:
        QApplication.processEvents()
        time.sleep(0.01)
        calm = calm + 1 if ready() else 0
        if time.monotonic() > end:
            raise SystemExit("the window never settled")


def drag(window: Studio, start: tuple[float, float], end: tuple[float, float], *, release: bool = True) -> None:
    """Drag on the bench between two sheet points."""
    bench = window.workbench.bench
    points = [QPoint(*(round(v) for v in bench.to_view.apply(*p))) for p in (start, end)]
    QTest.mousePress(bench, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, points[0])
    for share in (0.3, 0.6, 0.8, 1.0):
        at = points[0] + (points[1] - points[0]) * share
        buttons = Qt.MouseButton.LeftButton
        where = QPointF(at)
        move = QMouseEvent(
            QMouseEvent.Type.MouseMove,
            where,
            bench.mapToGlobal(where),
            buttons,
            buttons,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(bench, move)
    if release:
        QTest.mouseRelease(bench, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, points[1])


def select(window: Studio, name: str) -> None:
    """Select a cutout by name."""
    window.session.select([next(i.id for _, i in items_of(window.session.job) if i.name == name)])


def hover(window: Studio, x: float, y: float, *, is_down: bool = False) -> None:
    """Move the pointer to a sheet point."""
    bench = window.workbench.bench
    at = QPointF(*(round(v) for v in bench.to_view.apply(x, y)))
    none, left = Qt.MouseButton.NoButton, Qt.MouseButton.LeftButton
    far, keys = bench.mapToGlobal(at), Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(
        bench, QMouseEvent(QMouseEvent.Type.MouseMove, at, far, none, left if is_down else none, keys)
    )


def click(window: Studio, x: float, y: float) -> None:
    """Click a sheet point."""
    bench = window.workbench.bench
    hover(window, x, y)
    QTest.mouseClick(bench, Qt.MouseButton.LeftButton, pos=QPoint(*(round(v) for v in bench.to_view.apply(x, y))))


def press_and_drag(window: Studio, start: tuple[float, float], end: tuple[float, float]) -> None:
    """Press at a sheet point and let go at another, with moves that a sketch sees."""
    bench = window.workbench.bench
    one, other = (QPoint(*(round(v) for v in bench.to_view.apply(*p))) for p in (start, end))
    hover(window, *start)
    QTest.mousePress(bench, Qt.MouseButton.LeftButton, pos=one)
    hover(window, *end, is_down=True)
    QTest.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=other)


def follow_plate(window: Studio) -> None:
    """Follow the plate's rim halfway round."""
    bench, place = window.workbench.bench, window.session.item.shape_placement
    window.session.set_sketch(FOLLOW_EDGE)
    spots = [
        (
            place.x + place.width / 2 * math.cos(math.radians(a)),
            place.y + place.width / 2 * math.sin(math.radians(a)),
        )
        for a in (-90, -25, 40, 110, 165)
    ]
    for spot in spots[:-1]:
        click(window, *spot)
        settle(window, lambda: not bench.driver.sketching.shown.is_waiting)
    hover(window, *spots[-1])
    settle(window, lambda: not bench.driver.sketching.shown.is_waiting)


class Shots:
    """Writes one view after another."""

    def __init__(self, window: Studio, folder: Path, only: list[str]) -> None:
        self.window, self.folder, self.only = window, folder, only

    def take(self, name: str) -> None:
        """Write one picture."""
        if self.only and name not in self.only:
            return
        self.window.shell.grab().save(str(self.folder / f"{name}.png"))
        print(name)


def leave_work() -> None:
    """Leave the demo job as a program does that ends without saving."""
    keeper = WorkKeeper()
    keeper.keep(*demo_job(), None, DEMO_TITLE)
    keeper.leave()


def views(shots: Shots) -> None:
    """Go through the views."""
    window = shots.window
    session, bench = window.session, window.workbench.bench
    # Off screen the pointer is nowhere; the pictures show what is seen with it over the bench.
    bench.underMouse = lambda: True
    settle(window, lambda: True)
    shots.take("start")
    leave_work()
    window.shell.start.show_recent()
    settle(window, lambda: True)
    shots.take("recovery")
    for work in kept_works():
        discard(work)
    window.open_demo()
    session.set_grip("photo")
    settle(window)
    shots.take("bench")
    select(window, "Blue plate")
    session.set_library(True)
    settle(window)
    window.workbench.library.grid.chosen.emit("scallop")
    settle(window)
    shots.take("library")
    session.set_library(False)
    session.undo()
    select(window, "Blue plate")
    follow_plate(window)
    shots.take("follow-edge")
    session.set_sketch(None)
    session.show_sheet("s1")
    select(window, "FIVE KILNS")
    session.set_grip("together")
    window.workbench.steps.open_only("arrange")
    settle(window)
    drag(window, (769, 911), (803, 917), release=False)
    settle(window)
    shots.take("sheet")
    bench.driver.cancel()
    window.workbench.steps.open_only("shape")
    select(window, "Shelf")
    session.set_grip("shape")
    settle(window)
    session.enter_group(session.selected[0])
    select(window, "Slip bowl")
    settle(window)
    shots.take("group")
    session.show_sheet("s1")
    select(window, "Blue plate")
    window.workbench.steps.versions.compare.click()
    settle(window)
    shots.take("versions")
    window.workbench.compare.hide()
    window.actions_by_id["series"].trigger()
    photos = sorted((Path(glasscap.demo.__file__).parent / "data").iterdir())
    window.take_for_series(Incoming(tuple(photos)))
    settle(window)
    settle(window)
    shots.take("series")
    window.workbench.series.hide()
    window.actions_by_id["mockups"].trigger()
    settle(window, lambda: window.service.is_idle)
    shots.take("mockup")
    window.actions_by_id["mockups"].trigger()
    session.set_grip("photo")
    select(window, "Jug")
    session.set_sketch(DRAW_POINTS)
    for x, y in ((960, 560), (1130, 560)):
        click(window, x, y)
    press_and_drag(window, (1150, 760), (1130, 860))
    hover(window, 980, 960)
    settle(window)
    shots.take("drawing")
    session.set_sketch(None)
    session.show_sheet("s2")
    select(window, "Maker's mark")
    session.set_backdrop("#ffffff")
    settle(window)
    session.set_backdrop(None)
    steps = window.workbench.steps
    session.show_sheet("s1")
    select(window, "Blue plate")
    steps.open_only("strokes")
    settle(window)
    shots.take("finishing")
    steps.open_only("light")
    settle(window, lambda: window.service.is_idle)
    shots.take("light")
    select(window, "Jug")
    steps.open_only("edge")
    settle(window)
    shots.take("edge")
    select(window, "Kiln door")
    steps.open_only("photo")
    steps.cards["shape"].set_open(True)
    select(window, "Blue plate")
    window.actions_by_id["export"].trigger()
    view = window.workbench.export
    view.set_folder(Path("Pictures/cards"))
    view.list.rows.setCurrentRow(0)

    def is_compared() -> bool:
        return window.service.is_idle and not view.stage.is_waiting

    settle(window, is_compared)
    view.format.formats["transparency"].buttons["indexed"].click()
    view.format.colours.stepped.emit(24.0)
    view.format.dither.stepped.emit(0.0)
    settle(window, is_compared)
    # One glass lies on the rim enlarged, another px for px.
    view.bar.glasses.buttons["8"].click()
    view.stage.put_down()
    view.bar.glasses.buttons["1"].click()
    view.stage.set_down = (*view.stage.set_down, Glass(0.26, 0.8, 1))
    shots.take("export")
    view.stage.set_down = ()
    view.format.formats["nothing"].buttons["jpeg"].click()
    settle(window, is_compared)
    view.bar.glasses.buttons["8"].click()
    view.stage.put_down()
    view.bar.glasses.buttons["1"].click()
    view.bar.difference.click()
    settle(window, is_compared)
    shots.take("compare")
    for _ in range(4):
        window.session.undo()
    window.actions_by_id["export"].trigger()
    select(window, "Kiln door")
    window.session.set_backdrop(window.session.job.proofs.backgrounds[0])
    column = window.workbench.proof.findChild(QScrollArea)
    settle(window)
    column.verticalScrollBar().setValue(column.verticalScrollBar().maximum())
    settle(window)
    shots.take("proofs")
    column.verticalScrollBar().setValue(0)
    window.session.set_backdrop(None)
    select(window, "Blue plate")
    broken = Path(tempfile.gettempdir()) / "plate-scan.jpg"
    broken.write_bytes(b"\xff\xd8\xff\xe0 cut short")
    window.take(Incoming((broken,)))
    settle(window)
    shots.take("error")
    window.toast.hide()


def dark_views(shots: Shots) -> None:
    """The start view and the bench in dark."""
    style.is_dark = lambda: True
    window = shots.window
    window._on_scheme_changed()
    settle(window, lambda: True)
    window.open_demo()
    select(window, "Blue plate")
    window.session.set_grip("shape")
    settle(window)
    shots.take("bench-dark")


def picture_help(folder: Path) -> None:
    """Put the views the help shows beside its pages, half as large."""
    target = Path(__file__).parent.parent / "src" / "glasscap" / "app" / "help" / "pages" / "pictures"
    target.mkdir(exist_ok=True)
    for name in _HELP_PICTURES:
        with Image.open(folder / f"{name}.png") as shot:
            small = shot.convert("RGB").resize(_HELP_SIZE, Image.Resampling.LANCZOS)
        small.save(target / f"{name}.webp", quality=82, method=6)


def main() -> None:
    folder = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parent.parent / "docs" / "screenshots"
    folder.mkdir(parents=True, exist_ok=True)
    make_application()
    shell = Shell()
    shell.show()
    window = Studio(shell)
    shots = Shots(window, folder, sys.argv[2:])
    views(shots)
    window.session.saved_job = window.session.committed
    dark_views(shots)
    window.session.saved_job = window.session.committed
    shell.close()
    if not sys.argv[1:]:
        picture_help(folder)


if __name__ == "__main__":
    main()
