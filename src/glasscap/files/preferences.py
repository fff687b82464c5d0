"""The designer's preferences, kept in the user's configuration folder (XDG Base Directory Specification)."""

from pathlib import Path
from typing import Literal

import msgspec
from platformdirs import user_config_path

from glasscap.core.errors import FileProblemError
from glasscap.files.atomic import file_problem, read_bytes, write_atomically

LengthUnit = Literal["px", "mm", "cm", "in", "pt"]
UNITS: tuple[LengthUnit, ...] = ("px", "mm", "cm", "in", "pt")
# Shares of the machine's memory for decoded photos, percent.
LEAST_MEMORY, MOST_MEMORY = 5, 75


class Preferences(msgspec.Struct, frozen=True):
    """`surround` is the grey around the sheet, 0 to 255 (None follows the theme).

    `memory` is the share of the machine's memory for decoded photos in percent, 0 for the built-in budget.
    """

    surround: int | None = None
    unit: LengthUnit = "px"
    is_snapping: bool = True
    memory: int = 0


def preferences_path() -> Path:
    """Return where preferences are kept."""
    return user_config_path("glasscap") / "preferences.json"


def read_preferences(path: Path | None = None) -> Preferences:
    """Return what is preferred; what cannot be read, or is out of range, is as it was at first."""
    try:
        found = msgspec.json.decode(read_bytes(path or preferences_path()), type=Preferences)
    except (FileProblemError, msgspec.MsgspecError, UnicodeDecodeError):
        return Preferences()
    surround = found.surround if found.surround is None else min(max(found.surround, 0), 255)
    memory = 0 if found.memory <= 0 else min(max(found.memory, LEAST_MEMORY), MOST_MEMORY)
    return msgspec.structs.replace(found, surround=surround, memory=memory)


def write_preferences(preferences: Preferences, path: Path | None = None) -> None:
    """Keep what is preferred. Raises FileProblemError."""
    target = path or preferences_path()
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise file_problem(target.parent, error) from error
    write_atomically(target, msgspec.json.format(msgspec.json.encode(preferences), indent=1))
