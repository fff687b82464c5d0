"""Starting: the first view is there before the rest, and what is asked of it meanwhile is done."""

import subprocess
import sys
from pathlib import Path

import pytest

from glasscap.app import main as entry
from glasscap.app.studio import Studio
from tests.app.conftest import Hand
from tests.app.test_services import wait


def test_a_click_before_all_is_loaded_is_not_lost(qapp) -> None:
    _, shell = entry.start_window()
    assert shell.isVisible()
    assert shell.resident is None
    shell.start.demo.click()
    wait(lambda: shell.resident is not None)
    studio = shell.resident
    assert isinstance(studio, Studio)
    hand = Hand(studio)
    hand.settle()
    assert studio.has_job
    studio.session.mark_saved(Path("kept.glasscap"), studio.session.committed)
    assert shell.close()
    shell.deleteLater()


def test_files_named_in_the_call_are_opened(qapp, photo: Path) -> None:
    _, shell = entry.start_window()
    shell.when_loaded(lambda: entry._open(shell, (photo,), is_demo=False))
    wait(lambda: shell.resident is not None)
    hand = Hand(shell.resident)
    hand.settle()
    assert hand.item().name == "Blue plate"
    hand.session.mark_saved(Path("kept.glasscap"), hand.session.committed)
    assert shell.close()
    shell.deleteLater()


def test_without_a_display_it_says_so(monkeypatch: pytest.MonkeyPatch, capsys) -> None:
    for name in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    assert entry.run([]) == 1
    err = capsys.readouterr().err
    assert len(err.splitlines()) == 1
    assert "script/demo --shot FILE.png" in err


def test_a_picture_of_the_window_off_screen(tmp_path: Path) -> None:
    shot = tmp_path / "window.png"
    call = [sys.executable, "-m", "glasscap", "--shot", str(shot), "--demo"]
    done = subprocess.run(call, capture_output=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    assert shot.stat().st_size > 100_000


def test_freed_memory_is_kept_where_the_library_can() -> None:
    call = (
        "import os, sys\n"
        "import numpy as np\n"
        "from glasscap.app.services.memory import keep_freed_memory\n"
        "def resident():\n"
        "    with open('/proc/self/statm') as file:\n"
        "        return int(file.read().split()[1]) * os.sysconf('SC_PAGE_SIZE') >> 20\n"
        "if sys.argv[1] == 'kept' and not keep_freed_memory():\n"
        "    raise SystemExit('this C library cannot')\n"
        "frames = [np.ones(24 << 20, np.uint8) for _ in range(4)]\n"
        "full = resident()\n"
        "del frames\n"
        "print(full - resident())\n"
    )
    given_back = {}
    for how in ("kept", "as it is"):
        done = subprocess.run([sys.executable, "-c", call, how], capture_output=True, text=True, timeout=300)
        assert done.stderr == ""
        given_back[how] = int(done.stdout)
    # Four frames of 24 MiB.
    assert given_back["as it is"] > 80
    assert given_back["kept"] < 20


def test_closing_the_window_while_the_rest_is_loading_leaves_quietly() -> None:
    call = (
        "from PySide6.QtCore import QTimer\n"
        "from glasscap.app.main import start_window\n"
        "app, shell = start_window()\n"
        "QTimer.singleShot(1, shell.close)\n"
        "raise SystemExit(app.exec())\n"
    )
    for _ in range(3):
        done = subprocess.run([sys.executable, "-c", call], capture_output=True, text=True, timeout=300)
        assert (done.returncode, done.stderr) == (0, "")


def test_the_first_window_waits_for_no_arrays() -> None:
    script = (
        "import sys; import glasscap.app.main; print([m for m in ('numpy', 'cv2', 'PIL') if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"
