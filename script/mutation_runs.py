"""Damage a job file in many ways and open what comes of it: `script/mutate [RUNS [SEED]]`."""

import collections
import random
import sys
import tempfile
import time
from pathlib import Path

from tests.files.mutations import mutated, try_file

from glasscap.demo.job import demo_job
from glasscap.files.jobs import save_job

_SLOW_S = 5.0


def main() -> int:
    """Print what became of them, and every fault once; 1 if there was a fault."""
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    chance = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    counts: collections.Counter[str] = collections.Counter()
    faults: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "job" / "trail.glasscap"
        path.parent.mkdir()
        save_job(path, *demo_job())
        whole, started = path.read_bytes(), time.monotonic()
        for run in range(runs):
            begun = time.monotonic()
            became = try_file(path, mutated(whole, chance), draws=run % 10 == 0)
            if time.monotonic() - begun > _SLOW_S:
                counts["slow"] += 1
                Path(tempfile.gettempdir(), f"slow-{run}.glasscap").write_bytes(path.read_bytes())
            if became not in ("opened", "refused"):
                faults.setdefault(became.splitlines()[-1][:90], became)
                became = "fault"
            counts[became] += 1
        outside = sorted(p.name for p in Path(folder).rglob("*") if p not in (path, path.parent))
        print(
            f"{runs} damaged job files in {time.monotonic() - started:.0f} s: {dict(counts)}; written beside: {outside}"
        )
    for words in faults.values():
        print(words)
    return 1 if faults or outside else 0


if __name__ == "__main__":
    sys.exit(main())
