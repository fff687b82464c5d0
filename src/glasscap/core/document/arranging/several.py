"""Arranging several cutouts: aligned, spread with equal gaps, scaled and turned about a point, repeated.

Items move as a whole, photo and shape together, by the boxes of what they show (sheet px).
"""

import math
from collections.abc import Callable, Sequence
from itertools import pairwise
from typing import Literal

from glasscap.core.document.arranging.grips import transform_items, transformed
from glasscap.core.document.edits.items import add_items, container_of, copies_of, index_of
from glasscap.core.document.model.boxes import box_around, item_box
from glasscap.core.document.model.job import Item, Job
from glasscap.core.document.model.query import find_item, locate, siblings
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Box, Similarity

Edge = Literal["left", "middle", "right", "top", "centre", "bottom"]
Way = Literal["across", "down"]
Against = Literal["sheet", "group", "each other"]
MOST_COPIES = 1000


def reference_box(job: Job, item_ids: Sequence[str], against: Against) -> Box | None:
    """Return the box things are aligned to: the sheet, the group they lie in (else the sheet), or all of them."""
    sheet, _, _ = locate(job, item_ids[-1])
    container = container_of(job, item_ids[-1])
    if against == "each other":
        return box_around(job, [find_item(job, i) for i in item_ids])
    if against == "group" and container != sheet.id:
        return item_box(job, find_item(job, container))
    return Box(0, 0, sheet.width, sheet.height)


def align(job: Job, item_ids: Sequence[str], edge: Edge, against: Against) -> Job:
    """Move unlocked items so that an edge or the middle of each lies on the reference's."""
    box = reference_box(job, item_ids, against)
    if box is None:
        return job
    for item_id in item_ids:
        own = item_box(job, find_item(job, item_id))
        if own is not None:
            job = moved(job, item_id, *_shift(own, box, edge))
    return job


def _shift(own: Box, box: Box, edge: Edge) -> tuple[float, float]:
    across = {"left": box.x0 - own.x0, "middle": box.centre[0] - own.centre[0], "right": box.x1 - own.x1}
    down = {"top": box.y0 - own.y0, "centre": box.centre[1] - own.centre[1], "bottom": box.y1 - own.y1}
    return across.get(edge, 0.0), down.get(edge, 0.0)


def moved(job: Job, item_id: str, dx: float, dy: float) -> Job:
    """Move a whole item unless it is locked."""
    if dx == dy == 0:
        return job
    return under(job, item_id, Similarity(dx=dx, dy=dy))


def under(job: Job, item_id: str, change: Similarity) -> Job:
    """Apply a similarity to a whole item unless it is locked."""
    return transform_items(job, [item_id], "together", change)


def spread(job: Job, item_ids: Sequence[str], way: Way, gap: float | None = None) -> Job:
    """Put items in a row with equal gaps, in the order they lie in.

    With a `gap` (px) the first stays and the others follow; without, first and last stay and the gaps between
    become equal. Raises PlacementError for fewer than two, without a gap for fewer than three.
    """
    fewest = 3 if gap is None else 2
    boxes = [(box, i) for i in item_ids if (box := item_box(job, find_item(job, i))) is not None]
    if len(boxes) < fewest:
        raise PlacementError("Spread", f"{fewest} cutouts are needed", "select more")
    low, size = (_x0, _width) if way == "across" else (_y0, _height)
    boxes.sort(key=lambda entry: low(entry[0]))
    if gap is None:
        room = low(boxes[-1][0]) - low(boxes[0][0]) - sum(size(b) for b, _ in boxes[:-1])
        gap = room / (len(boxes) - 1)
    at = low(boxes[0][0])
    for box, item_id in boxes:
        by = at - low(box)
        job = moved(job, item_id, by if way == "across" else 0.0, by if way == "down" else 0.0)
        at += size(box) + gap
    return job


def _x0(box: Box) -> float:
    return box.x0


def _y0(box: Box) -> float:
    return box.y0


def _width(box: Box) -> float:
    return box.width


def _height(box: Box) -> float:
    return box.height


def gap_of(job: Job, item_ids: Sequence[str], way: Way) -> float | None:
    """Return the gap between items in a row when all are equal (to 1/100 px), else None."""
    boxes = [box for i in item_ids if (box := item_box(job, find_item(job, i))) is not None]
    low, size = (_x0, _width) if way == "across" else (_y0, _height)
    boxes.sort(key=low)
    gaps = [low(b) - low(a) - size(a) for a, b in pairwise(boxes)]
    return gaps[0] if gaps and max(gaps) - min(gaps) < 0.01 else None


def scale_items(job: Job, item_ids: Sequence[str], factor: float) -> Job:
    """Scale items together about the middle of the box that holds them. Raises PlacementError."""
    if not (math.isfinite(factor) and 1e-3 <= factor <= 1e3):
        raise PlacementError("Scale", f"{factor * 100:g} % is out of range", "use 0.1 % to 100000 %")
    return _about_middle(job, item_ids, lambda x, y: Similarity(x, y, scale=factor))


def turn_items(job: Job, item_ids: Sequence[str], degrees: float) -> Job:
    """Turn items together about the middle of the box that holds them."""
    return _about_middle(job, item_ids, lambda x, y: Similarity(x, y, degrees=degrees))


def _about_middle(job: Job, item_ids: Sequence[str], change: Callable[[float, float], Similarity]) -> Job:
    box = box_around(job, [find_item(job, i) for i in item_ids])
    if box is None:
        return job
    return transform_items(job, item_ids, "together", change(*box.centre))


def repeat_in_row(job: Job, item_id: str, count: int, gap: float, way: Way = "across") -> Job:
    """Put copies of an item beside it until there are `count`, each `gap` px from the one before."""
    box = _repeated(job, item_id, count)
    step = gap + (box.width if way == "across" else box.height)
    dx, dy = (step, 0.0) if way == "across" else (0.0, step)
    return _repeat(job, item_id, [Similarity(dx=n * dx, dy=n * dy) for n in range(1, count)])


def repeat_in_ring(job: Job, item_id: str, count: int, radius: float, *, is_turned: bool = True) -> Job:
    """Put copies of an item round a ring it is the topmost of until there are `count`.

    The ring's centre lies `radius` px below the item's middle. Each copy is turned with the ring, or upright.
    """
    box = _repeated(job, item_id, count)
    x, y = box.centre
    changes = []
    for n in range(1, count):
        degrees = 360.0 * n / count
        if is_turned:
            changes.append(Similarity(x, y + radius, degrees=degrees))
        else:
            turn = math.radians(degrees)
            changes.append(Similarity(dx=radius * math.sin(turn), dy=radius * (1 - math.cos(turn))))
    return _repeat(job, item_id, changes)


def _repeated(job: Job, item_id: str, count: int) -> Box:
    item = find_item(job, item_id)
    box = item_box(job, item)
    if not 2 <= count <= MOST_COPIES or box is None:
        raise PlacementError("Repeat", f"{count} is no number of copies", f"use 2 to {MOST_COPIES}")
    return box


def _repeat(job: Job, item_id: str, changes: Sequence[Similarity]) -> Job:
    item = find_item(job, item_id)
    copies: list[Item] = [
        transformed(job, copy, "together", change)
        for copy, change in zip(copies_of(job, [item] * len(changes)), changes, strict=True)
    ]
    return add_items(job, container_of(job, item_id), copies, index_of(siblings(job, item_id), item_id) + 1)
