"""Shapes the user keeps at hand: kept, recent, and shapes of their own, in the user's state folder."""

import json
from pathlib import Path

import msgspec
from msgspec import Struct, field
from msgspec.structs import replace

from glasscap.core.errors import FileProblemError, GlassCapError
from glasscap.core.shapes.kinds import Shape
from glasscap.core.shapes.library.table import SHAPES
from glasscap.files.atomic import read_bytes, write_atomically
from glasscap.files.recent import state_folder

_RECENT = 18
_MOST_OWN = 500
_FILE = "shapes.json"


class Shelf(Struct, frozen=True):
    """Names of kept and recent shapes of the library, newest first, and the user's own by name."""

    kept: tuple[str, ...] = ()
    recent: tuple[str, ...] = ()
    own: dict[str, Shape] = field(default_factory=dict)

    def with_recent(self, name: str) -> "Shelf":
        """Return it with a shape used just now."""
        return replace(self, recent=(name, *(n for n in self.recent if n != name))[:_RECENT])

    def with_kept(self, name: str, *, is_kept: bool) -> "Shelf":
        """Return it with a shape kept, or no longer."""
        others = tuple(n for n in self.kept if n != name)
        return replace(self, kept=(*others, name) if is_kept else others)

    def with_own(self, name: str, shape: Shape | None) -> "Shelf":
        """Return it with a shape of the user's own under a name, or without it."""
        own = {key: value for key, value in self.own.items() if key != name}
        if shape is not None:
            own[name] = shape
        return replace(self, own=dict(list(own.items())[-_MOST_OWN:]))


def read_shelf(folder: Path | None = None) -> Shelf:
    """Return the shelf; an empty one where none can be read, without what is no shape of this version."""
    try:
        found = json.loads(read_bytes((folder or state_folder()) / _FILE))
        names = {key: tuple(str(n) for n in found[key] if str(n) in SHAPES) for key in ("kept", "recent")}
        own = {str(key): shape for key, value in found["own"].items() if (shape := _shape(value)) is not None}
    except (FileProblemError, ValueError, TypeError, KeyError, AttributeError):
        return Shelf()
    return Shelf(names["kept"], names["recent"], own)


def _shape(value: object) -> Shape | None:
    try:
        shape: Shape = msgspec.convert(value, Shape)
    except (msgspec.ValidationError, GlassCapError, RecursionError):
        return None
    return shape


def write_shelf(shelf: Shelf, folder: Path | None = None) -> None:
    """Keep the shelf. Raises FileProblemError if it cannot be kept."""
    place = folder or state_folder()
    own = {name: msgspec.to_builtins(shape) for name, shape in shelf.own.items()}
    data = json.dumps({"kept": shelf.kept, "recent": shelf.recent, "own": own}, indent=1)
    try:
        place.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FileProblemError(str(place), "the kept shapes cannot be stored", "") from error
    write_atomically(place / _FILE, data.encode())
