"""Mock-ups as the window shows them: fitted into its px, one picture for each version asked for."""

import cv2
import numpy as np
from msgspec import Struct

from glasscap.core.document.model.job import Job, PhotoRecord
from glasscap.core.document.model.mockups import Mockup
from glasscap.core.document.outputs.mockups import find_mockup
from glasscap.core.errors import GlassCapError
from glasscap.core.mockup.subject import mockup_picture, stretched_by
from glasscap.core.photos.cache import ValueCache
from glasscap.core.render.screen.frames import Frame
from glasscap.editor.frames import ScreenPhotos
from glasscap.files.mockup_files import all_versions
from glasscap.files.place_book import place_of, shipped_place


class MockupRequest(Struct, frozen=True):
    """One mock-up within `size` device px; with `has_all` every version side by side."""

    job: Job
    mockup_id: str
    size: tuple[int, int]
    has_all: bool = False


class MockupAnswer(Struct, frozen=True, eq=False):
    """Pictures by version name, device px per px of the place, and by how much it is stretched."""

    request: MockupRequest
    pictures: tuple[tuple[str, Frame], ...] = ()
    scale: float = 1.0
    stretched: float = 1.0
    drafts: tuple[PhotoRecord, ...] = ()
    problem: str = ""


def mockup_answer(request: MockupRequest, photos: ScreenPhotos, cache: ValueCache) -> MockupAnswer:
    """Render a mock-up for the window. Errors become words in the answer."""
    photos.begin()
    try:
        wanted = find_mockup(request.job, request.mockup_id)
        place = place_of(request.job, wanted, photos)
        versions = all_versions(request.job, wanted) if request.has_all else ("",)
        room = request.size[0] / len(versions), request.size[1]
        scale = min(room[0] / place.size[0], room[1] / place.size[1])
        pictures = tuple((v, _frame(request.job, wanted, photos, cache, v, scale)) for v in versions)
        stretched = stretched_by(request.job, wanted, place, photos, cache)
    except (GlassCapError, KeyError) as error:
        words = error.line if isinstance(error, GlassCapError) else "The mock-up is gone"
        return MockupAnswer(request, problem=words)
    return MockupAnswer(request, pictures, scale, stretched, tuple(photos.used_drafts), photos.problem)


def _frame(
    job: Job, wanted: Mockup, photos: ScreenPhotos, cache: ValueCache, version: str, scale: float
) -> Frame:
    place = place_of(job, wanted, photos)
    return Frame(mockup_picture(job, wanted, place, photos, cache, version=version, scale=scale), 0, 0)


class PlaceThumb(Struct, frozen=True, eq=False):
    """A shipped place as a small picture."""

    key: str
    frame: Frame


def place_thumb(key: str, size: tuple[int, int]) -> PlaceThumb:
    """Return a shipped place's backdrop within `size` device px."""
    small = cv2.resize(shipped_place(key).backdrop, size, interpolation=cv2.INTER_AREA)
    return PlaceThumb(key, Frame(np.ascontiguousarray(small), 0, 0))
