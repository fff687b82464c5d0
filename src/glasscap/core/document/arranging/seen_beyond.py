"""The reach of a cutout's photo beyond its outline."""

import math
from functools import lru_cache

from glasscap.core.document.finishing.at_work import working
from glasscap.core.document.model.finishes import Edge, Finishes, Stroke
from glasscap.core.document.model.paint import is_opaque_paint

# Sigmas after which a Gaussian's tail rounds to 0 even at full black.
TAIL_SIGMAS = 3.2


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
    return max(0.0, tail + rough_reach(edge) - edge.inset)


def rough_reach(edge: Edge) -> float:
    """Return how far a rough edge lies from where it was at most, sheet px."""
    return 0.0 if edge.rough is None else 1.6 * edge.rough.amount


def feather_spill(edge: Edge, sigmas: float = TAIL_SIGMAS) -> float:
    """Return how far a feather shows beyond the outline, its tail being so many sigmas long, sheet px."""
    tail = edge.feather / 2 * sigmas
    return {"centred": tail, "inside": 0.0, "outside": tail + edge.feather}[edge.feather_side]


def _feather_tail(edge: Edge) -> float:
    """Return how far a feather of its strength fades beyond the edge till nothing of it is written, sheet px."""
    return feather_spill(edge, _tail_sigmas(edge.strength)) if edge.feather else 0.0


@lru_cache(maxsize=64)
def _tail_sigmas(strength: float) -> float:
    """Return after how many sigmas the power of a Gaussian edge is what that is after `TAIL_SIGMAS`."""
    least = math.erfc(TAIL_SIGMAS / math.sqrt(2)) / 2
    wanted, low, high = least ** (1 / strength), 0.0, 4.0
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
    return is_whole and is_opaque_paint(stroke.paint) and inner <= 0 and outer >= tail
