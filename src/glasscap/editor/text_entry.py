"""Typing: text, caret and anchor as one value, changed by keys."""

from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

Move = Literal["left", "right", "home", "end", "up", "down"]


class Entry(Struct, frozen=True):
    """Text being typed; what lies between caret and anchor is selected."""

    text: str
    caret: int
    anchor: int

    @property
    def selected(self) -> tuple[int, int]:
        """First and last index of what is selected, the same where nothing is."""
        return min(self.caret, self.anchor), max(self.caret, self.anchor)

    def typed(self, text: str) -> "Entry":
        """Put text in the place of what is selected."""
        first, last = self.selected
        at = first + len(text)
        return Entry(self.text[:first] + text + self.text[last:], at, at)

    def deleted(self, *, is_forward: bool) -> "Entry":
        """Take away what is selected, or one character."""
        first, last = self.selected
        if first == last:
            first, last = (first, min(last + 1, len(self.text))) if is_forward else (max(first - 1, 0), last)
        return Entry(self.text[:first] + self.text[last:], first, first)

    def moved(self, move: Move, *, keeps_anchor: bool = False) -> "Entry":
        """Move the caret; with the anchor kept, select on the way."""
        to = self._target(move)
        first, last = self.selected
        if first != last and not keeps_anchor and move in ("left", "right"):
            to = first if move == "left" else last
        return Entry(self.text, to, self.anchor if keeps_anchor else to)

    def _target(self, move: Move) -> int:
        start = self.text.rfind("\n", 0, self.caret) + 1
        end = self.text.find("\n", self.caret)
        end = len(self.text) if end < 0 else end
        if move == "up":
            above = self.text.rfind("\n", 0, max(start - 1, 0)) + 1
            return self.caret if start == 0 else min(above + self.caret - start, start - 1)
        if move == "down":
            after = self.text.find("\n", end + 1)
            after = len(self.text) if after < 0 else after
            return self.caret if end == len(self.text) else min(end + 1 + self.caret - start, after)
        table = {"left": max(self.caret - 1, 0), "right": min(self.caret + 1, len(self.text)), "home": start}
        return table.get(move, end)

    def all(self) -> "Entry":
        """Select everything."""
        return replace(self, caret=len(self.text), anchor=0)
