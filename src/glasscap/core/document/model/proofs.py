"""Proofs, on which cutouts are judged: backgrounds of the designer's own, small sizes, a corner of a video."""

from typing import Literal

from msgspec import Struct

from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.paint import check_number
from glasscap.core.errors import FinishError

Corner = Literal["top left", "top right", "bottom left", "bottom right"]
CORNERS: tuple[Corner, ...] = ("top left", "top right", "bottom left", "bottom right")
SMALLEST_PROOF, LARGEST_PROOF, MOST_SIZES, MOST_BACKGROUNDS = 8, 200, 6, 24


class VideoCorner(Struct, frozen=True, forbid_unknown_fields=True):
    """A picture in the corner of a 16:9 frame: its height and margin in shares of the frame's height."""

    corner: Corner = "bottom right"
    height: float = 0.24
    margin: float = 0.06
    has_caption: bool = True
    is_moving: bool = False

    def __post_init__(self) -> None:
        check_number("Corner picture, height", self.height, 0.02, 1.0)
        check_number("Corner picture, margin", self.margin, 0.0, 0.4)


class ProofSettings(Struct, frozen=True, forbid_unknown_fields=True):
    """Backgrounds beside white, ink and the job's colour; sizes are px of the longest side."""

    backgrounds: tuple[Backdrop, ...] = ()
    sizes: tuple[int, ...] = (128, 64, 32)
    video: VideoCorner = VideoCorner()

    def __post_init__(self) -> None:
        if len(self.backgrounds) > MOST_BACKGROUNDS:
            raise FinishError("Backgrounds", f"there are more than {MOST_BACKGROUNDS}", "remove some")
        if not 1 <= len(self.sizes) <= MOST_SIZES:
            raise FinishError("Small sizes", f"{len(self.sizes)} of them", f"use 1 to {MOST_SIZES}")
        for size in self.sizes:
            if not SMALLEST_PROOF <= size <= LARGEST_PROOF:
                raise FinishError("Small sizes", f"{size} px", f"use {SMALLEST_PROOF} to {LARGEST_PROOF}")
