"""A series: the steps of one cutout run over many photos, each a cutout of a sheet of their own."""

import math
from collections.abc import Sequence
from typing import Literal

from msgspec.structs import replace

from glasscap.core.document.arranging.cover import centred_cover
from glasscap.core.document.arranging.first_places import plain_name
from glasscap.core.document.arranging.seen_beyond import lies_beyond
from glasscap.core.document.edits.items import list_photos, shifted, with_photo
from glasscap.core.document.edits.sheets import insert_sheet
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import LARGEST_SIDE, Cutout, Job, PhotoRecord, Sheet
from glasscap.core.document.model.outputs import Output, OutputCrop
from glasscap.core.document.model.query import fresh_ids, fresh_names, locate
from glasscap.core.document.outputs.rows import add_outputs
from glasscap.core.errors import PlacementError
from glasscap.core.geometry.types import Box

Placing = Literal["covering", "alike"]
PLACINGS: tuple[Placing, ...] = ("covering", "alike")
# So much more of a photo lies beyond a soft edge that its end makes no difference of a level to what is cast.
_SPARE = 2.0
# The share of a cutout's longer side that is left between two, at least.
_GAP = 0.125
# Cutouts lie a multiple of so many px from where the one lies: at every scale that is a multiple of 1/20 each
# then falls on the same parts of pixels, and pictures of the same shape have the same edge.
_STEP = 20


def in_series(job: Job, item: Cutout, photo: PhotoRecord, placing: Placing) -> Cutout:
    """Return a cutout as it is with another photo: shape, finishes, opacity and photo adjustments stay.

    *covering* centres the photo on the shape, just large enough to cover it, soft edge and all; *alike* gives it
    the centre, turn and cover of the photo there is. A hole, or a photo no shape cuts, is always placed alike.
    Raises PlacementError for a group.
    """
    made = with_photo(job, item, photo)
    if placing == "alike" or made.shape is None or made.shape.keeps == "outside":
        return made
    beyond = lies_beyond(made.finishes)
    reach = beyond + _SPARE if beyond else 0.0
    return replace(made, content_placement=centred_cover(made, photo, reach))


def make_series(
    job: Job,
    item_id: str,
    photos: Sequence[PhotoRecord],
    placing: Placing = "covering",
    *,
    spill: float = 0.0,
    has_rows: bool = True,
) -> tuple[Job, str]:
    """Run the steps of a cutout over photos; return the job with a sheet of them behind its own, and its id.

    Each is named after its photo, and lies on the pixels as the cutout does. `spill` is how far finishes stand
    out of its box, px. With `has_rows` the export list has the cutout's rows for each of them, else one. Raises
    PlacementError for a group, for no photos, or where no sheet is large enough.
    """
    sheet, item, _ = locate(job, item_id)
    if not photos:
        raise PlacementError("Series", "there are no photos", "add some")
    made = [in_series(job, item, photo, placing) for photo in photos]
    job = list_photos(job, photos)
    sheet_id, *ids = fresh_ids(job, 1 + len(made))
    shifts, size = _grid([_box_of(job, cutout) for cutout in made], spill)
    if max(size) > LARGEST_SIDE:
        why = f"{len(made)} cutouts of this size need a sheet of {size[0]} × {size[1]} px"
        raise PlacementError("Series", why, "make it of fewer photos at once")
    names = fresh_names(job, (plain_name(photo.name) for photo in photos))
    items = tuple(
        replace(shifted(cutout, *shift), id=own, name=name, is_hidden=False, is_locked=False, versions=())
        for cutout, shift, own, name in zip(made, shifts, ids, names, strict=True)
    )
    rows = _rows_like(job, item_id, ids) if has_rows else []
    own_sheet = Sheet(sheet_id, f"{item.name}, series", *size, sheet.resolution_ppi, items)
    return add_outputs(insert_sheet(job, own_sheet, sheet.id), rows), sheet_id


def _box_of(job: Job, cutout: Cutout) -> Box:
    box = item_box(job, cutout)
    assert box is not None  # it has a photo
    return box


def _grid(boxes: Sequence[Box], spill: float) -> tuple[list[tuple[int, int]], tuple[int, int]]:
    """Return by how much to shift each box into a cell of its own, in whole steps, and the size of all cells."""
    cell = math.ceil(max(b.width for b in boxes)), math.ceil(max(b.height for b in boxes))
    gap = _STEP + math.ceil(max(_GAP * max(cell), 2 * spill))
    columns = math.ceil(math.sqrt(len(boxes)))
    rows = math.ceil(len(boxes) / columns)
    shifts = []
    for index, box in enumerate(boxes):
        row, column = divmod(index, columns)
        x = gap + column * (cell[0] + gap) + cell[0] / 2 - box.centre[0]
        y = gap + row * (cell[1] + gap) + cell[1] / 2 - box.centre[1]
        shifts.append((_STEP * round(x / _STEP), _STEP * round(y / _STEP)))
    return shifts, (gap + columns * (cell[0] + gap), gap + rows * (cell[1] + gap))


def _rows_like(job: Job, like_id: str, item_ids: Sequence[str]) -> list[Output]:
    """Return a cutout's rows for each of others, of names that tell them apart.

    Where the cutout lies on its sheet says nothing of them: what is cropped to the sheet is all that is seen.
    """
    like = [o for o in job.outputs if o.item_id == like_id and not o.version] or [Output("", like_id)]
    found = []
    for item_id in item_ids:
        for row in like:
            tells = "{name}" in row.name or "{number}" in row.name
            name = row.name if tells else f"{row.name}-{{name}}"
            crop: OutputCrop = "visible" if row.crop in ("sheet", "bleed") else row.crop
            found.append(replace(row, item_id=item_id, name=name, crop=crop))
    return found
