"""What is kept, and what goes first."""

import numpy as np

from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.photos.cache import ValueCache
from glasscap.core.photos.store import PhotoStore, sha256_of
from glasscap.core.raster.pixels import PhotoPixels


def test_what_was_looked_at_last_goes_last() -> None:
    cache = ValueCache(30)
    for name in "abc":
        cache.put(name, name, 10)
    assert cache.peek("a") == "a"
    cache.put("d", "d", 10)
    assert [name for name in "abcd" if cache.peek(name)] == ["a", "c", "d"]


def _store(budget: int) -> tuple[PhotoStore, list[PhotoRecord]]:
    """A store of eight photos of 4.2 MP, 16.8 MB decoded each, with drafts of 1/8."""

    def decode(data: bytes, name: str) -> PhotoPixels:
        return PhotoPixels(np.full((2048, 2050, 4), data[0], np.uint8), is_opaque=True)

    def draft(data: bytes, name: str) -> PhotoPixels:
        return PhotoPixels(np.full((256, 257, 4), data[0], np.uint8), is_opaque=True)

    store, records = PhotoStore(decode, draft, budget), []
    for n in range(8):
        key = store.add(bytes([n]) * 9)
        records.append(PhotoRecord(key, f"jug-{n}.jpg", 2050, 2048))
    return store, records


def test_drafts_and_whole_photos_together_stay_within_the_budget() -> None:
    budget = 60_000_000
    store, photos = _store(budget)
    for photo in photos:
        store.quick(photo)
        store.pyramid(photo)
        assert store.decoded_bytes <= budget
    assert store.is_decoded(photos[-1])
    assert not store.is_decoded(photos[0])
    store.set_budget(2_000_000)
    assert store.decoded_bytes <= 2_000_000


def test_the_photo_in_use_outlives_those_that_pass_by() -> None:
    store, photos = _store(60_000_000)
    for photo in photos[1:]:
        store.pyramid(photos[0])
        store.pyramid(photo)
    assert store.is_decoded(photos[0])
    assert store.pyramid(photos[0]).photo.rgba[0, 0, 0] == 0
    assert sha256_of(bytes([0]) * 9) == photos[0].sha256
