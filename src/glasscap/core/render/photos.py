"""Where the renderer gets photographs: bytes by SHA-256, decoded when needed, within a budget."""

import hashlib
from collections.abc import Callable
from threading import RLock
from typing import Protocol

from glasscap.core.document.model import PhotoRecord
from glasscap.core.errors import PhotoMissingError
from glasscap.core.raster.pixels import PhotoPixels
from glasscap.core.raster.resample import Pyramid
from glasscap.core.render.cache import ValueCache

Decoder = Callable[[bytes, str], PhotoPixels]
DEFAULT_BUDGET = 2 * 1024**3


class PhotoSource(Protocol):
    """What a render asks for photos."""

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return a photo with its reductions. Raises PhotoError."""


def sha256_of(data: bytes) -> str:
    """Return the SHA-256 of bytes as 64 hexadecimal digits."""
    return hashlib.sha256(data).hexdigest()


class PhotoStore:
    """Original bytes of photos by SHA-256, and decoded ones within `budget_bytes`.

    Bytes are only ever added, so every state of the undo history finds its photos.
    """

    def __init__(self, decode: Decoder, budget_bytes: int = DEFAULT_BUDGET) -> None:
        self._decode = decode
        self._files: dict[str, bytes] = {}
        self._decoded = ValueCache(budget_bytes)
        self._lock = RLock()

    def add(self, data: bytes) -> str:
        """Keep the bytes of a photo; return their SHA-256."""
        key = sha256_of(data)
        self._files.setdefault(key, data)
        return key

    def __contains__(self, sha256: object) -> bool:
        return sha256 in self._files

    def data(self, photo: PhotoRecord) -> bytes:
        """Return a photo's original bytes. Raises PhotoMissingError."""
        try:
            return self._files[photo.sha256]
        except KeyError:
            raise PhotoMissingError(
                photo.name, "the photo is not to be found", "drop it on its cutout again"
            ) from None

    def is_decoded(self, photo: PhotoRecord) -> bool:
        """Whether the photo's pixels are at hand."""
        return self._decoded.peek(photo.sha256) is not None

    def keep_decoded(self, photo: PhotoRecord, pixels: PhotoPixels) -> None:
        """Keep pixels that were decoded elsewhere."""
        size = (photo.width, photo.height)
        self._decoded.get(photo.sha256, lambda: Pyramid(pixels, size), lambda p: p.nbytes)

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return a photo with its reductions, decoding it if need be. Raises PhotoError."""
        kept = self._decoded.peek(photo.sha256)
        if isinstance(kept, Pyramid):
            return kept
        with self._lock:
            data = self.data(photo)
            return self._decoded.get(photo.sha256, lambda: self._opened(data, photo), lambda p: p.nbytes)

    def _opened(self, data: bytes, photo: PhotoRecord) -> Pyramid:
        pixels = self._decode(data, photo.name)
        return Pyramid(pixels, pixels.size)
