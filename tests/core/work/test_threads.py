"""Threads, pools and processes are started in one room, under names that say who owns them."""

import ast
import threading
from pathlib import Path

import pytest

import glasscap
from glasscap.core.work import threads
from glasscap.core.work.threads import OWNERS, daemon, workers, workers_for

SOURCE = Path(glasscap.__file__).parent
STARTERS = {
    "Thread", "ThreadPoolExecutor", "ProcessPoolExecutor", "Process", "QThread", "QThreadPool", "QProcess", "Popen",
    "run", "check_output", "check_call", "fork", "spawnv", "system",
}  # fmt: skip
MODULES = {"threading", "subprocess", "multiprocessing", "os", "concurrent.futures"}


def started_in(path: Path) -> list[str]:
    """Return the starts of threads and processes a file holds, by line."""
    tree = ast.parse(path.read_text())
    imported = {
        alias.asname or alias.name
        for node in ast.walk(tree)
        if isinstance(node, ast.ImportFrom)
        and ((node.module or "") in MODULES or "PySide6" in (node.module or ""))
        for alias in node.names
    }
    found = []
    for node in ast.walk(tree):
        if not isinstance(node, ast.Call):
            continue
        called = node.func
        if isinstance(called, ast.Name) and called.id in STARTERS & imported:
            found.append(f"{path.relative_to(SOURCE)}:{node.lineno} {called.id}")
        if isinstance(called, ast.Attribute) and called.attr in STARTERS and ast.unparse(called.value) in MODULES:
            found.append(f"{path.relative_to(SOURCE)}:{node.lineno} {called.attr}")
    return found


def test_all_are_started_in_one_room() -> None:
    outside = [
        start
        for path in SOURCE.rglob("*.py")
        if path.parent != SOURCE / "core" / "work"
        for start in started_in(path)
    ]
    assert outside == []
    assert started_in(SOURCE / "core" / "work" / "threads.py")
    assert started_in(SOURCE / "core" / "work" / "own_process.py")


def test_every_owner_is_told_and_used() -> None:
    text = "".join(p.read_text() for p in SOURCE.rglob("*.py") if p.name != "threads.py")
    assert all(f'("{owner}"' in text for owner in OWNERS)


def test_pools_carry_their_owner_and_begin_as_asked() -> None:
    begun = []
    with workers("wire", 2, begin=lambda: begun.append(threading.current_thread().name)) as pool:
        name = pool.submit(lambda: threading.current_thread().name).result()
    assert name.startswith("wire")
    assert begun == [name]


def test_a_pool_has_a_thread_for_each_work_up_to_the_processors(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(threads, "cpu_count", lambda: 4)
    for works, expected in ((0, 1), (1, 1), (3, 3), (1000, 4)):
        with workers_for("intake", works) as pool:
            assert pool._max_workers == expected


def test_a_daemon_never_keeps_the_program() -> None:
    thread = daemon("fonts", lambda: None)
    assert thread.daemon
    assert thread.name == "fonts"
    assert daemon("lane", lambda: None, "bench").name == "bench"
