"""Spill, the reach of finishes out of a cutout's box, and a series with room for it."""

from collections.abc import Sequence

from glasscap.core.document.edits.items import add_photo
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.job import Cutout, Job, PhotoRecord, Sheet
from glasscap.core.document.model.query import locate
from glasscap.core.document.outputs.series import Placing, in_series, make_series
from glasscap.core.render.plan.plan import plan_cutout


def spill_of(job: Job, sheet: Sheet, cutout: Cutout) -> float:
    """Return by how many sheet px at most a cutout is seen outside of its box (0 for not at all).

    Raises ExportError for one that shows nothing.
    """
    frame, seen = item_box(job, cutout), plan_cutout(job, sheet, cutout).box
    if frame is None:
        return 0.0
    return max(0.0, frame.x0 - seen.x0, frame.y0 - seen.y0, seen.x1 - frame.x1, seen.y1 - frame.y1)


def roomy_series(
    job: Job, item_id: str, photos: Sequence[PhotoRecord], placing: Placing = "covering", *, has_rows: bool = True
) -> tuple[Job, str]:
    """Return `make_series` with room for what is cast between the cutouts. Raises what it raises."""
    spill = 0.0
    if photos:
        sheet, item, _ = locate(job, item_id)
        first = in_series(job, item, photos[0], placing)
        spill = spill_of(add_photo(job, photos[0]), sheet, first)
    return make_series(job, item_id, photos, placing, spill=spill, has_rows=has_rows)
