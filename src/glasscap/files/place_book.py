"""The places that ship with the program: their data read when first wanted, then kept."""

import json
from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from glasscap.core.document.model.job import Job
from glasscap.core.document.model.mockups import Mockup, OwnPlace
from glasscap.core.document.model.query import photo_record
from glasscap.core.errors import PlacementError
from glasscap.core.mockup.place import Place, Surface, frame_aspect
from glasscap.core.photos.store import PhotoSource
from glasscap.core.raster.pixels import PhotoPixels

# In the order they are offered.
PLACES = {
    "card": "Card on a table",
    "flyer": "Folded flyer",
    "phone": "Phone",
    "video": "Video frame",
    "window": "Shop window sticker",
    "tote": "Tote bag",
    "badge": "Enamel badge",
    "avatar": "Round picture on a page",
}
# The level of the light's picture at which it changes nothing.
_LIGHT_ONE = 16384


def place_of(job: Job, mockup: Mockup, photos: PhotoSource) -> Place:
    """Return the place a mock-up is in. Raises PlacementError for an unknown one, PhotoError."""
    if isinstance(mockup.place, OwnPlace):
        record = photo_record(job, mockup.place.sha256)
        return photo_place(mockup.place, mockup.name, photos.pyramid(record).photo)
    return shipped_place(mockup.place)


def photo_place(place: OwnPlace, label: str, photo: PhotoPixels) -> Place:
    """Return a place in a photo of the designer's own."""
    rgba = photo.rgba
    if not photo.is_opaque:
        rgba = rgba.copy()
        alpha = rgba[..., 3:].astype(np.uint16)
        rgba[..., :3] = ((rgba[..., :3] * alpha + 255 * (255 - alpha)) // 255).astype(np.uint8)
        rgba[..., 3] = 255
    return Place("own", label, frame_aspect(place.corners), (Surface(place.corners),), rgba)


@cache
def shipped_place(key: str) -> Place:
    """Return a place that ships with the program. Raises PlacementError listing those there are."""
    if key not in PLACES:
        raise PlacementError(f"Place {key!r}", "there is none of that name", f"there are {', '.join(PLACES)}")
    folder = files("glasscap.files") / "places" / key
    facts: dict[str, Any] = json.loads((folder / "place.json").read_text())
    surfaces = tuple(Surface(_corners(s["corners"]), tuple(s["part"])) for s in facts["surfaces"])
    bgr = _picture(folder / "backdrop.webp", cv2.IMREAD_COLOR)
    light = _levels(folder / "light.png", _LIGHT_ONE)
    mask = _levels(folder / "mask.png", 255) if (folder / "mask.png").is_file() else None
    bend = np.asarray(facts["bend"], np.float32) if "bend" in facts else None
    backdrop = np.asarray(cv2.cvtColor(bgr, cv2.COLOR_BGR2RGBA), np.uint8)
    return Place(key, facts["label"], facts["aspect"], surfaces, backdrop, light, mask, bend)


def _picture(file: Traversable, how: int) -> NDArray[Any]:
    return np.asarray(cv2.imdecode(np.frombuffer(file.read_bytes(), np.uint8), how))


def _levels(file: Traversable, one: float) -> NDArray[np.float32]:
    """Return a grey picture as numbers, `one` as 1."""
    return np.asarray(_picture(file, cv2.IMREAD_UNCHANGED) / one, np.float32)


def _corners(points: list[list[float]]) -> Any:
    return tuple((float(x), float(y)) for x, y in points)
