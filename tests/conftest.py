"""The toolkit off screen, the user's state in a folder of the test's own, and nothing left behind."""

import os
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import pytest
from hypothesis import settings

# The same examples every time, and no judging by the clock: speed is the bench's matter.
settings.register_profile("steady", deadline=None, derandomize=True, max_examples=40)
settings.register_profile("quick", settings.get_profile("steady"), max_examples=15)
settings.load_profile(os.environ.get("GLASSCAP_TESTS", "steady"))


@pytest.fixture(autouse=True)
def own_state(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> Path:
    folder = tmp_path_factory.mktemp("state")
    monkeypatch.setenv("XDG_STATE_HOME", str(folder))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(folder / "config"))
    # What goes when the program ends: a test does not end it.
    monkeypatch.setattr(tempfile, "tempdir", str(folder))
    return folder


@pytest.fixture(autouse=True)
def no_thread_is_left(request: pytest.FixtureRequest) -> Iterator[None]:
    before = set(threading.enumerate())
    yield
    # A window that several tests share is looked at when it is closed.
    if request.node.get_closest_marker("shared_window") is None:
        check_no_thread_is_left(before)


def check_no_thread_is_left(before: set[threading.Thread]) -> None:
    """Fail if threads are there that were not before; those told to stop may take a moment."""
    fresh = [t for t in threading.enumerate() if t not in before]
    for thread in fresh:
        # Work that was told to stop ends at its next check, and may come last on a busy machine.
        thread.join(30.0)
    left = [t.name for t in fresh if t.is_alive()]
    assert not left, f"threads left behind: {left}"
