"""Unfinished work in hand (a drawing, typing, a drag): undo and redo work on it before the job."""

from typing import Protocol


class InHand(Protocol):
    """Something unfinished. `back` and `again` say what would be taken back and put back, "" for nothing."""

    @property
    def back(self) -> str:
        """The name of the step that undo takes back."""

    @property
    def again(self) -> str:
        """The name of the step that redo puts back."""

    def take_back(self) -> None:
        """Take the last point, stroke or letter back."""

    def put_back(self) -> None:
        """Have it again."""
