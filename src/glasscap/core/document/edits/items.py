"""Edits of a job: named pure functions ``edit(job, ...) -> Job`` that share everything untouched.

Each returns the very same job when nothing changes.
"""

from collections.abc import Callable, Iterable, Sequence

from msgspec.structs import replace

from glasscap.core.document.arranging.cover import centred_cover
from glasscap.core.document.arranging.seen_beyond import seen_beyond
from glasscap.core.document.model.finishes import NO_FINISHES
from glasscap.core.document.model.job import (
    Cutout,
    GroupContent,
    Item,
    Job,
    PhotoContent,
    PhotoRecord,
    Sheet,
    pictures_of,
    walk,
)
from glasscap.core.document.model.placement import ContentPlacement, ShapePlacement
from glasscap.core.document.model.query import (
    find_item,
    fresh_ids,
    fresh_names,
    has_item,
    items_of,
    locate,
    path_to,
    photo_record,
    siblings,
)
from glasscap.core.document.shapes.refit import reshaped
from glasscap.core.errors import PlacementError
from glasscap.core.shapes.kinds import Keeps, Shape


def update_sheet(job: Job, sheet_id: str, change: Callable[[Sheet], Sheet]) -> Job:
    """Replace one sheet by `change(sheet)`. Raises KeyError for an unknown id."""
    index = next((n for n, s in enumerate(job.sheets) if s.id == sheet_id), None)
    if index is None:
        raise KeyError(sheet_id)
    before = job.sheets[index]
    after = change(before)
    if after == before:
        return job
    return replace(job, sheets=(*job.sheets[:index], after, *job.sheets[index + 1 :]))


def update_item(job: Job, item_id: str, change: Callable[[Item], Item]) -> Job:
    """Replace one item by `change(item)`. Raises KeyError for an unknown id."""
    return update_items(job, [item_id], change)


def update_siblings(job: Job, item_id: str, change: Callable[[tuple[Item, ...], int], tuple[Item, ...]]) -> Job:
    """Replace what an item lies among by `change(items, its place)`; a group left with nothing goes too.

    Raises KeyError for an unknown id.
    """
    sheet, way = path_to(job, item_id)
    chain = [sheet.items, *(group.items for group in way[:-1])]
    made = change(chain[-1], index_of(chain[-1], item_id))
    for around, group in zip(reversed(chain[:-1]), reversed(way[:-1]), strict=True):
        at = index_of(around, group.id)
        whole = (replace(group, content=GroupContent(made)),) if made else ()
        made = (*around[:at], *whole, *around[at + 1 :])
    return update_sheet(job, sheet.id, _holding(made))


def index_of(items: Sequence[Item], item_id: str) -> int:
    """Return an item's place from the back. Raises KeyError."""
    for index, item in enumerate(items):
        if item.id == item_id:
            return index
    raise KeyError(item_id)


def change_item(job: Job, item_id: str, change: Callable[[Item], Item]) -> Job:
    """Replace one item by `change(item)` unless it is locked: a lock holds against every way of working."""
    return change_items(job, [item_id], change)


def change_items(job: Job, item_ids: Iterable[str], change: Callable[[Item], Item]) -> Job:
    """Replace several items, locked ones left as they are."""
    return update_items(job, item_ids, lambda item: item if item.is_locked else change(item))


def update_items(job: Job, item_ids: Iterable[str], change: Callable[[Item], Item]) -> Job:
    """Replace several items in one go, those within a group before the group. Raises KeyError for unknown ids."""
    meant = set(item_ids)
    for item_id in meant:
        find_item(job, item_id)
    return _remade(job, lambda item: (change(item) if item.id in meant else item,))


def _remade(job: Job, each: Callable[[Item], tuple[Item, ...]]) -> Job:
    """Put what `each` gives in the place of every item, those within a group before the group."""
    for sheet in job.sheets:
        job = update_sheet(job, sheet.id, _holding(_remade_items(sheet.items, each)))
    return job


def _holding(items: tuple[Item, ...]) -> Callable[[Sheet], Sheet]:
    return lambda sheet: sheet if sheet.items == items else replace(sheet, items=items)


def _remade_items(items: tuple[Item, ...], each: Callable[[Item], tuple[Item, ...]]) -> tuple[Item, ...]:
    made: list[Item] = []
    for item in items:
        if item.is_group:
            inside = _remade_items(item.items, each)
            item = item if inside == item.items else replace(item, content=GroupContent(inside))
        made += each(item)
    return tuple(made)


def add_photo(job: Job, photo: PhotoRecord) -> Job:
    """List a photo (once; the record already there stays)."""
    return list_photos(job, [photo])


def list_photos(job: Job, photos: Iterable[PhotoRecord]) -> Job:
    """List photos, each once; records already there stay."""
    known = {p.sha256: p for p in job.photos}
    count = len(known)
    for photo in photos:
        known.setdefault(photo.sha256, photo)
    return job if len(known) == count else replace(job, photos=tuple(known.values()))


def drop_unused_photos(job: Job) -> Job:
    """Forget photos no item shows."""
    used = {sha256 for _, sha256 in pictures_of(job)}
    kept = tuple(p for p in job.photos if p.sha256 in used)
    return job if kept == job.photos else replace(job, photos=kept)


def add_items(job: Job, container_id: str, items: Sequence[Item], at: int | None = None) -> Job:
    """Put items on a sheet or into a group, in front or at a place from the back. Raises KeyError."""

    def put(there: tuple[Item, ...]) -> tuple[Item, ...]:
        place = len(there) if at is None else at
        return (*there[:place], *items, *there[place:])

    if any(s.id == container_id for s in job.sheets):
        return update_sheet(job, container_id, lambda s: replace(s, items=put(s.items)))
    return update_item(job, container_id, lambda i: replace(i, content=GroupContent(put(i.items))))


def container_of(job: Job, item_id: str) -> str:
    """Return the id of the group or sheet an item lies in. Raises KeyError."""
    sheet, way = path_to(job, item_id)
    return way[-2].id if len(way) > 1 else sheet.id


def remove_items(job: Job, item_ids: Iterable[str]) -> Job:
    """Take items off their sheets; their photos stay listed, so that undo and paste find them."""
    for item_id in item_ids:
        # Items of a deleted group are gone already.
        if has_item(job, item_id):
            job = update_siblings(job, item_id, lambda around, at: (*around[:at], *around[at + 1 :]))
    return job


def paste_items(job: Job, container_id: str, items: Sequence[Item], photos: Sequence[PhotoRecord]) -> Job:
    """Put copies of items in front, under fresh ids and names, at the same place; photos come along."""
    return add_items(list_photos(job, photos), container_id, copies_of(job, items))


def duplicate_items(job: Job, item_ids: Sequence[str], offset: float = 0.0) -> Job:
    """Put a copy of each item right in front of it, shifted by `offset` px both ways."""
    items = [find_item(job, item_id) for item_id in item_ids]
    copies = [shifted(copy, offset, offset) for copy in copies_of(job, items)]
    in_front = dict(zip(item_ids, copies, strict=True))

    return _remade(job, lambda item: (item, in_front[item.id]) if item.id in in_front else (item,))


def copies_of(job: Job, items: Sequence[Item]) -> list[Item]:
    """Return copies of items, and of all they hold, under fresh ids and names, without versions."""
    ids = iter(fresh_ids(job, sum(1 for _ in walk(items))))

    def copied(part: Item) -> Item:
        own = next(ids)
        content = GroupContent(tuple(copied(i) for i in part.items)) if part.is_group else part.content
        return replace(part, id=own, content=content, versions=())

    names = fresh_names(job, (item.name for item in items))
    return [replace(copied(item), name=name) for item, name in zip(items, names, strict=True)]


def mapped(item: Item, change: Callable[[Item], Item]) -> Item:
    """Return an item with the same change made to it and to all it holds."""
    if item.is_group:
        item = replace(item, content=GroupContent(tuple(mapped(i, change) for i in item.items)))
    return change(item)


def shifted(item: Item, dx: float, dy: float) -> Item:
    """Return an item, and all it holds, elsewhere."""

    def moved(part: Item) -> Item:
        content, shape = part.content_placement, part.shape_placement
        return replace(
            part,
            content_placement=content and content.moved(dx, dy),
            shape_placement=shape and shape.moved(dx, dy),
        )

    return mapped(item, moved)


def move_to_place(job: Job, item_id: str, place: int) -> Job:
    """Give an item another place from the back among its neighbours (0 = backmost), clamped."""

    def placed(around: tuple[Item, ...], at: int) -> tuple[Item, ...]:
        others = around[:at] + around[at + 1 :]
        to = max(0, min(place, len(others)))
        return (*others[:to], around[at], *others[to:])

    return update_siblings(job, item_id, placed)


def rename(job: Job, item_id: str, name: str) -> Job:
    """Name an item; an empty name changes nothing."""
    clean = " ".join(name.split())
    return update_item(job, item_id, lambda i: replace(i, name=clean)) if clean else job


def set_hidden(job: Job, item_ids: Iterable[str], is_hidden: bool) -> Job:
    """Hide or show items."""
    return update_items(job, item_ids, lambda i: replace(i, is_hidden=is_hidden))


def set_locked(job: Job, item_ids: Iterable[str], is_locked: bool) -> Job:
    """Lock or unlock items."""
    return update_items(job, item_ids, lambda i: replace(i, is_locked=is_locked))


def set_masked(job: Job, item_ids: Iterable[str], is_masked: bool) -> Job:
    """Switch masks; nothing moves, nothing is lost."""
    return change_items(job, item_ids, lambda i: replace(i, is_masked=is_masked))


def set_content_placement(job: Job, item_id: str, placement: ContentPlacement) -> Job:
    """Place the photo of a cutout; the shape stays."""
    return change_item(job, item_id, lambda i: replace(i, content_placement=placement))


def set_shape(job: Job, item_id: str, shape: Shape, placement: ShapePlacement) -> Job:
    """Give a cutout another shape and its place; the photo stays, the mask is on.

    Cutouts linked to it get the shape too, where and about as large as theirs were.
    """
    before = locate(job, item_id)[1]
    job = change_item(job, item_id, lambda i: replace(i, shape=shape, shape_placement=placement, is_masked=True))
    if not before.shape_link or before.is_locked or before.shape == shape:
        return job
    linked = [i.id for _, i in items_of(job) if i.shape_link == before.shape_link and i.id != item_id]
    return change_items(job, linked, lambda i: _reshaped(i, shape))


def _reshaped(item: Item, shape: Shape) -> Item:
    if item.shape is None or item.shape_placement is None:
        return item
    placement = reshaped(item.shape_placement, item.shape, shape)
    return replace(item, shape=replace(shape, keeps=item.shape.keeps), shape_placement=placement)


def set_keeps(job: Job, item_ids: Iterable[str], keeps: Keeps) -> Job:
    """Keep the inside of a shape, or make a hole."""

    def change(item: Item) -> Item:
        return item if item.shape is None else replace(item, shape=replace(item.shape, keeps=keeps))

    return change_items(job, item_ids, change)


def set_keeps_covered(job: Job, item_ids: Iterable[str], keeps_covered: bool) -> Job:
    """Stop drags that would bare part of the shape, or let them."""
    return change_items(job, item_ids, lambda i: replace(i, keeps_covered=keeps_covered))


def set_proof_colour(job: Job, index: int, colour: str) -> Job:
    """Change one of the job's proof colours ("#rrggbb")."""
    colours = tuple(colour if n == index else c for n, c in enumerate(job.proof_colours))
    return job if colours == job.proof_colours else replace(job, proof_colours=colours)


def another_cutout(job: Job, item_id: str) -> tuple[Job, str]:
    """Put a second cutout of an item's photo right in front of it; return the job and its id.

    The photo lies where it lies, to the pixel; the shape is the same until another is chosen, without finishes.
    Raises PlacementError for what holds no photo.
    """
    item = find_item(job, item_id)
    if not isinstance(item.content, PhotoContent):
        raise PlacementError(item.name, "it holds no photo", "select a cutout with a photo")
    (copy,) = copies_of(job, [item])
    made = replace(copy, finishes=NO_FINISHES, is_locked=False)
    _, _, place = locate(job, item_id)
    return add_items(job, container_of(job, item_id), [made], place + 1), made.id


def swap_photo(job: Job, item_id: str, photo: PhotoRecord) -> Job:
    """Put another photo into a cutout: shape, turn, mirror and centre stay, and what was covered stays covered.

    A shape that waits for a photo gets it centred, as large as it needs to be to cover the shape. Raises
    PlacementError for a group.
    """
    made = with_photo(job, find_item(job, item_id), photo)
    return change_item(add_photo(job, photo), item_id, lambda _: made)


def with_photo(job: Job, item: Cutout, photo: PhotoRecord) -> Cutout:
    """Return a cutout of a job as it is with another photo in it, as `swap_photo` puts it there."""
    if item.is_group:
        raise PlacementError(item.name, "it is a group", "choose a cutout in it")
    old = item.content_placement
    content = PhotoContent(photo.sha256)
    if old is not None and isinstance(item.content, PhotoContent):
        content = replace(item.content, sha256=photo.sha256)
        before = photo_record(job, item.content.sha256)
        factor = max(before.width / photo.width, before.height / photo.height)
        placement = replace(old, scale_x=old.scale_x * factor, scale_y=old.scale_y * factor)
    else:
        placement = centred_cover(item, photo, seen_beyond(item.finishes))
    return replace(item, content=content, content_placement=placement)


def take_apart(job: Job, item_id: str, shape_id: str) -> Job:
    """Give back photo and shape as two things, both as they were: the shape right in front of the photo."""
    _, item, index = locate(job, item_id)
    if item.content_placement is None or item.shape is None or item.is_locked:
        return job
    photo = replace(item, shape=None, shape_placement=None)
    shape = replace(item, id=shape_id, name=f"{item.name}, shape", content=None, content_placement=None)
    job = update_item(job, item_id, lambda _: photo)
    return add_items(job, container_of(job, item_id), [shape], index + 1)


def join(job: Job, photo_id: str, shape_id: str) -> Job:
    """Put a shape on a photo: nothing moves; the photo keeps its place in the order, its id and its name.

    A shape the photo has already gives way to it.
    """
    _, photo, _ = locate(job, photo_id)
    _, shape, _ = locate(job, shape_id)
    if photo.content is None or shape.content is not None or photo.is_locked or shape.is_locked:
        return job
    whole = replace(photo, shape=shape.shape, shape_placement=shape.shape_placement)
    return update_item(remove_items(job, [shape_id]), photo_id, lambda _: whole)


def joinable(job: Job, item_ids: Sequence[str]) -> tuple[str, str] | None:
    """Return (photo id, shape id) to join: two selected, or one and the neighbour in the order it was part of.

    Of two that are selected the photo may have a shape already, which gives way.
    """
    is_guessed = len(item_ids) == 1
    if is_guessed:
        _, item, index = locate(job, item_ids[0])
        around = siblings(job, item.id)
        step = 1 if item.content is not None else -1
        if not 0 <= index + step < len(around):
            return None
        item_ids = [item.id, around[index + step].id]
    if len(item_ids) != 2:
        return None
    parts = [locate(job, i)[1] for i in item_ids]
    photo = next(
        (p.id for p in parts if p.content is not None and not p.is_locked and not (is_guessed and p.shape)), None
    )
    shape = next((p.id for p in parts if p.content is None and not p.is_locked), None)
    return None if photo is None or shape is None else (photo, shape)
