"""How far beyond its outline a cutout's photo is seen."""

import math
from functools import lru_cache

from glasscap.core.document.at_work import working
from glasscap.core.document.finishes import Edge, Finishes, Stroke
from glasscap.core.document.paint import ColourPaint, rgba_of

# Alpha below half a level of 255 is written as 0. Within the pixel where it falls below that it may be more, so
# this is some less: 3.2 sigmas for an edge of strength 1.
_LEAST = 0.175 / 255


def seen_beyond(finishes: Finishes) -> float:
    """Return how far beyond its outline a photo is seen, sheet px: soft, rough, or moved outwards (0 or more).

    What a stroke hides is not seen. A mitred corner moved outwards may reach farther.
    """
    done = working(finishes)
    tail = _feather_tail(done.edge)
    if any(_hides(stroke, tail) for stroke in done.strokes) and not done.edge.feathers_strokes:
        tail = 0.0
    return _reach(done.edge, tail)


def lies_beyond(finishes: Finishes) -> float:
    """Return how far beyond its outline a photo lies, seen or hidden by a stroke, sheet px (0 or more)."""
    edge = working(finishes).edge
    return _reach(edge, _feather_tail(edge))


def _reach(edge: Edge, tail: float) -> float:
    rough = 0.0 if edge.rough is None else edge.rough.amount
    return max(0.0, tail + rough - edge.inset)


def _feather_tail(edge: Edge) -> float:
    """Return how far a feather fades beyond the edge till nothing of it is written, sheet px."""
    if edge.feather == 0 or edge.feather_side == "inside":
        return 0.0
    tail = edge.feather / 2 * _tail_sigmas(edge.strength)
    return tail + edge.feather if edge.feather_side == "outside" else tail


@lru_cache(maxsize=64)
def _tail_sigmas(strength: float) -> float:
    """Return after how many sigmas the strength-th power of a Gaussian edge is next to nothing."""
    wanted, low, high = _LEAST ** (1 / strength), 0.0, 4.0
    for _ in range(40):
        middle = (low + high) / 2
        if math.erfc(middle / math.sqrt(2)) / 2 > wanted:
            low = middle
        else:
            high = middle
    return high


def _hides(stroke: Stroke, tail: float) -> bool:
    """Whether a stroke lies over the whole of a tail."""
    inner, outer = stroke.band
    is_whole = stroke.opacity == 1 and not stroke.dashes and stroke.texture == "smooth"
    is_opaque = isinstance(stroke.paint, ColourPaint) and rgba_of(stroke.paint.colour)[3] == 255
    return is_whole and is_opaque and inner <= 0 and outer >= tail
