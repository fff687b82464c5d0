"""Locks between windows, let go of by the system when a process is killed."""

import os
import signal
import subprocess
import sys
from pathlib import Path

from glasscap.files.locks import JobHold, take_lock

_HOLDER = """
import sys, time
from pathlib import Path
from glasscap.files.locks import JobHold
hold = JobHold()
print(hold.take(Path(sys.argv[1])), flush=True)
time.sleep(60)
"""


def test_one_holds_a_lock(tmp_path: Path) -> None:
    first = take_lock(tmp_path / "lock")
    assert first is not None
    assert take_lock(tmp_path / "lock") is None
    os.close(first)
    again = take_lock(tmp_path / "lock")
    assert again is not None
    os.close(again)


def test_a_job_is_one_window_s_under_every_name_of_its_path(tmp_path: Path) -> None:
    path, first, second = tmp_path / "trail.glasscap", JobHold(), JobHold()
    (tmp_path / "same").symlink_to(tmp_path)
    assert first.take(path)
    assert first.take(path)
    assert first.has(path)
    assert not second.take(tmp_path / "same" / "trail.glasscap")
    assert second.take(tmp_path / "other.glasscap")
    assert first.take(None)
    assert second.take(path)
    second.release()


def test_without_a_state_folder_work_goes_on(tmp_path: Path, monkeypatch) -> None:
    (tmp_path / "file").write_bytes(b"")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "file"))
    hold = JobHold()
    assert hold.take(tmp_path / "trail.glasscap")
    assert not hold.has(tmp_path / "trail.glasscap")


def test_a_killed_program_holds_nothing(tmp_path: Path) -> None:
    path, hold = tmp_path / "trail.glasscap", JobHold()
    environment = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}
    with subprocess.Popen(
        [sys.executable, "-c", _HOLDER, str(path)], stdout=subprocess.PIPE, text=True, env=environment
    ) as program:
        assert program.stdout is not None
        assert program.stdout.readline() == "True\n"
        assert not hold.take(path)
        program.send_signal(signal.SIGKILL)
    assert hold.take(path)
    hold.release()
