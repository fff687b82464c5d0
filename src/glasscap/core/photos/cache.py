"""Results kept by the values they depend on, within a stated number of bytes."""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable
from threading import RLock
from typing import Any, Protocol, TypeVar

from glasscap.core.work.ticket import no_check

T = TypeVar("T")
_ONE_PICTURE_BYTES = 64 << 20


class Sized(Protocol):
    """What tells how many bytes it holds."""

    @property
    def nbytes(self) -> int:
        """Bytes held."""


def nbytes_of(things: Iterable[Sized]) -> int:
    """Return the bytes that arrays and the like hold together."""
    return sum(thing.nbytes for thing in things)


class ValueCache:
    """Least recently used results, dropped first when `capacity_bytes` is passed.

    Sizes are told once, or asked for again at every addition when results grow while they are kept
    (`is_growing`). May be shared by threads; two may compute the same value at once, which harms nothing.
    `pause` is called before anything is made, and by who works with the cache between bands: long work may give
    way there to what must not wait.
    """

    def __init__(
        self, capacity_bytes: int, *, is_growing: bool = False, pause: Callable[[], None] = no_check
    ) -> None:
        self.pause = pause
        self.capacity_bytes, self._is_growing = capacity_bytes, is_growing
        self._kept: OrderedDict[Hashable, tuple[Any, Callable[[], int], int]] = OrderedDict()
        self._total = 0
        self._lock = RLock()

    def get(self, key: Hashable, make: Callable[[], T], size: Callable[[T], int]) -> T:
        """Return the kept result for `key`, or make and keep it; `size` tells a result's bytes."""
        with self._lock:
            entry = self._kept.get(key)
            if entry is not None:
                self._kept.move_to_end(key)
                value: T = entry[0]
                return value
        self.pause()
        made = make()
        self._keep(key, made, lambda: size(made))
        return made

    def put(self, key: Hashable, value: Any, nbytes: int) -> None:
        """Keep a result, replacing the one kept under the key."""
        self._keep(key, value, lambda: nbytes)

    def _keep(self, key: Hashable, value: Any, size: Callable[[], int]) -> None:
        with self._lock:
            self.drop(key)
            now = size()
            self._kept[key] = (value, size, now)
            self._total += now
            self._shrink()

    def drop(self, key: Hashable) -> None:
        """Forget a result."""
        with self._lock:
            entry = self._kept.pop(key, None)
            if entry is not None:
                self._total -= entry[2]

    def peek(self, key: Hashable) -> Any | None:
        """Return the kept result or None; being looked for it counts as used."""
        with self._lock:
            entry = self._kept.get(key)
            if entry is None:
                return None
            self._kept.move_to_end(key)
            return entry[0]

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        with self._lock:
            if self._is_growing:
                self._kept = OrderedDict((k, (v, size, size())) for k, (v, size, _) in self._kept.items())
                self._total = sum(now for _, _, now in self._kept.values())
            return self._total

    def cut_back(self, nbytes: int) -> None:
        """Forget the least recently used results until at most `nbytes` are held."""
        with self._lock:
            self._shrink(nbytes, fewest=0)

    def _shrink(self, nbytes: int | None = None, fewest: int = 1) -> None:
        total = self.nbytes
        most = self.capacity_bytes if nbytes is None else nbytes
        while total > most and len(self._kept) > fewest:
            _, (_, _, size) = self._kept.popitem(last=False)
            total -= size
        self._total = total


def new_cache() -> ValueCache:
    """Return what one picture keeps while it is rendered."""
    return ValueCache(_ONE_PICTURE_BYTES)
