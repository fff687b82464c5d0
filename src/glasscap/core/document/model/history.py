"""Undo as a list of snapshots that share structure."""

from typing import Generic, TypeVar

from msgspec import Struct

T = TypeVar("T")


class History(Struct, Generic[T], frozen=True):
    """Values with the label of the step that led to each; `index` is where we are.

    The first label is empty. `capacity` bounds the number of steps kept.
    """

    values: tuple[T, ...]
    labels: tuple[str, ...] = ("",)
    index: int = 0
    capacity: int = 1000

    @property
    def value(self) -> T:
        """The present value."""
        return self.values[self.index]

    @property
    def undo_label(self) -> str | None:
        """Name of the step that undo takes back, or None."""
        return self.labels[self.index] if self.index > 0 else None

    @property
    def redo_label(self) -> str | None:
        """Name of the step that redo does again, or None."""
        return self.labels[self.index + 1] if self.index + 1 < len(self.values) else None

    def applied(self, label: str, value: T) -> "History[T]":
        """Return the history with one more step; what had been undone is dropped."""
        if value is self.value:
            return self
        values = (*self.values[: self.index + 1], value)
        labels = (*self.labels[: self.index + 1], label)
        extra = max(0, len(values) - self.capacity - 1)
        return History(values[extra:], labels[extra:], len(values) - extra - 1, self.capacity)

    def amended(self, value: T) -> "History[T]":
        """Return the history with another value of the present step."""
        return History(
            (*self.values[: self.index], value), self.labels[: self.index + 1], self.index, self.capacity
        )

    def undone(self) -> "History[T]":
        """Return the history one step back (itself at the start)."""
        return self._at(max(0, self.index - 1))

    def redone(self) -> "History[T]":
        """Return the history one step on (itself at the end)."""
        return self._at(min(len(self.values) - 1, self.index + 1))

    def _at(self, index: int) -> "History[T]":
        return self if index == self.index else History(self.values, self.labels, index, self.capacity)
