"""The photo store: photographs by SHA-256 of their bytes, decoded when needed, within a budget."""

import hashlib
from collections.abc import Callable, Iterable
from functools import partial
from threading import RLock
from typing import Protocol

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.errors import PhotoError, PhotoMissingError
from glasscap.core.photos.cache import ValueCache
from glasscap.core.raster.pixels import PhotoPixels
from glasscap.core.raster.resample import Pyramid

Decoder = Callable[[bytes, str], PhotoPixels]
DraftDecoder = Callable[[bytes, str], PhotoPixels | None]
Redrawer = Callable[[bytes, str, int], PhotoPixels]
DEFAULT_BUDGET = 2 * 1024**3
# Photos above this many px leave a picture of an eighth of their sides behind.
_LARGE_PX, _DRAFT_LEVEL = 4_000_000, 3
# Drafts take an eighth of the budget.
_DRAFT_SHARE = 8


class PhotoSource(Protocol):
    """What a render asks for photos."""

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return a photo with its reductions. Raises PhotoError."""


def which_are_drafts(photos: Iterable[PhotoRecord], source: PhotoSource) -> tuple[bool, ...]:
    """Return of each photo whether it is a quick draft by now: what was made of it is then soon made anew."""
    return tuple(source.pyramid(photo).is_draft for photo in photos)


def sha256_of(data: bytes) -> str:
    """Return the SHA-256 of bytes as 64 hexadecimal digits."""
    return hashlib.sha256(data).hexdigest()


class PhotoStore:
    """Original bytes of photos by SHA-256, and decoded ones within `budget_bytes`.

    Bytes are only ever added, so every state of the undo history finds its photos. A photo that cannot be
    decoded is tried once; the error is kept. Without `decode_draft` nothing is kept for a screen.
    """

    def __init__(
        self,
        decode: Decoder,
        decode_draft: DraftDecoder | None = None,
        budget_bytes: int = DEFAULT_BUDGET,
        redraw: Redrawer | None = None,
    ) -> None:
        self._decode, self._decode_draft, self._redraw = decode, decode_draft, redraw
        self.budget_bytes = budget_bytes
        self._files: dict[str, bytes] = {}
        self._drafts = ValueCache(budget_bytes // _DRAFT_SHARE, is_growing=True)
        self._errors: dict[str, PhotoError] = {}
        self._decoded = ValueCache(budget_bytes - budget_bytes // _DRAFT_SHARE, is_growing=True)
        self._lock = RLock()

    def add(self, data: bytes, sha256: str | None = None) -> str:
        """Keep the bytes of a photo; return their SHA-256, which need not be reckoned anew where it is known."""
        key = sha256 or sha256_of(data)
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
        """Whether the photo's whole pixels are at hand."""
        return self._decoded.peek(photo.sha256) is not None

    def pyramid(self, photo: PhotoRecord) -> Pyramid:
        """Return a photo with its reductions, decoding it if need be. Raises PhotoError."""
        kept = self._decoded.peek(photo.sha256)
        if isinstance(kept, Pyramid):
            return kept
        with self._lock:
            data = self._data_of_whole(photo)
            made = self._decoded.get(photo.sha256, lambda: self._opened(data, photo), lambda p: p.nbytes)
            self._keep_draft(photo, made)
            return made

    def _keep_draft(self, photo: PhotoRecord, whole: Pyramid) -> None:
        """Keep a small picture of a photo for the screen, for when the whole has made room for others."""
        if self._decode_draft is None or self._drafts.peek(photo.sha256) is not None:
            return
        if not whole.photo.is_opaque or photo.is_drawing:
            return
        if photo.width * photo.height > _LARGE_PX:
            small = PhotoPixels(whole.halved(_DRAFT_LEVEL), is_opaque=True)
            self._keep(photo, small)

    def _keep(self, photo: PhotoRecord, draft: PhotoPixels) -> Pyramid:
        return self._drafts.get(
            photo.sha256, lambda: Pyramid(draft, (photo.width, photo.height)), lambda p: p.nbytes
        )

    def set_budget(self, nbytes: int) -> None:
        """Hold at most so many bytes of decoded photos from now on."""
        self.budget_bytes, drafts = nbytes, nbytes // _DRAFT_SHARE
        for kept, most in ((self._decoded, nbytes - drafts), (self._drafts, drafts)):
            kept.capacity_bytes = most
            kept.cut_back(most)

    @property
    def decoded_bytes(self) -> int:
        """Bytes of decoded photos and their drafts held by now."""
        return self._decoded.nbytes + self._drafts.nbytes

    def quick(self, photo: PhotoRecord) -> Pyramid:
        """Return the whole photo if it is at hand, else a draft, else the whole. Raises PhotoError."""
        if self.is_decoded(photo):
            return self.pyramid(photo)
        data = self._data_of_whole(photo)
        kept = self._drafts.peek(photo.sha256)
        if isinstance(kept, Pyramid):
            return kept
        draft = None if self._decode_draft is None else self._decode_draft(data, photo.name)
        return self.pyramid(photo) if draft is None else self._keep(photo, draft)

    def _data_of_whole(self, photo: PhotoRecord) -> bytes:
        if photo.sha256 in self._errors:
            raise self._errors[photo.sha256]
        return self.data(photo)

    def _opened(self, data: bytes, photo: PhotoRecord) -> Pyramid:
        try:
            pixels = self._decode(data, photo.name)
        except PhotoError as error:
            self._errors[photo.sha256] = error
            raise
        made = Pyramid(pixels, pixels.size)
        if photo.is_drawing and self._redraw is not None:
            made.redraw = partial(self._redraw, data, photo.name)
        return made
