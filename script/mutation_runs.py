"""Damage files in many ways and open what comes of it: `script/mutate [RUNS [SEED [KIND...]]]`.

The kinds are jobs, photographs, drawings and fonts, all unless said; each is damaged RUNS times.
"""

import collections
import functools
import random
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path

from tests.files.mutations import (
    damaged,
    damaged_drawing,
    drawings,
    mutated,
    photographs,
    try_file,
    try_font,
    try_photo,
)

from glasscap.demo.job import demo_job
from glasscap.files.font_book import SHIPPED
from glasscap.files.jobs import save_job

_SLOW_S, _BATCH = 8.0, 50


@functools.cache
def sources(kind: str) -> tuple[tuple[str, bytes], ...]:
    """Return names and bytes of the whole files of a kind."""
    if kind == "photographs":
        return photographs()
    if kind == "drawings":
        return drawings()
    if kind == "fonts":
        return tuple((path.name, path.read_bytes()) for path in sorted(SHIPPED.glob("*.ttf")))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "trail.glasscap"
        save_job(path, *demo_job())
        return ((path.name, path.read_bytes()),)


def batch(kind: str, seed: int) -> list[tuple[str, float]]:
    """Return what became of some damaged files, and the seconds each took; anything written beside is a fault."""
    chance, found = random.Random(seed), []
    tries: dict[str, Callable[[Path, bytes], str]] = {
        "jobs": lambda path, data: try_file(path, data, draws=chance.random() < 0.1),
        "fonts": try_font,
    }
    with tempfile.TemporaryDirectory() as folder:
        for number in range(_BATCH):
            name, data = chance.choice(sources(kind))
            # Fonts are remembered by their paths.
            path = Path(folder) / "in" / f"{number} {name}"
            path.parent.mkdir(exist_ok=True)
            damage = {"jobs": mutated, "drawings": damaged_drawing}.get(kind, damaged)
            spoilt, begun = damage(data, chance), time.monotonic()
            became = tries.get(kind, try_photo)(path, spoilt)
            beside = [p.name for p in Path(folder).rglob("*") if p not in (path, path.parent)]
            found.append((f"written beside: {beside}" if beside else became, time.monotonic() - begun))
            path.unlink(missing_ok=True)
    return found


def main() -> int:
    """Print what became of them, and every fault once; 1 if there was a fault."""
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else 2500
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    faults: dict[str, str] = {}
    for kind in sys.argv[3:] or ("jobs", "photographs", "drawings", "fonts"):
        counts: collections.Counter[str] = collections.Counter()
        slowest, started = 0.0, time.monotonic()
        for seed in range(first, first + -(-runs // _BATCH), 8):
            # A crash ends a process, not this one; a new pool goes on.
            with ProcessPoolExecutor(2) as pool:
                seeds = range(seed, min(seed + 8, first + -(-runs // _BATCH)))
                for number, future in [(number, pool.submit(batch, kind, number)) for number in seeds]:
                    try:
                        found = future.result()
                    except BrokenProcessPool:
                        found = [(f"{kind}: a crash near seed {number}", 0.0)]
                    for became, seconds in found:
                        slowest = max(slowest, seconds)
                        is_fault = became not in ("opened", "refused")
                        if is_fault:
                            faults.setdefault(became.splitlines()[-1][:90], became)
                        counts["fault" if is_fault else became] += 1
                        if seconds > _SLOW_S:
                            print(f"{seconds:.0f} s: one of the {kind} of seed {number}")
        took = time.monotonic() - started
        print(f"{runs} damaged {kind} in {took:.0f} s, the slowest {slowest:.1f} s: {dict(counts)}", flush=True)
    for words in faults.values():
        print(words)
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
