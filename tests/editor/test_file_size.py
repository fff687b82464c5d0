"""The size of a file before it is written: that of the file."""

from pathlib import Path

import pytest

from glasscap.core.document.edits.groups import group_items
from glasscap.core.geometry.types import Box
from glasscap.editor.comparing import default_output
from glasscap.editor.file_size import SizeRequest, file_size
from glasscap.editor.frames import ScreenPhotos
from glasscap.files.exporting import export_rows, targets_of
from tests.core.document.samples_of_many import job_of, waiting
from tests.core.document.strategies import JOB, STORE
from tests.samples import cache

SHEET = JOB.sheets[0]
ITEM = SHEET.items[0]


def told(job, item_id: str, size=(90, 90)) -> int | None:
    return file_size(SizeRequest(job, item_id, size), ScreenPhotos(STORE), cache()).nbytes


def test_it_is_that_of_the_file(tmp_path: Path) -> None:
    targets = targets_of(JOB, [default_output(JOB, ITEM.id)], STORE, tmp_path)
    (written,) = export_rows(JOB, targets, STORE, "replace")
    assert told(JOB, ITEM.id) == written.path.stat().st_size


def test_of_a_group_it_is_that_of_all_it_holds() -> None:
    job, group_id = group_items(JOB, [i.id for i in SHEET.items])
    assert told(job, group_id) > told(JOB, ITEM.id)


@pytest.mark.parametrize("size", [(90, 90), (9000, 9000)], ids=["nothing to see", "too large"])
def test_where_there_is_no_telling_there_is_none(size: tuple[int, int]) -> None:
    empty = job_of([waiting("i1", Box(0, 0, 40, 40))])
    assert told(empty if size[0] < 100 else JOB, "i1" if size[0] < 100 else ITEM.id, size) is None
