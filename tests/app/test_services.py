"""The worker threads, waiting with Cancel, messages, words for days."""

import os
import threading
import time
from pathlib import Path

import pytest
from PySide6.QtCore import QObject
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from glasscap.app.services import render_service
from glasscap.app.services.memory import give_back_freed, held
from glasscap.app.services.render_service import RenderService, seconds_to_wait
from glasscap.app.session import Session
from glasscap.app.widgets.days import day_of
from glasscap.app.widgets.toast import Toast
from glasscap.core.document.edits.items import rename
from glasscap.core.errors import ExportError
from glasscap.core.formats import drawing_process
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.work import own_process
from glasscap.files.jobs import new_store
from glasscap.files.recent import remember_job
from tests.core.document.strategies import JOB, STORE


class Ear(QObject):
    """Hears what a service says, on the interface thread."""

    def __init__(self, service: RenderService) -> None:
        super().__init__()
        self.answers: list[object] = []
        self.problems: list[str] = []
        service.answered.connect(lambda channel, answer: self.answers.append(answer))
        service.failed.connect(self.problems.append)


@pytest.fixture
def service(qapp: QApplication):
    made = RenderService(STORE)
    yield made
    made.stop()


def wait(is_ready) -> None:
    end = time.monotonic() + 60
    while not is_ready():
        QApplication.processEvents()
        time.sleep(0.002)
        assert time.monotonic() < end


def test_the_newest_request_wins(service: RenderService) -> None:
    ear, gate = Ear(service), threading.Event()
    service.ask("bench", lambda photos, cache: gate.wait(5) and "first")
    wait(lambda: not service._lanes["bench"]._waiting)
    for n in range(20):
        service.ask("bench", lambda photos, cache, n=n: n)
    gate.set()
    wait(lambda: len(ear.answers) == 2)
    assert ear.answers == ["first", 19]
    wait(lambda: service.is_idle)


def test_a_window_that_closes_does_not_wait_for_a_drawing(
    qapp: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(drawing_process, "_PROGRAM", "import time; time.sleep(600)")
    service = RenderService(STORE)
    service.ask("proof", lambda photos, cache: drawing_process.drawn_png(b"<svg/>", 400))
    wait(lambda: bool(own_process._running))
    begun = time.monotonic()
    service.stop()
    assert time.monotonic() - begun < 300
    assert not own_process._running


def test_what_is_watched_less_waits_for_calm_but_not_for_long() -> None:
    # Asked for the bench 10 ms ago: 50 ms more, if that is not too long.
    assert seconds_to_wait(7.0, 6.99, 6.995, 2.0) == pytest.approx(0.05)
    assert seconds_to_wait(7.0, 6.9, 6.995, 2.0) == 0
    # Asked for again and again: so long in all.
    assert seconds_to_wait(7.0, 6.99, 5.03, 2.0) == pytest.approx(0.03)
    assert seconds_to_wait(7.0, 6.99, 4.0, 2.0) == 0


def test_strips_and_proofs_follow_a_bench_that_is_never_calm(service: RenderService) -> None:
    ear = Ear(service)
    service.ask(("strip", "edge"), lambda photos, cache: "strip")
    service.ask("proof", lambda photos, cache: "proof")

    def is_followed() -> bool:
        service.ask("bench", lambda photos, cache: "frame")
        return {"strip", "proof"} <= set(ear.answers)

    service.ask("bench", lambda photos, cache: "frame")
    wait(is_followed)


def test_proofs_do_not_hold_up_the_bench(service: RenderService) -> None:
    ear, gate = Ear(service), threading.Event()
    service.ask("proof", lambda photos, cache: gate.wait(5) and "slow")
    service.ask("bench", lambda photos, cache: "frame")
    wait(lambda: ear.answers == ["frame"])
    gate.set()
    wait(lambda: ear.answers == ["frame", "slow"])


@pytest.mark.parametrize(
    ("error", "word"),
    [
        (ExportError("a.png", "no", "try"), "a.png: no; try"),
        (MemoryError(), "memory"),
        (ZeroDivisionError("x"), "drawn"),
    ],
    ids=["known", "memory", "unknown"],
)
def test_an_error_is_said_and_the_thread_lives_on(service: RenderService, error: Exception, word: str) -> None:
    ear = Ear(service)

    def fail(photos: object, cache: object) -> object:
        raise error

    service.ask("bench", fail)
    wait(lambda: bool(ear.problems))
    assert word in ear.problems[0]
    service.ask("bench", lambda photos, cache: "alive")
    wait(lambda: ear.answers == ["alive"])


@pytest.mark.parametrize("error", [MemoryError(), OSError("a driver failed")])
def test_a_decode_that_fails_in_any_way_is_said_and_over(service: RenderService, monkeypatch, error) -> None:
    def fail(*arguments: object) -> None:
        raise error

    monkeypatch.setattr(render_service, "decode_fully", fail)
    ear = Ear(service)
    service.decode(JOB.photos)
    wait(lambda: service.is_idle)
    wait(lambda: bool(ear.problems))
    monkeypatch.undo()
    service.decode(JOB.photos)
    wait(lambda: service.is_idle)
    assert all(STORE.is_decoded(p) for p in JOB.photos)


def test_an_answer_made_for_another_job_is_dropped_however_late(service: RenderService) -> None:
    ear, gates = Ear(service), [threading.Event(), threading.Event()]
    begun = threading.Event()
    service.ask("bench", lambda photos, cache: begun.set() or (gates[0].wait(60) and "of the old job"))
    assert begun.wait(60)
    service.use_store(PhotoStore(lambda data, name: None))
    gates[0].set()
    service.ask("bench", lambda photos, cache: "of the new job")
    wait(lambda: bool(ear.answers))
    # One that was already on its way when the other job came.
    service.ask("proof", lambda photos, cache: gates[1].set() or "of the new job, too late")
    assert gates[1].wait(60)
    wait_in_thread(lambda: service._lanes["proofs"].is_idle)
    service.use_store(STORE)
    service.ask("bench", lambda photos, cache: "of the third")
    wait(lambda: len(ear.answers) == 2)
    assert ear.answers == ["of the new job", "of the third"]


def wait_in_thread(is_ready) -> None:
    """Wait without letting signals through."""
    end = time.monotonic() + 60
    while not is_ready():
        time.sleep(0.002)
        assert time.monotonic() < end


def test_photos_are_decoded_once_in_the_background(service: RenderService) -> None:
    heard = []
    service.photo_decoded.connect(lambda: heard.append(1))
    service.decode(JOB.photos)
    service.decode(JOB.photos)
    wait(lambda: bool(heard) and service.is_idle)
    assert all(STORE.is_decoded(p) for p in JOB.photos)


def test_a_message_stays_or_goes_and_may_offer_more(qapp: QApplication) -> None:
    parent, done = QWidget(), []
    parent.resize(800, 600)
    parent.show()
    toast = Toast(parent)
    toast.say(
        "plate.jpg: it is not a picture; use JPEG\nsecond line",
        stays=True,
        more=("Try again", lambda: done.append(1)),
    )
    toast._more.click()
    assert done == [1]
    assert toast.geometry().right() < 800
    toast.say("word")
    assert toast._more is None
    toast._close.click()
    assert not toast.isVisible()
    parent.deleteLater()


@pytest.mark.parametrize(
    ("days", "words"), [(0, "today"), (1, "yesterday"), (3, "Sunday"), (40, "16 October 2026")]
)
def test_day_of(days: int, words: str) -> None:
    noon = time.mktime((2026, 11, 25, 12, 0, 0, 0, 0, -1))
    assert day_of(noon - days * 86_400, noon) == words


def test_recent_jobs_are_offered_and_open(hand, tmp_path: Path) -> None:
    from glasscap.files.jobs import save_job

    path = tmp_path / "autumn.glasscap"
    save_job(path, JOB, STORE)
    remember_job(path, time.time())
    start = hand.studio.shell.start
    start.show_recent()
    button = start._recent.itemAt(0).widget()
    assert button.text() == "autumn  ·  today"
    button.click()
    hand.settle()
    assert hand.session.job == JOB
    assert hand.session.path == path


def test_a_session_tells_only_of_what_changed(qapp: QApplication) -> None:
    session, told = Session(JOB, STORE), []
    session.job_changed.connect(lambda old, new: told.append((old, new)))
    first = JOB.sheets[0].items[0]
    assert session.apply("Nothing", lambda job: job)
    assert not told
    session.apply("Rename", lambda job: rename(job, first.id, "Plate"))
    assert told[-1] == (JOB, session.job)
    session.select([first.id])
    session.apply("Delete all", lambda job: JOB)
    session.undo()
    session.preview(JOB)
    session.drop_preview()
    assert session.job is not JOB
    assert session.redo_label == "Delete all"
    assert session.selected == (first.id,)


def test_kept_results_are_a_stated_share_and_cut_back_when_memory_is_short(tmp_path: Path) -> None:
    from glasscap.app.services.memory import cache_budget, is_memory_short, photo_budget, window_bound

    assert window_bound() <= 1536 << 20
    assert 32 << 20 <= cache_budget() < photo_budget()
    assert cache_budget() + photo_budget() < 0.7 * window_bound()
    meminfo = tmp_path / "meminfo"
    meminfo.write_text("MemTotal: 1000 kB\nMemAvailable: 90 kB\n")
    assert is_memory_short(meminfo)
    meminfo.write_text("MemTotal: 1000 kB\nMemAvailable: 900 kB\n")
    assert not is_memory_short(meminfo) and not is_memory_short(tmp_path / "none")
    kept = ValueCache(1000)
    for n in range(9):
        kept.put(n, n, 100)
    kept.cut_back(250)
    assert kept.nbytes == 200 and kept.peek(8) == 8 and kept.peek(0) is None


def test_freed_memory_is_given_back_at_rest_and_near_the_bound(
    qapp: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    given, much = [], [False]
    monkeypatch.setattr(render_service, "_WATCH_MS", 10)
    monkeypatch.setattr(render_service, "give_back_freed", lambda: given.append(True))
    monkeypatch.setattr(render_service, "is_much_held", lambda: much[0])
    service = RenderService(new_store())
    wait(lambda: service._watch.isActive())
    QTest.qWait(60)
    assert not given
    service.ask("bench", lambda photos, cache: None)
    wait(lambda: len(given) == 1)
    # Once for each rest.
    QTest.qWait(60)
    assert len(given) == 1
    # Near the bound also while there is work; at rest not again and again.
    much[0], gate = True, threading.Event()
    service.ask("bench", lambda photos, cache: gate.wait(60))
    wait(lambda: len(given) > 3)
    gate.set()
    wait(lambda: service.is_idle)
    QTest.qWait(60)
    count = len(given)
    QTest.qWait(60)
    assert len(given) == count
    service.stop()


def test_what_is_held_is_read_from_the_system(tmp_path: Path) -> None:
    statm = tmp_path / "statm"
    statm.write_text("900 300 100 1 0 2 0\n")
    assert held(statm) == 200 * os.sysconf("SC_PAGE_SIZE")
    assert held(tmp_path / "none") == 0
    assert held() > 1 << 20
    give_back_freed()


def test_stopping_does_not_wait_for_what_is_rendered() -> None:
    may_end, has_begun = threading.Event(), threading.Event()
    service = RenderService(new_store())

    def long(photos: object, cache: object) -> str:
        has_begun.set()
        may_end.wait(20)
        return "late"

    told: list[object] = []
    service.answered.connect(lambda channel, answer: told.append(answer))
    service.ask("proof", long)
    assert has_begun.wait(10)
    begun = time.monotonic()
    service.stop()
    assert time.monotonic() - begun < 1
    may_end.set()
    for _ in range(20):
        QApplication.processEvents()
        time.sleep(0.01)
    assert told == []
