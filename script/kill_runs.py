"""Kill a working program, and a window in a hand's use, at random moments: `script/kill [RUNS [WINDOW_RUNS]]`."""

import random
import sys
import tempfile
from pathlib import Path

from tests.app.window_kills import WAYS, window_kill
from tests.files.kill_runs import kill_run

# What a kill may cost at the most (s).
_MOST_LOST = 2.0


def programs(runs: int) -> bool:
    """Print a line for kills of a program without a window; whether nothing told safe was lost."""
    chance, lost, problems, steps = random.Random(1), 0, 0, 0
    with tempfile.TemporaryDirectory() as folder:
        for _ in range(runs):
            run = kill_run(Path(folder) / "state", Path(folder) / "trail.glasscap", chance)
            lost, problems, steps = lost + (run.found < run.told), problems + bool(run.problems), steps + run.told
    print(f"{runs} kills after {steps} steps: {lost} lost a step told safe, {problems} could not be read whole")
    return not (lost or problems)


def windows(runs: int) -> bool:
    """Print a line for each way a window is used; whether no kill cost more than it may."""
    is_well = True
    for number, way in enumerate(WAYS):
        chance, kills = random.Random(number), []
        for _ in range(-(-runs // len(WAYS))):
            with tempfile.TemporaryDirectory() as folder:
                kills.append(window_kill(Path(folder), way, chance))
        worst = max(kills, key=lambda kill: kill.seconds)
        problems = [line for kill in kills for line in kill.problems]
        steps = sum(kill.steps for kill in kills)
        print(
            f"{len(kills)} kills of a window while {way}, after {steps} steps: the worst lost {worst.lost} steps, "
            f"{worst.seconds:.1f} s; {len(problems)} could not be read whole",
            flush=True,
        )
        is_well = is_well and not problems and worst.seconds <= _MOST_LOST
    return is_well


def main() -> int:
    """Print what was lost; 1 if that was more than may be."""
    runs, window_runs = (int(sys.argv[n]) if len(sys.argv) > n else usual for n, usual in ((1, 500), (2, 40)))
    # Both are done, whatever the first one finds.
    return 0 if all([programs(runs), windows(window_runs)]) else 1


if __name__ == "__main__":
    sys.exit(main())
