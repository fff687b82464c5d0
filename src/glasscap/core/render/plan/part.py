"""One cutout in a plan: what shows through, its region, its finishes; all in output px."""

from collections.abc import Iterator

from msgspec import Struct

from glasscap.core.document.model.finishes import AS_SHOT, NO_FINISHES, Adjustments, Edge, Finishes, Lights
from glasscap.core.document.model.job import PhotoRecord
from glasscap.core.document.model.paint import Paint
from glasscap.core.document.model.region import Region
from glasscap.core.raster.resample import Quality

# Output px: curves flattened finer than this differ by less than a level even at 1900 px radius.
FLATNESS = 1 / 512
# A moving part is drawn at once rather than to the last level: 1/64 px of an edge is 4 levels. An offset curve is
# off by its own arcs as well, so its bound is twice that.
_MOVING_FLATNESS = 1 / 64


def flatness(quality: Quality) -> float:
    """Return how far (output px) the outlines of a part with finishes may be off."""
    return _MOVING_FLATNESS if quality == "moving" else FLATNESS


class Part(Struct, frozen=True):
    """A photo or a paint seen through a region; `cutout_id` names whose it is.

    `pictures` are the photos the finishes use (mask, own textures); `mount` lies beneath and shares the
    part's opacity. Through a group's part others show, back to front: `inside`.
    """

    photo: PhotoRecord | None
    region: Region
    opacity: float = 1.0
    cutout_id: str = ""
    paint: Paint | None = None
    finishes: Finishes = NO_FINISHES
    adjustments: Adjustments = AS_SHOT
    pictures: tuple[PhotoRecord, ...] = ()
    mount: "Part | None" = None
    inside: "tuple[Part, ...]" = ()

    @property
    def photos(self) -> Iterator[PhotoRecord]:
        """The photos that show through it, or through what it holds."""
        if self.photo is not None:
            yield self.photo
        for part in self.inside:
            yield from part.photos

    @property
    def scale(self) -> float:
        """Output px per sheet px."""
        return float(abs(self.region.sheet_to_output.determinant) ** 0.5)

    @property
    def is_plain(self) -> bool:
        """Whether it is a photo with a sharp edge, as it was shot, and nothing more."""
        return (
            self.photo is not None
            and self.mount is None
            and self.adjustments == AS_SHOT
            and self.finishes == NO_FINISHES
            and not self.photo.is_drawing
        )

    @property
    def edge(self) -> Edge:
        """The edge at work: none of its numbers while it is off."""
        return self.finishes.edge

    @property
    def lights(self) -> Lights:
        """Shadow and light."""
        return self.finishes.lights

    def picture(self, sha256: str) -> PhotoRecord | None:
        """Return one of the finishes' pictures."""
        return next((p for p in self.pictures if p.sha256 == sha256), None)
