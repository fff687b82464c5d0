"""The export list on the disk: whole files, checked, never over another unasked."""

import errno
import io
from pathlib import Path
from threading import Timer

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from glasscap.core.document.model.outputs import FileOptions, Output, OutputSize
from glasscap.core.document.outputs.rows import (
    add_output,
    change_outputs,
    file_stem,
    keep_size,
    live_outputs,
    move_output,
    remove_outputs,
)
from glasscap.core.errors import CancelledError, ExportError
from glasscap.core.formats import outgoing
from glasscap.core.formats.job import read_job, write_job
from glasscap.core.work.ticket import Ticket
from glasscap.files import exporting
from glasscap.files.atomic import file_problem
from glasscap.files.exporting import export_rows, targets_of
from tests.core.render.finished_samples import STORE, job_with

JOB = job_with()
ITEM = JOB.sheets[0].items[0].id


def rows(*outputs: Output):
    job = JOB
    for output in outputs:
        job = add_output(job, output)
    return job


def written(job, folder: Path, policy: str = "replace", ticket: Ticket | None = None):
    return export_rows(job, targets_of(job, job.outputs, STORE, folder), STORE, policy, ticket)


ALL = [
    Output("", ITEM, file=FileOptions(kind), name="{name}-{format}")
    for kind in ("png", "indexed", "webp", "avif", "tiff", "jpeg")
]


def test_every_format_is_written_and_opened_by_another_library(tmp_path: Path) -> None:
    results = written(rows(*ALL), tmp_path)
    assert [r.problem for r in results] == [""] * len(ALL)
    for result in results:
        with Image.open(result.path) as image:
            assert image.size == result.size
        assert result.path.stat().st_size == result.nbytes
    assert sorted(p.name for p in tmp_path.iterdir()) == sorted(r.path.name for r in results)


def test_rows_are_saved_with_the_job() -> None:
    job = keep_size(rows(*ALL), "  Shop  window ", OutputSize("box", width=300, height=200))
    assert read_job(write_job(job, STORE.data), "x").job == job
    assert job.sizes[0].name == "Shop window"


def test_several_rows_change_together_and_keep_their_order() -> None:
    job = rows(*ALL)
    ids = [o.id for o in job.outputs]
    assert len(set(ids)) == len(ALL)
    changed = change_outputs(job, ids[1:3], lambda o: replace(o, margin=7.0))
    assert [o.margin for o in changed.outputs] == [0, 7, 7, 0, 0, 0]
    moved = move_output(changed, ids[5], 0)
    assert [o.id for o in moved.outputs] == [ids[5], *ids[:5]]
    left = remove_outputs(moved, ids[:5])
    assert [o.id for o in left.outputs] == [ids[5]]
    assert add_output(left, ALL[0]).outputs[-1].id == "o7"
    assert live_outputs(replace(left, outputs=(Output("o1", "gone"),))) == ()


@pytest.mark.parametrize(
    ("pattern", "output", "stem"),
    [
        ("{name}{@scale}", OutputSize(scale=2.0), "sample-1@2x"),
        ("{name}{@scale}", OutputSize(), "sample-1"),
        ("{number}_{size}", OutputSize("width", width=9), "03_240x200"),
        ("{sheet}/{name}.{format}", OutputSize(), "sheet-1-sample-1.png"),
        ("{width}-{height}-{scale}", OutputSize(scale=1.5), "240-200-1.5x"),
    ],
)
def test_names_by_pattern(pattern: str, output: OutputSize, stem: str) -> None:
    assert file_stem(JOB, Output("o1", ITEM, output, name=pattern), 3, (240, 200)) == stem


@pytest.mark.parametrize(
    ("pattern", "why"),
    [("{colour}", "stands for nothing"), (" . ", "no name"), ("n" * 300, "too long"), ("", "no name")],
)
def test_names_that_are_none(pattern: str, why: str, tmp_path: Path) -> None:
    (target,) = targets_of(JOB, [Output("o1", ITEM, name=pattern)], STORE, tmp_path)
    assert why in target.problem


def test_two_rows_of_one_name_are_told_and_the_first_is_written(tmp_path: Path) -> None:
    job = rows(Output("", ITEM, name="plate"), Output("", ITEM, name="Plate"))
    one, two = written(job, tmp_path)
    assert one.is_written
    assert "row 1 has this name already" in two.problem


@pytest.mark.parametrize("policy", ["replace", "number", "skip"])
def test_a_file_that_is_there(policy: str, tmp_path: Path) -> None:
    path = tmp_path / "plate.png"
    path.write_bytes(b"old")
    job = rows(Output("", ITEM, name="plate"))
    assert targets_of(job, job.outputs, STORE, tmp_path)[0].is_there
    (result,) = written(job, tmp_path, policy)
    assert (path.read_bytes() == b"old") == (policy != "replace")
    assert result.is_skipped == (policy == "skip")
    assert (tmp_path / "plate 2.png").exists() == (policy == "number")


def test_folders_of_rows_are_made_the_lists_own_is_not(tmp_path: Path) -> None:
    job = rows(Output("", ITEM, folder="web/small"))
    (result,) = written(job, tmp_path)
    assert result.path.parent == tmp_path / "web" / "small"
    (result,) = written(rows(Output("", ITEM)), tmp_path / "gone")
    assert "no such file or folder" in result.problem
    (result,) = written(rows(Output("", ITEM, folder="a\0b")), tmp_path)
    assert "no file can have this name" in result.problem


@pytest.mark.parametrize(
    ("code", "words"), [(errno.ENOSPC, "the disk is full"), (errno.EACCES, "there is no permission")]
)
def test_a_disk_that_says_no(code: int, words: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse(path: Path, data: bytes) -> None:
        raise exporting_problem(path, code)

    monkeypatch.setattr(exporting, "write_atomically", refuse)
    one, two = written(rows(*ALL[:2]), tmp_path)
    assert words in one.problem
    assert words in two.problem
    assert list(tmp_path.iterdir()) == []


def exporting_problem(path: Path, code: int) -> Exception:
    return file_problem(path, OSError(code, "no"))


def test_cancel_in_the_middle_leaves_no_half_file(tmp_path: Path) -> None:
    job = rows(*[Output("", ITEM, OutputSize(scale=6.0), name="{number}") for _ in range(30)])
    ticket = Ticket()
    Timer(0.4, ticket.stop.set).start()
    with pytest.raises(CancelledError):
        written(job, tmp_path, ticket=ticket)
    found = list(tmp_path.iterdir())
    assert len(found) < 30
    for path in found:
        assert path.suffix == ".png"
        with Image.open(io.BytesIO(path.read_bytes())) as image:
            image.load()


def test_every_file_is_told_by_number_and_name(tmp_path: Path) -> None:
    told: list[str] = []

    class Listening(Ticket):
        def tell(self, words: str) -> None:
            told.append(words)

    results = written(rows(Output("", ITEM, name="{name}")), tmp_path, ticket=Listening())
    assert told == [f"1 of 1: {results[0].path.name}"]


def test_one_that_fails_does_not_keep_the_others(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def encode(job, output, *rest):
        if output.file.format == "webp":
            raise ExportError("webp", "made up")
        return outgoing.encode_output(job, output, *rest)

    monkeypatch.setattr(exporting, "encode_output", encode)
    results = written(rows(*ALL), tmp_path)
    assert [bool(r.problem) for r in results] == [False, False, True, False, False, False]


def test_the_same_list_gives_the_same_bytes(tmp_path: Path) -> None:
    job = rows(*ALL)
    first = [r.path.read_bytes() for r in written(job, tmp_path)]
    assert [r.path.read_bytes() for r in written(job, tmp_path)] == first
    assert np.ptp([len(b) for b in first]) > 0
