"""Recent jobs, remembered in the user's state folder (XDG Base Directory Specification)."""

import json
import zipfile
from pathlib import Path

from msgspec import Struct
from msgspec.structs import asdict
from platformdirs import user_state_path

from glasscap.core.errors import FileProblemError
from glasscap.core.formats.archive import ZIP_FAULTS
from glasscap.files.atomic import read_bytes, write_atomically

_KEPT, _LARGEST_PICTURE = 8, 8 << 20


class RecentJob(Struct, frozen=True):
    """A job file and when it was last open, seconds since 1970."""

    path: str
    opened_at: float


def state_folder() -> Path:
    """Return where this user's state is kept."""
    return user_state_path("glasscap")


def recent_jobs(folder: Path | None = None) -> list[RecentJob]:
    """Return recent jobs that are still there, newest first; none if the list cannot be read."""
    try:
        entries = json.loads(read_bytes((folder or state_folder()) / "recent.json"))
        jobs = [RecentJob(str(e["path"]), float(e["opened_at"])) for e in entries]
    except (FileProblemError, ValueError, TypeError, KeyError):
        return []
    return [job for job in jobs if Path(job.path).is_file()]


def job_picture(path: str) -> bytes:
    """Return the preview a job file holds (PNG), nothing where it has none or cannot be read."""
    try:
        with zipfile.ZipFile(path) as archive:
            info = archive.getinfo("preview.png")
            return archive.read(info) if info.file_size <= _LARGEST_PICTURE else b""
    except (*ZIP_FAULTS, KeyError):
        return b""


def remember_job(path: Path, now: float, folder: Path | None = None) -> None:
    """Put a job at the head of the list. Raises FileProblemError if it cannot be kept."""
    place = folder or state_folder()
    others = [job for job in recent_jobs(place) if Path(job.path) != path.resolve()]
    entries = [RecentJob(str(path.resolve()), now), *others][:_KEPT]
    try:
        place.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FileProblemError(str(place), "the list of recent jobs cannot be kept", "") from error
    write_atomically(place / "recent.json", json.dumps([asdict(e) for e in entries], indent=1).encode())
