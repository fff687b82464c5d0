"""A real window that tells every step of its job until it is killed: `python -m tests.app.killed_window JOB`.

Prints ``ready X Y`` once the plate is selected, at a place on the screen, then ``step NAME SECONDS`` for each step:
the name tells one state of the job from all others.
"""

import hashlib
import sys
import time
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPointF

from glasscap.app.main import start_window
from glasscap.app.services.garbage import look_only_at_new
from glasscap.app.services.memory import keep_freed_memory
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import items_of
from glasscap.core.formats.job import encode_job


def name_of(job: Job) -> str:
    """Return what tells a state of a job; where its photos are does not count."""
    here = replace(job, photos=tuple(replace(photo, link=None) for photo in job.photos))
    return hashlib.sha256(encode_job(here)).hexdigest()[:16]


def main() -> None:
    """Open a job, and tell."""
    keep_freed_memory()
    app, shell = start_window()
    shell.move(0, 0)
    while shell.resident is None:
        app.processEvents()
    studio = shell.resident
    look_only_at_new()
    studio.take_paths((Path(sys.argv[1]),))
    end = time.monotonic() + 60
    while not (studio.has_job and studio.is_settled) and time.monotonic() < end:
        app.processEvents()
    session, bench = studio.session, studio.workbench.bench
    plate = next(item for _, item in items_of(session.job) if item.name == "Blue plate")
    session.select([plate.id])
    bench.setFocus()
    last = [session.committed]

    def tell() -> None:
        if session.committed is not last[0]:
            last[0] = session.committed
            print(f"step {name_of(session.committed)} {time.time()}", flush=True)

    session.job_changed.connect(tell)
    at = plate.shape_placement
    seen = bench.mapToGlobal(QPointF(*bench.to_view.apply(at.x, at.y)))
    print(f"begun {name_of(session.committed)} {time.time()}", flush=True)
    print(f"ready {round(seen.x())} {round(seen.y())}", flush=True)
    app.exec()


if __name__ == "__main__":
    main()
