"""Kill a working program at random moments and say what was lost: `script/kill [RUNS]`."""

import random
import sys
import tempfile
from pathlib import Path

from tests.files.kill_runs import kill_run


def main() -> int:
    """Print a line for the runs; 1 if a step told safe was not found again."""
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else 500
    chance, lost, problems, steps = random.Random(1), 0, 0, 0
    with tempfile.TemporaryDirectory() as folder:
        for _ in range(runs):
            run = kill_run(Path(folder) / "state", Path(folder) / "trail.glasscap", chance)
            lost, problems, steps = lost + (run.found < run.told), problems + bool(run.problems), steps + run.told
    print(f"{runs} kills after {steps} steps: {lost} lost a step told safe, {problems} could not be read whole")
    return 1 if lost or problems else 0


if __name__ == "__main__":
    sys.exit(main())
