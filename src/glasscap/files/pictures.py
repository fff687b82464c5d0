"""Finished pictures on the disk: written whole, read again and checked before "written" is said."""

from collections.abc import Callable
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from glasscap.core.document.model.outputs import FileOptions
from glasscap.core.errors import ExportError
from glasscap.core.formats.read_back import check_file
from glasscap.core.formats.registry import FORMATS, encode_pixels, format_of
from glasscap.core.formats.tags import Tags
from glasscap.core.raster.pixels import Picture
from glasscap.core.work.ticket import no_progress
from glasscap.files.atomic import read_bytes, write_atomically


class WrittenPicture(Struct, frozen=True):
    """A picture file that was written and read again."""

    path: Path
    width: int
    height: int
    x: int
    y: int
    nbytes: int


def write_picture(
    path: Path,
    picture: Picture,
    options: FileOptions | None = None,
    progress: Callable[[float], None] = no_progress,
) -> WrittenPicture:
    """Encode in the format of the path's ending, write atomically, read again with another decoder and compare.

    Raises
    ------
    ExportError
        If no format has the ending, or the file read again differs.
    FileProblemError
        If the disk says no; nothing is left behind.
    """
    options = options or FileOptions()
    if path.suffix.lower() not in FORMATS[options.format].endings:
        options = replace(options, format=format_of(path.suffix).name)
    tags = Tags(ppi=options.ppi)
    data = encode_pixels(picture.rgba, options, tags, progress)
    check_file(data, picture.rgba, options, tags, path.name)
    write_atomically(path, data)
    if read_bytes(path) != data:
        raise ExportError(path.name, "the disk gave back other bytes", "write it to another place")
    return WrittenPicture(path, picture.width, picture.height, picture.x, picture.y, len(data))
