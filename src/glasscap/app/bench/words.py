"""Hints on the bench: the effect of a drag, in words."""

from glasscap.app.bench import typing
from glasscap.app.session import Session
from glasscap.core.document.arranging.grips import held
from glasscap.core.shapes.library.table import find_shape
from glasscap.core.shapes.outlines import shape_label

GRIP_NAMES = {"photo": "the photo", "together": "photo and shape together", "shape": "the shape"}
_GROUP_GRIPS = {
    "photo": "what the group holds",
    "together": "the whole group",
    "shape": "the group's shape",
}
_POINTS = (
    "Drag points · pull handles out by their rings · click the outline to add one · Delete takes them away · "
    "Escape leaves"
)


def bench_words(session: Session) -> str:
    """Return the line over the grip bar."""
    return _tool_words(session) or _drag_words(session)


def _tool_words(session: Session) -> str:
    """Return what the tool says that takes the clicks for itself, "" without one."""
    if session.drawing:
        name = find_shape(session.drawing).label.lower()
        article = "an" if name[0] in "aeio" else "a"
        item = session.item
        whose = "a new one that waits for a photo" if item is None else f"the new shape of {item.name}"
        return f"Drag draws {article} {name}, {whose} · Ctrl or the right button carries it · Escape leaves"
    if session.aim is not None:
        return session.aim.words
    if session.sketch is not None:
        return session.sketch.words
    if session.is_editing_points:
        return _POINTS
    return typing.WORDS if session.is_typing else ""


def _drag_words(session: Session) -> str:
    item = session.seen_item
    if item is None:
        if session.open_group is not None:
            return "Click a cutout of the group · Escape closes the group"
        return "Click a cutout to select it"
    if item.is_locked:
        return f"{item.name} is locked"
    if session.part is not None and item.shape is not None:
        return f"Drag moves the part · {shape_label(item.shape)} · Escape closes it"
    if len(session.selected) > 1:
        return f"Drag moves {len(session.selected)} cutouts · {GRIP_NAMES[held(session.grip, item)]}"
    if item.is_group:
        return f"Drag moves {_GROUP_GRIPS[held(session.grip, item)]} · {item.name} · double click opens it"
    back = " · Escape gives the grip back" if session.is_holding_photo else ""
    return f"Drag moves {GRIP_NAMES[held(session.grip, item)]} · {item.name}{back}"
