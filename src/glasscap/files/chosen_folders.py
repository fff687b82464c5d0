"""The folder chosen last in a file dialog, one for each kind of file, kept in the user's state folder."""

import contextlib
import json
from pathlib import Path
from typing import Literal

from glasscap.core.errors import FileProblemError
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.recent import state_folder

FolderKind = Literal["photographs", "jobs", "shapes", "pictures out", "mock-ups"]
_FILE = "folders.json"


def chosen_folder(kind: FolderKind, state: Path | None = None) -> Path | None:
    """Return the folder chosen last for a kind of file, if it still exists."""
    found = _kept(state or state_folder()).get(kind)
    with contextlib.suppress(OSError):
        if found is not None and Path(found).is_dir():
            return Path(found)
    return None


def keep_chosen_folder(kind: FolderKind, folder: Path, state: Path | None = None) -> None:
    """Keep a folder for the next dialog; where that cannot be, the next one begins at home."""
    place = state or state_folder()
    kept = _kept(place) | {kind: str(folder)}
    with contextlib.suppress(FileProblemError, OSError, UnicodeEncodeError):
        place.mkdir(parents=True, exist_ok=True)
        write_atomically(place / _FILE, json.dumps(kept).encode())


def _kept(place: Path) -> dict[str, str]:
    try:
        found = json.loads(read_bytes(place / _FILE))
    except (FileProblemError, ValueError):
        return {}
    return {str(k): str(v) for k, v in found.items()} if isinstance(found, dict) else {}
