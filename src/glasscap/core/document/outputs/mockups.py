"""Edits of a job's mock-ups."""

from collections.abc import Callable, Sequence

from msgspec.structs import replace

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.mockups import Mockup, OwnPlace
from glasscap.core.document.model.query import items_of
from glasscap.core.errors import PlacementError

# The corners of a new place in a photo, as shares of its sides.
_FIRST = ((0.25, 0.25), (0.75, 0.25), (0.75, 0.75), (0.25, 0.75))


def add_mockup(job: Job, subject_id: str, place: str | OwnPlace, label: str) -> tuple[Job, str]:
    """Put a sheet or cutout into a place; return the job and the mock-up's id."""
    highest = max((int(m.id[1:]) for m in job.mockups if m.id[1:].isdecimal()), default=0)
    names = {m.name for m in job.mockups}
    name = next(n for k in range(1, len(names) + 2) if (n := label if k == 1 else f"{label} {k}") not in names)
    made = Mockup(f"m{highest + 1}", name, subject_id, place)
    return replace(job, mockups=(*job.mockups, made)), made.id


def own_place(photo: PhotoRecord) -> OwnPlace:
    """Return a place in the middle of a photo, whose corners are then dragged."""
    a, b, c, d = ((x * photo.width, y * photo.height) for x, y in _FIRST)
    return OwnPlace(photo.sha256, (a, b, c, d))


def find_mockup(job: Job, mockup_id: str) -> Mockup:
    """Return a mock-up. Raises KeyError."""
    for mockup in job.mockups:
        if mockup.id == mockup_id:
            return mockup
    raise KeyError(mockup_id)


def change_mockup(job: Job, mockup_id: str, change: Callable[[Mockup], Mockup]) -> Job:
    """Return the job with one mock-up changed. Raises KeyError."""
    find_mockup(job, mockup_id)
    return replace(job, mockups=tuple(change(m) if m.id == mockup_id else m for m in job.mockups))


def rename_mockup(job: Job, mockup_id: str, name: str) -> Job:
    """Return the job with a mock-up under another name; nothing but spaces changes nothing."""
    clean = " ".join(name.split())
    return change_mockup(job, mockup_id, lambda m: replace(m, name=clean)) if clean else job


def move_corner(job: Job, mockup_id: str, corner: int, x: float, y: float) -> Job:
    """Put a corner of one's own place elsewhere in the photo (px).

    Raises ShapeError where the four would be no convex quadrilateral, PlacementError for a shipped place.
    """

    def change(mockup: Mockup) -> Mockup:
        place = mockup.place
        if not isinstance(place, OwnPlace):
            raise PlacementError(mockup.name, "a shipped place has fixed corners", "use a photo of your own")
        a, b, c, d = ((x, y) if n == corner else old for n, old in enumerate(place.corners))
        return replace(mockup, place=replace(place, corners=(a, b, c, d)))

    return change_mockup(job, mockup_id, change)


def remove_mockups(job: Job, ids: Sequence[str]) -> Job:
    """Return the job without some mock-ups."""
    return replace(job, mockups=tuple(m for m in job.mockups if m.id not in ids))


def live_mockups(job: Job) -> tuple[Mockup, ...]:
    """Return the mock-ups whose sheet or cutout is still there."""
    there = {s.id for s in job.sheets} | {i.id for _, i in items_of(job)}
    return tuple(m for m in job.mockups if m.subject_id in there)
