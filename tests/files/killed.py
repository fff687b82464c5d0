"""A program that edits, keeps and saves until it is killed: `python -m tests.files.killed JOB`.

Says on its output what is safe: ``kept N`` and ``saved N`` once step N is.
"""

import sys
from pathlib import Path

from glasscap.core.document.edits.sheets import rename_sheet
from glasscap.files.jobs import save_job
from glasscap.files.work_keeper import WorkKeeper
from tests.samples import photo_job, png_photo

_SAVED_EVERY = 4


def main() -> None:
    path = Path(sys.argv[1])
    job, store = photo_job(png_photo(160, 90), png_photo(90, 60, seed=2))
    keeper = WorkKeeper()
    print("ready", flush=True)
    for step in range(1, 1_000_000):
        job = rename_sheet(job, job.sheets[0].id, f"Step {step}")
        keeper.keep(job, store, path, "Killed")
        print(f"kept {step}", flush=True)
        if step % _SAVED_EVERY == 0:
            save_job(path, job, store)
            print(f"saved {step}", flush=True)
            keeper.forget()


if __name__ == "__main__":
    main()
