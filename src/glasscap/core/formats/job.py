"""The job file ``NAME.glasscap``: a ZIP with a stored ``mimetype`` first, like OpenDocument.

Members: ``mimetype``, ``job.json`` (see docs/job-file.md), ``photos/SHA-256`` for embedded photos with
their original bytes, ``preview.png``.
"""

import io
import zipfile
from collections.abc import Callable, Container, Mapping
from typing import Any

import msgspec
from msgspec import Struct

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.query import items_of
from glasscap.core.errors import GlassCapError, JobFileError, JobFileNewerError, ShapeError
from glasscap.core.formats.archive import ZIP_FAULTS, put_member
from glasscap.core.photos.store import sha256_of
from glasscap.core.shapes.kinds import CombinedShape
from glasscap.core.shapes.outlines import outline_of

MIMETYPE = "application/vnd.glasscap.job+zip"
ENDING = ".glasscap"
# 5: groups, versions, bleed, mock-ups; 4 opens as it is, none of these.
# 4: the export list; 3 opens as it is, with an empty one.
# 3: shapes of points, rims, letters and combined ones; 2 opens as it is.
# 2: finishes, paint as content, adjustments, backdrops, finish sets; 1 opens as it is, none of these.
VERSION = 5
_LARGEST_JSON, _LARGEST_PREVIEW = 64 << 20, 8 << 20
# Shapes in all that a combined one holds: each costs as much as all before it.
_MOST_PARTS = 256


class JobFile(Struct, frozen=True):
    """What a job file holds: the job, embedded photo bytes by SHA-256, and the preview (PNG or empty)."""

    job: Job
    photos: Mapping[str, bytes]
    preview: bytes = b""


def write_job(job: Job, photo_data: Callable[[PhotoRecord], bytes], preview: bytes = b"") -> bytes:
    """Return a job file's bytes; the same job gives the same bytes.

    `photo_data` is asked for each photo that is not linked.
    """
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        put_member(archive, "mimetype", MIMETYPE.encode())
        put_member(archive, "job.json", encode_job(job), is_packed=True)
        if preview:
            put_member(archive, "preview.png", preview)
        for photo in job.photos:
            if photo.link is None:
                put_member(archive, f"photos/{photo.sha256}", photo_data(photo))
    return out.getvalue()


def encode_job(job: Job) -> bytes:
    """Return job.json: format, version, job."""
    body = {"format": "glasscap-job", "version": VERSION, "job": msgspec.to_builtins(job)}
    return msgspec.json.format(msgspec.json.encode(body), indent=1)


def read_job(data: bytes, name: str, known: Container[str] = ()) -> JobFile:
    """Read a job file; photos whose SHA-256 is `known` are neither read nor returned.

    Raises
    ------
    JobFileError
        For what is no job file, is damaged, or has a member whose path climbs out.
    JobFileNewerError
        For one written by a later version.
    """
    if not data:
        raise JobFileError(name, "the file is empty", "open a copy of it")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _read(archive, name, known)
    except ZIP_FAULTS as error:
        raise JobFileError(name, f"it is no job file, or is damaged ({error})", "open a copy of it") from error


def _read(archive: zipfile.ZipFile, name: str, known: Container[str]) -> JobFile:
    members = archive.namelist()
    for member in members:
        if member.startswith(("/", "\\")) or ".." in member.replace("\\", "/").split("/"):
            raise JobFileError(name, f"its member {member!r} climbs out of the file", "do not trust this file")
    if "job.json" not in members or "mimetype" not in members:
        raise JobFileError(name, "it is no job file", "open a file ending in .glasscap")
    # A member may unpack to a thousand times its size.
    is_short = archive.getinfo("mimetype").file_size == len(MIMETYPE)
    if not is_short or archive.read("mimetype") != MIMETYPE.encode():
        raise JobFileError(name, "it is no job file", "open a file ending in .glasscap")
    if archive.getinfo("job.json").file_size > _LARGEST_JSON:
        raise JobFileError(name, "its description is too large to be true", "open a copy of it")
    job = decode_job(archive.read("job.json"), name)
    for info in archive.infolist():
        # Photos are stored as they are, so nothing in an honest file is larger than the file.
        if info.filename != "job.json" and info.file_size > info.compress_size + _LARGEST_PREVIEW:
            raise JobFileError(
                name, f"its member {info.filename} is too large to be true", "do not trust this file"
            )
    wanted = [p for p in job.photos if p.sha256 not in known and _holds(archive, p)]
    photos = {p.sha256: _photo(archive, p, name) for p in wanted}
    return JobFile(job, photos, archive.read("preview.png") if "preview.png" in members else b"")


def _holds(archive: zipfile.ZipFile, photo: PhotoRecord) -> bool:
    return photo.link is None and f"photos/{photo.sha256}" in archive.namelist()


def _photo(archive: zipfile.ZipFile, photo: PhotoRecord, name: str) -> bytes:
    data = archive.read(f"photos/{photo.sha256}")
    if sha256_of(data) != photo.sha256:
        raise JobFileError(name, f"its photo {photo.name} is damaged", "open a copy of it")
    return data


def decode_job(data: bytes, name: str) -> Job:
    """Read job.json. Raises JobFileError; its message carries the path of what is wrong."""
    try:
        body = msgspec.json.decode(data)
        _check_version(body, name)
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise JobFileError(name, f"its description is wrong: {error}", "open a copy of it") from error
    except RecursionError as error:
        raise JobFileError(name, "its description is nested too deep", "open a copy of it") from error
    try:
        job = msgspec.convert(body["job"], Job)
        _check_shapes(job)
    except msgspec.ValidationError as error:
        raise JobFileError(name, f"its description is wrong: {error}", "open a copy of it") from error
    except GlassCapError as error:
        raise JobFileError(name, f"its description is wrong: {error.line}", "open a copy of it") from error
    return job


def _check_shapes(job: Job) -> None:
    """Refuse shapes without an outline: one of them would keep every sheet it lies on from being drawn."""
    for _, item in items_of(job):
        if isinstance(item.shape, CombinedShape) and item.shape.count > _MOST_PARTS:
            why = f"its parts hold {item.shape.count} shapes in all"
            raise ShapeError(item.name, why, f"combine {_MOST_PARTS} at the most")
        if item.shape is not None and item.shape_placement is not None:
            outline_of(item.shape, item.shape_placement.width, item.shape_placement.height)


def _check_version(body: Any, name: str) -> None:
    if not isinstance(body, dict) or body.get("format") != "glasscap-job" or "job" not in body:
        raise JobFileError(name, "it is no job file", "open a file ending in .glasscap")
    version = body.get("version")
    if not isinstance(version, int) or version < 1:
        raise JobFileError(name, f"its version {version!r} is none", "open a copy of it")
    if version > VERSION:
        why = f"it was written by a later Glass Cap (file version {version}, this one reads up to {VERSION})"
        raise JobFileNewerError(name, why, "update Glass Cap; the file was left as it is")
