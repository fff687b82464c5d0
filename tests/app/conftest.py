"""A window with a job, driven as its user would."""

import threading
import time
import warnings
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TypeVar

import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QMouseEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.main import make_application
from glasscap.app.services import asking
from glasscap.app.services.errands import Running, errands_of
from glasscap.app.shell import Shell
from glasscap.app.studio import Studio
from glasscap.app.theme.icons import app_icon, icon
from glasscap.core.document.model.finishes import Finishes
from glasscap.core.document.model.job import Item
from glasscap.core.document.model.query import items_of
from tests.app.answers import QUESTIONS, answer
from tests.conftest import check_no_thread_is_left
from tests.samples import png_photo

T = TypeVar("T")
SECONDS = 60


@pytest.fixture(scope="session")
def qapp() -> Iterator[QApplication]:
    app = make_application()
    yield app
    QApplication.clipboard().clear()
    for cached in (icon, app_icon):
        cached.cache_clear()
    app.shutdown()


def turn(target: QWidget, notches: int = -1) -> bool:
    """Turn the wheel over a widget; whether the widget used it."""
    at = QPointF(target.rect().center())
    buttons, keys = Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier
    by = QPoint(0, 120 * notches)
    event = QWheelEvent(
        at, target.mapToGlobal(at), QPoint(), by, buttons, keys, Qt.ScrollPhase.NoScrollPhase, False
    )
    QApplication.sendEvent(target, event)
    return event.isAccepted()


def drag_on(widget: QWidget, start: QPointF, end: QPointF) -> None:
    """Press, move in steps, release on any widget."""
    button, keys = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QTest.mousePress(widget, button, keys, start.toPoint())
    for share in (0.3, 0.7, 1.0):
        where = start + (end - start) * share
        event = QMouseEvent(QMouseEvent.Type.MouseMove, where, widget.mapToGlobal(where), button, button, keys)
        QApplication.sendEvent(widget, event)
    QTest.mouseRelease(widget, button, keys, end.toPoint())


COPY = Qt.DropAction.CopyAction


def drop(target: QWidget, mime: QMimeData, at: QPoint, offered: Qt.DropAction = COPY) -> Qt.DropAction:
    """A drop as the toolkit delivers it; what the source is told was done."""
    buttons, action = Qt.MouseButton.LeftButton, offered
    with warnings.catch_warnings():
        # The only constructor the bindings offer is marked as deprecated.
        warnings.simplefilter("ignore", DeprecationWarning)
        enter = QDragEnterEvent(at, action, mime, buttons, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(target, enter)
    assert enter.isAccepted()
    assert enter.dropAction() == COPY
    dropped = QDropEvent(QPointF(at), action, mime, buttons, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(target, dropped)
    return dropped.dropAction()


def files(*paths: Path) -> QMimeData:
    """What a file manager drags."""
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    return mime


def finished(running: Running[T]) -> T | None:
    """Wait for an errand; return its result."""
    end = time.monotonic() + SECONDS
    while not running.is_done:
        QApplication.processEvents()
        time.sleep(0.001)
        assert time.monotonic() < end, "the errand never ended"
    return running.result


class Hand:
    """What a user does, and waiting as a user waits."""

    def __init__(self, studio: Studio) -> None:
        self.studio = studio
        self.session, self.bench = studio.session, studio.workbench.bench

    def settle(self, is_ready: Callable[[], bool] | None = None) -> None:
        end = time.monotonic() + SECONDS
        ready = is_ready or (lambda: self.studio.is_settled)
        calm = 0
        while calm < 4:
            QApplication.processEvents()
            time.sleep(0.003)
            calm = calm + 1 if ready() else 0
            assert time.monotonic() < end, "the window never settled"

    def drop(self, *paths: Path, on: str | None = None) -> None:
        self.studio.take_paths(paths) if on is None else self.studio.take(incoming(*paths), on)
        self.settle()

    def item(self, index: int = -1) -> Item:
        return [i for _, i in items_of(self.session.job)][index]

    def at(self, x: float, y: float) -> QPoint:
        vx, vy = self.bench.to_view.apply(x, y)
        return QPoint(round(vx), round(vy))

    def drag(
        self,
        start: tuple[float, float],
        end: tuple[float, float],
        *,
        keys: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
        is_released: bool = True,
    ) -> None:
        left, first, last = Qt.MouseButton.LeftButton, self.at(*start), self.at(*end)
        QTest.mousePress(self.bench, left, keys, first)
        for share in (0.25, 0.6, 1.0):
            self.move(QPointF(first) + QPointF(last - first) * share, keys)
        if is_released:
            QTest.mouseRelease(self.bench, left, keys, last)

    def move(
        self, where: QPointF, keys: Qt.KeyboardModifier, button: Qt.MouseButton = Qt.MouseButton.LeftButton
    ) -> None:
        far = self.bench.mapToGlobal(where)
        event = QMouseEvent(QMouseEvent.Type.MouseMove, where, far, button, button, keys)
        QApplication.sendEvent(self.bench, event)

    def click(self, widget, at: QPoint | None = None) -> None:
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at or QPoint())

    def show(self, control) -> None:
        """Open the step a control stands in."""
        steps = self.studio.workbench.steps
        for key, card in steps.cards.items():
            if card.isAncestorOf(control) and not card.is_open:
                steps.open_only(key)

    def type(self, field, text: str, key: Qt.Key = Qt.Key.Key_Return) -> None:
        self.show(field)
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, key)

    def key(self, key: Qt.Key, keys: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        QTest.keyClick(self.bench, key, keys)

    def do(self, action: str) -> None:
        self.studio.actions_by_id[action].trigger()
        self.wait_for_errands()

    def wait_for_errands(self) -> None:
        """Wait for commands that go on in a thread."""
        self.settle(lambda: errands_of(self.studio.shell).is_idle)


def incoming(*paths: Path):
    from glasscap.app.photos.intake import Incoming

    return Incoming(paths)


@pytest.fixture(autouse=True)
def no_unexpected_question(monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse(*arguments: object, **more: object) -> None:
        raise AssertionError(f"nobody is there to answer: {arguments[1:]}")

    for name in QUESTIONS:
        monkeypatch.setattr(asking, name, refuse)


@pytest.fixture(scope="module")
def shared_studio(
    request: pytest.FixtureRequest, qapp: QApplication, tmp_path_factory: pytest.TempPathFactory
) -> Iterator[Studio | None]:
    """The one window of a module that is marked `shared_window`, else none."""
    if not any(mark.name == "shared_window" for mark in request.node.iter_markers()):
        yield None
        return
    before = set(threading.enumerate())
    with pytest.MonkeyPatch.context() as patch:
        folder = tmp_path_factory.mktemp("state")
        patch.setenv("XDG_STATE_HOME", str(folder))
        patch.setenv("XDG_CONFIG_HOME", str(folder / "config"))
        made = _opened_window()
        yield made
        _close_window(made)
    check_no_thread_is_left(before)


@pytest.fixture
def studio(shared_studio: Studio | None, qapp: QApplication, qtbot) -> Iterator[Studio]:
    """A window: of the test's own, or the module's, as new."""
    made = shared_studio or _opened_window()
    yield made
    if shared_studio is None:
        _close_window(made)
    else:
        _begin_anew(made)


def _opened_window() -> Studio:
    shell = Shell()
    shell.show()
    return Studio(shell)


def _close_window(made: Studio) -> None:
    Hand(made).wait_for_errands()
    made.session.mark_saved(Path("kept.glasscap"), made.session.committed)
    assert made.shell.close()
    made.shell.deleteLater()
    QApplication.sendPostedEvents(None, 52)
    QApplication.processEvents()
    assert not QApplication.topLevelWidgets()


def _begin_anew(made: Studio) -> None:
    """Bring a window back to where it began."""
    hand, session = Hand(made), made.session
    hand.wait_for_errands()
    made.workbench.bench.driver.cancel()
    for window in QApplication.topLevelWidgets():
        if window is not made.shell and window.isVisible():
            window.close()
    QApplication.sendPostedEvents(None, 52)
    session.mark_saved(Path("kept.glasscap"), session.committed)
    hand.do("new")
    QApplication.clipboard().clear()
    session.given.clear()
    session.last_drawn, session.grip, session.is_wire, session.is_snapping = "circle", "together", False, True
    session.is_finishing, session.backdrop = False, None
    session.view_changed.emit()
    made.toast.hide()
    made.shell.resize(1280, 800)
    made.shell.activateWindow()
    made.workbench.steps.open_only("shape")
    hand.settle()


@pytest.fixture
def hand(studio: Studio) -> Hand:
    return Hand(studio)


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    path = tmp_path / "blue-plate.png"
    path.write_bytes(png_photo(400, 300))
    return path


@pytest.fixture
def placed(hand: Hand, photo: Path) -> Hand:
    """A hand over a bench with one photo under its circle."""
    hand.drop(photo)
    return hand


@pytest.fixture
def steps(placed: Hand):
    return placed.studio.workbench.steps


@pytest.fixture
def picture(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A picture file that is chosen when the window asks for one."""
    path = tmp_path / "tile.png"
    path.write_bytes(png_photo(64, 64, seed=9))
    answer(monkeypatch, "file_to_open", path)
    return path


def finishes(hand: Hand) -> Finishes:
    return hand.item().finishes


def with_stroke(hand: Hand, steps) -> None:
    steps.open_only("strokes")
    steps.strokes.add.click()
    hand.settle()
