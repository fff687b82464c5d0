"""The drop place of a dragged card in the tray: a group or sheet, and a place in it."""

from msgspec import Struct
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QHBoxLayout, QWidget

from glasscap.app.tray.card import TrayCard
from glasscap.app.tray.group_frame import GroupFrame

# Logical px at a group's ends where a card lands beside the group, not in it.
_RIM = 14


class DropPlace(Struct, frozen=True):
    """A container's id ("" for the sheet), the place from the back in it, and the mark's x in the row."""

    container_id: str
    place: int
    mark_x: int


def drop_place(row: QWidget, line: QHBoxLayout, x: int, container_id: str = "") -> DropPlace:
    """Return where a card dropped at `x` (logical px of the row) lands, looking into groups."""
    shown = [w for n in range(line.count()) if isinstance(w := _widget(line, n), TrayCard | GroupFrame)]
    gap = line.spacing() // 2
    mark = line.contentsMargins().left()
    for place, widget in enumerate(shown):
        left = widget.mapTo(row, QPoint(0, 0)).x()
        right = left + widget.width()
        if isinstance(widget, GroupFrame) and left + _RIM <= x < right - _RIM:
            return drop_place(row, widget.line, x, widget.item.id)
        if x < (left + right) // 2:
            return DropPlace(container_id, place, left - gap)
        mark = right + gap
    return DropPlace(container_id, len(shown), mark)


def _widget(line: QHBoxLayout, at: int) -> QWidget | None:
    entry = line.itemAt(at)
    return None if entry is None else entry.widget()
