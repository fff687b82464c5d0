"""Jobs in Python: opened, looked through, changed, rendered, written."""

from collections.abc import Sequence
from pathlib import Path
from typing import TypeVar

from msgspec import Struct

from glasscap.core.document.edits.items import swap_photo
from glasscap.core.document.model.job import Cutout, Job, Sheet
from glasscap.core.document.model.query import items_of
from glasscap.core.document.outputs.rows import live_outputs
from glasscap.core.errors import CallError, ExportError
from glasscap.core.photos.cache import new_cache
from glasscap.core.photos.store import PhotoStore
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import Crop, plan_cutout, plan_sheet
from glasscap.files.atomic import make_folder
from glasscap.files.exporting import Policy, export_rows, targets_of
from glasscap.files.jobs import job_preview, open_for_output, relinked, save_job
from glasscap.files.locks import refuse_held
from glasscap.files.photos import photo_from_bytes
from glasscap.python.pictures import FinishedPicture
from glasscap.python.sources import Photo, bytes_of

Thing = TypeVar("Thing", Cutout, Sheet)


class Named(Struct, frozen=True):
    """A sheet or a cutout: its id, its name, the name of the sheet it lies on."""

    id: str
    name: str
    sheet: str


class OpenJob:
    """A job as Python works with it; `problems` are lines about photos that are missing or were changed."""

    def __init__(self, path: Path, job: Job, photos: PhotoStore, problems: tuple[str, ...] = ()) -> None:
        self.path, self.problems = path, problems
        self._job, self._photos = job, photos

    @property
    def job(self) -> Job:
        """The job's frozen value."""
        return self._job

    @property
    def sheets(self) -> tuple[Named, ...]:
        """All sheets in order."""
        return tuple(Named(s.id, s.name, s.name) for s in self._job.sheets)

    @property
    def cutouts(self) -> tuple[Named, ...]:
        """All cutouts from the back to the front, those in groups included."""
        return tuple(Named(i.id, i.name, s.name) for s, i in items_of(self._job) if isinstance(i, Cutout))

    def render(self, name: str, *, scale: float = 1.0, crop: Crop | None = None) -> FinishedPicture:
        """Render a cutout or a sheet by its name or id; a cutout is cropped to what is seen, a sheet is whole.

        Raises GlassCapError: CallError for an unknown name or one that several have.
        """
        if any(name in (s.id, s.name) for s in self._job.sheets):
            found_sheet = _the_one(name, self._job.sheets, "sheet")
            plan = plan_sheet(self._job, found_sheet, crop=crop or "sheet", scale=scale)
        else:
            found = self._cutout(name)
            sheet = next(s for s, i in items_of(self._job) if i.id == found.id)
            plan = plan_cutout(self._job, sheet, found, crop=crop or "visible", scale=scale)
        return FinishedPicture(render(plan, self._photos, new_cache()))

    def change_photo(self, name: str, photo: Photo) -> None:
        """Put another photo into a cutout; it keeps its shape and finishes and covers as the last one did.

        Raises GlassCapError.
        """
        data, called = bytes_of(photo)
        found = photo_from_bytes(data, called)
        self._photos.add(data, found.record.sha256)
        self._job = swap_photo(self._job, self._cutout(name).id, found.record)

    def export(self, folder: str | Path, *, if_there: Policy = "replace") -> tuple[Path, ...]:
        """Write all rows of the export list into a folder, which is made; return the files' paths.

        Raises GlassCapError: ExportError where a row could not be written; the others are.
        """
        rows, where = live_outputs(self._job), Path(folder)
        make_folder(where)
        targets = targets_of(self._job, rows, self._photos, where)
        results = export_rows(self._job, targets, self._photos, if_there)
        failed = [result for result in results if result.problem]
        if failed:
            count = f"{len(failed)} of {len(results)} files"
            raise ExportError(count, "they could not be written", failed[0].problem)
        return tuple(result.path for result in results if result.is_written)

    def save(self, path: str | Path | None = None) -> Path:
        """Write the job, to where it came from unless said; return the path. Raises GlassCapError."""
        target = self.path if path is None else Path(path)
        refuse_held(target)
        # Links to photos lead to the same files from the new place.
        job = relinked(self._job, self.path.parent, target.parent)
        save_job(target, job, self._photos, job_preview(job, self._photos))
        self._job, self.path = job, target
        return target

    def _cutout(self, name: str) -> Cutout:
        cutouts = [i for _, i in items_of(self._job) if isinstance(i, Cutout)]
        if not any(name in (i.id, i.name) for i in cutouts):
            names = ", ".join(sorted({i.name for i in cutouts})) or "none"
            raise CallError(name, "no cutout or sheet has this name", f"there are: {names}")
        return _the_one(name, cutouts, "cutout")


def _the_one(name: str, things: Sequence[Thing], what: str) -> Thing:
    """Return the thing of an id, or else of a name. Raises CallError where several have that name."""
    found = [t for t in things if t.id == name] or [t for t in things if t.name == name]
    if len(found) > 1:
        raise CallError(name, f"{len(found)} {what}s have this name", "use the id")
    return found[0]


def open_job(path: str | Path) -> OpenJob:
    """Open a job file. Raises JobFileError, FileProblemError."""
    opened = open_for_output(path)
    return OpenJob(Path(path), opened.job, opened.photos, tuple(p.line for p in opened.problems))
