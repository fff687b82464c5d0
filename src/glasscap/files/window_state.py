"""The window's size, and whether it filled the screen, kept in the user's state folder."""

import contextlib
import json
from pathlib import Path

from msgspec import Struct
from msgspec.structs import asdict

from glasscap.core.errors import FileProblemError
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.recent import state_folder


class WindowState(Struct, frozen=True):
    """Width and height of the window when it does not fill the screen, logical px."""

    width: int
    height: int
    is_maximised: bool = False


def read_window_state(folder: Path | None = None) -> WindowState | None:
    """Return how the last window was left, None if that is not known."""
    try:
        found = json.loads(read_bytes((folder or state_folder()) / "window.json"))
        state = WindowState(int(found["width"]), int(found["height"]), bool(found["is_maximised"]))
    except (FileProblemError, ValueError, TypeError, KeyError):
        return None
    return state if 0 < state.width <= 20_000 and 0 < state.height <= 20_000 else None


def keep_window_state(state: WindowState, folder: Path | None = None) -> None:
    """Keep how a window was left; where that cannot be, the next one has its usual size."""
    place = folder or state_folder()
    with contextlib.suppress(FileProblemError, OSError):
        place.mkdir(parents=True, exist_ok=True)
        write_atomically(place / "window.json", json.dumps(asdict(state)).encode())
