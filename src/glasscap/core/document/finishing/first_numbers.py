"""First numbers of a new finish: a share of the cutout's shorter side, or the number given last.

The shares are common practice, no source: a stroke of 1.5 %, as 8 px on 540.
"""

import math
from bisect import bisect_left
from collections.abc import Mapping

from msgspec.structs import replace

from glasscap.core.document.finishing.edits import SINGLE_LIGHTS, Light
from glasscap.core.document.model.boxes import item_box
from glasscap.core.document.model.finishes import Mount, Rough, Shadow, SoftContour, Stroke
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.query import find_item

# Numbers people choose, within each power of ten.
_ROUND = (1.0, 1.2, 1.6, 2.0, 2.4, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0)
_SMALL = (1.0, 2.0, 5.0, 8.0, 10.0)
_SHARES: Mapping[str, Mapping[str, float]] = {
    "stroke": {"width": 0.015},
    "shadow": {"dy": 0.011, "blur": 0.034},
    "inner_shadow": {"dy": 0.0075, "blur": 0.026},
    "outer_glow": {"blur": 0.045},
    "inner_glow": {"blur": 0.034},
    "bevel": {"width": 0.019, "softness": 0.0075},
    "mount": dict.fromkeys(("top", "right", "bottom", "left"), 0.045),
    "soft": {"width": 0.045},
    "rough": {"amount": 0.011, "scale": 0.045},
}
# The side of a cutout of which nothing is known.
_SIDE = 540.0


def rounded_number(px: float) -> float:
    """Return the nearest, by its ratio, of 1, 2, 5, 8, 10, 12, 16, 20, 24, 30, 40, 50, 60, 80, 100, 120 ..."""
    if px <= _SMALL[0]:
        return _SMALL[0]
    power = 10.0 ** math.floor(math.log10(px))
    series = _SMALL if px < _SMALL[-1] else [n * power for n in _ROUND]
    above = min(bisect_left(series, px), len(series) - 1)
    low, high = series[max(above - 1, 0)], series[above]
    return low if px * px < low * high else high


def first_numbers(kind: str, side: float, given: Mapping[str, float]) -> dict[str, float]:
    """Return the first numbers of a kind of finish on a cutout whose shorter side is `side` px.

    `given` holds numbers given before, by kind and field such as "stroke width": they come first.
    """
    shares = _SHARES[kind]
    return {f: given.get(f"{kind} {f}", rounded_number(share * side)) for f, share in shares.items()}


def first_stroke(job: Job, item_id: str, given: Mapping[str, float]) -> Stroke:
    """Return a stroke to begin with."""
    return Stroke(width=first_numbers("stroke", shorter_side(job, item_id), given)["width"])


def first_light(job: Job, item_id: str, kind: str, given: Mapping[str, float]) -> Light:
    """Return a drop shadow ("shadow") or another light to begin with."""
    begun = Shadow() if kind == "shadow" else SINGLE_LIGHTS[kind]()
    made: Light = replace(begun, **first_numbers(kind, shorter_side(job, item_id), given))
    return made


def first_mount(job: Job, item_id: str, given: Mapping[str, float]) -> Mount:
    """Return a mount to begin with."""
    made: Mount = replace(Mount(), **first_numbers("mount", shorter_side(job, item_id), given))
    return made


def first_rough(job: Job, item_id: str, given: Mapping[str, float]) -> Rough:
    """Return a rough edge to begin with."""
    made: Rough = replace(Rough(), **first_numbers("rough", shorter_side(job, item_id), given))
    return made


def first_soft(job: Job, item_id: str, given: Mapping[str, float]) -> SoftContour:
    """Return a soft contour to begin with."""
    return SoftContour(first_numbers("soft", shorter_side(job, item_id), given)["width"])


def shorter_side(job: Job, item_id: str) -> float:
    """Return the shorter side of what a cutout shows, sheet px; 540 where nothing is known of it."""
    box = item_box(job, find_item(job, item_id))
    return _SIDE if box is None else max(min(box.width, box.height), 1.0)
