"""The handles of what the grip holds, in sheet px."""

from collections.abc import Sequence
from typing import Literal

from msgspec import Struct

from glasscap.core.document.arranging.grips import Grip, held
from glasscap.core.document.model.boxes import box_around, content_box
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord
from glasscap.core.document.model.query import photo_of
from glasscap.core.geometry.types import Affine
from glasscap.core.shapes.outlines import has_equal_sides

HandleKind = Literal["corner", "side", "turn"]


class Frame(Struct, frozen=True):
    """A turned rectangle: the map from its own centred px, and its size in them."""

    to_sheet: Affine
    width: float
    height: float

    def point(self, u: float, v: float) -> tuple[float, float]:
        """Return the sheet point at (u, v), each -1 to 1 across the frame."""
        return self.to_sheet.apply(u * self.width / 2, v * self.height / 2)


class Handle(Struct, frozen=True):
    """One handle: where on the frame (u, v from -1 to 1), and where on the sheet."""

    kind: HandleKind
    grip: Grip
    u: float
    v: float
    x: float
    y: float


_CORNERS = ((-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0))
_SIDES = ((0.0, -1.0), (1.0, 0.0), (0.0, 1.0), (-1.0, 0.0))


def photo_frame(cutout: Cutout, photo: PhotoRecord) -> Frame | None:
    """Return the frame of a cutout's photo."""
    placement = cutout.content_placement
    if placement is None:
        return None
    centred = Affine.translation(photo.width / 2, photo.height / 2)
    to_sheet = placement.to_sheet(photo.width, photo.height).after(centred)
    return Frame(to_sheet, photo.width, photo.height)


def shape_frame(cutout: Cutout) -> Frame | None:
    """Return the frame of a cutout's shape."""
    placement = cutout.shape_placement
    if placement is None:
        return None
    return Frame(placement.to_sheet, placement.width, placement.height)


def contents_frame(job: Job, cutout: Cutout) -> Frame | None:
    """Return the frame of what shows through: the photo's, turned with it, or the box of a group's contents."""
    if not cutout.is_group:
        photo = photo_of(job, cutout)
        return None if photo is None else photo_frame(cutout, photo)
    box = content_box(job, cutout)
    return None if box is None else Frame(Affine.translation(*box.centre), box.width, box.height)


def frame_for(job: Job, cutout: Cutout, grip: Grip) -> Frame | None:
    """Return the frame a grip's handles sit on: the photo's (or a group's contents'), else the shape's."""
    return contents_frame(job, cutout) if held(grip, cutout) == "photo" else shape_frame(cutout)


def selection_frame(job: Job, items: Sequence[Cutout], grip: Grip) -> Frame | None:
    """Return the frame round what a grip holds: one item's own, turned with it; the box round several."""
    if len(items) == 1:
        return frame_for(job, items[0], grip)
    box = box_around(job, items)
    return None if box is None else Frame(Affine.translation(*box.centre), box.width, box.height)


def selection_handles(job: Job, items: Sequence[Cutout], grip: Grip, reach: float) -> tuple[Handle, ...]:
    """Return the handles of what is selected; several together have corners and a turn handle."""
    if len(items) == 1:
        return handles_for(job, items[0], grip, reach)
    frame = selection_frame(job, items, grip)
    if frame is None or any(i.is_locked for i in items):
        return ()
    found = [Handle("corner", grip, u, v, *frame.point(u, v)) for u, v in _CORNERS]
    return (*found, Handle("turn", grip, 0.0, -1.0, *_beyond_top(frame, reach)))


def handles_for(job: Job, cutout: Cutout, grip: Grip, reach: float) -> tuple[Handle, ...]:
    """Return the handles of a cutout under a grip; `reach` sheet px from the frame to the turn handle.

    A photo and a cutout held together have corners only, so neither is ever distorted by a drag.
    """
    frame = frame_for(job, cutout, grip)
    if frame is None or cutout.is_locked:
        return ()
    really = held(grip, cutout)
    spots: list[tuple[HandleKind, float, float]] = [("corner", u, v) for u, v in _CORNERS]
    if really == "shape" and cutout.shape is not None:
        sides: list[tuple[HandleKind, float, float]] = [("side", u, v) for u, v in _SIDES]
        is_held = cutout.shape_placement is not None and cutout.shape_placement.keeps_ratio
        if has_equal_sides(cutout.shape):
            spots = sides
        elif not is_held:
            spots += sides
    found = [Handle(kind, really, u, v, *frame.point(u, v)) for kind, u, v in spots]
    x, y = _beyond_top(frame, reach)
    return (*found, Handle("turn", really, 0.0, -1.0, x, y))


def _beyond_top(frame: Frame, reach: float) -> tuple[float, float]:
    top, centre = frame.point(0, -1), frame.point(0, 0)
    dx, dy = top[0] - centre[0], top[1] - centre[1]
    length = max((dx * dx + dy * dy) ** 0.5, 1e-9)
    return top[0] + dx / length * reach, top[1] + dy / length * reach
