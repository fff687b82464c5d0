"""Work begun aside: who does it, and that none goes on when it is left, whatever happens meanwhile."""

import threading

import pytest

from glasscap.core.aside import Aside, at_once, finish_all

LARGE = 1 << 30


class Meanwhile:
    """Work that another thread has come to, and which ends when it is told to."""

    def __init__(self) -> None:
        self.is_going, self.may_end = threading.Event(), threading.Event()
        self.done_by: list[str] = []

    def __call__(self) -> None:
        self.is_going.set()
        self.may_end.wait(5)
        self.done_by.append(threading.current_thread().name)


def me() -> str:
    return threading.current_thread().name


def test_large_work_is_done_by_another_thread_and_has_ended_on_leaving() -> None:
    work = Meanwhile()
    with Aside() as aside:
        aside.begin(work, LARGE)
        assert work.is_going.wait(5)
        assert not work.done_by
        work.may_end.set()
    assert len(work.done_by) == 1
    assert work.done_by != [me()]


def test_its_end_is_waited_for() -> None:
    work = Meanwhile()
    with Aside() as aside:
        finish = aside.begin(work, LARGE)
        assert work.is_going.wait(5)
        threading.Timer(0.05, work.may_end.set).start()
        finish()
        assert len(work.done_by) == 1
        finish()
    assert len(work.done_by) == 1


def test_who_asks_for_the_end_of_what_nobody_has_come_to_does_it_once() -> None:
    first, found = Meanwhile(), []
    with Aside() as aside:
        aside.begin(first, LARGE)
        assert first.is_going.wait(5)
        finish = aside.begin(lambda: found.append(me()), LARGE)
        finish()
        finish()
        assert found == [me()]
        first.may_end.set()
    assert found == [me()]


def test_work_is_ended_from_both_sides() -> None:
    first, found = Meanwhile(), []
    with Aside() as aside:
        begun = [aside.begin(first, LARGE)]
        assert first.is_going.wait(5)
        begun += [aside.begin(lambda number=number: found.append(number), LARGE) for number in range(20)]
        threading.Timer(0.05, first.may_end.set).start()
        finish_all(begun)
    assert found == list(range(20))[::-1]


def test_small_work_is_done_at_once_by_who_asks() -> None:
    found: list[str] = []
    with Aside() as aside:
        finish = aside.begin(lambda: found.append(me()), 100)
        assert found == [me()]
        finish()
    at_once(lambda: found.append("at once"), LARGE)()
    assert found == [me(), "at once"]


def test_what_fails_aside_is_told() -> None:
    def fails() -> None:
        raise MemoryError

    with pytest.raises(MemoryError), Aside() as aside:
        aside.begin(fails, LARGE)
    # And the thread goes on to serve others.
    work = Meanwhile()
    with Aside() as aside:
        aside.begin(work, LARGE)
        assert work.is_going.wait(5)
        work.may_end.set()
    assert work.done_by != [me()]


def test_after_an_error_nothing_goes_on_and_nothing_more_is_begun() -> None:
    first, found = Meanwhile(), []

    def fails_meanwhile() -> None:
        with Aside() as aside:
            aside.begin(first, LARGE)
            assert first.is_going.wait(5)
            aside.begin(lambda: found.append(me()), LARGE)
            threading.Timer(0.05, first.may_end.set).start()
            raise ValueError("stop")

    with pytest.raises(ValueError, match="stop"):
        fails_meanwhile()
    assert len(first.done_by) == 1
    with Aside() as aside:
        aside.begin(lambda: found.append("later"), LARGE)
    assert found == ["later"]


def test_what_is_begun_aside_by_work_aside_is_done_at_once() -> None:
    found: list[str] = []
    has_ended = threading.Event()

    def outer() -> None:
        with Aside() as inner:
            inner.begin(lambda: found.append("inner"), LARGE)
            found.append("outer")
        has_ended.set()

    with Aside() as aside:
        aside.begin(outer, LARGE)
        assert has_ended.wait(5)
    assert found == ["inner", "outer"]
