"""Job files damaged in every way are opened or refused in words; nothing is written beside them."""

import random
from pathlib import Path

from glasscap.files.jobs import save_job
from tests.files.mutations import mutated, try_file
from tests.samples import photo_job, png_photo


def test_damaged_job_files_are_opened_or_refused(tmp_path: Path) -> None:
    path, chance = tmp_path / "job" / "trail.glasscap", random.Random(3)
    path.parent.mkdir()
    save_job(path, *photo_job(png_photo(60, 40)))
    whole = path.read_bytes()
    became = [try_file(path, mutated(whole, chance), draws=True) for _ in range(150)]
    assert {b for b in became if b not in ("opened", "refused")} == set()
    assert became.count("opened") > 5
    assert became.count("refused") > 50
    assert [p for p in tmp_path.rglob("*") if p not in (path, path.parent)] == []
