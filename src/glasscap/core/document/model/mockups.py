"""Mock-ups of a job: a sheet or a cutout in a stand-in place, shipped or from a photo of the designer's own."""

from typing import Literal

from msgspec import Struct

from glasscap.core.errors import PlacementError
from glasscap.core.geometry.homography import square_to_quad

Fit = Literal["contain", "cover", "stretch"]
FITS: tuple[Fit, ...] = ("contain", "cover", "stretch")
Corners = tuple[tuple[float, float], tuple[float, float], tuple[float, float], tuple[float, float]]


class OwnPlace(Struct, frozen=True, forbid_unknown_fields=True):
    """A place in a photo: its SHA-256 and four corners in photo px, from the upper left clockwise."""

    sha256: str
    corners: Corners

    def __post_init__(self) -> None:
        square_to_quad(self.corners)


class Mockup(Struct, frozen=True, forbid_unknown_fields=True):
    """A mock-up: the id of a sheet or cutout, a shipped place's name or one's own, and how it fits."""

    id: str
    name: str
    subject_id: str
    place: str | OwnPlace
    fit: Fit = "contain"

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise PlacementError("Mock-up", "it has no name", "type one")
