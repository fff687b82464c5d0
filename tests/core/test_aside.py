"""Work begun aside has ended when it is left, whatever happens meanwhile."""

import threading

import pytest

from glasscap.core.aside import Aside, at_once

LARGE = 1 << 30


def test_large_work_is_done_by_another_thread_and_has_ended_on_leaving() -> None:
    found: list[str] = []
    begin_at = threading.Event()

    def work() -> None:
        begin_at.wait(5)
        found.append(threading.current_thread().name)

    with Aside() as aside:
        going = aside.begin(work, LARGE)
        assert not going.done()
        begin_at.set()
    assert going.done()
    assert found and found[0] != threading.current_thread().name


def test_work_is_done_in_the_order_in_which_it_was_begun() -> None:
    found: list[int] = []
    with Aside() as aside:
        for number in range(50):
            aside.begin(lambda number=number: found.append(number), LARGE)
    assert found == list(range(50))


def test_small_work_is_done_at_once_by_who_asks() -> None:
    found: list[str] = []
    with Aside() as aside:
        assert aside.begin(lambda: found.append(threading.current_thread().name), 100).done()
        assert found == [threading.current_thread().name]
    assert at_once(lambda: found.clear(), LARGE).done()
    assert not found


def test_what_fails_aside_is_told() -> None:
    def fails() -> None:
        raise MemoryError

    with pytest.raises(MemoryError), Aside() as aside:
        aside.begin(fails, LARGE)
    # And the thread goes on to serve others.
    with Aside() as aside:
        assert aside.begin(lambda: None, LARGE).result(5) is None


def test_leaving_by_an_error_waits_too() -> None:
    ended = threading.Event()

    def fails_meanwhile() -> None:
        with Aside() as aside:
            aside.begin(ended.set, LARGE)
            raise ValueError("stop")

    with pytest.raises(ValueError, match="stop"):
        fails_meanwhile()
    assert ended.is_set()


def test_what_is_begun_aside_by_work_aside_is_done_at_once() -> None:
    found: list[str] = []

    def outer() -> None:
        with Aside() as inner:
            inner.begin(lambda: found.append("inner"), LARGE)
            found.append("outer")

    with Aside() as aside:
        aside.begin(outer, LARGE).result(5)
    assert found == ["inner", "outer"]
