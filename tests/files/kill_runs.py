"""Runs of a working program killed at random moments, and what is found afterwards."""

import os
import random
import signal
import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

from glasscap.files.jobs import open_job
from glasscap.files.kept_work import discard, kept_works
from glasscap.files.work_keeper import recover


@dataclass(frozen=True)
class KillRun:
    """The last step told safe before the kill, and the newest found after it."""

    told: int
    found: int
    problems: tuple[str, ...]


def kill_run(state: Path, path: Path, chance: random.Random) -> KillRun:
    """Start the program, kill it within half a second of its being ready, look what can be had again."""
    path.unlink(missing_ok=True)
    environment = {**os.environ, "XDG_STATE_HOME": str(state), "PYTHONPATH": os.pathsep.join(sys.path)}
    with subprocess.Popen(
        [sys.executable, "-m", "tests.files.killed", str(path)],
        stdout=subprocess.PIPE,
        text=True,
        env=environment,
    ) as program:
        assert program.stdout is not None
        assert program.stdout.readline() == "ready\n"
        time.sleep(chance.uniform(0.0, 0.5))
        program.send_signal(signal.SIGKILL)
        # A last line cut short by the kill was not told.
        told = [int(line.split()[1]) for line in program.stdout.readlines() if line.endswith("\n")]
    works = kept_works(state / "glasscap")
    found, problems = [0], []
    for work in works:
        got = recover(work)
        found.append(_step(got.job.sheets[0].name))
        problems += [p.line for p in got.problems]
        discard(work)
    if path.exists():
        opened = open_job(path)
        found.append(_step(opened.job.sheets[0].name))
        problems += [p.line for p in opened.problems]
    return KillRun(max(told, default=0), max(found), tuple(problems))


def _step(name: str) -> int:
    return int(name.split()[1])
