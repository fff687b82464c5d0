"""Job files: what is written is read, what is wrong is said."""

import io
import json
import zipfile
from pathlib import Path

import jsonschema
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import JobFileError, JobFileNewerError, PhotoMissingError
from glasscap.core.formats.job import MIMETYPE, decode_job, encode_job, read_job, write_job
from glasscap.core.shapes.kinds import (
    CombinedShape,
    Letters,
    LettersShape,
    ObjectDrawing,
    ObjectStroke,
    PointsShape,
    RimShape,
    ShapePart,
    library_shape,
)
from tests.core.document.strategies import JOB, STORE

DATA = write_job(JOB, STORE.data)
SCHEMA = Path(__file__).parents[3] / "docs" / "job-file.schema.json"


def changed(**members: bytes | None) -> bytes:
    """The sample file with members replaced, added, or (None) left out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(DATA)) as source, zipfile.ZipFile(out, "w") as target:
        old = {name: source.read(name) for name in source.namelist()}
        for name, body in {**old, **members}.items():
            if body is not None:
                target.writestr(name, body)
    return out.getvalue()


def job_json(**changes: object) -> bytes:
    return json.dumps({**json.loads(encode_job(JOB)), **changes}).encode()


def test_the_mimetype_stands_first_and_plain() -> None:
    # As OpenDocument 1.3, part 2, 3.3 asks of its packages.
    with zipfile.ZipFile(io.BytesIO(DATA)) as archive:
        first = archive.infolist()[0]
    assert (first.filename, first.compress_type, first.extra) == ("mimetype", zipfile.ZIP_STORED, b"")
    assert DATA[38 : 38 + len(MIMETYPE)] == MIMETYPE.encode()


def test_the_file_keeps_to_the_published_schema() -> None:
    jsonschema.validate(json.loads(encode_job(JOB)), json.loads(SCHEMA.read_text()))


def test_photos_lie_under_their_sha256() -> None:
    with zipfile.ZipFile(io.BytesIO(DATA)) as archive:
        photos = {n for n in archive.namelist() if n.startswith("photos/")}
    assert photos == {f"photos/{p.sha256}" for p in JOB.photos}


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"", "empty"),
        (b"PK\x03\x04 nonsense", "no job file"),
        (DATA[: len(DATA) // 2], "damaged"),
        (changed(**{"job.json": None}), "no job file"),
        (changed(mimetype=b"text/plain"), "no job file"),
        (changed(**{"../evil": b"x"}), "climbs out"),
        (changed(**{"/etc/evil": b"x"}), "climbs out"),
        (changed(**{"job.json": b"{}"}), "no job file"),
        (changed(**{"job.json": b"{"}), "description is wrong"),
        (changed(**{"job.json": b"[" * 100_000}), "description"),
        (changed(**{"job.json": job_json(version="x")}), "version"),
        (changed(**{"job.json": job_json(job={"sheets": 3})}), r"\$\.sheets"),
        (changed(**{"job.json": job_json(job={"sheets": []})}), "no sheet"),
        (changed(**{f"photos/{JOB.photos[0].sha256}": b"other"}), "damaged"),
    ],
    ids=["empty", "nonsense", "cut", "no json", "mimetype", "climbs", "absolute", "blank", "half", "deep", "version",
         "type", "no sheet", "photo"],
)  # fmt: skip
def test_what_is_wrong_is_said(data: bytes, word: str) -> None:
    with pytest.raises(JobFileError, match=word) as caught:
        read_job(data, "cards.glasscap")
    assert caught.value.line.startswith("cards.glasscap: ")


def test_a_member_that_would_swell_is_refused() -> None:
    out = io.BytesIO(DATA)
    with zipfile.ZipFile(out, "a", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("photos/bomb", bytes(40 << 20))
    with pytest.raises(JobFileError, match="too large"):
        read_job(out.getvalue(), "a")


def test_a_newer_file_is_refused() -> None:
    with pytest.raises(JobFileNewerError, match="later"):
        read_job(changed(**{"job.json": job_json(version=99)}), "a")


@pytest.mark.parametrize("number", ["NaN", "Infinity", "-5", "1e400"])
def test_impossible_numbers_in_a_file_are_refused(number: str) -> None:
    text = encode_job(JOB).decode().replace('"width": 90.0', f'"width": {number}')
    assert text != encode_job(JOB).decode()
    with pytest.raises(JobFileError):
        read_job(changed(**{"job.json": text.encode()}), "a")


def test_a_photo_that_is_not_there_is_left_out() -> None:
    gone = JOB.photos[0]
    found = read_job(changed(**{f"photos/{gone.sha256}": None}), "a")
    assert gone.sha256 not in found.photos
    assert found.job == JOB


def test_writing_needs_the_photos() -> None:
    unknown = PhotoRecord("0" * 64, "gone.jpg", 10, 10)
    with pytest.raises(PhotoMissingError, match=r"gone\.jpg"):
        STORE.data(unknown)


SHAPES = [
    PointsShape("M0 0L100 0L50 80Z", kinds="ccs", way="M0 0L9 0L9 9Z", smoothness=1.5,
                drawn=ObjectDrawing("a" * 64, (1.0, 2.0, 30.0, 40.5), (ObjectStroke("1.5,2 3,4", 9.0),))),
    RimShape(((0.5, 0.0), (-0.5, 0.0), (0.0, 0.5))),
    LettersShape(Letters("KILN\nüñ", "Anton", tracking=20, circle=3), "M0 0L1 0L1 1Z", round=0.5),
    CombinedShape((ShapePart(library_shape("star", points=7.0), 0, 0, 50, 50),
                   ShapePart(library_shape("circle"), 10, 0, 20, 20, 30.0, does="subtract", is_off=True))),
    library_shape("heart", "outside"),
]  # fmt: skip


@pytest.mark.parametrize("shape", SHAPES, ids=lambda s: type(s).__name__)
def test_every_kind_of_shape_comes_back(shape: object) -> None:
    sheet = JOB.sheets[0]
    item = replace(sheet.items[0], shape=replace(shape, corners=((1, 4.0),)), shape_link="i1")
    job = replace(JOB, sheets=(replace(sheet, items=(item, *sheet.items[1:])), *JOB.sheets[1:]))
    assert decode_job(encode_job(job), "a") == job


@pytest.mark.parametrize("version", [1, 2, 3, 4])
def test_files_of_earlier_versions_open(version: int) -> None:
    assert read_job(changed(**{"job.json": job_json(version=version)}), "a").job == JOB


@pytest.mark.parametrize(
    "path", ["", "nonsense", "M0 0", "M0 0L5 5", "M0 0L1e300 0L5 5Z", "M" + "1" * 400 + " 0L5 5L0 9Z"]
)
def test_a_shape_without_an_outline_is_refused_at_opening(path: str) -> None:
    body = json.loads(encode_job(JOB))
    body["job"]["sheets"][0]["items"][0]["shape"] = {"type": "points", "path": path}
    with pytest.raises(JobFileError, match="description is wrong"):
        decode_job(json.dumps(body).encode(), "cards.glasscap")


def test_a_file_from_before_groups_versions_and_mockups_opens() -> None:
    """What version 4 wrote: no such fields at all."""

    def older(value: object) -> object:
        if isinstance(value, dict):
            return {k: older(v) for k, v in value.items() if k not in ("versions", "bleed", "mockups")}
        return [older(v) for v in value] if isinstance(value, list) else value

    body = older(json.loads(encode_job(JOB)))
    assert "versions" not in json.dumps(body)
    assert decode_job(json.dumps({**body, "version": 4}).encode(), "cards") == JOB


def test_groups_nested_beyond_reason_are_refused() -> None:
    body = json.loads(encode_job(JOB))
    item = body["job"]["sheets"][0]["items"][0]
    for number in range(80):
        content = {"type": "group", "items": [item]}
        item = {"kind": "cutout", "id": f"g{number}", "name": "Group", "content": content}
    body["job"]["sheets"][0]["items"] = [item]
    with pytest.raises(JobFileError, match="lie in one another"):
        decode_job(json.dumps(body).encode(), "cards")
