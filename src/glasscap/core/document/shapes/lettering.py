"""Edits of letters: their text and how it is set, their size, one cutout per letter."""

from msgspec.structs import replace

from glasscap.core.document.edits.items import add_items, remove_items, set_shape, update_siblings
from glasscap.core.document.model.boxes import content_box
from glasscap.core.document.model.job import Cutout, Job
from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.model.query import find_item, fresh_ids, fresh_name, locate, sheet_of
from glasscap.core.document.shapes.refit import regrown
from glasscap.core.errors import ShapeError
from glasscap.core.geometry.types import Box
from glasscap.core.shapes.kinds import LettersShape
from glasscap.core.shapes.outlines import own_box, own_to_frame
from glasscap.core.shapes.typesetting import SetLetters

# A new word takes this share of the photo's width.
_SHARE = 0.8


def set_letters(job: Job, item_id: str, made: SetLetters) -> Job:
    """Give a cutout letters; those there before keep their size and where their first line starts."""
    sheet, item, _ = locate(job, item_id)
    old, placement = item.shape, item.shape_placement
    shape = LettersShape(made.letters, made.path)
    if isinstance(old, LettersShape) and placement is not None:
        shape = replace(shape, keeps=old.keeps, round=old.round)
        return set_shape(job, item_id, shape, regrown(placement, old, shape, is_whole=False))
    keeps = "inside" if old is None else old.keeps
    room = (
        placement.box if placement is not None else content_box(job, item) or Box(0, 0, sheet.width, sheet.height)
    )
    return set_shape(job, item_id, replace(shape, keeps=keeps), _fitted(shape, room))


def _fitted(shape: LettersShape, room: Box) -> ShapePlacement:
    box = own_box(shape)
    assert box is not None
    size = min(room.width * _SHARE / box.width, room.height * _SHARE / box.height)
    return ShapePlacement(*room.centre, box.width * size, box.height * size, keeps_ratio=True)


def waiting_letters(job: Job, container_id: str, made: SetLetters) -> tuple[Job, str]:
    """Put letters that wait for a photo on a sheet or into a group; return the job and their id."""
    (new_id,) = fresh_ids(job, 1)
    sheet = sheet_of(job, container_id)
    shape = LettersShape(made.letters, made.path)
    name = fresh_name(job, " ".join(made.letters.text.split())[:24] or "Letters")
    placement = _fitted(shape, Box(0, 0, sheet.width, sheet.height))
    return add_items(job, container_id, [Cutout(new_id, name, shape=shape, shape_placement=placement)]), new_id


def type_size(item: Cutout) -> float | None:
    """Return the type size of a cutout's letters in sheet px, None for another shape."""
    if not isinstance(item.shape, LettersShape) or item.shape_placement is None:
        return None
    box = own_box(item.shape)
    return None if box is None else item.shape_placement.height / box.height


def set_type_size(job: Job, item_id: str, size: float) -> Job:
    """Give letters a type size in sheet px; where their first line starts stays. Raises ShapeError."""
    item = find_item(job, item_id)
    now = type_size(item)
    if now is None or item.shape is None or item.shape_placement is None:
        return job
    if not 0.1 <= size <= 100_000:
        raise ShapeError("Type size", f"{size:g} px is out of range", "use 0.1 to 100000")
    placement = item.shape_placement
    frame = own_to_frame(item.shape, placement.width, placement.height)
    factor = size / now
    grown = replace(placement, width=placement.width * factor, height=placement.height * factor)
    fixed = placement.to_sheet.apply(*frame.apply(0, 0))
    moved = grown.to_sheet.apply(*own_to_frame(item.shape, grown.width, grown.height).apply(0, 0))
    return set_shape(job, item_id, item.shape, grown.moved(fixed[0] - moved[0], fixed[1] - moved[1]))


def split_letters(job: Job, item_id: str, made: SetLetters) -> tuple[Job, tuple[str, ...]]:
    """Put one cutout per letter in the place of a word, each where its letter was, the photo running on.

    `made` is the word as it is set; return the job and the new ids from back to front.
    """
    sheet, item, _ = locate(job, item_id)
    shape, placement = item.shape, item.shape_placement
    if not isinstance(shape, LettersShape) or placement is None or item.is_locked or len(made.parts) < 2:
        return job, ()
    to_sheet = placement.to_sheet.after(own_to_frame(shape, placement.width, placement.height))
    whole = own_box(shape)
    assert whole is not None
    scale_x, scale_y = placement.width / whole.width, placement.height / whole.height
    items = []
    ids = fresh_ids(job, len(made.parts))
    for new_id, (text, path) in zip(ids, made.parts, strict=True):
        letters = replace(shape.letters, text=text, circle=0.0)
        one = LettersShape(letters, path, keeps=shape.keeps, round=shape.round)
        box = own_box(one)
        assert box is not None
        x, y = to_sheet.apply(*box.centre)
        placed = replace(placement, x=x, y=y, width=box.width * scale_x, height=box.height * scale_y)
        items.append(replace(item, id=new_id, name=text.strip() or item.name, shape=one, shape_placement=placed))
    taken = remove_items(job, [item_id])
    for n, one_item in enumerate(items):
        name = fresh_name(taken, one_item.name)
        items[n] = replace(one_item, name=name)
        taken = add_items(taken, sheet.id, [items[n]])
    named = update_siblings(job, item_id, lambda around, at: (*around[:at], *items, *around[at + 1 :]))
    return named, tuple(ids)
