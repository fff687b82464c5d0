"""Edits of groups: put together, taken apart, moved in and out. Nothing moves on the sheet."""

from collections.abc import Sequence

from msgspec.structs import replace

from glasscap.core.document.edits.items import add_items, container_of, remove_items, update_siblings
from glasscap.core.document.model.job import Cutout, GroupContent, Item, Job
from glasscap.core.document.model.query import (
    find_item,
    find_sheet,
    fresh_ids,
    fresh_name,
    locate,
    path_to,
    topmost,
)
from glasscap.core.errors import PlacementError


def group_items(job: Job, item_ids: Sequence[str]) -> tuple[Job, str]:
    """Put items into a new group where the frontmost of them lies; return the job and the group's id.

    The one shape among them that waits for a photo becomes the group's own, wherever it lies. Raises
    PlacementError for a locked item, or none.
    """
    sheets = {path_to(job, i)[0].id for i in item_ids}
    if len(sheets) != 1:
        raise PlacementError("Group", "cutouts of one sheet are needed", "select some of them")
    items = topmost(find_sheet(job, sheets.pop()).items, set(item_ids))
    _refuse_locked(items)
    front = items[-1]
    (group_id,) = fresh_ids(job, 1)
    name = fresh_name(job, "Group")
    waiting = [i for i in items if i.content is None]
    if len(waiting) == 1 and len(items) > 1:
        (mask,) = waiting
        inside = tuple(i for i in items if i is not mask)
        group = Cutout(
            group_id,
            name,
            GroupContent(inside),
            shape=mask.shape,
            shape_placement=mask.shape_placement,
            finishes=mask.finishes,
        )
    else:
        group = Cutout(group_id, name, GroupContent(items))
    # Its place is kept by a stand-in, so that the others may go first.
    stand_in = replace(front, id=group_id)
    job = update_siblings(job, front.id, lambda around, at: (*around[:at], stand_in, *around[at + 1 :]))
    job = remove_items(job, [i.id for i in items if i.id != front.id])
    job = update_siblings(job, group_id, lambda around, at: (*around[:at], group, *around[at + 1 :]))
    return job, group_id


def ungroup(job: Job, item_ids: Sequence[str]) -> tuple[Job, tuple[str, ...]]:
    """Put what groups hold in their place; a group's own shape stays, in front, waiting for a photo.

    Return the job and the ids of what was held. Raises PlacementError for a locked group.
    """
    freed: list[str] = []
    for group in [find_item(job, i) for i in item_ids]:
        if not group.is_group:
            continue
        _refuse_locked([group])
        parts = list(group.items)
        freed += [p.id for p in parts]
        if group.shape is not None:
            (shape_id,) = fresh_ids(job, 1)
            parts.append(replace(group, id=shape_id, name=f"{group.name}, shape", content=None, versions=()))

        def spread(around: tuple[Item, ...], at: int, parts: Sequence[Item] = tuple(parts)) -> tuple[Item, ...]:
            return (*around[:at], *parts, *around[at + 1 :])

        job = update_siblings(job, group.id, spread)
    return job, tuple(freed)


def move_to_container(job: Job, item_id: str, container_id: str, place: int) -> Job:
    """Put an item on a sheet or into a group at a place from the back, clamped.

    A group it leaves empty goes. Raises PlacementError for a group put into itself, or for what is locked.
    """
    item = find_item(job, item_id)
    is_sheet = any(s.id == container_id for s in job.sheets)
    if container_of(job, item_id) == container_id:
        _, _, at = locate(job, item_id)
        place = place - 1 if place > at else place
    else:
        _refuse_locked([item])
    if not is_sheet:
        _sheet, way = path_to(job, container_id)
        if any(group.id == item_id for group in way):
            raise PlacementError(item.name, "a group cannot lie in itself", "drop it elsewhere")
        _refuse_locked(way if container_of(job, item_id) != container_id else ())
    left = remove_items(job, [item_id])
    try:
        done = add_items(left, container_id, [item], max(0, place))
    except KeyError:
        # It was all that the group held: it stays where it is.
        return job
    return done


def _refuse_locked(items: Sequence[Item]) -> None:
    for item in items:
        if item.is_locked:
            raise PlacementError(item.name, "it is locked", "unlock it first")
