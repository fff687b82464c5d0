"""The program used as a hand uses it: X events, a window manager, controls found by their accessible names."""

import os
import random
import shutil
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

import glasscap
from tests.app.window_kills import window_kill

FOLDER = Path(__file__).parent / "hand"
SCENARIOS = sorted(p.stem for p in FOLDER.glob("*.py") if p.stem not in ("__init__", "driver", "finder"))
NEEDED = ("Xvfb", "xdotool", "openbox", "dbus-run-session")
# The session's bus, the accessibility bus on it, then the scenario in the system's own Python.
BUS = '/usr/libexec/at-spi-bus-launcher --launch-immediately >/dev/null 2>&1 & exec /usr/bin/python3 "$0" "$@"'


@pytest.fixture
def screen() -> Iterator[str]:
    missing = [tool for tool in NEEDED if shutil.which(tool) is None]
    if missing or subprocess.run(["/usr/bin/python3", "-c", "import pyatspi"], capture_output=True).returncode:
        pytest.fail("needs: apt-get install xvfb xdotool openbox dbus at-spi2-core python3-pyatspi")
    read, write = os.pipe()
    # Without -noreset the server begins anew when its last client leaves, and refuses those who come meanwhile.
    call = ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x840x24", "-nolisten", "tcp", "-noreset"]
    server = subprocess.Popen(call, pass_fds=[write], stderr=subprocess.DEVNULL)
    os.close(write)
    with os.fdopen(read) as pipe:
        name = f":{pipe.readline().strip()}"
    manager = _manager_of(name)
    yield name
    manager.terminate()
    manager.wait()
    server.terminate()
    server.wait()


def _manager_of(screen: str) -> subprocess.Popen[bytes]:
    """A window manager that has taken over the screen; started again should it not find a busy server."""
    environment = {**os.environ, "DISPLAY": screen}
    manager = None
    for _ in range(150):
        if manager is None or manager.poll() is not None:
            manager = subprocess.Popen(["openbox"], env=environment, stderr=subprocess.DEVNULL)
        time.sleep(0.1)
        if subprocess.run(["xdotool", "get_num_desktops"], env=environment, capture_output=True).returncode == 0:
            return manager
    pytest.fail(f"openbox does not manage the screen {screen}")


@pytest.mark.screen
@pytest.mark.parametrize("scenario", SCENARIOS)
def test_by_hand(scenario: str, screen: str, tmp_path: Path) -> None:
    home = {f"XDG_{kind}_HOME": str(tmp_path / kind) for kind in ("STATE", "CONFIG", "DATA", "CACHE")}
    environment = {
        **os.environ,
        **home,
        "HOME": str(tmp_path),
        "DISPLAY": screen,
        "QT_QPA_PLATFORM": "xcb",
        "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1",
        "GLASSCAP_PYTHON": sys.executable,
        "PYTHONPATH": str(Path(glasscap.__file__).parent.parent),
    }
    for name in ("WAYLAND_DISPLAY", "DBUS_SESSION_BUS_ADDRESS", "AT_SPI_BUS_ADDRESS"):
        environment.pop(name, None)
    call = ["dbus-run-session", "--", "bash", "-c", BUS, str(FOLDER / f"{scenario}.py"), str(tmp_path)]
    done = subprocess.run(call, env=environment, capture_output=True, text=True, timeout=400, check=False)
    assert done.stdout.splitlines()[-1:] == ["done"], f"{done.stdout}{done.stderr}"


@pytest.mark.screen
def test_a_window_killed_while_nudging_loses_two_seconds_at_most(
    screen: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("DISPLAY", screen)
    kill = window_kill(tmp_path, "nudging", random.Random(4))
    assert kill.problems == ()
    assert kill.steps > 3
    assert kill.seconds <= 2.0
