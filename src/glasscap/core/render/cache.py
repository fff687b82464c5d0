"""Results kept by the values they depend on, within a stated number of bytes."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import RLock
from typing import Any, TypeVar

T = TypeVar("T")


class ValueCache:
    """Least recently used results, dropped first when `capacity_bytes` is passed.

    May be shared by threads; two may compute the same value at once, which harms nothing.
    """

    def __init__(self, capacity_bytes: int) -> None:
        self.capacity_bytes = capacity_bytes
        self._kept: OrderedDict[Hashable, tuple[Any, Callable[[], int]]] = OrderedDict()
        self._lock = RLock()

    def get(self, key: Hashable, make: Callable[[], T], size: Callable[[T], int]) -> T:
        """Return the kept result for `key`, or make and keep it; `size` tells a result's bytes."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                value: T = self._kept[key][0]
                return value
        made = make()
        with self._lock:
            self._kept[key] = (made, lambda: size(made))
            self._shrink()
        return made

    def put(self, key: Hashable, value: Any, nbytes: int) -> None:
        """Keep a result, replacing the one kept under the key."""
        with self._lock:
            self._kept[key] = (value, lambda: nbytes)
            self._kept.move_to_end(key)
            self._shrink()

    def drop(self, key: Hashable) -> None:
        """Forget a result."""
        with self._lock:
            self._kept.pop(key, None)

    def peek(self, key: Hashable) -> Any | None:
        """Return the kept result or None."""
        with self._lock:
            entry = self._kept.get(key)
            return None if entry is None else entry[0]

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        with self._lock:
            return sum(size() for _, size in self._kept.values())

    def _shrink(self) -> None:
        total = self.nbytes
        while total > self.capacity_bytes and len(self._kept) > 1:
            _, (_, size) = self._kept.popitem(last=False)
            total -= size()
