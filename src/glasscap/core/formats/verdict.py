"""The verdict on a file: its losses, measured on its pixels, in plain words."""

from typing import Literal

import cv2
import numpy as np
from msgspec import Struct

from glasscap.core.raster.pixels import Bytes, premultiplied

Tone = Literal["good", "fair", "poor"]

# Levels of 255 up to which a difference is not seen by eye; common practice, no source.
_UNSEEN_MEAN, _UNSEEN_MOST, _SEEN_MEAN = 1.0, 8, 3.0
# Fewer steps than this share of the original's show in a soft shadow or fade.
_STEPS_SHARE, _SMOOTH_STEPS = 0.5, 40
# A soft edge has at least this many levels; a sharp one's rim has fewer pixels than a shadow has.
_SOFT_LEVELS, _SOFT_SHARE = 24, 0.02
# Alpha this near to full may become full without being missed (levels).
_HARDLY_CLEAR, _LOST_SHARE = 32, 0.02


class Measured(Struct, frozen=True):
    """Differences of premultiplied levels, and levels of alpha between clear and full on both sides."""

    largest: int
    mean: float
    lost_transparency: float
    soft_share: float
    alpha_levels: int
    alpha_levels_left: int

    @property
    def is_exact(self) -> bool:
        """Whether every pixel is the same."""
        return self.largest == 0 and self.lost_transparency == 0


class Verdict(Struct, frozen=True):
    """A title and a sentence or two."""

    tone: Tone
    title: str
    text: str


def measured(wanted: Bytes, found: Bytes) -> Measured:
    """Compare straight RGBA of one shape, uint8: what was to be written and what the file holds."""
    one, other = premultiplied(wanted), premultiplied(found)
    difference = cv2.absdiff(one, other)
    is_seen = (wanted[..., 3] > 0) | (found[..., 3] > 0)
    count = max(1, int(np.count_nonzero(is_seen)))
    soft = (wanted[..., 3] > 0) & (wanted[..., 3] < 255)
    lost = (found[..., 3] == 255) & (wanted[..., 3] < 255 - _HARDLY_CLEAR)
    lost_share = float(np.count_nonzero(lost)) / wanted[..., 3].size
    if found[..., 3].min(initial=255) < 255 and lost_share < _LOST_SHARE:
        # A few pixels of the rim: the palette is coarse, but transparency is there.
        lost_share = 0.0
    return Measured(
        int(difference.max(initial=0)),
        float(difference.sum(dtype=np.int64)) / (4 * count),
        lost_share,
        float(np.count_nonzero(soft)) / count,
        len(np.unique(wanted[..., 3][soft])),
        len(np.unique(found[..., 3][soft & (found[..., 3] > 0) & (found[..., 3] < 255)])),
    )


def verdict(found: Measured, *, colours: int | None = None, better_levels: int | None = None) -> Verdict:
    """Put into words what is lost and what to choose instead.

    `colours` is the size of an indexed file's palette; `better_levels` how many steps of alpha 256 colours
    would leave, where that was tried.
    """
    if found.is_exact:
        return Verdict("good", "Nothing is lost.", "Every pixel is as on the bench.")
    if found.lost_transparency > 0:
        share = f"{found.lost_transparency:.0%}" if found.lost_transparency >= 0.005 else "A little"
        return Verdict(
            "poor",
            "Transparency is lost.",
            f"{share} of the picture was clear or soft and is solid now. PNG, WebP or AVIF keep it.",
        )
    if _has_steps(found):
        return Verdict("poor", "Soft shadow shows steps.", _steps_words(found, colours, better_levels))
    if found.mean <= _UNSEEN_MEAN and found.largest <= _UNSEEN_MOST:
        return Verdict("good", "Not seen by eye.", f"Pixels differ by {found.mean:.1f} levels on average.")
    if found.mean <= _SEEN_MEAN:
        return Verdict(
            "fair",
            "Small differences.",
            f"{found.mean:.1f} levels on average, {found.largest} at most. {_instead(colours)}",
        )
    return Verdict(
        "poor",
        "Colours change.",
        f"{found.mean:.1f} levels on average, {found.largest} at most. {_instead(colours)}",
    )


def _has_steps(found: Measured) -> bool:
    is_soft = found.alpha_levels >= _SOFT_LEVELS and found.soft_share >= _SOFT_SHARE
    few = found.alpha_levels_left < min(_STEPS_SHARE * found.alpha_levels, _SMOOTH_STEPS)
    return is_soft and few


def _steps_words(found: Measured, colours: int | None, better_levels: int | None) -> str:
    palette = f" at {colours} colours" if colours else ""
    words = f"{found.alpha_levels_left} levels of transparency{palette}, {found.alpha_levels} on the bench. "
    if better_levels is not None and better_levels >= _SMOOTH_STEPS:
        return f"{words}256 colours or full PNG keep it smooth."
    return f"{words}Full PNG keeps it smooth."


def _instead(colours: int | None) -> str:
    if colours is None:
        return "A higher quality or PNG comes closer."
    return "More colours, or full PNG, come closer." if colours < 256 else "Full PNG loses nothing."
