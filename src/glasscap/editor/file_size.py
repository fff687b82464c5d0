"""The file size of a cutout: really encoded, as a PNG of the size the proofs tell."""

from msgspec import Struct

from glasscap.core.document.model.job import Job
from glasscap.core.errors import GlassCapError
from glasscap.core.formats.outgoing import encode_output
from glasscap.core.photos.cache import ValueCache
from glasscap.editor.comparing import default_output
from glasscap.editor.frames import ScreenPhotos

# A larger picture takes more memory and time than a figure beside it is worth.
_MOST_PX = 64_000_000


class SizeRequest(Struct, frozen=True):
    """A cutout of a job, and how large its picture is, px."""

    job: Job
    item_id: str
    size: tuple[int, int]


class FileSize(Struct, frozen=True):
    """The answer: bytes, or None where there is no telling."""

    request: SizeRequest
    nbytes: int | None


def file_size(request: SizeRequest, photos: ScreenPhotos, cache: ValueCache) -> FileSize:
    """Encode a cutout as it would be written, and count."""
    if request.size[0] * request.size[1] > _MOST_PX:
        return FileSize(request, None)
    try:
        output = default_output(request.job, request.item_id)
        return FileSize(request, len(encode_output(request.job, output, photos.store, cache).data))
    except (GlassCapError, MemoryError):
        return FileSize(request, None)
