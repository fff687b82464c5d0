"""Commands that wait: no loop in a loop, one at a time, input held, late results dropped."""

import threading
import time
from collections.abc import Callable, Iterator

import pytest
from PySide6.QtCore import QObject, Qt
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QLineEdit,
    QMessageBox,
    QProgressBar,
    QProgressDialog,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from glasscap.app.services import errands
from glasscap.app.services.asking import Button, question
from glasscap.app.services.errands import Errand, errands_of, run_errand, waited
from glasscap.app.widgets.progress import ProgressStrip
from glasscap.core.errors import ExportError
from glasscap.core.formats import drawing_process
from glasscap.core.formats.artwork import draw_artwork
from glasscap.core.work import own_process
from glasscap.core.work.ticket import Ticket
from tests.app.conftest import finished


class Place(QWidget):
    """A window with a field and a command."""

    def __init__(self) -> None:
        super().__init__()
        self.field, self.said, self.done = QLineEdit(), [], []
        QVBoxLayout(self).addWidget(self.field)
        action = QAction("Count", self)
        action.setShortcut("Ctrl+K")
        action.triggered.connect(lambda: self.done.append("command"))
        self.addAction(action)

    def run(self, errand: Errand, owner: QObject | None = None):
        return run_errand(errand, self, self.said.append, owner)


@pytest.fixture
def place(qapp: QApplication) -> Iterator[Place]:
    made = Place()
    made.show()
    made.activateWindow()
    yield made
    made.close()
    made.deleteLater()


def until(is_ready: Callable[[], bool]) -> None:
    end = time.monotonic() + 60
    while not is_ready():
        QApplication.processEvents()
        time.sleep(0.002)
        assert time.monotonic() < end


def working(run: Callable[[Ticket], object], *, may_go_on: bool = False) -> Errand:
    return (yield from waited("Counting", run, may_go_on=may_go_on))


def test_an_errand_returns_what_its_work_returned(place: Place) -> None:
    assert finished(place.run(working(lambda ticket: sum(range(10))))) == 45
    assert place.said == []


def test_a_problem_is_said_in_one_line_and_the_next_errand_is_done(place: Place) -> None:
    def fail(ticket: Ticket) -> None:
        raise ExportError("jug.png", "the disk is full", "make room")

    failed, after = place.run(working(fail)), place.run(working(lambda ticket: 7))
    assert finished(after) == 7
    assert failed.is_done
    assert failed.result is None
    assert place.said == ["jug.png: the disk is full; make room"]


def test_after_cancel_an_errand_ends_without_a_word(place: Place) -> None:
    def long(ticket: Ticket) -> None:
        ticket.stop.set()
        ticket.report(0.5)

    assert finished(place.run(working(long))) is None
    assert place.said == []


def test_errands_of_a_window_come_one_after_the_other(place: Place) -> None:
    gate, order = threading.Event(), []

    def first(ticket: Ticket) -> None:
        gate.wait(60)
        order.append("first")

    place.run(working(first, may_go_on=True))
    second = place.run(working(lambda ticket: order.append("second")))
    QApplication.processEvents()
    assert order == []
    assert not errands_of(place).is_idle
    gate.set()
    finished(second)
    assert order == ["first", "second"]
    assert errands_of(place).is_idle


@pytest.mark.parametrize("may_go_on", [False, True])
def test_input_is_held_from_the_first_moment(place: Place, may_go_on: bool) -> None:
    gate = threading.Event()
    place.field.setFocus()
    running = place.run(working(lambda ticket: gate.wait(60), may_go_on=may_go_on))
    QTest.keyClicks(place.field, "abc")
    QTest.keyClick(place.field, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    assert place.field.text() == ("abc" if may_go_on else "")
    assert place.done == (["command"] if may_go_on else [])
    gate.set()
    finished(running)
    QTest.keyClicks(place.field, "d")
    assert place.field.text() == ("abcd" if may_go_on else "d")


def test_another_window_is_not_held(place: Place) -> None:
    other, gate = QLineEdit(), threading.Event()
    other.show()
    running = place.run(working(lambda ticket: gate.wait(60)))
    QTest.keyClicks(other, "abc")
    gate.set()
    finished(running)
    assert other.text() == "abc"
    other.deleteLater()


def test_an_errand_of_a_view_that_is_gone_is_left(place: Place) -> None:
    gate, owner, reached = threading.Event(), QWidget(), []

    def steps() -> Errand[None]:
        yield from waited("Counting", lambda ticket: gate.wait(60))
        reached.append("after")

    running = place.run(steps(), owner)
    owner.deleteLater()
    QApplication.sendPostedEvents(None, 52)
    gate.set()
    finished(running)
    assert reached == []


def test_a_question_waits_without_a_loop_of_its_own(place: Place) -> None:
    running = place.run(question(place, "Go on?", Button.Ok | Button.Cancel, Button.Ok))
    assert not running.is_done
    until(lambda: isinstance(QApplication.activeModalWidget(), QMessageBox))
    box = QApplication.activeModalWidget()
    assert isinstance(box, QMessageBox)
    box.button(Button.Ok).click()
    assert finished(running) == Button.Ok


def test_a_question_that_is_closed_is_called_off(place: Place) -> None:
    running = place.run(question(place, "Go on?", Button.Ok | Button.Cancel, Button.Ok))
    until(lambda: QApplication.activeModalWidget() is not None)
    QTest.keyClick(QApplication.activeModalWidget(), Qt.Key.Key_Escape)
    assert finished(running) == Button.Cancel


def test_long_work_says_in_words_where_it_is(place: Place, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)
    gates = [threading.Event(), threading.Event()]

    def long(ticket: Ticket) -> None:
        gates[0].wait(60)
        ticket.tell("2 of 3: jug.png")
        gates[1].wait(60)

    def words() -> list[str]:
        return [d.labelText() for d in place.findChildren(QProgressDialog) if d.isVisible()]

    running = place.run(working(long))
    until(lambda: words() == ["Counting"])
    # A figure on the low bar would be cut off.
    assert not any(bar.isTextVisible() for bar in place.findChildren(QProgressBar))
    gates[0].set()
    until(lambda: words() == ["Counting\n2 of 3: jug.png"])
    gates[1].set()
    finished(running)
    assert words() == []


def test_progress_of_work_one_may_go_on_from_takes_neither_keys_nor_clicks(
    place: Place, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)
    gate = threading.Event()
    place.field.setFocus()
    running = place.run(working(lambda ticket: gate.wait(60), may_go_on=True))
    until(lambda: any(s.isVisible() for s in place.findChildren(ProgressStrip)))
    assert QApplication.activeModalWidget() is None
    assert QApplication.focusWidget() is place.field
    QTest.keyClicks(place.field, "abc")
    assert place.field.text() == "abc"
    gate.set()
    finished(running)
    assert not any(s.isVisible() for s in place.findChildren(ProgressStrip))


def test_cancel_ends_a_process_the_work_waits_for(place: Place, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    drawing = b'<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><rect width="4" height="4"/></svg>'
    running = place.run(working(lambda ticket: draw_artwork(drawing, "half.svg")))
    until(lambda: bool(own_process._running) and bool(place.findChildren(QProgressDialog)))
    place.findChildren(QProgressDialog)[0].canceled.emit()
    assert finished(running) is None
    assert place.said == []


def test_cancel_in_the_strip_stops_work(place: Place, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)

    def long(ticket: Ticket) -> None:
        while True:
            ticket.report(0.1)
            time.sleep(0.002)

    running = place.run(working(long, may_go_on=True))
    until(lambda: any(s.isVisible() for s in place.findChildren(ProgressStrip)))
    place.findChildren(ProgressStrip)[0].findChild(QPushButton).click()
    assert finished(running) is None
    assert place.said == []


def test_cancel_stops_long_work(place: Place, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(errands, "_SHOWN_AFTER_MS", 10)

    def long(ticket: Ticket) -> None:
        while True:
            ticket.report(0.1)
            time.sleep(0.002)

    running = place.run(working(long))
    until(lambda: any(d.isVisible() for d in place.findChildren(QProgressDialog)))
    place.findChildren(QProgressDialog)[0].canceled.emit()
    assert finished(running) is None
    assert place.said == []
